/** Claims read from the records: what a source says of a head against what the bench found, and the net of sources. */
import {
  SIDES,
  USUAL_REPEATABILITY,
  claimWords,
  comparable,
  formatNumber,
  inches,
  judgeClaim,
  settleWords,
  trendOf,
  unitFor,
  verdictOf,
  type BandPoint,
  type ClaimedPoint,
  type Comparison,
  type Conditions,
  type OffsetData,
  type OffsetResult,
  type PointResult,
  type PointVerdict,
  type Say,
  type Side,
  type System,
  type Trend,
} from '@alluvium/core';
import Papa from 'papaparse';
import type { WholeHead } from './api.js';
import { evaluateSheetOf } from './evaluateHead.js';
import type { Port, Source } from './nouns/head.js';
import type { Sheet } from './nouns/sheet.js';
import { measuresAt, pickSheet, portName, touchedPorts } from './select.js';
import { measured } from './toCore.js';

/** What the net of claims reads of a head: enough to judge flow, and no more. */
export type NetHead = Pick<WholeHead, 'head' | 'stages' | 'ports' | 'sheets' | 'measures'>;

const known = (word: string): string | undefined => (word === 'unknown' ? undefined : word);

/** The conditions of a sheet as the rule book reads them. */
export const conditionsOf = (sheet: Sheet, ports: readonly Port[], side: Side): Conditions => ({
  depression: sheet.setup.depression?.si,
  bore: sheet.setup.bore?.si,
  entry: known(sheet.setup.entry),
  exhaustPipe: known(sheet.setup.exhaustPipe),
  valve: known(sheet.setup.valve),
  port: portName(ports, side === 'intake' ? sheet.intakePortId : sheet.exhaustPortId),
});

/** Every measured coefficient on the curtain area, by side: the band a claim is held against. */
export function bandOf(heads: readonly NetHead[]): Record<Side, BandPoint[]> {
  const band: Record<Side, BandPoint[]> = { intake: [], exhaust: [] };
  for (const head of heads)
    for (const sheet of head.sheets.filter((s) => s.kind === 'measured')) {
      const result = evaluateSheetOf(head, sheet);
      for (const side of SIDES)
        for (const p of result[side].points)
          if (p.coefficients.curtain && p.liftRatio !== undefined)
            band[side].push({
              liftRatio: p.liftRatio,
              coefficient: p.coefficients.curtain.value,
              head: head.head.id,
              ...(side === 'exhaust' ? { pipe: sheet.setup.exhaustPipe } : {}),
            });
    }
  return band;
}

export interface JudgedClaim {
  readonly sheet: Sheet;
  readonly side: Side;
  /** The measured sheet it is held against; undefined when there is none. */
  readonly against?: Sheet;
  readonly comparison?: Comparison;
  readonly points: readonly ClaimedPoint[];
  /** The claim and the sheet it is held against as they stand, point by point. */
  readonly claimed: readonly PointResult[];
  readonly measured: readonly PointResult[];
  readonly verdict: PointVerdict | undefined;
  readonly trend: Trend | undefined;
  readonly words: string;
  /** What to measure next. */
  readonly next: string;
}

/**
 * Every claim on one side of a head, held against what was measured at its stage. `own` is the bench that measures.
 * A claim of a depression or bore nobody stated is compared with a reservation; one that differs is not compared.
 */
