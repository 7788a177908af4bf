import {
  budgetOfWorking,
  cylinderVolume as sweptVolume,
  millimetres,
  throatRatio,
  USUAL_ASSUMPTIONS,
  windowRule,
  work,
  type TargetResult,
} from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { Measure } from './nouns/measure.js';
import { sizeBook, sizeOf } from './sizes.js';
import { sizesFollow } from './sizesFollow.js';

let count = 0;
const measure = (item: string, value: string, over: object = {}) =>
  Measure.parse({ id: `m${count++}`, stageId: 's', item, side: 'intake', value, ...over });

describe('a size', () => {
  const valve = measure('valve diameter', '49.3 mm');
  const throat = measure('throat', '43.40 mm');
  it('is as sure as calipers and its own last figure: a ratio of two by closed form (JCGM 100:2008, 5.1.2)', () => {
    const all = [valve, throat];
    const ratio = work(throatRatio, {
      throat: sizeOf(all, 'throat', 'intake')!,
      valve: sizeOf(all, 'valve diameter', 'intake')!,
    });
    const u = (resolution: number) => Math.hypot(millimetres(0.05), millimetres(resolution) / Math.sqrt(3));
    const expected = ratio.value * Math.hypot(u(0.005) / millimetres(43.4), u(0.05) / millimetres(49.3));
    const budget = budgetOfWorking(ratio, sizeBook(all))!;
    expect(budget.u / expected).toBeCloseTo(1, 4);
    expect(budget.shares.map((s) => s.leaf.label).sort()).toEqual(['intake throat', 'intake valve diameter']);
  });
  it('taken again is known better, and its own scatter counts where it is larger', () => {
    const u = (values: string[], more: object = {}) => {
      const all = values.map((v) => measure('window', v, more));
      return budgetOfWorking(work(windowRule, { window: sizeOf(all, 'window', 'intake')! }), sizeBook(all))!.u;
    };
    expect(u(['2.10 in²', '2.10 in²', '2.10 in²']) / u(['2.10 in²'])).toBeCloseTo(1 / Math.sqrt(3), 3);
    expect(u(['1.90 in²', '2.30 in²'])).toBeGreaterThan(u(['2.10 in²']));
    expect(u(['2.10 in²'], { sourceId: 'maker' }) / u(['2.10 in²'])).toBeCloseTo(USUAL_ASSUMPTIONS.statedSize, 1);
  });
  it('says that it is a mean, or somebody’s word; of a port it is that port’s own', () => {
    const own = measure('pinch', '1.80 in²', { portId: 'p1' });
    const all = [own, measure('pinch', '1.70 in²', { portId: 'p2' }), measure('throat', '1.7 in', { sourceId: 'x' })];
    expect(sizeOf(all, 'pinch', 'intake')).toMatchObject({ note: 'mean of 2' });
    expect(sizeOf(all, 'pinch', 'intake', 'p1')!.value).toBeCloseTo(own.value.si, 12);
    expect(sizeBook(all, 'p1').leaves.get(sizeOf(all, 'pinch', 'intake', 'p1')!.leaf!)!.value).toBeCloseTo(
      own.value.si,
      12,
    );
    expect(sizeOf(all, 'throat', 'intake')).toMatchObject({ note: 'as stated, not measured' });
    expect(sizeOf(all, 'bowl', 'intake')).toBeUndefined();
  });
});

describe('what follows from sizes', () => {
  const known = [
    measure('valve diameter', '49.3 mm'),
    measure('throat', '43.4 mm'),
    measure('chamber volume', '62 cc', { side: null }),
    measure('gasket volume', '9 cc', { side: null }),
  ];
  it('is told by side, with its working, and nothing that a missing size would be needed for', () => {
    const follows = sizesFollow(known);
    expect(follows.map(([what]) => what)).toEqual(['intake throat of valve']);
    expect(follows[0]![1].value).toBeCloseTo(43.4 / 49.3, 12);
  });
  it('has the compression of the engine it is held against: swept and clearance over clearance', () => {
    const cylinderVolume = work(sweptVolume, { bore: millimetres(98), stroke: millimetres(93) });
    const follows = sizesFollow(known, undefined, { cylinderVolume } as TargetResult, 'Slate Six');
    const [what, working] = follows.at(-1)!;
    expect(what).toBe('compression on Slate Six');
    // Deck and dish are not measured: flush and flat, as its working says.
    expect(working.value).toBeCloseTo((cylinderVolume.value + 71e-6) / 71e-6, 9);
  });
});
