import { describe, expect, it } from 'vitest';
import { sayIn } from '../quantity/format.js';
import { cfm, inches, squareInches } from '../quantity/units.js';
import { normalQuantile } from '../uncertainty/normal.js';
import { random } from '../uncertainty/random.js';
import { attributionWords, lossWords } from '../words/change.js';
import { splitStages, type SplitStage } from './split.js';

const say = sayIn('inch');
const LIFTS = [0.1, 0.2, 0.3, 0.4, 0.45, 0.5, 0.55, 0.6].map(inches);
const valve = { diameter: inches(1.85), valves: 1, stem: inches(0.341), seatWidth: 0.0016, throat: inches(1.66) };
const AT = inches(0.4);
/** Speed of an ideal opening at 28 in: 350.1 ft/s. */
const V = 350.1 * 0.3048;

interface Truth {
  /** How sharply the two restrictions join: 2 is series flow, as the fit takes it. */
  readonly sharp: number;
  readonly coefficient: (x: number) => number;
  readonly choke: number;
}

/** A port whose valve and port flows are known by themselves, read by a bench with its own errors. */
function reader(truth: Truth, seed: number) {
  const uniform = random(seed);
  const draw = (u: number) => u * normalQuantile(Math.min(0.9999, Math.max(0.0001, uniform())));
  return (byValve: number, byPort: number, extra: Partial<SplitStage> = {}): SplitStage => {
    const zero = draw(inches(0.0015));
    const setup = draw(0.005);
    const port = 0.82 * truth.choke * V * Math.exp(byPort);
    return {
      valve,
      choke: truth.choke,
      points: LIFTS.map((lift) => {
        const l = lift + zero;
        const own = truth.coefficient(l / valve.diameter) * Math.PI * valve.diameter * l * V * Math.exp(byValve);
        const flow = (own ** -truth.sharp + port ** -truth.sharp) ** (-1 / truth.sharp);
        return { lift, flow: flow * Math.exp(setup + draw(0.004)) };
      }),
      ...extra,
    };
  };
}

const LAWS: readonly ((x: number) => number)[] = [
  (x) => 0.9 * (1 - 0.9 * x),
  (x) => 0.9 * (1 - 2.4 * x * x),
  (x) => 0.85 * (0.75 + 0.25 * Math.exp(-8 * x)),
];
const holds = ({ low, high }: { low: number; high: number }, truth: number) => low <= truth && truth <= high;

describe('valve or port', () => {
  it('covers what was cut in at least 90 % of the cases under forms that are not its own', { timeout: 60_000 }, () => {
    const uniform = random(5);
    let [held, asked] = [0, 0];
    for (const sharp of [1.5, 3])
      for (const coefficient of LAWS)
        for (let k = 0; k < 5; k++) {
          const truth = { sharp, coefficient, choke: squareInches(1.74 * (0.9 + 0.2 * uniform())) };
          const read = reader(truth, 100 * sharp + 10 * LAWS.indexOf(coefficient) + k);
          const [byValve, byPort] = [0.1 * (uniform() - 0.3), 0.12 * (uniform() - 0.3)];
          const [change] = splitStages([read(0, 0), read(byValve, byPort)], AT).changes;
          held += Number(holds(change!.valve, byValve)) + Number(holds(change!.port, byPort));
          asked += 2;
        }
    expect(held / asked).toBeGreaterThanOrEqual(0.9);
  });

  it('tells a valve job, a bowl blend and a pinch apart', () => {
    const read = reader({ sharp: 2, coefficient: LAWS[0]!, choke: squareInches(1.74) }, 3);
    const stages = [read(0, 0), read(0.09, 0), read(0.09, 0.08), read(0.09, 0.15)];
    const [job, bowl, pinch] = splitStages(stages, AT).changes;
    expect(attributionWords(job!)).toContain('The valve is better');
    expect(job!.port.low).toBeLessThan(0);
    for (const cut of [bowl!, pinch!]) {
      expect(attributionWords(cut)).toContain('The port is better');
      expect(holds(cut.valve, 0)).toBe(true);
    }
  });

  it('does not claim a split from one curve, and narrows with a valve-out pull', () => {
    const read = reader({ sharp: 2, coefficient: LAWS[1]!, choke: squareInches(1.74) }, 9);
    const alone = splitStages([read(0, 0)], AT);
    const width = ({ low, high }: { low: number; high: number }) => high - low;
    expect(alone.changes).toEqual([]);
    expect(width(alone.shares[0]!)).toBeGreaterThan(0.2);
    expect(lossWords(alone, 0, say)).toMatch(
      /takes \d+ to \d+.% of the loss.*one curve cannot say closer\. A valve-out/,
    );
    const out = 0.82 * squareInches(1.74) * V;
    const measured = splitStages([{ ...read(0, 0), valveOut: out }], AT);
    expect(measured.measured).toBe(true);
    expect(width(measured.shares[0]!)).toBeLessThan(0.75 * width(alone.shares[0]!));
    expect(lossWords(measured, 0, say)).toContain('speaks for it');
    expect(lossWords(splitStages([read(0, 0), read(0, 0.1)], AT), 1, say)).toContain('would say closer');
  });

  it('asks for a curve of two rows', () => {
    expect(() => splitStages([], AT)).toThrow('two rows');
    expect(() => splitStages([{ valve, points: [{ lift: AT, flow: cfm(100) }] }], AT)).toThrow('two rows');
  });
});
