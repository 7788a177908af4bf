/** Which cut comes next: what holds the port back, what each cut could buy at most, and what may stop it. */
import type { PortValve, Side } from '../evaluate/sheet.js';
import type { CamProfile } from '../cam/profile.js';
import { dwellMean } from '../cam/dwell.js';
import { flowCurve, type FlowCurve } from '../flow/curve.js';
import { noted, work, type Method, type Working } from '../method/method.js';
import { millimetres } from '../quantity/units.js';
import type { LeafBook } from '../uncertainty/working.js';
import type { Leaf } from '../uncertainty/leaf.js';
import type { OperationKind } from './operations.js';
import { leastArea, logistic, type Between } from './split.js';
import { refusal } from '../refusal/refusal.js';

// flowCurve()!: as many lifts as the curve it is made of.

const logit = (p: number): number => Math.log(p / (1 - p));

/** The curve were one of the two restrictions larger by `ratio`; the port's share of the loss is `share` at `at`. */
export function openedCurve(
  curve: FlowCurve,
  valve: PortValve,
  part: 'port' | 'valve',
  ratio: number,
  share: number,
  at: number,
): FlowCurve {
  if (!(ratio > 0)) throw refusal('openingClosed');
  if (!(share > 0 && share < 1)) throw refusal('lossShareOutOfReach');
  const there = leastArea(valve, at);
  return flowCurve(
    curve.points.map(({ lift, flow }) => {
      // Qv goes with the valve's area: so does the ratio of the two losses, squared.
      const port = logistic(logit(share) + 2 * Math.log(leastArea(valve, lift) / there));
      const opened = part === 'port' ? port : 1 - port;
      return { lift, flow: flow / Math.sqrt(1 - opened + opened / ratio ** 2) };
    }),
  )!;
}

const openedGain = (
  part: 'port' | 'valve',
): Method<{ curve: FlowCurve; cam: CamProfile; share: number; ratio: number; at: number; valve: number }> => ({
  id: `opened-${part}`,
  title: `Gain if the ${part} were opened`,
  formula:
    part === 'port'
      ? '\\Delta\\bar{Q} = \\overline{Q\\left(1 - \\varphi + \\frac{\\varphi}{r^2}\\right)^{-1/2}} - \\bar{Q},\\quad \\frac{\\varphi}{1-\\varphi} \\propto A_v(L)^2'
      : '\\Delta\\bar{Q} = \\overline{Q\\left(\\varphi + \\frac{1 - \\varphi}{r^2}\\right)^{-1/2}} - \\bar{Q},\\quad \\frac{\\varphi}{1-\\varphi} \\propto A_v(L)^2',
  inputs: {
    curve: { label: 'flow curve', symbol: 'Q(L)', kind: 'curve' },
    cam: { label: 'lift curve of the cam', symbol: 'y(\\theta)', kind: 'cam' },
    share: { label: 'share of the loss in the port', symbol: '\\varphi', kind: 'percent' },
    ratio: { label: 'larger by', symbol: 'r', kind: 'ratio' },
    at: { label: 'at a lift of', symbol: 'L', kind: 'lift' },
    valve: { label: 'valve diameter', symbol: 'D', kind: 'length' },
  },
  result: { label: 'gain of the mean flow over the cam', symbol: '\\Delta\\bar{Q}', kind: 'flow' },
  source:
    'Two restrictions in series, 1/Q² = 1/Q_v² + 1/Q_p², with Q_v as the least area of a usual seat of this valve.',
  caution: 'The most it could buy: a larger opening that is badly shaped buys less, or costs.',
  compute: ({ curve, cam, share, ratio, at, valve }) =>
    dwellMean.compute({ curve: openedCurve(curve, { diameter: valve, valves: 1 }, part, ratio, share, at), cam }) -
    dwellMean.compute({ curve, cam }),
});
export const openedPort = openedGain('port');
export const openedValve = openedGain('valve');

/** What is known of a side when the next cut is looked for. Areas m², lengths m, flows m³/s. */
export interface CutFacts {
  readonly side: Side;
  readonly curve: FlowCurve;
  readonly cam: CamProfile;
  readonly valve: PortValve;
  /** Share of the loss in the port, and the lift it was asked at. */
  readonly share: Between;
  readonly lift: number;
  readonly choke?: number | undefined;
  /** The least area once every wall is down to its limit; undefined where no wall was measured. */
  readonly largest?: number | undefined;
  /** Least area the target asks for. */
  readonly wanted?: number | undefined;
  /** Throat and bowl as shares of the valve's diameter. */
  readonly throat?: number | undefined;
  readonly bowl?: number | undefined;
  /** Flow the window over the short turn stands for. */
  readonly windowFlow?: number | undefined;
  readonly knee?: number | undefined;
  /** A low lift, its curtain coefficient, the best of the library there, and of how many. */
  readonly low?: { readonly lift: number; readonly coefficient: number; readonly best: number; readonly count: number };
  /** Exhaust over intake at their best. */
  readonly exhaustShare?: number | undefined;
  readonly natural: boolean;
  /** Share of a velocity map's area in which air moves at less than half the mean. */
  readonly dead?: number | undefined;
  readonly uneven: readonly { readonly part: string; readonly text: string }[];
  /** Sections against the poured volume, a share. */
  readonly closure?: number | undefined;
  /** Steepest change of area along the port, a share of it for each cm, and where. */
  readonly taper?: { readonly rate: number; readonly station: number };
  /** Metal above its limit at the choke, m. */
  readonly spare?: number | undefined;
}

