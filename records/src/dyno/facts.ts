/** What speaks for each cause of a shortfall, gathered from the pull, the head, arrival and the forecast over speed. */
import {
  SIDES,
  breakOf,
  mean,
  powerAt,
  springsAt,
  type Build as CoreBuild,
  type PullFacts,
  type PullPoint,
  type TargetResult,
  ownManifoldFlow,
} from '@alluvium/core';
import type { WholeHead } from '../api.js';
import { latestSeats } from '../arrival/arrival.js';
import type { HeadEvaluation } from '../evaluateHead.js';
import type { Build } from '../nouns/build.js';
import type { Pull } from '../nouns/dyno.js';
import { measuresAt } from '../select.js';
import { measured } from '../toCore.js';
import { airOf, readPullOf } from './pulls.js';

// offs[]!, offs.at()!: there are some.

/** A forecast over speed: powers in W, by rising speed, and the standard uncertainty of its level, a share. */
export interface CurveForecast {
  readonly points: readonly Pick<PullPoint, 'speed' | 'power'>[];
  readonly u: number;
}

/** Mean of made over forecast less one in each third of the speeds both reach; undefined where they share too few. */
export function offByThirds(
  made: readonly PullPoint[],
  forecast: readonly Pick<PullPoint, 'speed' | 'power'>[],
): PullFacts['off'] | undefined {
  const drawn = forecast.map((p) => ({ ...p, torque: 0 }));
  const offs = made.flatMap((p) => {
    const told = powerAt(drawn, p.speed);
    return told === undefined || told <= 0 ? [] : [{ speed: p.speed, off: p.power / told - 1 }];
  });
  if (offs.length < 3) return undefined;
  const [from, to] = [offs[0]!.speed, offs.at(-1)!.speed];
  const third = (k: number) => {
    const [low, high] = [from + ((to - from) * k) / 3, from + ((to - from) * (k + 1)) / 3];
    const own = offs.filter((o) => o.speed >= low - 1e-9 && o.speed <= high + 1e-9);
    return own.length > 0 ? mean(own.map((o) => o.off)) : undefined;
  };
  const [low, middle, high] = [third(0), third(1), third(2)];
  return low === undefined || middle === undefined || high === undefined ? undefined : { low, middle, high };
}

/** Pressure missing in the manifold at the peak, of the air around; undefined where it was not logged or the air is unknown. */
function dropOf(pull: Pull, boosted: boolean): number | undefined {
  const air = airOf(pull);
  if (!air || boosted) return undefined;
  const { peakPower } = readPullOf(pull);
  const at = pull.rows.find((r) => peakPower && Math.abs(r.speed.si - peakPower.speed) < 1e-9);
  return at?.manifold ? 1 - at.manifold.si / air.pressure : undefined;
}

const lambdaAt = (pull: Pull): number | undefined => {
  const { peakPower } = readPullOf(pull);
  return pull.rows.find((r) => peakPower && Math.abs(r.speed.si - peakPower.speed) < 1e-9)?.lambda?.si;
};

/** Speeds at the foot of which the port's velocity is looked at: half the speed wanted. */
const FOOT = 0.5;

/** Everything known about a pull of one head. `made` is by the standard the forecast is for. */
export function factsOf(
  pull: Pull,
  made: readonly PullPoint[],
  forecast: CurveForecast,
  build: Build,
  core: CoreBuild,
  target: TargetResult,
  whole: WholeHead,
  evaluation: HeadEvaluation,
  camOff: number | undefined,
): PullFacts | undefined {
  const off = offByThirds(made, forecast.points);
  if (!off || !pull.stageId) return undefined;
  const { match } = evaluation;
  const velocity = match.portVelocity && match.portVelocity.value / target.velocityLimit;
  const [exhaust, intake] = [match.exhaust?.best.flow, match.intake?.best.flow];
  const seats = latestSeats(whole, pull.stageId).filter((s) => s.result !== 'untested');
  const boosted = build.induction.kind === 'boosted';
  const meant = build.compression?.si;
  const found = pull.setup.compression?.si ?? compressionMeasured(whole, pull.stageId, target);
  const manifold = match.intake && ownManifoldFlow(match.intake.best.flow, core);
  return {
    off,
    u: forecast.u,
    natural: !boosted,
    breaks: breakOf(made),
    velocity,
    lowVelocity: velocity === undefined ? undefined : velocity * FOOT,
    machIndex: match.machIndex?.value,
    exhaustShare: exhaust === undefined || !intake ? undefined : exhaust / intake,
    camOff,
    springForce: springsOf(whole, pull.stageId, target, Math.max(...made.map((p) => p.speed))),
    seats:
      seats.length > 0
        ? { tested: seats.length, leaking: seats.filter((s) => s.result === 'leaks').length }
        : undefined,
    compression: meant !== undefined && found !== undefined ? { meant, measured: found } : undefined,
    manifoldDrop: dropOf(pull, boosted),
    manifoldFlow: match.intake === undefined || manifold === undefined ? undefined : manifold / match.intake.best.flow,
    lambda: build.fuel === 'diesel' ? undefined : lambdaAt(pull),
    correctionKnown: pull.correction !== null,
    airKnown: airOf(pull) !== undefined,
    chassis: pull.dyno === 'chassis dyno',
  };
}

/** Compression as the poured volumes make it; undefined where one of them is missing. */
function compressionMeasured(whole: WholeHead, stageId: string, target: TargetResult): number | undefined {
  const measures = measuresAt(whole, stageId);
  const of = (item: 'chamber volume' | 'gasket volume' | 'deck volume' | 'piston dish') =>
    measured(measures, item, null);
  const parts = [of('chamber volume'), of('gasket volume'), of('deck volume'), of('piston dish')];
  if (parts.some((p) => p === undefined)) return undefined;
  const clearance = (parts as number[]).reduce((s, p) => s + p, 0);
  return clearance > 0 ? 1 + target.cylinderVolume.value / clearance : undefined;
}

/** Spring force over what is asked at a speed, of the side that lets go first; undefined where nobody measured it. */
function springsOf(whole: WholeHead, stageId: string, target: TargetResult, speed: number): number | undefined {
  const measures = measuresAt(whole, stageId);
  const shares = SIDES.flatMap((side) => {
    const of = (item: 'spring seat force' | 'spring rate' | 'valve train mass') => measured(measures, item, side);
    const [profile, seatForce, rate, mass] = [
      side === 'intake' ? target.intakeCam : target.exhaustCam,
      of('spring seat force'),
      of('spring rate'),
      of('valve train mass'),
    ];
    if (!profile || seatForce === undefined || rate === undefined || mass === undefined) return [];
    return springsAt(profile, { seatForce, rate, mass }, speed)?.share.value ?? [];
  });
  return shares.length > 0 ? Math.min(...shares) : undefined;
}
