/** The audit: every claim of every head by source, on the screen, on paper and as CSV. */
import {
  SIDES,
  formatNumber,
  noted,
  statedDifference,
  unitFor,
  work,
  type PointVerdict,
  type Side,
  type System,
  type Working,
} from '@alluvium/core';
import { statedAgainstFound, toleranceOf } from '../arrival/stated.js';
import { toCsv } from '../files/csv.js';
import type { Build } from '../nouns/build.js';
import type { Measure, Tolerance } from '../nouns/measure.js';
import { MEASURE_ITEMS } from '../nouns/measureItems.js';
import type { Source } from '../nouns/source.js';
import { sizesComparable } from './conditions.js';
import { isGrave, judgedClaims, type ClaimContext, type JudgedClaim, type NetHead } from './judge.js';
import type { JudgingContext } from '../evaluateHead.js';
import { judgedReports, type JudgedReport } from './reports.js';

// item.found[]!, find()!: what was found differs somewhere.
// r.power!: listed for its power.

/** A size somebody states, held against what was found. */
export interface JudgedSize {
  readonly measure: Measure;
  readonly verdict: PointVerdict;
  /** Found less stated. */
  readonly difference?: Working;
  readonly found?: number;
  readonly tolerance: number;
  readonly conditions: string;
  readonly words: string;
}

/** Every size a source states of a head, at every stage. */
export function judgedSizes(
  head: NetHead,
  tolerances: readonly Tolerance[],
  { say }: Pick<ClaimContext, 'say'>,
): JudgedSize[] {
  return head.stages.flatMap((stage) => {
    const stated = head.measures.filter((m) => m.stageId === stage.id && m.sourceId !== null);
    const items = stated.length === 0 ? [] : statedAgainstFound(head, stage.id, tolerances);
    return stated.map((measure): JudgedSize => {
      const { kind } = MEASURE_ITEMS[measure.item];
      const tolerance = toleranceOf(measure.item, tolerances);
      const item = items.find((i) => i.item === measure.item && i.side === measure.side);
      const says = (si: number) => say.of(si, kind);
      if (item?.foundMean === undefined)
        return {
          measure,
          tolerance,
          verdict: 'nothing to hold it against',
          conditions: 'nothing measured',
          words: `Stated ${measure.value.typed}; nothing was found to hold it against.`,
        };
      const held = sizesComparable(head, measure, item.found[0]!);
      const difference = work(statedDifference(kind), {
        found: noted(item.foundMean, item.found.length > 1 ? `mean of ${item.found.length}` : 'found'),
        stated: item.atFound ?? noted(measure.value.si, 'stated'),
      });
      const off = Math.abs(difference.value) > tolerance * (1 + 1e-9);
      const height = item.atFound ? `, ${says(item.atFound.value)} at the height found` : '';
      const words = `Stated ${measure.value.typed}${height}, found ${says(item.foundMean)}`;
      const verdict = held.may === 'not' ? 'not comparable' : !off ? 'holds' : difference.value > 0 ? 'low' : 'high';
      return {
        measure,
        tolerance,
        difference,
        found: item.foundMean,
        verdict,
        conditions: held.sentence,
        words:
          verdict === 'not comparable'
            ? `${words}: ${held.aspects.find((a) => a.state === 'differs')!.sentence}`
            : off
              ? `${words}: ${says(Math.abs(difference.value))} ${difference.value > 0 ? 'more' : 'less'}, beyond the ${says(tolerance)} that matters.`
              : `${words}, within ${says(tolerance)}.`,
      };
    });
  });
}

/** One line of the audit: a claim and what came of it. */
export interface ClaimRow {
  readonly key: string;
  readonly source: string;
  readonly headId: string;
  readonly stageId: string;
  readonly head: string;
  readonly side: Side | null;
  /** `flow`, the item of a size, `power`. */
  readonly what: string;
  readonly verdict: string;
  readonly words: string;
  /** Worth a second look: no other bench explains it, a size is off by more than matters, a power is not believable. */
  readonly doubtful: boolean;
  readonly flow?: JudgedClaim;
  readonly size?: JudgedSize;
  readonly power?: JudgedReport;
}

