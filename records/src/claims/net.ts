/** The net of sources over all sheets of all heads, and which head would tie or sharpen it. */
import { comparable, inches, type Candidate, type OffsetData, type Side } from '@alluvium/core';
import { evaluated } from './evaluated.js';
import type { Sheet } from '../nouns/sheet.js';
import { portName } from '../select.js';
import { conditionsOf, portIdOf } from './conditions.js';
import type { NetHead } from './judge.js';

/** Lifts at which sources are held against each other: every tenth of an inch, read from each sheet's own curve. */
export const NET_STEP = inches(0.1);

/** What a head offers the net if our own bench tested it. */
export interface NetCandidate extends Candidate {
  /** `417 early (as received), port 3, bare`. */
  readonly name: string;
}

export interface Net {
  readonly data: OffsetData;
  /** Ids of the sources, by their number in the data. */
  readonly sources: readonly string[];
  /** Heads tested by each source. */
  readonly heads: readonly number[];
  /** Those of them that another source tested alike. */
  readonly shared: readonly number[];
  /** Heads some source tested and our own bench did not, at the same stage and in a way that is known well enough to repeat. */
  readonly candidates: readonly NetCandidate[];
  /** Sources with exhaust tables of which nobody said whether they were bare or piped: no test of ours can be like them. */
  readonly pipeUnsaid: readonly string[];
}

/** A band of lift, m. */
export interface LiftBand {
  readonly from: number;
  readonly to: number;
}

/**
 * Whether nothing known of two sheets keeps them apart; depression is converted. An exhaust whose pipe nobody stated is
 * not laid beside one that is known to be bare or piped: a pipe is worth more than benches differ.
 */
const alike = (a: Sheet, b: Sheet, head: NetHead, side: Side): boolean =>
  (side === 'intake' || a.setup.exhaustPipe === b.setup.exhaustPipe) &&
  comparable(conditionsOf(a, head.ports, side), conditionsOf(b, head.ports, side), side).may !== 'not';

/**
 * The sheet whose points a sheet shares: the first of its stage, ours before others, from which nothing known keeps it
 * apart. What is otherwise unknown of it counts as like; a bore, port, entry, valve or pipe that is known to differ does not.
 */
function sharing(head: NetHead, sheet: Sheet, own: string, side: Side): Sheet {
  const beside = head.sheets
    .filter((s) => s.stageId === sheet.stageId && s.sourceId !== null && s.rows.some((r) => r[side]))
    .sort((a, b) => Number(b.sourceId === own) - Number(a.sourceId === own));
  // Our own sheets are told apart by port and bore even where one of them does not say.
  const fits = (s: Sheet) =>
    s === sheet ||
    (sheet.sourceId === own
      ? s.sourceId === own &&
        portIdOf(s, side) === portIdOf(sheet, side) &&
        s.setup.bore?.si === sheet.setup.bore?.si &&
        alike(s, sheet, head, side)
      : alike(s, sheet, head, side));
  return beside.find(fits) ?? sheet;
}

/**
 * All sheets of all heads as one net of sources, for one side. Only like is laid beside like: the same stage and lift, and
 * nothing known that keeps the tests apart. `own` is our bench, at zero; `without` leaves one head out.
 */
export function netOf(
  heads: readonly NetHead[],
  own: string,
  side: Side,
  { lifts = { from: 0, to: Infinity }, without }: { readonly lifts?: LiftBand; readonly without?: string } = {},
): Net {
  const sources = [own];
  const tested = new Map<string, Set<string>>();
  const points = new Map<string, number>();
  const rows: { point: number; source: number; value: number }[] = [];
  /** Which sources saw a point, and of which head it is. */
  const seen: { head: string; sources: Set<number> }[] = [];
  const offers = new Map<string, { head: NetHead; sheet: Sheet; points: Set<number> }>();
  const ours = new Set<string>();
  const pipeUnsaid = new Set<string>();
  const unsaid = (sheet: Sheet) => side === 'exhaust' && sheet.setup.exhaustPipe === 'unknown';
  for (const head of heads)
    for (const sheet of head.head.id === without ? [] : head.sheets) {
      if (sheet.sourceId === null || sheet.setup.reads === 'difference') continue;
      const curve = evaluated(head, sheet)[side].curve;
      if (!curve) continue;
      if (!sources.includes(sheet.sourceId)) sources.push(sheet.sourceId);
      tested.set(sheet.sourceId, (tested.get(sheet.sourceId) ?? new Set()).add(head.head.id));
      const offer = sharing(head, sheet, own, side).id;
      if (sheet.sourceId === own) ours.add(offer);
      else if (unsaid(sheet)) pipeUnsaid.add(sheet.sourceId);
      for (let i = 1; i * NET_STEP <= curve.last.lift + 1e-6; i++) {
        const lift = i * NET_STEP;
        if (lift < curve.first.lift - 1e-6 || lift < lifts.from - 1e-6 || lift > lifts.to + 1e-6) continue;
        const flow = curve.at(lift);
        if (flow === undefined || flow <= 0) continue;
        const key = `${offer}|${i}`;
        if (!points.has(key)) points.set(key, points.size);
        const point = points.get(key)!;
        const source = sources.indexOf(sheet.sourceId);
        rows.push({ point, source, value: Math.log(flow) });
        (seen[point] ??= { head: head.head.id, sources: new Set() }).sources.add(source);
        const at = offers.get(offer) ?? { head, sheet, points: new Set<number>() };
        at.points.add(point);
        offers.set(offer, at);
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
    shared: sources.map(
      (_, i) => new Set(seen.filter((p) => p.sources.size > 1 && p.sources.has(i)).map((p) => p.head)).size,
    ),
    candidates: [...offers]
      .filter(([key, { sheet }]) => !ours.has(key) && !unsaid(sheet))
      .map(([key, { head, sheet, points: own }]) => {
        const stage = head.stages.find((s) => s.id === sheet.stageId)?.name ?? '';
        return {
          key,
          name: [`${head.head.name} (${stage})`, ...howTested(sheet, head, side)].join(', '),
          points: [...own],
        };
      }),
    pipeUnsaid: [...pipeUnsaid],
  };
}

/** What a test of ours would have to be like, as far as it is known: `port 3`, `104.8 mm bore`, `piped`. */
const howTested = (sheet: Sheet, head: NetHead, side: Side): string[] =>
  [
    portName(head.ports, portIdOf(sheet, side)),
    sheet.setup.bore && `${sheet.setup.bore.typed} bore`,
    side === 'exhaust' && sheet.setup.exhaustPipe !== 'unknown' ? sheet.setup.exhaustPipe : undefined,
  ].filter((x): x is string => Boolean(x));
