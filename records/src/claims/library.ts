/**
 * What judging claims needs of a whole library, head by head: bands, pulls, nets and catalogues in a form that grows and
 * shrinks with each head. Kept in memory only; all of it can be made again from the heads.
 */
import {
  SIDES,
  USUAL_FREEDOM,
  benchSpread,
  bestsOf,
  createBand,
  repeatabilityFrom,
  tallyPulls,
  type Assumptions,
  type Band,
  type BandView,
  type BandPoint,
  type FlowPoint,
  type HeadBests,
  type PullTally,
  type Say,
  type Side,
} from '@alluvium/core';
import type { Head } from '../nouns/head.js';
import { evaluated } from './evaluated.js';
import { BAND_PIPES, type BandPipe, type ClaimContext, type NetHead } from './judge.js';
import { spreadsOf, type JudgingContext } from '../evaluateHead.js';
import { priorsFrom, sumOfTallies, type ShopSpreads } from '../setups.js';
import { pipeEffect, pipePairs, type PipeEffect } from './pipe.js';
import { joinNets, netOfHead, type HeadNet, type Net, type NetOptions } from './net.js';
import { speaks } from '../select.js';

/** A table of a source, by its peak on one side. */
export interface SourceTable {
  readonly sheetId: string;
  readonly stageId: string;
  readonly headId: string;
  /** `417 early, as received`. */
  readonly name: string;
  readonly peak: FlowPoint;
}

/** One head as the library remembers it. */
export interface ClaimSummary {
  readonly headId: string;
  readonly class: Head['class'];
  readonly points: Readonly<Record<Side, readonly BandPoint[]>>;
  readonly bests: Readonly<Record<Side, Readonly<Partial<Record<BandPipe, HeadBests>>>>>;
  readonly pulls: PullTally;
  /** What a pipe added on each port of it that was tested both ways, natural logarithms. */
  readonly pipes: readonly number[];
  /** What its tests say of set-ups and benches. */
  readonly spreads: ReturnType<typeof spreadsOf>;
  readonly net: Readonly<Record<Side, HeadNet | undefined>>;
  readonly tables: readonly (SourceTable & { readonly sourceId: string; readonly side: Side })[];
}

/** Measured coefficients on the curtain area of one head. */
function pointsOf(head: NetHead, side: Side): BandPoint[] {
  return head.sheets
    .filter((s) => s.kind === 'measured')
    .flatMap((sheet) =>
      evaluated(head, sheet)[side].points.flatMap((p): BandPoint[] =>
        p.coefficients.curtain && p.liftRatio !== undefined
          ? [
              {
                liftRatio: p.liftRatio,
                coefficient: p.coefficients.curtain.value,
                head: head.head.id,
                ...(side === 'exhaust' ? { pipe: sheet.setup.exhaustPipe } : {}),
              },
            ]
          : [],
      ),
    );
}

/** What our own bench pulled more than once on one head. */
const pullsOf = (head: NetHead, own: string | undefined): PullTally =>
  tallyPulls(
    head.sheets
      .filter((s) => s.kind === 'measured' && s.sourceId === own && speaks(s))
      .flatMap((s) =>
        s.rows.flatMap((r) =>
          SIDES.flatMap((side) => {
            const pulls = r[side]?.pulls ?? [];
            // A differential range reads the square of the flow.
            const flow = (si: number) => (s.setup.reads === 'differential' ? Math.sqrt(si) : si);
            return pulls.length > 1 ? [pulls.map((p) => flow((p as { si: number }).si))] : [];
          }),
        ),
      ),
  );

/** One head, summed up; `own` is our own bench. */
export function summaryOf(head: NetHead, own: string | undefined): ClaimSummary {
  const points = { intake: pointsOf(head, 'intake'), exhaust: pointsOf(head, 'exhaust') };
  const stage = (id: string) => head.stages.find((s) => s.id === id)?.name ?? '';
  return {
    headId: head.head.id,
    class: head.head.class,
    points,
    bests: {
      intake: { any: bestsOf(points.intake) },
      exhaust: {
        any: bestsOf(points.exhaust),
        bare: bestsOf(points.exhaust.filter((p) => p.pipe === 'bare')),
        piped: bestsOf(points.exhaust.filter((p) => p.pipe === 'piped')),
      },
    },
    pulls: pullsOf(head, own),
    pipes: pipePairs(head, own),
    spreads: spreadsOf(head),
    net: {
      intake: own === undefined ? undefined : netOfHead(head, own, 'intake'),
      exhaust: own === undefined ? undefined : netOfHead(head, own, 'exhaust'),
    },
    tables: head.sheets.flatMap((sheet) =>
      SIDES.flatMap((side) => {
        const { peak } = evaluated(head, sheet)[side];
        return peak && sheet.sourceId !== null
          ? [
              {
                sheetId: sheet.id,
                stageId: sheet.stageId,
                headId: head.head.id,
                sourceId: sheet.sourceId,
                side,
                name: `${head.head.name}, ${stage(sheet.stageId)}`,
                peak: { lift: peak.lift, flow: peak.flow },
              },
            ]
          : [];
      }),
    ),
  };
}

