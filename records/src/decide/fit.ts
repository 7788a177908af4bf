/** Whether a head fits an engine: what was said of each item, and what the sizes and findings answer by themselves. */
import {
  chamberOverhang,
  concentricGap,
  inches,
  largestForSpacing,
  millimetres,
  numberOf,
  type CostKind,
  type Say,
  type Side,
} from '@alluvium/core';
import type { WholeHead } from '../api.js';
import { placeOf, standingFindings } from '../arrival/arrival.js';
import type { Finding } from '../nouns/arrival.js';
import type { Build } from '../nouns/build.js';
import { FIT_ITEMS, type FIT_STATES, type Way } from '../nouns/decide.js';
import { measuresAt } from '../select.js';
import { sizeOf } from '../sizes.js';

export type FitItem = (typeof FIT_ITEMS)[number];
export type FitState = (typeof FIT_STATES)[number];

/** What sizes or findings say of one item. */
export interface FitAnswer {
  readonly item: FitItem;
  readonly state: Exclude<FitState, 'unknown'>;
  readonly text: string;
  /** What has to be bought where it needs something. */
  readonly buys?: CostKind;
}

/** Rooms kept by common practice, no source: to coil bind, retainer to seal, between valves, to the bore, at a pushrod. */
const BIND = inches(0.06);
const SEAL = inches(0.05);
const BETWEEN = millimetres(1);
const WALL = millimetres(0.8);
const PUSHROD = millimetres(0.5);
const STEP = millimetres(0.5);

/** Where a finding of arrival speaks about the fit. */
const PARTS: Partial<Record<Finding['part'], FitItem>> = {
  'bolts and dowels': 'bolt holes and head bolts',
  manifold: 'ports against the manifold',
  exhaust: 'exhaust flange',
  flange: 'exhaust flange',
  pushrod: 'pushrod and guide plate',
  'water passage': 'water',
  accessories: 'accessories and pump',
};
const SEVERITY = { reject: 'stops it', 'fix before use': 'needs an adapter' } as const;

const RANK: Readonly<Record<FitAnswer['state'], number>> = { fits: 0, 'needs an adapter': 1, 'stops it': 2 };

/** What the sizes and the findings of a head at a stage answer for a build; the worst of each item. */
export function fitAnswers(whole: WholeHead, stageId: string, build: Build, say: Say): FitAnswer[] {
  const measures = measuresAt(whole, stageId);
  const of = (item: Parameters<typeof sizeOf>[1], side: Side | null = null): number | undefined => {
    const size = sizeOf(measures, item, side);
    return size && numberOf(size);
  };
  const length = (v: number) => say.of(v, 'length');
  const found: FitAnswer[] = [];
  const put = (item: FitItem, state: FitAnswer['state'], text: string, buys?: CostKind) =>
    found.push({ item, state, text, ...(buys ? { buys } : {}) });
  const sides = ['intake', 'exhaust'] as const;
  const valve = { intake: of('valve diameter', 'intake'), exhaust: of('valve diameter', 'exhaust') };

  const spacing = of('valve spacing');
  if (spacing !== undefined && valve.intake !== undefined && valve.exhaust !== undefined) {
    const most = largestForSpacing.compute({ spacing, other: valve.exhaust, gap: BETWEEN });
    const gap = spacing - (valve.intake + valve.exhaust) / 2;
    put(
      'valve spacing',
      valve.intake <= most ? 'fits' : 'stops it',
      `${length(gap)} between the valves at a spacing of ${length(spacing)}; ${length(BETWEEN)} is usual`,
    );
  }
  const bore = build.bore?.si;
  if (bore !== undefined && sides.every((side) => of('valve offset, along', side) === undefined))
    evenlyPlaced(whole.head, valve, spacing, bore, length, put);
  if (bore !== undefined)
    for (const side of sides) {
      const offset = of('valve offset, along', side);
      const across = of('valve offset, across', side) ?? 0;
      if (offset === undefined || valve[side] === undefined) continue;
      const gap = concentricGap.compute({ bore, valve: valve[side], offset: Math.hypot(offset, across) });
      const near = `${length(Math.abs(gap))}`;
      if (gap < 0) put('what the block allows', 'stops it', `the ${side} valve hits this bore by ${near}`);
      else if (gap < WALL)
        put(
          'what the block allows',
          'needs an adapter',
          `only ${near} from the ${side} valve to this bore, ${length(WALL)} is usual: check it with clay, relieve the bore`,
          'machining',
        );
      else put('what the block allows', 'fits', `${near} from the ${side} valve to this bore`);
    }
  const width = of('chamber width');
  if (bore !== undefined && width !== undefined) {
    const over = chamberOverhang.compute({ chamber: width, bore });
    put(
      'gasket bore',
      over <= 0 ? 'fits' : 'needs an adapter',
      over <= 0
        ? `the chamber stays ${length(-over)} inside the bore`
        : `the chamber stands ${length(over)} over the bore: a gasket that covers it, or a relieved edge`,
      'gaskets',
    );
  }
  for (const side of sides) {
    const lift = side === 'intake' ? build.cam?.intakeLift.si : (build.cam?.exhaustLift ?? build.cam?.intakeLift)?.si;
    if (lift === undefined) continue;
    const installed = of('spring installed height', side);
    const bind = of('spring coil-bind height', side);
    if (installed !== undefined && bind !== undefined) {
      const room = installed - bind - lift;
      put(
        'cam',
        room >= BIND ? 'fits' : 'needs an adapter',
        room >= 0
          ? `${side} springs: ${length(room)} to coil bind at ${say.of(lift, 'lift')}; ${length(BIND)} is usual`
          : `${side} springs bind ${length(-room)} before ${say.of(lift, 'lift')}`,
        'springs and retainers',
      );
    }
    const seal = of('retainer to seal', side);
    if (seal !== undefined)
      put(
        'cam',
        seal - lift >= SEAL ? 'fits' : 'needs an adapter',
        `${side} retainer: ${length(seal - lift)} to the seal at full lift; ${length(SEAL)} is usual`,
        'guides',
      );
    const limit = of('lift limit');
    if (limit !== undefined && side === 'intake')
      put(
        'cam',
        lift <= limit ? 'fits' : 'needs an adapter',
        `its lift limit is ${say.of(limit, 'lift')}, the cam lifts ${say.of(lift, 'lift')}`,
        'springs and retainers',
      );
    const rod = of('pushrod clearance', side);
    if (rod !== undefined)
      put(
        'pushrod and guide plate',
        rod >= PUSHROD ? 'fits' : 'needs an adapter',
        `${length(rod)} round the ${side} pushrod`,
        'pushrods',
      );
  }
  const steps = (['roof', 'floor', 'front', 'rear'] as const).flatMap((at) => of(`gasket step, ${at}`, 'intake') ?? []);
  if (steps.length > 0) {
    const worst = Math.max(...steps.map(Math.abs));
    put(
      'ports against the manifold',
      worst <= STEP ? 'fits' : 'needs an adapter',
      `largest step to the gasket ${length(worst)}${worst <= STEP ? '' : ': match them'}`,
      'machining',
    );
  }
  for (const finding of standingFindings(whole, stageId, build.id)) {
    const item = PARTS[finding.part];
    if (item && finding.severity !== 'note')
      put(item, SEVERITY[finding.severity], [placeOf(finding), finding.text].filter(Boolean).join(': '), 'mending');
  }
  // The worst answer of an item speaks for it.
  return FIT_ITEMS.flatMap((item) => {
    const own = found.filter((f) => f.item === item);
    return own.length === 0 ? [] : [own.reduce((a, b) => (RANK[b.state] > RANK[a.state] ? b : a))];
  });
}

