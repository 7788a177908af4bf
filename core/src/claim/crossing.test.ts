import { random } from '../uncertainty/random.js';
import { describe, expect, it } from 'vitest';
import { cfm, crossingOdds, flowCurve, inches } from '../index.js';

const LIFTS = [0.1, 0.2, 0.3, 0.4, 0.5, 0.6];
const SHAPE = [60, 118, 160, 182, 194, 198];
/** A curve that lies off the shape by so much at each lift. */
const curve = (off: (i: number) => number) =>
  flowCurve(LIFTS.map((l, i) => ({ lift: inches(l), flow: cfm(SHAPE[i]!) * Math.exp(off(i)) })))!;

describe('where two curves change places', () => {
  it('is sure where they part far, and is not where rows and set-ups explain it', () => {
    const base = curve(() => 0);
    const [far] = crossingOdds(
      base,
      curve((i) => 0.03 * (i - 2.5)),
      0.005,
      0.01,
    );
    expect(far!.lift).toBeGreaterThan(inches(0.3));
    expect(far!.lift).toBeLessThan(inches(0.4));
    expect(far!.odds).toBeGreaterThan(0.97);
    const [near] = crossingOdds(
      base,
      curve((i) => 0.002 * (i - 2.5)),
      0.005,
      0.01,
    );
    expect(near!.odds).toBeLessThan(0.3);
    expect(
      crossingOdds(
        base,
        curve(() => 0.02),
        0.005,
        0.01,
      ),
    ).toEqual([]);
  });
  it('comes true as often as it says, in worlds drawn here', () => {
    const draw = random(3);
    const normal = () => Math.sqrt(-2 * Math.log(1 - draw())) * Math.cos(2 * Math.PI * draw());
    let [stated, came, n] = [0, 0, 0];
    for (let t = 0; t < 3000; t++) {
      // Level and lean of the true difference are wide against what is read of them.
      const [level, lean] = [0.06 * normal(), 0.04 * normal()];
      const truth = (i: number) => level + lean * (i - 2.5);
      const shift = Math.SQRT2 * 0.01 * normal();
      const seen = curve((i) => truth(i) + shift + Math.SQRT2 * 0.005 * normal());
      const found = crossingOdds(
        curve(() => 0),
        seen,
        0.005,
        0.01,
      );
      if (found.length !== 1) continue;
      n++;
      stated += found[0]!.odds;
      if (truth(0) * truth(5) < 0) came++;
    }
    expect(n).toBeGreaterThan(500);
    expect(Math.abs(stated - came) / n).toBeLessThan(0.06);
  });
});