export type CutReason =
  | { readonly code: 'choke'; readonly area: number; readonly wanted?: number; readonly opened: number }
  | { readonly code: 'throat'; readonly ratio: number }
  | { readonly code: 'bowl'; readonly ratio: number }
  | { readonly code: 'window'; readonly windowFlow: number; readonly peak: number }
  | {
      readonly code: 'low lift';
      readonly lift: number;
      readonly coefficient: number;
      readonly best: number;
      readonly count: number;
    }
  | { readonly code: 'valve decides'; readonly share: Between }
  | { readonly code: 'early knee'; readonly knee: number; readonly quarter: number }
  | { readonly code: 'exhaust share'; readonly share: number }
  | { readonly code: 'dead spots'; readonly share: number }
  | { readonly code: 'uneven'; readonly part: string; readonly text: string };

export type CutStop =
  | { readonly code: 'wall'; readonly spare: number }
  | { readonly code: 'no wall measured' }
  | { readonly code: 'seat ring' }
  | { readonly code: 'guide' }
  | { readonly code: 'valve spacing' }
  | { readonly code: 'chamber wall' };

export interface CutCandidate {
  readonly operation: OperationKind;
  readonly side: Side;
  readonly reasons: readonly CutReason[];
  /** The most it could buy; undefined where no method says. */
  readonly most?: Working;
  readonly stops: readonly CutStop[];
  /** Nothing is proposed past a wall's limit: it is shown, and not advised. */
  readonly barred: boolean;
}

/** Usual bands, common practice, no source: throat and bowl of the valve, a window's cfm, what an exhaust passes. */
export const THROAT_BAND = [0.88, 0.91] as const;
const BOWL_LEAST = 0.95;
const WINDOW_SHORT = 0.05;
const EXHAUST_LEAST = 0.7;
const DEAD_MOST = 0.08;
export const TAPER_MOST = 0.12;
const LOW_SHORT = 0.03;
/** A choke is opened by this much where nothing else says how far; a valve by the next size. */
const USUAL_OPENING = 1.08;
const NEXT_VALVE = millimetres(1);
/** What a bowl, a guide boss or a window can give a port at most, as area. Common practice, no source. */
const SHAPE_AT_MOST = 1.06;

/** The leaf of the share: anywhere in what the fits leave open. */
export const shareLeafOf = (side: Side, share: Between): Leaf => ({
  id: `loss:${side}`,
  label: 'share of the loss in the port',
  value: share.value,
  spread: { shape: 'normal', u: Math.max(1e-3, (share.high - share.low) / 4) },
  source: 'the fits of valve and port to all stages, each form of them',
  settle: { act: 'take a valve-out pull', after: (share.high - share.low) / 12, minutes: 15 },
});

export const cutBook = (facts: readonly Pick<CutFacts, 'side' | 'share'>[]): LeafBook => ({
  leaves: new Map(facts.map((f) => [`loss:${f.side}`, shareLeafOf(f.side, f.share)])),
  made: new Map(),
});