export function judgedClaims(
  head: NetHead,
  side: Side,
  band: readonly BandPoint[],
  own: string | undefined,
  say: Say,
): JudgedClaim[] {
  const touched = touchedPorts(head.ports);
  return head.sheets
    .filter((s) => s.kind === 'claim' && s.setup.reads !== 'difference' && s.rows.some((r) => r[side]))
    .map((sheet) => {
      const mine = head.sheets.filter(
        (s) => s.kind === 'measured' && (!own || s.sourceId === own) && s.rows.some((r) => r[side]),
      );
      const against = pickSheet(mine, sheet.stageId, undefined, touched);
      const comparison =
        against && comparable(conditionsOf(sheet, head.ports, side), conditionsOf(against, head.ports, side), side);
      const measures = measuresAt(head, sheet.stageId).filter((m) => m.sourceId === null);
      const claimed = evaluateSheetOf(head, sheet)[side].points;
      const found = against && evaluateSheetOf(head, against)[side];
      const points = judgeClaim({
        points: claimed,
        measured: found?.curve,
        may: comparison?.may ?? 'reserved',
        // A piped exhaust is held against piped ones; where the claim does not say, against all.
        library: band.filter(
          (b) => side === 'intake' || sheet.setup.exhaustPipe === 'unknown' || b.pipe === sheet.setup.exhaustPipe,
        ),
        choke: measured(measures, 'pinch', side),
        repeatability: USUAL_REPEATABILITY,
      });
      const verdict = verdictOf(points);
      const trend = trendOf(points);
      const unknown = comparison?.aspects.filter((a) => a.state === 'unknown').map((a) => `the ${a.what}`) ?? [];
      const port = portName(head.ports, head.ports.find((p) => p.side === side)?.id ?? null);
      return {
        sheet,
        side,
        points,
        claimed,
        measured: found?.points ?? [],
        verdict,
        trend,
        words: claimWords(points, verdict, trend, say),
        next: settleWords(verdict, unknown, port, against !== undefined),
        ...(against ? { against } : {}),
        ...(comparison ? { comparison } : {}),
      };
    });
}

/** Lifts at which sources are held against each other: every tenth of an inch, read from each sheet's own curve. */
export const NET_STEP = inches(0.1);

export interface Net {
  readonly data: OffsetData;
  /** Ids of the sources, by their number in the data. */
  readonly sources: readonly string[];
  /** Heads tested by each source. */
  readonly heads: readonly number[];
}

/**
 * All sheets of all heads as one net of sources, for one side. Only like is laid beside like: the same stage, lift and,
 * on the exhaust, pipe. `own` is our bench, at zero; `lifts` keeps a band of lift (m).
 */
export function netOf(
  heads: readonly NetHead[],
  own: string,
  side: Side,
  lifts: { readonly from: number; readonly to: number } = { from: 0, to: Infinity },
): Net {
  const sources = [own];
  const tested = new Map<string, Set<string>>();
  const points = new Map<string, number>();
  const rows: { point: number; source: number; value: number }[] = [];
  for (const head of heads)
    for (const sheet of head.sheets) {
      if (sheet.sourceId === null || sheet.setup.reads === 'difference') continue;
      const curve = evaluateSheetOf(head, sheet)[side].curve;
      if (!curve) continue;
      if (!sources.includes(sheet.sourceId)) sources.push(sheet.sourceId);
      tested.set(sheet.sourceId, (tested.get(sheet.sourceId) ?? new Set()).add(head.head.id));
      for (let i = 1; i * NET_STEP <= curve.last.lift + 1e-6; i++) {
        const lift = i * NET_STEP;
        if (lift < curve.first.lift - 1e-6 || lift < lifts.from - 1e-6 || lift > lifts.to + 1e-6) continue;
        const flow = curve.at(lift);
        if (flow === undefined || flow <= 0) continue;
        const key = [sheet.stageId, i, side === 'exhaust' ? sheet.setup.exhaustPipe : ''].join('|');
        if (!points.has(key)) points.set(key, points.size);
        rows.push({ point: points.get(key)!, source: sources.indexOf(sheet.sourceId), value: Math.log(flow) });
      }
    }
  return {
    data: {
      point: rows.map((r) => r.point),
      source: rows.map((r) => r.source),
      logFlow: rows.map((r) => r.value),
      sources: sources.length,
      own: 0,
    },
    sources,
    heads: sources.map((s) => tested.get(s)?.size ?? 0),
  };
}