/**
 * Two valves in line of which nobody measured where they stand in the bore: evenly about its centre, at the spacing measured
 * or the least that leaves room between them. Said only where they come too near the wall.
 */
function evenlyPlaced(
  head: WholeHead['head'],
  valve: Readonly<Record<Side, number | undefined>>,
  spacing: number | undefined,
  bore: number,
  length: (v: number) => string,
  put: (item: FitItem, state: FitAnswer['state'], text: string, buys?: CostKind) => void,
): void {
  const { intake, exhaust } = valve;
  if (intake === undefined || exhaust === undefined || head.intakeValves !== 1 || head.exhaustValves !== 1) return;
  const apart = spacing ?? (intake + exhaust) / 2 + BETWEEN;
  const gap = concentricGap.compute({ bore, valve: Math.max(intake, exhaust), offset: apart / 2 });
  if (gap >= WALL) return;
  const which = `valves of ${length(intake)} and ${length(exhaust)} in a bore of ${length(bore)}`;
  put(
    'what the block allows',
    'needs an adapter',
    gap < 0
      ? `${which}: standing evenly about its centre the larger would hit it by ${length(-gap)}; measure where they stand`
      : `${which}: standing evenly about its centre the larger would pass ${length(gap)} from it; check it with clay`,
    'machining',
  );
}

/** One item as it counts: what somebody said of it, else what was measured. */
export interface FitRead {
  readonly item: FitItem;
  readonly state: FitState;
  readonly note: string;
  readonly measured?: FitAnswer;
  /** What has to be done or bought where it needs something: an adapter, where nothing else is known. */
  readonly needs: CostKind;
  /** Somebody said it fits, and the sizes say it does not. */
  readonly contradicted: boolean;
}

export function fitOf(way: Pick<Way, 'fit'>, answers: readonly FitAnswer[]): FitRead[] {
  return FIT_ITEMS.map((item): FitRead => {
    const said = way.fit.find((f) => f.item === item);
    const measured = answers.find((a) => a.item === item);
    const stated = said && said.state !== 'unknown' ? said.state : undefined;
    return {
      item,
      state: stated ?? measured?.state ?? 'unknown',
      note: said?.note || (stated ? '' : (measured?.text ?? '')),
      ...(measured ? { measured } : {}),
      needs: measured?.state === 'needs an adapter' ? (measured.buys ?? 'adapter') : 'adapter',
      contradicted: stated === 'fits' && measured !== undefined && measured.state !== 'fits',
    };
  });
}

/** `needs machining: ports against the manifold: a step of 0.030 in`. */
export const needText = (fit: FitRead): string =>
  `needs ${fit.needs === 'adapter' ? 'an adapter' : fit.needs}: ${fitText(fit)}`;

/** `exhaust flange: raised port`. */
export const fitText = ({ item, note }: Pick<FitRead, 'item' | 'note'>): string => (note ? `${item}: ${note}` : item);
