/** Several specimens of one article, held against each other where they were flowed alike. */
import {
  comparable,
  nextSpecimen,
  specimensApart,
  work,
  type Side,
  type SpecimenOff,
  type Working,
} from '@alluvium/core';
import type { WholeHead } from '../api.js';
import type { JudgingContext } from '../evaluateHead.js';
import type { Sheet } from '../nouns/sheet.js';
import { flowedSheets, readOf, testOf } from './stageGain.js';

// a!, b!: a pair.
// all[]!: one for each head.

interface Flowed {
  readonly whole: WholeHead;
  readonly sheet: Sheet;
}

export interface SpecimensOf {
  readonly side: Side;
  readonly apart: readonly SpecimenOff<Flowed>[];
  /** How far the next one may lie from their mean; missing with fewer than two. */
  readonly next?: Working;
  /** Specimens that were not flowed like the others, or not at all. */
  readonly leftOut: readonly string[];
}

/** Sheets of a head as it came. */
function received(whole: WholeHead, side: Side): Sheet[] {
  const first = whole.stages.find((s) => s.parentId === null) ?? whole.stages[0];
  return first ? flowedSheets(whole.sheets, first.id, side) : [];
}

/** Peaks of the specimens as they came, those of them that were tested alike. */
export function specimensOf(wholes: readonly WholeHead[], side: Side, context: JudgingContext = {}): SpecimensOf {
  const conditions = ({ whole, sheet }: Flowed) => testOf(whole, sheet, side, context);
  const all = wholes.map((whole) => received(whole, side).map((sheet): Flowed => ({ whole, sheet })));
  /** Of each specimen the sheet most like another's: the same runner before any other. */
  const likeTo = (base: Flowed): Flowed[] =>
    all.flatMap((own) => {
      const port = conditions(base).port;
      const alike = own.filter((f) => {
        const [a, b] = [conditions(base), conditions(f)].map((c) => ({ ...c, port: 'any' }));
        return comparable(a!, b!, side).may !== 'not';
      });
      return alike.find((f) => conditions(f).port === port) ?? alike.at(-1) ?? [];
    });
  const taken = all
    .flat()
    .map(likeTo)
    .reduce<Flowed[]>((best, found) => (found.length > best.length ? found : best), []);
  const read = taken.flatMap((specimen) => {
    const value = readOf(specimen.whole, specimen.sheet, side).result.peak?.flow;
    return value === undefined ? [] : [{ specimen, value }];
  });
  return {
    side,
    apart: specimensApart(read),
    ...(read.length > 1 ? { next: work(nextSpecimen, { values: read.map((t) => t.value) }) } : {}),
    leftOut: wholes.flatMap((whole, i) =>
      read.some((r) => r.specimen.whole === whole)
        ? []
        : [`${whole.head.name}: ${all[i]!.length === 0 ? 'not flowed as it came' : 'tested in another way'}`],
    ),
  };
}
