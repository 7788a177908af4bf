/** Several specimens of one article, held against each other where they were flowed alike. */
import { comparable, nextSpecimen, specimensApart, work, type Side, type SpecimenOff, type Working } from '@alluvium/core';
import type { WholeHead } from '../api.js';
import { conditionsOf } from '../claims/conditions.js';
import type { JudgingContext } from '../evaluateHead.js';
import type { Sheet } from '../nouns/sheet.js';
import { flowedSheets, readOf } from './stageGain.js';

export interface SpecimensOf {
  readonly side: Side;
  readonly apart: readonly SpecimenOff<{ readonly whole: WholeHead; readonly sheet: Sheet }>[];
  /** How far the next one may lie from their mean; missing with fewer than two. */
  readonly next?: Working;
  /** Specimens that were not flowed like the first, or not at all. */
  readonly leftOut: readonly string[];
}

/** The first specimen of an article. */
export const articleOf = (head: WholeHead['head']): string => head.specimenOf ?? head.id;

/** Peaks of the specimens as they came, those tested like the first of them. */
export function specimensOf(wholes: readonly WholeHead[], side: Side, context: JudgingContext = {}): SpecimensOf {
  const leftOut: string[] = [];
  const taken: { whole: WholeHead; sheet: Sheet; value: number }[] = [];
  const { sources = [] } = context;
  const bench = (s: Sheet) => sources.find((x) => x.id === s.sourceId)?.name ?? s.sourceId ?? 'our own bench';
  for (const whole of wholes) {
    const first = whole.stages.find((s) => s.parentId === null) ?? whole.stages[0];
    const sheets = first ? flowedSheets(whole.sheets, first.id, side) : [];
    const base = taken[0];
    const alike = sheets.filter((sheet) => {
      if (!base) return true;
      // Which runner it was is no matter here: the article is what is asked about.
      const of = (w: WholeHead, s: Sheet) => ({ ...conditionsOf(s, w.ports, side), port: 'any', bench: bench(s) });
      return comparable(of(base.whole, base.sheet), of(whole, sheet), side).may !== 'not';
    });
    const sheet = alike.at(-1);
    const peak = sheet && readOf(whole, sheet, side).result.peak?.flow;
    if (!sheet || peak === undefined)
      leftOut.push(
        `${whole.head.name}: ${sheets.length === 0 ? 'not flowed as it came' : 'tested in another way'}`,
      );
    else taken.push({ whole, sheet, value: peak });
  }
  const apart = specimensApart(taken.map(({ value, ...specimen }) => ({ specimen, value })));
  return {
    side,
    apart,
    ...(taken.length > 1 ? { next: work(nextSpecimen, { values: taken.map((t) => t.value) }) } : {}),
    leftOut,
  };
}
