/** What is known of a side at a stage when the next cut is looked for. */
import {
  evaluateSurvey,
  exhaustToIntake,
  liftWindow,
  metalBudget,
  numberOf,
  plainStations,
  usualBest,
  windowRule,
  type CutFacts,
  type Side,
  type Split,
} from '@alluvium/core';
import type { WholeHead } from '../api.js';
import { mapAt } from '../bench/map.js';
import { portIdOf } from '../claims/conditions.js';
import { floorsOf, toCoreSections } from '../sections.js';
import { measuresAt, surveyAt } from '../select.js';
import { measured, toPortValve } from '../toCore.js';
import { chokeAt } from './loss.js';
import { readOf, sheetOfSide, type ChangeContext } from './stageGain.js';

// survey!: a budget comes of a survey.
// a.liftRatio!, b.liftRatio!, near.liftRatio!, near.coefficients.curtain!: points with a coefficient.
// split.shares.at()!, size()!: looked for in front of it.

/** The low lift at which a coefficient is held against the best seen: this share of the valve's diameter. */
const LOW = 0.12;
const PER_CM = 0.01;

export interface CutContext extends ChangeContext {
  /** Least area the target asks for, m². */
  readonly wanted?: number | undefined;
  readonly natural?: boolean;
}

/** Facts of one side; undefined where it has no curve or no valve. At low lift the best usually seen, until a library says more. */
export function cutFacts(
  whole: WholeHead,
  stageId: string,
  side: Side,
  split: Split,
  context: CutContext = {},
): CutFacts | undefined {
  const sheet = sheetOfSide(whole, stageId, side, context);
  if (!sheet) return undefined;
  const { result } = readOf(whole, sheet, side);
  const portId = portIdOf(sheet, side);
  const measures = measuresAt(whole, stageId);
  const valve = toPortValve(whole.head, measures, side, portId);
  const window = result.curve && liftWindow([result.curve], context.cams?.[side]);
  if (!valve || !result.curve || !window) return undefined;
  const size = (item: 'throat' | 'bowl' | 'window' | 'port volume') => measured(measures, item, side, portId);

  const stored = surveyAt(whole, stageId, side, portId);
  const survey = stored && evaluateSurvey(toCoreSections(stored));
  const floors = floorsOf(side, stored?.floors);
  const budget = survey && plainStations(survey).length > 0 ? metalBudget(survey, floors) : undefined;
  const atChoke = budget?.stations.find((s) => s.station === survey!.choke?.station);
  const walls = atChoke?.sections.flatMap((s) => s.walls) ?? [];
  const poured = size('port volume');
  const steepest = survey?.taper
    .map((t) => ({ rate: Math.abs(t.rate * PER_CM), station: (t.from + t.to) / 2 }))
    .sort((a, b) => b.rate - a.rate)[0];
  const meanArea = survey ? survey.stations.reduce((s, x) => s + x.area.value, 0) / survey.stations.length : undefined;

  const near = result.points
    .filter((p) => p.coefficients.curtain && p.liftRatio !== undefined)
    .sort((a, b) => Math.abs(a.liftRatio! - LOW) - Math.abs(b.liftRatio! - LOW))[0];
  const map = mapAt(whole, stageId, side)?.reading;
  const other = side === 'exhaust' ? sheetOfSide(whole, stageId, 'intake', context) : undefined;
  const intake = other && readOf(whole, other, 'intake').result.peak?.flow;
  const parts = new Set(['bowl', 'throat', 'short turn', 'guide', 'port', 'flange', 'manifold', 'divider', 'chamber']);
  return {
    side,
    curve: result.curve,
    cam: window.cam,
    valve,
    share: split.shares.at(-1)!,
    lift: split.lift,
    choke: chokeAt(whole, stageId, side, portId),
    largest: walls.length > 0 ? budget?.choke?.largest : undefined,
    spare: walls.length > 0 ? Math.min(...walls.map((w) => w.spare)) : undefined,
    wanted: side === 'intake' ? context.wanted : undefined,
    throat: ratio(size('throat'), valve.diameter),
    bowl: ratio(size('bowl'), valve.diameter),
    windowFlow: side === 'intake' && size('window') ? windowRule.compute({ window: size('window')! }) : undefined,
    knee: result.knee,
    ...(near
      ? {
          low: {
            lift: near.lift,
            coefficient: near.coefficients.curtain!.value,
            best: usualBest(near.liftRatio!),
            count: 0,
          },
        }
      : {}),
    exhaustShare:
      side === 'exhaust' && intake && result.peak
        ? exhaustToIntake.compute({ exhaust: result.peak.flow, intake })
        : undefined,
    natural: context.natural ?? true,
    dead: map ? map.dead.reduce((s, c) => s + c.area, 0) / map.cells.reduce((s, c) => s + c.area, 0) : undefined,
    uneven: whole.findings
      .filter((f) => f.mendedStageId === null && f.side === side && parts.has(f.part))
      .map((f) => ({ part: f.part, text: f.text })),
    closure: survey?.volume && poured ? numberOf(survey.volume) / poured - 1 : undefined,
    ...(steepest && meanArea ? { taper: { rate: steepest.rate / meanArea, station: steepest.station } } : {}),
  };
}

const ratio = (size: number | undefined, valve: number): number | undefined =>
  size === undefined ? undefined : size / valve;
