/** The net of sources over all sheets of all heads, and which head would tie or sharpen it. */
import { comparable, inches, type Candidate, type OffsetData, type Side } from '@alluvium/core';
import { evaluated } from './evaluated.js';
import type { Sheet } from '../nouns/sheet.js';
import { portName } from '../select.js';
import { conditionsOf, portIdOf } from './conditions.js';
import type { NetHead } from './judge.js';

// shared[]!: one for each source.
// ofOffer.get()!: made with the offers.

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

/** What one head brings to the net on one side. */
export interface HeadNet {
  readonly headId: string;
  readonly rows: readonly {
    /** The sheet whose points it shares. */
    readonly offer: string;
    /** Lift, in steps of the net. */
    readonly step: number;
    readonly source: string;
    readonly logFlow: number;
  }[];
  readonly offers: readonly {
    readonly key: string;
    readonly name: string;
    /** Our own bench tested it. */
    readonly ours: boolean;
    /** Nobody said whether its exhaust was bare or piped. */
    readonly unsaid: boolean;
  }[];
}

const unsaid = (sheet: Sheet, side: Side) => side === 'exhaust' && sheet.setup.exhaustPipe === 'unknown';

/** Only like is laid beside like: the same stage and lift, and nothing known that keeps the tests apart. */
export function netOfHead(head: NetHead, own: string, side: Side): HeadNet {
  const rows: HeadNet['rows'][number][] = [];
  const offers = new Map<string, { sheet: Sheet; ours: boolean }>();
  for (const sheet of head.sheets) {
    if (sheet.sourceId === null || sheet.setup.reads === 'difference') continue;
    const curve = evaluated(head, sheet)[side].curve;
    if (!curve) continue;
    const offer = sharing(head, sheet, own, side).id;
    const at = offers.get(offer) ?? { sheet, ours: false };
    offers.set(offer, { ...at, ours: at.ours || sheet.sourceId === own });
    for (let step = 1; step * NET_STEP <= curve.last.lift + 1e-6; step++) {
      const lift = step * NET_STEP;
      if (lift < curve.first.lift - 1e-6) continue;
      const flow = curve.at(lift);
      if (flow === undefined || flow <= 0) continue;
      rows.push({ offer, step, source: sheet.sourceId, logFlow: Math.log(flow) });
    }
  }
  return {
    headId: head.head.id,
    rows,
    offers: [...offers].map(([key, { sheet, ours }]) => {
      const stage = head.stages.find((s) => s.id === sheet.stageId)?.name ?? '';
      return {
        key,
        name: [`${head.head.name} (${stage})`, ...howTested(sheet, head, side)].join(', '),
        ours,
        unsaid: unsaid(sheet, side),
      };
    }),
  };
}

export interface NetOptions {
  readonly lifts?: LiftBand;
  /** One head left out. */
  readonly without?: string | undefined;
}

/** What all heads bring, as one net of sources; `own` is our bench, at zero. */
export function joinNets(
  heads: Iterable<HeadNet>,
  own: string,
  { lifts = { from: 0, to: Infinity }, without }: NetOptions = {},
): Net {
  const sources = [own];
  const numbers = new Map([[own, 0]]);
  const numberOf = (source: string): number => {
    const known = numbers.get(source);
    if (known !== undefined) return known;
    numbers.set(source, sources.length);
    return sources.push(source) - 1;
  };
  const tested: Set<string>[] = [new Set()];
  const shared: Set<string>[] = [new Set()];
  const [point, source, logFlow, group]: [number[], number[], number[], number[]] = [[], [], [], []];
  let groups = 0;
  const candidates: NetCandidate[] = [];
  const pipeUnsaid = new Set<string>();
  let points = 0;
  for (const head of heads) {
    if (head.headId === without) continue;
    const silent = new Set(head.offers.filter((o) => o.unsaid).map((o) => o.key));
    /** The points of this head, by offer and lift: their number, and who saw them. */
    const seen = new Map<string, { number: number; sources: Set<number> }>();
    const ofOffer = new Map<string, Set<number>>();
    const groupOf = new Map<string, number>();
    for (const row of head.rows) {
      const lift = row.step * NET_STEP;
      const n = numberOf(row.source);
      (tested[n] ??= new Set()).add(head.headId);
      shared[n] ??= new Set();
      if (silent.has(row.offer) && row.source !== own) pipeUnsaid.add(row.source);
      if (lift < lifts.from - 1e-6 || lift > lifts.to + 1e-6) continue;
      const key = `${row.offer}|${row.step}`;
      const at = seen.get(key) ?? { number: points++, sources: new Set<number>() };
      seen.set(key, at);
      at.sources.add(n);
      point.push(at.number);
      source.push(n);
      logFlow.push(row.logFlow);
      const of = groupOf.get(row.offer) ?? groups++;
      groupOf.set(row.offer, of);
      group.push(of);
      ofOffer.set(row.offer, (ofOffer.get(row.offer) ?? new Set<number>()).add(at.number));
    }
    for (const { sources: by } of seen.values()) if (by.size > 1) for (const n of by) shared[n]!.add(head.headId);
    for (const offer of head.offers)
      if (!offer.ours && !offer.unsaid && ofOffer.has(offer.key))
        candidates.push({ key: offer.key, name: offer.name, points: [...ofOffer.get(offer.key)!] });
  }
  return {
    data: { point, source, logFlow, group, sources: sources.length, own: 0 },
    sources,
    heads: tested.map((t) => t.size),
    shared: shared.map((t) => t.size),
    candidates,
    pipeUnsaid: [...pipeUnsaid],
  };
}

/** All sheets of all heads as one net of sources, for one side. */
export const netOf = (heads: readonly NetHead[], own: string, side: Side, options: NetOptions = {}): Net =>
  joinNets(
    heads.map((h) => netOfHead(h, own, side)),
    own,
    options,
  );

/** What a test of ours would have to be like, as far as it is known: `port 3`, `104.8 mm bore`, `piped`. */
const howTested = (sheet: Sheet, head: NetHead, side: Side): string[] =>
  [
    portName(head.ports, portIdOf(sheet, side)),
    sheet.setup.bore && `${sheet.setup.bore.typed} bore`,
    side === 'exhaust' && sheet.setup.exhaustPipe !== 'unknown' ? sheet.setup.exhaustPipe : undefined,
  ].filter((x): x is string => Boolean(x));
