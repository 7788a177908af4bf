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

/** The engine as it ran that week: nothing but the head was changed on purpose. */
const engine = {
  compression: '9.5:1',
  lobeSeparation: '110°',
  intakeCentreline: '106°',
  manifold: 'own, two throats',
  exhaust: 'marine headers and riser',
  fuel: 'pump petrol',
};

export function dyno(): void {
  const day = {
    buildId: 'slate-six',
    dyno: 'engine dyno',
    cell: 'Netherholm cell 1',
    correction: 'SAE J607',
    pressure: '1004 mbar',
    temperature: '22 °C',
    humidity: '48 %',
    setup: engine,
  };
  const logged = (list: ReturnType<typeof rows>, lambda: string, manifold: string) =>
    list.map((r) => ({ ...r, lambda, manifold }));
  lists.pulls.push(
    {
      ...day,
      id: 'slate-417-1',
      stageId: '417-received',
      title: '417, first pull',
      date: '2026-05-11',
      position: 1,
      rows: logged(rows(292, 4000, 4700, [0.6, -0.4, 0.2, -0.7, 0.3]), '0.88', '985 mbar'),
      note: 'The cam as in the target, 110° of lobe separation. Marine headers.',
    },
    {
      ...day,
      id: 'slate-417-2',
      stageId: '417-received',
      title: '417, second pull',
      date: '2026-05-11',
      position: 2,
      rows: logged(rows(291, 4020, 4700, [-0.5, 0.7, -0.2, 0.4]), '0.88', '985 mbar'),
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
      setup: {
        ...engine,
        compression: '9.8:1',
        manifold: 'tall, for the raised port',
        exhaust: 'shop headers, no riser',
      },
      rows: logged(rows(296, 4500, 4300, [0.5, -0.6, 0.1, 0.4, -0.3]), '0.91', '972 mbar'),
      note: 'Same cam at 110°; this head wants about 107°. The comparison is of two heads on one cam, not of each on its own.',
    },
  );
  // A swap that is fair: A, B, A, B, A on one day, one tune.
  const swap = { ...day, date: '2026-05-20', pressure: '998 mbar', temperature: '21 °C', humidity: '52 %' };
  const turn = (position: number, head: '417' | '522', soak: number) =>
    lists.pulls.push({
      ...swap,
      id: `slate-swap-${position}`,
      stageId: `${head}-received`,
      title: `Swap ${position}, ${head}`,
      position,
      rows: logged(
        rows((head === '417' ? 292 : 297) - soak, head === '417' ? 4010 : 4080, 4700, [0.3, -0.4, 0.5, -0.2]),
        '0.88',
        '985 mbar',
      ),
      note: 'One tune, one day; the heads took turns.',
    });
  turn(1, '417', 0);
  turn(2, '522', 0.6);
  turn(3, '417', 1.1);
  turn(4, '522', 1.8);
  turn(5, '417', 2.3);

  // What was said before the engine ran, and what came of it.
  const told = (
    id: string,
    made: string,
    by: string,
    method: string,
    hp: number,
    u: number,
    pullId: string | null,
    stageId: string,
  ) =>
    lists.powerForecasts.push({
      id,
      buildId: 'slate-six',
      stageId,
      made,
      by,
      content: { program: '0.1.0', method, power: hp * 745.699872, u: u * 745.699872, use: 'marine', fuel: 'petrol' },
      pullId,
    });
  told('told-417-rule', '2026-05-08', 'the program', 'peak flow', 268, 9, 'slate-417-1', '417-received');
  told('told-417-own', '2026-05-08', 'owner', 'own word', 285, 8, 'slate-417-1', '417-received');
  told(
    'told-longreach-rule',
    '2026-05-08',
    'the program',
    'peak flow',
    322,
    11,
    'slate-longreach-1',
    'longreach-received',
  );
  told('told-longreach-own', '2026-05-12', 'owner', 'own word', 310, 12, 'slate-longreach-1', 'longreach-received');
  told('told-rework', '2026-05-28', 'owner', 'own word', 302, 10, null, '417-pinch');

  // A season of calls, each before that stage was flowed.
  const call = (
    id: string,
    date: string,
    who: string,
    on: string,
    stageId: string,
    side: string,
    lift: string,
    flow: string,
  ) => lists.calls.push({ id, sessionId: null, date, who, on, stageId, side, lift, flow });
  call('call-522', '2026-02-10', 'shop', 'the head on the table', '522-received', 'intake', '.400 in', '176 cfm');
  call('call-522-x', '2026-02-10', 'shop', 'the head on the table', '522-received', 'exhaust', '.400 in', '128 cfm');
  call('call-417-vj', '2026-02-17', 'shop', 'a change', '417-valve-job', 'intake', '.300 in', '156 cfm');
  call('call-p6', '2026-02-22', 'owner', 'a claim', 'p6-received', 'intake', '.500 in', '205 cfm');
  call('call-p6-s', '2026-02-22', 'shop', 'a claim', 'p6-received', 'intake', '.500 in', '196 cfm');
  call('call-417-bowl', '2026-03-02', 'shop', 'a change', '417-bowl', 'intake', '.500 in', '192 cfm');
  call('call-longreach', '2026-03-03', 'owner', 'a claim', 'longreach-received', 'intake', '.500 in', '228 cfm');
  call('call-longreach-s', '2026-03-03', 'shop', 'a claim', 'longreach-received', 'exhaust', '.400 in', '150 cfm');
  call('call-417-pinch', '2026-03-17', 'shop', 'a change', '417-pinch', 'intake', '.500 in', '203 cfm');
  call('call-p6-bowl', '2026-03-22', 'shop', 'a change', 'p6-bowl', 'intake', '.500 in', '204 cfm');
}
