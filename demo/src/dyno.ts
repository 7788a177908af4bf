/** Pulls of the demo: the engine with the head it came with, and with the taller one on the same cam. */
import { lists } from './tables.js';

const POUND_FEET_AT_ONE_HP = 5252;

/** Torque that rises to a peak and falls off: lb ft at a speed, with the cell's own unrest. */
function rows(peak: number, at: number, width: number, unrest: readonly number[]) {
  return Array.from({ length: 16 }, (_, i) => {
    const speed = 3000 + 200 * i;
    const torque = peak * (1 - ((speed - at) / width) ** 2) + unrest[i % unrest.length]!;
    return {
      speed: `${speed} rpm`,
      power: `${((torque * speed) / POUND_FEET_AT_ONE_HP).toFixed(1)} hp`,
      torque: `${torque.toFixed(1)} lb ft`,
    };
  });
}

export function dyno(): void {
  const day = {
    buildId: 'slate-six',
    dyno: 'engine dyno',
    correction: 'SAE J607',
    pressure: '1004 mbar',
    temperature: '22 °C',
    humidity: '48 %',
  };
  lists.pulls.push(
    {
      ...day,
      id: 'slate-417-1',
      stageId: '417-received',
      title: '417, first pull',
      date: '2026-05-11',
      rows: rows(292, 4000, 4700, [0.6, -0.4, 0.2, -0.7, 0.3]),
      note: 'The cam as in the target, 110° of lobe separation. Marine headers.',
    },
    {
      ...day,
      id: 'slate-417-2',
      stageId: '417-received',
      title: '417, second pull',
      date: '2026-05-11',
      rows: rows(291, 4020, 4700, [-0.5, 0.7, -0.2, 0.4]),
      note: 'Twenty minutes later, oil at 96 °C.',
    },
    {
      ...day,
      id: 'slate-longreach-1',
      stageId: 'longreach-received',
      title: 'Longreach, same cam',
      date: '2026-05-13',
      pressure: '991 mbar',
      temperature: '25 °C',
      humidity: '60 %',
      rows: rows(296, 4500, 4300, [0.5, -0.6, 0.1, 0.4, -0.3]),
      note: 'Same cam at 110°; this head wants about 107°. The comparison is of two heads on one cam, not of each on its own.',
    },
  );
}