export interface ClaimLibrary {
  /** Takes a head in, in place of what was known of it. */
  readonly put: (summary: ClaimSummary) => void;
  readonly drop: (headId: string) => void;
  readonly size: () => number;
  readonly band: ClaimContext['band'];
  /** What heads of a class have at a lift ratio; all heads, where too few of it were measured. */
  readonly family: (side: Side, pipe: BandPipe, of: Head['class']) => (liftRatio: number) => BandView;
  /** Points of the band to draw behind a claim, evenly thinned to at most so many. */
  readonly cloud: (side: Side, pipe: BandPipe, most: number) => BandPoint[];
  readonly pulls: () => PullTally;
  /** What a pipe is worth; undefined while too few ports were tested both ways. */
  readonly pipe: () => PipeEffect | undefined;
  /** What all tests say of set-ups and of benches, over these figures of the shop. */
  readonly spreads: (usual: Assumptions) => ShopSpreads;
  readonly net: (own: string, side: Side, options?: NetOptions) => Net;
  /** Every table one source gives of a side, over all heads. */
  readonly tables: (sourceId: string, side: Side) => SourceTable[];
}

export function createClaimLibrary(): ClaimLibrary {
  const heads = new Map<string, ClaimSummary>();
  const bands = new Map<string, Band>();
  const bandOf = (key: string): Band => {
    const known = bands.get(key) ?? createBand();
    bands.set(key, known);
    return known;
  };
  let squares = 0;
  let freedom = 0;
  const change = (summary: ClaimSummary, what: 'add' | 'remove') => {
    for (const side of SIDES)
      for (const pipe of BAND_PIPES) {
        const bests = summary.bests[side][pipe];
        if (!bests) continue;
        bandOf(`${side} ${pipe}`)[what](bests);
        if (summary.class !== 'unknown') bandOf(`${side} ${pipe} ${summary.class}`)[what](bests);
      }
    const sign = what === 'add' ? 1 : -1;
    squares += sign * summary.pulls.squares;
    freedom += sign * summary.pulls.freedom;
  };
  const drop = (headId: string) => {
    const known = heads.get(headId);
    if (!known) return;
    change(known, 'remove');
    heads.delete(headId);
  };
  return {
    put: (summary) => {
      drop(summary.headId);
      heads.set(summary.headId, summary);
      change(summary, 'add');
    },
    drop,
    size: () => heads.size,
    band: (side, pipe) => bandOf(`${side} ${pipe}`).at,
    family: (side, pipe, of) => (liftRatio) => {
      const own = of === 'unknown' ? undefined : bandOf(`${side} ${pipe} ${of}`).at(liftRatio, 0);
      return own && !own.usual ? own : bandOf(`${side} ${pipe}`).at(liftRatio, 0);
    },
    cloud: (side, pipe, most) => {
      const all = [...heads.values()].flatMap((h) =>
        pipe === 'any' ? h.points[side] : h.points[side].filter((p) => p.pipe === pipe),
      );
      const every = Math.max(1, Math.ceil(all.length / most));
      return all.filter((_, i) => i % every === 0);
    },
    pulls: () => ({ squares: Math.max(0, squares), freedom }),
    pipe: () => pipeEffect([...heads.values()].flatMap((h) => h.pipes)),
    spreads: (usual) => {
      const all = [...heads.values()].map((h) => h.spreads);
      const repeats = sumOfTallies(all.map((s) => s.repeats));
      return {
        repeats,
        bench: benchSpread(
          all.flatMap((s) => s.contrasts),
          { usual: usual.otherBench, freedom: USUAL_FREEDOM.bench, setup: usual.setup },
        ),
        priors: priorsFrom(all.map((s) => s.shares)),
      };
    },
    net: (own, side, options) =>
      joinNets(
        [...heads.values()].flatMap((h) => h.net[side] ?? []),
        own,
        options,
      ),
    tables: (sourceId, side) =>
      [...heads.values()].flatMap((h) => h.tables.filter((t) => t.sourceId === sourceId && t.side === side)),
  };
}

/** A library of these heads. */
export function libraryOf(heads: readonly NetHead[], own: string | undefined): ClaimLibrary {
  const library = createClaimLibrary();
  for (const head of heads) library.put(summaryOf(head, own));
  return library;
}

/** What every claim is held against, by a library. */
export const contextOf = (
  library: Pick<ClaimLibrary, 'band' | 'pulls' | 'pipe'>,
  own: string | undefined,
  say: Say,
  judging?: JudgingContext,
): ClaimContext => ({
  band: library.band,
  own,
  repeatability: repeatabilityFrom(library.pulls()),
  say,
  judging,
  pipe: library.pipe(),
});
