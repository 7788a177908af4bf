/** Sizes as what they are worth: each with its leaf, and the book that says how well it is known. */
import {
  deviation,
  inches,
  mean,
  millimetres,
  noted,
  USUAL_ASSUMPTIONS,
  type Assumptions,
  type Kind,
  type Leaf,
  type LeafBook,
  type Noted,
  type Side,
} from '@alluvium/core';
import type { Measure } from './nouns/measure.js';
import { MEASURE_ITEMS, type MeasureItem } from './nouns/measureItems.js';
import { resolutionOf } from './resolution.js';
import { ROOF_AND_FLOOR, measuresOf } from './toCore.js';

// used[]!: there is one at least.

const leafOf = (item: MeasureItem, side: Side | null, portId: string | null | undefined): string =>
  `measure:${item}:${side ?? 'head'}:${portId ?? 'all'}`;

/** A size with the leaf it is known by; undefined where nothing was measured. */
export function sizeOf(
  measures: readonly Measure[],
  item: MeasureItem,
  side: Side | null,
  portId?: string | null,
): Noted<number> | undefined {
  const used = measuresOf(measures, item, side, portId);
  if (used.length === 0) return undefined;
  const stated = used.every((m) => m.sourceId !== null);
  const note = [
    used[0]!.note === ROOF_AND_FLOOR ? ROOF_AND_FLOOR : '',
    used.length > 1 ? `mean of ${used.length}` : '',
    stated ? 'as stated, not measured' : '',
  ]
    .filter(Boolean)
    .join(', ');
  return noted(mean(used.map((m) => m.value.si)), note, leafOf(item, side, portId));
}

/** Lengths taken along the port by wire; all others are taken by calipers or gauge. */
const BY_WIRE: ReadonlySet<MeasureItem> = new Set(['port length']);
/** Common practice, no source: one reading of calipers or gauge, a protractor, a spring tester. */
const CALIPERS = millimetres(0.05);
const PROTRACTOR = (0.5 * Math.PI) / 180;
const TESTER = 0.02;
/** A diameter bored or ground is read finer than a cast one, but never finer than this. */
const FINEST = inches(0.0005);

/** Standard uncertainty of one taking of a size, in its own unit. */
function usual(item: MeasureItem, kind: Kind, value: number, a: Assumptions): number {
  switch (kind) {
    case 'area':
      return a.area * Math.abs(value);
    case 'volume':
      return a.volume * Math.abs(value);
    case 'length':
      return BY_WIRE.has(item) ? a.length * Math.abs(value) : Math.max(CALIPERS, FINEST);
    case 'angle':
      return PROTRACTOR;
    case 'force':
    case 'rate':
      return TESTER * Math.abs(value);
    default:
      return 0;
  }
}

/** What every size of a stage is sure of; `portId` as the sizes are asked for. Money is taken as given. */
export function sizeBook(
  measures: readonly Measure[],
  portId?: string | null,
  assumptions: Assumptions = USUAL_ASSUMPTIONS,
): LeafBook {
  const leaves = new Map<string, Leaf>();
  // Roof and floor alone make a length of the port.
  const asked = measures.flatMap((m): Measure[] =>
    m.item === 'roof length' ? [m, { ...m, item: 'port length' }] : [m],
  );
  for (const m of asked) {
    for (const port of new Set([portId, undefined])) {
      const id = leafOf(m.item, m.side, port);
      if (leaves.has(id)) continue;
      const used = measuresOf(measures, m.item, m.side, port);
      if (used.length === 0) continue;
      const values = used.map((x) => x.value.si);
      const { kind } = MEASURE_ITEMS[m.item];
      const value = mean(values);
      const stated = used.every((x) => x.sourceId !== null);
      const taken = usual(m.item, kind, value, assumptions) * (stated ? assumptions.statedSize : 1);
      const one = Math.max(Math.hypot(taken, resolutionOf(used[0]!.value) / Math.sqrt(3)), deviation(values) ?? 0);
      if (one === 0) continue;
      leaves.set(id, {
        id,
        label: m.side ? `${m.side} ${m.item}` : m.item,
        value,
        kind,
        spread: { shape: 'normal', u: one / Math.sqrt(used.length) },
        source: stated
          ? 'stated by its source, not measured'
          : `${used.length === 1 ? 'taken once' : `mean of ${used.length}`}; common practice, no source`,
      });
    }
  }
  return { leaves, made: new Map() };
}
