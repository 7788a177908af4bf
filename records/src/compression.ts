/** Compression from its parts: what was not measured is taken over its usual range, and named. */
import {
  millimetres,
  noted,
  numberOf,
  type Given,
  type Leaf,
  type LeafBook,
  type Noted,
  type TargetResult,
} from '@alluvium/core';
import type { Measure } from './nouns/measure.js';
import type { MeasureItem } from './nouns/measureItems.js';
import { sizeOf } from './sizes.js';

type Part = 'gasket volume' | 'deck volume' | 'piston dish';

/**
 * Where a part nobody measured usually lies. Common practice, no source: gaskets crush to .6 to 1.5 mm; pistons stop from .1 mm
 * above the deck to .6 mm below; their crowns hold from a dome of 2 % of the cylinder to a dish of 4 %.
 */
const USUAL: Readonly<Record<Part, { from: (cylinder: Cylinder) => number; to: (cylinder: Cylinder) => number }>> = {
  'gasket volume': { from: (c) => millimetres(0.6) * c.area, to: (c) => millimetres(1.5) * c.area },
  'deck volume': { from: (c) => millimetres(-0.1) * c.area, to: (c) => millimetres(0.6) * c.area },
  'piston dish': { from: (c) => -0.02 * c.volume, to: (c) => 0.04 * c.volume },
};
interface Cylinder {
  /** Of the bore, m². */
  readonly area: number;
  readonly volume: number;
}

export interface CompressionParts {
  /** What the method of the compression ratio is given besides the chamber. */
  readonly parts: {
    readonly cylinderVolume: Given<number> | undefined;
    readonly gasket: Noted<number> | undefined;
    readonly deck: Noted<number> | undefined;
    readonly piston: Noted<number> | undefined;
  };
  /** Parts nobody measured: the ratio is a range because of them. */
  readonly missing: readonly MeasureItem[];
  /** How far the missing parts may lie off. */
  readonly book: LeafBook;
}

/** The parts of the compression as far as they are known at a stage; nothing without an engine. */
export function compressionParts(
  measures: readonly Measure[],
  target: Pick<TargetResult, 'cylinderVolume' | 'sizes'> | undefined,
): CompressionParts {
  const leaves = new Map<string, Leaf>();
  const missing: MeasureItem[] = [];
  const part = (item: Part): Noted<number> | undefined => {
    const known = sizeOf(measures, item, null);
    if (known || !target) return known;
    const cylinder = { area: (Math.PI / 4) * numberOf(target.sizes.bore) ** 2, volume: target.cylinderVolume.value };
    const [from, to] = [USUAL[item].from(cylinder), USUAL[item].to(cylinder)];
    const [value, id] = [(from + to) / 2, `missing:${item}`];
    leaves.set(id, {
      id,
      label: `${item}, not measured`,
      value,
      kind: 'volume',
      spread: { shape: 'uniform', half: (to - from) / 2 },
      source: 'its usual range; common practice, no source',
      settle: { act: `measure the ${item}`, after: 0, minutes: 20 },
    });
    missing.push(item);
    return noted(value, 'not measured; the middle of its usual range', id);
  };
  return {
    parts: {
      cylinderVolume: target?.cylinderVolume,
      gasket: part('gasket volume'),
      deck: part('deck volume'),
      piston: part('piston dish'),
    },
    missing,
    book: { leaves, made: new Map() },
  };
}
