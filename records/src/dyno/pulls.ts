/** Pulls of a build held against what was forecast of it. */
import {
  learntFactor,
  madePerFlow,
  mean,
  meanOfPowers,
  numberOf,
  readPull,
  toStandard,
  type Air,
  type Corrected,
  type Correction,
  type LearntFactor,
  type PullRow,
  type PullsMean,
  type ReadPull,
  type Working,
  refusedBy,
} from '@alluvium/core';
import type { HeadEvaluation } from '../evaluateHead.js';
import type { Build } from '../nouns/build.js';
import type { Pull, PullSetup } from '../nouns/dyno.js';

/** The air of the day; undefined where barometer or temperature are missing. */
export const airOf = (pull: Pick<Pull, 'pressure' | 'temperature' | 'humidity'>): Air | undefined =>
  pull.pressure && pull.temperature
    ? { pressure: pull.pressure.si, temperature: pull.temperature.si, humidity: pull.humidity?.si }
    : undefined;

export const correctedOf = (
  { fuel, induction }: Pick<Build, 'fuel' | 'induction'>,
  setup?: Pick<PullSetup, 'charging' | 'fuelPerCycle'>,
): Corrected => ({
  fuel,
  boosted: induction.kind === 'boosted',
  charging: setup?.charging ?? undefined,
  fuelPerCycle: setup?.fuelPerCycle ?? undefined,
  pressureRatio: induction.kind === 'boosted' ? induction.pressureRatio.si : undefined,
});

export const pullRowsOf = (pull: Pick<Pull, 'rows'>): PullRow[] =>
  pull.rows.map((r) => ({ speed: r.speed.si, power: r.power?.si, torque: r.torque?.si }));

export const readPullOf = (pull: Pick<Pull, 'rows'>): ReadPull => readPull(pullRowsOf(pull));

/** A pull's peak by another standard; a sentence where that cannot be said. */
export function peakBy(pull: Pull, to: Correction, build: Pick<Build, 'fuel' | 'induction'>): Working | string {
  const { peakPower } = readPullOf(pull);
  if (!peakPower) return 'It has no rows yet.';
  if (pull.correction === null) return 'Nobody said what it was corrected by.';
  try {
    return toStandard(peakPower.power, pull.correction, to, airOf(pull), correctedOf(build, pull.setup));
  } catch (error) {
    return refusedBy(error).message;
  }
}

/** Pulls that may be laid on one another: one dyno, one standard, one head on the engine. */
export const alike = (a: Pull, b: Pull): boolean =>
  a.buildId === b.buildId &&
  a.stageId === b.stageId &&
  a.dyno === b.dyno &&
  a.cell === b.cell &&
  a.correction === b.correction;

export const meanOfAlike = (pulls: readonly Pull[]): PullsMean => meanOfPowers(pulls.map((p) => readPullOf(p).points));

/** One estimate of Match beside the pull. */
export interface Held {
  readonly id: string;
  readonly title: string;
  readonly estimate: Working;
  /** Made less estimated, as a share of the estimate. */
  readonly off: number;
}

/** Each power estimate of the head beside what the engine made; estimates that do not apply are left out. */
export const heldAgainst = (made: number, { match }: Pick<HeadEvaluation, 'match'>): Held[] =>
  match.schools.flatMap((s) =>
    s.power ? [{ id: s.id, title: s.title, estimate: s.power, off: made / s.power.value - 1 }] : [],
  );

/** The power each cfm of the head made; undefined for a chassis dyno, an engine with nitrous, or a head that was not flowed. */
export function powerPerFlowOf(
  pull: Pull,
  made: number,
  build: Pick<Build, 'cylinders' | 'induction'>,
  { match }: Pick<HeadEvaluation, 'match'>,
  charge: number,
): Working | undefined {
  if (pull.dyno !== 'engine dyno' || build.induction.kind === 'nitrous' || match.flow === undefined) return undefined;
  return madePerFlow(made, numberOf(match.flow), build.cylinders, charge);
}

/** One factor an engine and head: the mean of its pulls' counts once, however often it was pulled. */
export function learntOf(
  factors: readonly { readonly pull: Pull; readonly factor: number }[],
): LearntFactor | undefined {
  const engines = new Map<string, number[]>();
  for (const { pull, factor } of factors) {
    const key = `${pull.buildId} ${pull.stageId ?? ''}`;
    engines.set(key, [...(engines.get(key) ?? []), factor]);
  }
  return learntFactor([...engines.values()].map(mean));
}
