import { setupInForce } from './session.js';
/** A range or a full scale that was written down wrong: put right in every sheet and session of a bench at once. */
import type { Side } from '@alluvium/core';
import { z } from 'zod';
import { Id, SideName } from '../nouns/common.js';
import type { RawReading, Session } from '../nouns/bench.js';
import { flowSchema, type Sheet } from '../nouns/sheet.js';
import type { Source } from '../nouns/source.js';
import type { Quantity } from '../quantity.js';

const RangeName = z.string().trim().min(1, 'Name the range.').max(20);

/** What was wrong. */
export const Correction = z.discriminatedUnion('what', [
  z.object({
    what: z.literal('full scale'),
    range: RangeName,
    side: SideName,
    from: flowSchema,
    to: flowSchema,
    /** Only what one session made; null: the whole bench. */
    sessionId: Id.nullable().default(null),
  }),
  z.object({
    what: z.literal('range'),
    /** Readings noted on this range … */
    from: RangeName,
    /** … were read on that one. */
    to: RangeName,
    side: SideName,
    sessionId: Id.nullable().default(null),
  }),
]);
export type Correction = z.infer<typeof Correction>;

/** What a bench wrote down in its sheets and sessions. */
export interface BenchWork {
  /** The bench itself, with its own full scales; null among what a correction changes when they are right. */
  readonly bench: Source | null;
  readonly sheets: readonly Sheet[];
  readonly sessions: readonly Session[];
  readonly readings: readonly RawReading[];
}

/** Two texts for one full scale, `295.6 cfm` and `139.5 L/s`, are one. */
const SAME = 1e-4;
const same = (a: Quantity | null | 'unknown', b: Quantity) =>
  a !== null && a !== 'unknown' && Math.abs(a.si / b.si - 1) < SAME;

type Range = Sheet['setup']['ranges'][number];

/** The records of a bench that a correction changes, as they will be; those it leaves alone are not among them. */
export function corrected(work: BenchWork, correction: Correction): BenchWork {
  const { sessionId } = correction;
  const made = new Set(work.readings.filter((r) => r.sessionId === sessionId).map((r) => r.sheetId));
  const sheets = work.sheets.filter((s) => sessionId === null || made.has(s.id));
  const sessions = work.sessions.filter((s) => sessionId === null || s.id === sessionId);
  if (correction.what === 'full scale') {
    const { range, side, from, to } = correction;
    const wrong = (ranges: readonly Range[]) => ranges.some((r) => r.name === range && same(r[side], from));
    const right = <T extends Range>(ranges: readonly T[]): T[] =>
      ranges.map((r) => (r.name === range && same(r[side], from) ? { ...r, [side]: to } : r));
    // What one session read by a wrong figure keeps the right one for itself; the bench's own stands for all others.
    const mended = <T extends { readonly ranges: readonly Range[]; readonly scales: string | null }>(setup: T): T =>
      wrong(setup.ranges)
        ? { ...setup, ranges: right(setup.ranges), scales: sessionId === null ? setup.scales : null }
        : setup;
    const { bench } = work;
    return {
      bench:
        sessionId === null && bench?.scales.some((s) => wrong(s.ranges))
          ? { ...bench, scales: bench.scales.map((s) => ({ ...s, ranges: right(s.ranges) })) }
          : null,
      sheets: sheets.filter((s) => wrong(s.setup.ranges)).map((s) => ({ ...s, setup: mended(s.setup) })),
      sessions: sessions
        .filter((s) => s.setups.some((setup) => wrong(setup.ranges)))
        .map((s) => ({ ...s, setups: s.setups.map(mended) })),
      readings: [],
    };
  }
  const { from, to, side } = correction;
  const has = (ranges: readonly Range[]) => ranges.some((r) => r.name === to && r[side] !== null);
  const wrongRow = (s: Sheet) => s.rows.some((r) => r[side]?.range === from);
  return {
    bench: null,
    sheets: sheets
      .filter((s) => wrongRow(s) && has(s.setup.ranges))
      .map((s) => ({
        ...s,
        rows: s.rows.map((r) => {
          const reading = r[side];
          return reading?.range === from ? { ...r, [side]: { ...reading, range: to } } : r;
        }),
      })),
    sessions: [],
    readings: work.readings
      .filter((r) => (sessionId === null || r.sessionId === sessionId) && r.side === side && r.range === from)
      .map((r) => ({ ...r, range: to })),
  };
}

/** A full scale as it stands in the papers of a bench, and how often. */
export interface RangeInUse {
  readonly range: string;
  readonly side: Side;
  readonly fullScale: Quantity;
  readonly sheets: number;
  readonly sessions: number;
}

/** Every full scale a bench's sheets and sessions name, most used first of each range. */
export function rangesInUse({ sheets, sessions }: Pick<BenchWork, 'sheets' | 'sessions'>): RangeInUse[] {
  const found: { range: string; side: Side; fullScale: Quantity; sheets: number; sessions: number }[] = [];
  const count = (ranges: readonly Range[], what: 'sheets' | 'sessions') => {
    for (const r of ranges)
      for (const side of ['intake', 'exhaust'] as const) {
        const fullScale = r[side];
        if (!fullScale) continue;
        const known = found.find((f) => f.range === r.name && f.side === side && same(fullScale, f.fullScale));
        if (known) known[what]++;
        else found.push({ range: r.name, side, fullScale, sheets: 0, sessions: 0, [what]: 1 });
      }
  };
  for (const s of sheets) count(s.setup.ranges, 'sheets');
  for (const s of sessions) count(setupInForce(s).ranges, 'sessions');
  return found.sort(
    (a, b) =>
      a.range.localeCompare(b.range, undefined, { numeric: true }) ||
      b.side.localeCompare(a.side) ||
      b.sheets + b.sessions - a.sheets - a.sessions,
  );
}

/** One record a correction changes, in a line. */
export interface CorrectionLine {
  readonly noun: 'sheet' | 'session';
  readonly id: string;
  readonly head: string;
  readonly title: string;
  readonly date: string | null;
  /** Rows of the sheet whose flow is another one by it. */
  readonly rows: number;
}

/** How many rows of a sheet read flow from what is corrected. */
export function rowsTouched(sheet: Sheet, correction: Correction): number {
  const range = correction.what === 'full scale' ? correction.range : correction.from;
  return sheet.rows.filter((r) => r[correction.side]?.range === range).length;
}

/** The factor by which a flow read on the range changes. */
export const correctionFactor = (correction: Extract<Correction, { what: 'full scale' }>): number =>
  correction.to.si / correction.from.si;