/** Candidates of one side, those that may buy most first; barred ones last. */
export function nextCuts(facts: CutFacts): CutCandidate[] {
  const { side, curve, cam, valve, share, lift } = facts;
  const most = (part: 'port' | 'valve', ratio: number): Working | undefined => {
    if (!(ratio > 1)) return undefined;
    return work(part === 'port' ? openedPort : openedValve, {
      curve,
      cam,
      share: noted(share.value, 'from the stages fitted together', `loss:${side}`),
      ratio,
      at: lift,
      valve: valve.diameter * Math.sqrt(valve.valves),
    });
  };
  const found: CutCandidate[] = [];
  const put = (
    operation: OperationKind,
    reasons: readonly CutReason[],
    working: Working | undefined,
    stops: readonly CutStop[] = [],
    barred = false,
  ) => found.push({ operation, side, reasons, ...(working ? { most: working } : {}), stops, barred });

  const peak = Math.max(...curve.points.map((p) => p.flow));
  const quarter = valve.diameter / 4;
  const early = facts.knee !== undefined && facts.knee < quarter ? facts.knee : undefined;
  if (facts.choke !== undefined) {
    const { choke, largest, wanted, spare } = facts;
    const aimed = Math.max(wanted ?? 0, choke * (wanted === undefined || early !== undefined ? USUAL_OPENING : 1));
    const opened = Math.min(aimed, largest ?? aimed);
    if (aimed > choke * 1.005) {
      const barred = largest !== undefined && largest <= choke * 1.005;
      put(
        'pinch opened',
        [
          { code: 'choke', area: choke, ...(wanted === undefined ? {} : { wanted }), opened: Math.max(opened, choke) },
          ...(early === undefined ? [] : [{ code: 'early knee', knee: early, quarter } as const]),
        ],
        barred ? undefined : most('port', opened / choke),
        [...(spare === undefined ? [{ code: 'no wall measured' } as const] : [{ code: 'wall', spare } as const])],
        barred,
      );
    }
  } else if (early !== undefined)
    put('pinch opened', [{ code: 'early knee', knee: early, quarter }], most('port', USUAL_OPENING), [
      { code: 'no wall measured' },
    ]);

  if (facts.throat !== undefined && facts.throat < THROAT_BAND[0]) {
    const wanted = (THROAT_BAND[0] + THROAT_BAND[1]) / 2;
    put('throat opened', [{ code: 'throat', ratio: facts.throat }], most('valve', (wanted / facts.throat) ** 2), [
      { code: 'seat ring' },
    ]);
  }
  const { low } = facts;
  if (low && low.coefficient < low.best * (1 - LOW_SHORT))
    put('valve job', [{ code: 'low lift', ...low }], most('valve', low.best / low.coefficient), [
      { code: 'seat ring' },
    ]);
  if (share.high < 0.5)
    put(
      'valve larger',
      [{ code: 'valve decides', share }],
      most('valve', (valve.diameter + NEXT_VALVE) / valve.diameter),
      [{ code: 'seat ring' }, { code: 'valve spacing' }],
    );
  const bowl = facts.bowl !== undefined && facts.bowl < BOWL_LEAST ? facts.bowl : undefined;
  const inPart = (...parts: string[]) => facts.uneven.filter((u) => parts.includes(u.part));
  const uneven = (list: readonly { part: string; text: string }[]) =>
    list.map((u) => ({ code: 'uneven', ...u }) as const);
  const bowlFound = inPart('bowl', 'throat');
  if (bowl !== undefined || bowlFound.length > 0)
    put(
      'bowl blend',
      [...(bowl === undefined ? [] : [{ code: 'bowl', ratio: bowl } as const]), ...uneven(bowlFound)],
      most('port', SHAPE_AT_MOST),
      [{ code: 'guide' }],
    );
  const short =
    facts.windowFlow !== undefined && facts.windowFlow > peak * (1 + WINDOW_SHORT) ? facts.windowFlow : undefined;
  const turnFound = inPart('short turn');
  if (short !== undefined || turnFound.length > 0)
    put(
      'short turn laid back',
      [...(short === undefined ? [] : [{ code: 'window', windowFlow: short, peak } as const]), ...uneven(turnFound)],
      most('port', short === undefined ? SHAPE_AT_MOST : Math.min(short / peak, 1.25)),
      [{ code: 'no wall measured' }],
    );
  if (facts.windowFlow !== undefined && facts.windowFlow < peak * (1 + WINDOW_SHORT) && early !== undefined)
    put('window', [{ code: 'window', windowFlow: facts.windowFlow, peak }], most('port', SHAPE_AT_MOST), [
      { code: 'no wall measured' },
    ]);
  if (facts.dead !== undefined && facts.dead > DEAD_MOST)
    put('roof raised', [{ code: 'dead spots', share: facts.dead }], most('port', 1 + facts.dead / 2), [
      { code: 'no wall measured' },
    ]);
  const guideFound = inPart('guide');
  if (guideFound.length > 0) put('guide boss', uneven(guideFound), most('port', SHAPE_AT_MOST), [{ code: 'guide' }]);
  const flangeFound = inPart('port', 'flange', 'manifold', 'divider');
  if (flangeFound.length > 0) put('port matched', uneven(flangeFound), undefined);
  const chamberFound = inPart('chamber');
  if (chamberFound.length > 0) put('chamber unshrouded', uneven(chamberFound), undefined, [{ code: 'chamber wall' }]);
  if (side === 'exhaust' && facts.natural && facts.exhaustShare !== undefined && facts.exhaustShare < EXHAUST_LEAST)
    put(
      'short turn lowered',
      [{ code: 'exhaust share', share: facts.exhaustShare }],
      most('port', EXHAUST_LEAST / facts.exhaustShare),
      [{ code: 'no wall measured' }],
    );
  return found.sort((a, b) => Number(a.barred) - Number(b.barred) || (b.most?.value ?? 0) - (a.most?.value ?? 0));
}
