/** Several publications of one head, side by side. */
import { comparable, inches, sideBySide, type FlowCurve, type PublishedRow, type Side } from '@alluvium/core';
import { evaluated } from './evaluated.js';
import type { Source } from '../nouns/source.js';
import type { Sheet } from '../nouns/sheet.js';
import { leastPort } from '../evidence.js';
import { conditionsOf } from './conditions.js';
import type { NetHead } from './judge.js';

// first!: the first of those laid.

export interface Publication {
  readonly sheet: Sheet;
  readonly source: string;
  /** Why it cannot be laid beside the first; empty when it can. */
  readonly apart: string;
}
export interface Publications {
  readonly side: Side;
  readonly tables: readonly Publication[];
  /** Flows of the tables that can be laid side by side, in their order, at each tenth of an inch two of them reach. */
  readonly rows: readonly PublishedRow[];
}

const LIFTS = Array.from({ length: 30 }, (_, i) => inches(0.1 * (i + 1)));

/**
 * All tables of one head at one stage and side, ours first. A table whose conditions differ from the first is named and
 * left out of the spread: bare and piped exhausts are never averaged.
 */
export function publications(
  head: NetHead,
  stageId: string,
  side: Side,
  own: string | undefined,
  sources: readonly Source[],
): Publications {
  const flowed = head.sheets
    .filter((s) => s.stageId === stageId && s.setup.reads !== 'difference')
    .flatMap((sheet) => {
      const { curve } = evaluated(head, sheet)[side];
      return curve ? [{ sheet, curve }] : [];
    });
  const ours = flowed.map((f) => f.sheet).filter((s) => s.sourceId === own);
  const speaks = leastPort({ ...head, sheets: ours }, stageId, side)?.sheets[0];
  const rank = (s: Sheet) => (s === speaks ? 0 : s.sourceId === own ? 1 : s.kind === 'measured' ? 2 : 3);
  flowed.sort((a, b) => rank(a.sheet) - rank(b.sheet) || (a.sheet.date ?? '').localeCompare(b.sheet.date ?? ''));
  // One table a source; of our own the one that speaks for the stage.
  const one = flowed.filter(
    (f, i) => f.sheet.sourceId === null || flowed.findIndex((o) => o.sheet.sourceId === f.sheet.sourceId) === i,
  );
  const [first] = one;
  const laid: FlowCurve[] = [];
  const tables = one.map(({ sheet, curve }): Publication => {
    const held = comparable(conditionsOf(sheet, head.ports, side), conditionsOf(first!.sheet, head.ports, side), side);
    // Another runner is what a publication is expected to be; it does not keep the tables apart.
    const differs = held.aspects.filter((a) => a.state === 'differs' && a.what !== 'port');
    if (differs.length === 0) laid.push(curve);
    return {
      sheet,
      source: sources.find((s) => s.id === sheet.sourceId)?.name ?? 'source not said',
      apart: differs.map((a) => a.sentence).join(' '),
    };
  });
  return { side, tables, rows: laid.length < 2 ? [] : sideBySide(laid, LIFTS) };
}
