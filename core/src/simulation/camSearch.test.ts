import { describe, expect, it } from 'vitest';
import { sayIn } from '../quantity/format.js';
import { degrees } from '../quantity/units.js';
import { fairSwapWords } from '../words/simulation.js';
import { fairCam, type CamFound } from './camSearch.js';

/** A head whose torque falls with the square of the degrees from its own cam: what a search of its 14 cams would find. */
function found(lobeSeparation: number, intakeCentreline: number, torque: number, fall = 0.1): CamFound {
  const of = (l: number, c: number) => torque - fall * ((l - lobeSeparation) ** 2 + (c - intakeCentreline) ** 2);
  const cams = [98, 109, 120].flatMap((l) =>
    [94, 107, 120].map((c) => ({ lobeSeparation: degrees(l), intakeCentreline: degrees(c), torque: of(l, c) })),
  );
  const at = { lobeSeparation: degrees(lobeSeparation), intakeCentreline: degrees(intakeCentreline) };
  return { at, torque, now: of(108, 106), edge: false, run: 14, cams };
}
const now = { lobeSeparation: degrees(108), intakeCentreline: degrees(106) };
const words = (a: CamFound, b: CamFound) =>
  fairSwapWords({ letter: 'A', cam: a }, { letter: 'B', cam: b }, now, sayIn('metric')).replace(/\u00a0/g, ' ');

describe('the cam that is fair to two heads', () => {
  it('lies half-way between cams from which torque falls alike', () => {
    const { at, losses, difference, tells } = fairCam(found(104, 102, 380), found(112, 110, 396));
    expect(at.lobeSeparation).toBeCloseTo(degrees(108), 6);
    expect(at.intakeCentreline).toBeCloseTo(degrees(106), 6);
    // 4° either way of both angles: 0.1 · (16 + 16).
    expect(losses[0]).toBeCloseTo(3.2, 6);
    expect(losses[1]).toBeCloseTo(3.2, 6);
    expect(difference).toBe(16);
    expect(tells).toBe(true);
  });
  it('lies nearer to the head whose torque falls faster: √fall shares the distance', () => {
    const { at } = fairCam(found(104, 106, 380, 0.4), found(113, 106, 380, 0.1));
    expect(at.lobeSeparation / degrees(1)).toBeCloseTo(107, 1);
  });
  it('is told with what each gives up; where no cam would tell, that is said', () => {
    expect(words(found(104, 102, 380), found(112, 110, 396))).toMatch(
      /Fairest to both is lobe separation 108° on a centreline of 106°, both ±3°.*so that cam would tell them apart\.$/,
    );
    // No difference of their own: whatever one cam shows is the cam's.
    expect(words(found(104, 102, 380), found(112, 110, 380))).toMatch(
      /No one cam would tell them apart: .* Pull each on its own\.$/,
    );
    // Within 3° of one another any cam is fair.
    expect(words(found(107, 106, 380), found(109, 106, 396))).toContain('want the same cam');
  });
});
