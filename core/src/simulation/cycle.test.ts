import { describe, expect, it } from 'vitest';
import { sayIn } from '../quantity/format.js';
import { degrees } from '../quantity/units.js';
import { cycleWords } from '../words/simulation.js';
import type { Trace } from './trace.js';
import { readCycle } from './cycle.js';

/** A made-up cycle by the degree: the intake is open from 340° to 580°, the exhaust from 130° to 380°. */
function trace(flowIn: (d: number) => number, mach: (d: number) => number = () => 0.4): Trace {
  const d = Array.from({ length: 720 }, (_, i) => i);
  const open = (from: number, to: number) => d.map((a) => (a > from && a < to ? 0.01 : 0));
  const nothing = d.map(() => 0);
  return {
    angle: d.map(degrees),
    lift: [open(340, 580), open(130, 380)],
    flow: [
      d.map((a) => (a > 340 && a < 580 ? flowIn(a) : 0)),
      d.map((a) => (a > 130 && a < 380 ? (a > 370 ? -0.1 : 1) : 0)),
    ],
    pressure: nothing,
    volume: nothing,
    temperature: nothing,
    burned: nothing,
    port: [nothing, nothing],
    chokeMach: d.map(mach),
    path: [],
    place: [],
  };
}

describe('what a cycle shows', () => {
  it('reversion where it happens and how much of it, over both valves', () => {
    const c = readCycle(trace((d) => (d < 351 ? -0.2 : d > 570 ? -0.1 : 1)));
    expect(c.intakeBack.map((s) => [s.from, s.to].map((a) => Math.round(a / degrees(1))))).toEqual([
      [341, 350],
      [571, 579],
    ]);
    // 10° at 0.2 and 9° at 0.1 against 220° at 1.
    expect(c.intakeShare).toBeCloseTo(2.9 / 220, 3);
    expect(c.exhaustShare).toBeCloseTo((0.1 * 9) / 240, 3);
    expect(
      cycleWords('A', c, sayIn('inch'))
        .join(' ')
        .replace(/\u00a0/g, ' '),
    ).toBe(
      'A: gas runs back into the intake from 19° before TDC to 10° before TDC and from 31° after BDC to 39° after BDC, 1.3 % of what came in. Exhaust comes back into the cylinder from 11° after TDC to 19° after TDC, 0.4 % of what went out. The choke is never full: Mach 0.40 at most.',
    );
  });
  it('where the choke lets no more through', () => {
    const c = readCycle(
      trace(
        () => 1,
        (d) => (d > 430 && d < 480 ? 0.97 : 0.5),
      ),
    );
    expect(c.intakeBack).toEqual([]);
    const [said, , full] = cycleWords('B', c, sayIn('inch'));
    expect(said).toBe('B: nothing runs back into the intake while its valve is open.');
    expect(full!.replace(/\u00a0/g, ' ')).toBe(
      'The choke lets hardly more through from 71° after TDC to 61° before BDC: Mach 0.97 at most.',
    );
  });
});
