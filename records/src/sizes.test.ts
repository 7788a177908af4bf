import {
  budgetOfWorking,
  cylinderVolume as sweptVolume,
  joined,
  millimetres,
  throatRatio,
  USUAL_ASSUMPTIONS,
  windowRule,
  work,
  type TargetResult,
} from '@alluvium/core';
import { describe, expect, it } from 'vitest';
import { compressionParts } from './compression.js';
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
    const target = { cylinderVolume, sizes: { bore: millimetres(98) } } as TargetResult;
    const flush = [
      ...known,
      measure('deck volume', '0 cc', { side: null }),
      measure('piston dish', '0 cc', { side: null }),
    ];
    const [what, working] = sizesFollow(flush, undefined, target, 'Slate Six').at(-1)!;
    expect(what).toBe('compression on Slate Six');
    expect(working.value).toBeCloseTo((cylinderVolume.value + 71e-6) / 71e-6, 9);
    expect(compressionParts(flush, target).missing).toEqual([]);
  });
  it('is a range that names what nobody measured, wide enough for any usual gasket, deck and dish', () => {
    const cylinderVolume = work(sweptVolume, { bore: millimetres(98), stroke: millimetres(93) });
    const target = { cylinderVolume, sizes: { bore: millimetres(98) } } as TargetResult;
    const chamber = [measure('chamber volume', '62 cc', { side: null })];
    const [what, working] = sizesFollow(chamber, undefined, target, 'Slate Six').at(-1)!;
    expect(what).toBe('compression on Slate Six, gasket volume, deck volume and piston dish not measured');
    const book = joined(sizeBook(chamber), compressionParts(chamber, target).book);
    const half = 1.96 * budgetOfWorking(working, book)!.u;
    // A .040 in gasket, deck at zero, flat; and a dish of 20 cc under the same: both are within it.
    const area = (Math.PI / 4) * 0.098 ** 2;
    for (const dish of [0, 20e-6]) {
      const clearance = 62e-6 + 0.001016 * area + dish;
      expect(Math.abs((cylinderVolume.value + clearance) / clearance - working.value)).toBeLessThan(half);
    }
    // With all of them measured it is far better known.
    const all = [
      ...chamber,
      measure('gasket volume', '8 cc', { side: null }),
      measure('deck volume', '2 cc', { side: null }),
      measure('piston dish', '6 cc', { side: null }),
    ];
    const known = budgetOfWorking(sizesFollow(all, undefined, target).at(-1)![1], sizeBook(all))!.u;
    expect(half / 1.96 / known).toBeGreaterThan(5);
  });
});