/** Which head, tested now on our own bench, ties a loose source or sharpens the least sure one; empty when none would. */
export function tyingHeads(
  heads: readonly NetHead[],
  own: string,
  side: Side,
  result: OffsetResult | undefined,
  net: Net,
): string {
  if (!result) return '';
  const loose = result.offsets.filter((o) => !o.tied);
  const unsure = result.offsets.filter((o) => o.tied && o.source !== 0).sort((a, b) => b.error - a.error);
  for (const { source, tied } of [...loose, ...unsure]) {
    const id = net.sources[source]!;
    // A stage this source tested and we did not, the one with most rows first.
    const candidates = heads
      .flatMap((head) =>
        head.sheets
          .filter((s) => s.sourceId === id && s.rows.some((r) => r[side]))
          .filter(
            (s) =>
              !head.sheets.some((o) => o.sourceId === own && o.stageId === s.stageId && o.rows.some((r) => r[side])),
          )
          .map((s) => ({ head, sheet: s })),
      )
      .sort((a, b) => b.sheet.rows.length - a.sheet.rows.length);
    const best = candidates[0];
    if (best) {
      const stage = best.head.stages.find((t) => t.id === best.sheet.stageId)?.name ?? '';
      return `Testing ${best.head.head.name} (${stage}) on your own bench would ${tied ? 'sharpen' : 'tie'} a source that ${tied ? 'is least sure' : 'nothing ties yet'}.`;
    }
  }
  return loose.length > 0 ? 'To tie a loose source, have it test a head of yours, or test one of its heads here.' : '';
}

/** One line of the audit: a claim and what came of it. */
export interface ClaimRow {
  readonly key: string;
  readonly source: string;
  readonly headId: string;
  readonly head: string;
  readonly side: Side;
  readonly sheet: string;
  readonly verdict: PointVerdict | 'no flow';
  readonly words: string;
  readonly claim: JudgedClaim;
}

/** Every claim of every head, by source. */
export function claimRows(
  heads: readonly NetHead[],
  band: Record<Side, readonly BandPoint[]>,
  own: string | undefined,
  sources: readonly Source[],
  say: Say,
): ClaimRow[] {
  return heads
    .flatMap((head) =>
      SIDES.flatMap((side) =>
        judgedClaims(head, side, band[side], own, say).map((claim) => ({
          key: claim.sheet.id + side,
          source: sources.find((s) => s.id === claim.sheet.sourceId)?.name ?? '',
          headId: head.head.id,
          head: head.head.name,
          side,
          sheet: claim.sheet.title,
          verdict: claim.verdict ?? ('no flow' as const),
          words: claim.words,
          claim,
        })),
      ),
    )
    .sort((a, b) => a.source.localeCompare(b.source) || a.head.localeCompare(b.head) || a.side.localeCompare(b.side));
}

/** The audit as CSV: one line a claimed point. Cells a spreadsheet would run as a formula are made harmless. */
export function writeAudit(rows: readonly ClaimRow[], system: System): string {
  const flow = unitFor('flow', system).symbol;
  const lift = unitFor('lift', system).symbol;
  const figure = (si: number | undefined, kind: 'flow' | 'lift' | 'percent', digits?: number) =>
    si === undefined ? '' : formatNumber(si, kind, system, digits === undefined ? {} : { digits }).replace('−', '-');
  const lines = rows.flatMap((r) =>
    r.claim.points.map((p) => ({
      source: r.source,
      head: r.head,
      side: r.side,
      sheet: r.sheet,
      [`lift (${lift})`]: figure(p.lift, 'lift'),
      [`claimed (${flow} at 28 inH2O)`]: figure(p.flow.value, 'flow'),
      [`measured (${flow} at 28 inH2O)`]: figure(p.measured, 'flow'),
      'off by (%)': figure(p.error?.value, 'percent', 1),
      'give or take (%)': figure(p.uncertainty.value, 'percent', 1),
      verdict: p.verdict,
      conditions: r.claim.comparison?.sentence ?? 'nothing measured',
    })),
  );
  return Papa.unparse(lines, { escapeFormulae: true });
}