/** Every claim of every head, by source. */
export function claimRows(
  heads: readonly NetHead[],
  sources: readonly Source[],
  context: ClaimContext,
  more: {
    readonly tolerances?: readonly Tolerance[];
    readonly builds?: readonly Build[];
    readonly judging?: JudgingContext;
  } = {},
): ClaimRow[] {
  const named = (id: string | null) => sources.find((s) => s.id === id)?.name ?? 'source not said';
  return heads
    .flatMap((head): ClaimRow[] => {
      const base = (stageId: string, sourceId: string | null) => ({
        source: named(sourceId),
        headId: head.head.id,
        stageId,
        head: head.head.name,
      });
      return [
        ...SIDES.flatMap((side) =>
          judgedClaims(head, side, context).map((flow) => ({
            ...base(flow.sheet.stageId, flow.sheet.sourceId),
            key: flow.sheet.id + side,
            side,
            what: 'flow',
            verdict: flow.verdict ?? 'no flow',
            words: flow.words,
            doubtful: isGrave(flow.verdict),
            flow,
          })),
        ),
        ...judgedSizes(head, more.tolerances ?? [], context).map((size) => ({
          ...base(size.measure.stageId, size.measure.sourceId),
          key: size.measure.id,
          side: size.measure.side,
          what: size.measure.item,
          verdict: size.verdict,
          words: size.words,
          doubtful: size.verdict === 'high' || size.verdict === 'low',
          size,
        })),
        ...judgedReports(head, more.builds ?? [], context.own, context.say, { ...more.judging, sources }).map(
          (power) => ({
            ...base(power.report.stageId, power.report.sourceId),
            key: power.report.id,
            side: null,
            what: 'power',
            verdict: power.result.verdict,
            words: power.words,
            doubtful: power.result.verdict === 'not believable',
            power,
          }),
        ),
      ];
    })
    .sort(inAuditOrder);
}

/** A line of the audit without what it was judged from: what a page lists. */
export type AuditLine = Omit<ClaimRow, 'flow' | 'size' | 'power'>;
export const auditLine = ({ flow: _flow, size: _size, power: _power, ...line }: ClaimRow): AuditLine => line;

/** The order of an audit: by source, then head. */
export const inAuditOrder = (
  a: Pick<AuditLine, 'source' | 'head' | 'what' | 'side'>,
  b: Pick<AuditLine, 'source' | 'head' | 'what' | 'side'>,
): number =>
  a.source.localeCompare(b.source) ||
  a.head.localeCompare(b.head) ||
  Number(b.what === 'flow') - Number(a.what === 'flow') ||
  (b.side ?? '').localeCompare(a.side ?? '') ||
  a.what.localeCompare(b.what);

const AUDIT_COLUMNS = [
  'source',
  'head',
  'side',
  'what',
  'sheet',
  'lift',
  'claimed',
  'measured',
  'unit',
  'error (%)',
  'uncertainty (%)',
  'coefficient on minimum area',
  'verdict',
  'conditions',
  'in words',
] as const;

/** The audit as CSV: one line a claimed point, size or power. Flows are at 28 inH2O. */
export const writeAudit = (rows: readonly ClaimRow[], system: System): string =>
  toCsv([AUDIT_COLUMNS, ...auditCells(rows, system)]);

/** The columns of the audit's CSV, and its lines: for one that is written bit by bit. */
export const auditHeading: readonly string[] = AUDIT_COLUMNS;
export function auditCells(rows: readonly ClaimRow[], system: System): string[][] {
  const number = (si: number | undefined, kind: Parameters<typeof formatNumber>[1], digits?: number) =>
    si === undefined ? '' : formatNumber(si, kind, system, digits === undefined ? {} : { digits }).replace('−', '-');
  const flowUnit = unitFor('flow', system).symbol;
  const liftUnit = unitFor('lift', system).symbol;
  type Line = Partial<Record<(typeof AUDIT_COLUMNS)[number], string>>;
  const lines = rows.flatMap((r): Line[] => {
    const base: Line = { source: r.source, head: r.head, side: r.side ?? '', what: r.what, 'in words': r.words };
    if (r.flow) {
      const { sheet, comparison, points, claimed } = r.flow;
      return points.map((p, i) => ({
        ...base,
        sheet: sheet.title,
        lift: `${number(p.lift, 'lift')} ${liftUnit}`,
        claimed: number(p.flow.value, 'flow'),
        measured: number(p.measured, 'flow'),
        unit: flowUnit,
        'error (%)': number(p.error?.value, 'percent', 1),
        'uncertainty (%)': number(p.uncertainty.value, 'percent', 1),
        'coefficient on minimum area': number(claimed[i]?.coefficients.minimum?.value, 'ratio', 3),
        verdict: p.verdict,
        conditions: comparison?.sentence ?? 'nothing measured',
      }));
    }
    if (r.size) {
      const { measure, found, verdict, conditions } = r.size;
      const { kind } = MEASURE_ITEMS[measure.item];
      return [
        {
          ...base,
          claimed: number(measure.value.si, kind),
          measured: number(found, kind),
          unit: unitFor(kind, system).symbol,
          verdict,
          conditions,
        },
      ];
    }
    const { report, result, reservations } = r.power!;
    return [
      {
        ...base,
        claimed: number(report.power.si, 'power'),
        unit: unitFor('power', system).symbol,
        verdict: result.verdict,
        conditions: reservations.join(' '),
      },
    ];
  });
  return lines.map((line) => AUDIT_COLUMNS.map((c) => line[c] ?? ''));
}
