/** A pull on the dyno: its rows held against each other, several of them averaged, and what it teaches of power per flow. */
import { impliedPowerPerFlow } from '../claim/report.js';
import { deviation, mean } from '../method/mean.js';
import { pooledShares } from '../method/statistics.js';
import { COMMON_PRACTICE, noted, work, type Method, type Working } from '../method/method.js';
import { USUAL_POWER_PER_FLOW } from '../power/schools.js';
import { horsepowerPerCfm } from '../quantity/units.js';
import { FULL_TURN } from '../engine/engine.js';

// byTorque!, power!: one of the two is there.

/** One row as it was read; SI. One of the two may be missing. */
export interface PullRow {
  readonly speed: number;
  readonly power?: number | undefined;
  readonly torque?: number | undefined;
}

export interface PullPoint {
  readonly speed: number;
  readonly power: number;
  readonly torque: number;
}

export const powerFromTorque: Method<{ torque: number; speed: number }> = {
  id: 'power-from-torque',
  title: 'Power of a torque at a speed',
  formula: 'P = 2\\pi N\\,T',
  inputs: {
    torque: { label: 'torque', symbol: 'T', kind: 'torque' },
    speed: { label: 'engine speed', symbol: 'N', kind: 'rotation' },
  },
  result: { label: 'power', symbol: 'P', kind: 'power' },
  source: 'Definition of power.',
  compute: ({ torque, speed }) => FULL_TURN * speed * torque,
};

/** Power and torque of one row further apart than this are not of one engine speed. Common practice, no source. */
const DISAGREE = 0.01;

export interface ReadPull {
  /** By rising speed; a row with neither power nor torque is left out. */
  readonly points: readonly PullPoint[];
  /** Places of rows (as given) whose power and torque disagree, with the power the torque makes, W. */
  readonly disagree: readonly { readonly row: number; readonly byTorque: number }[];
  /** Places of rows whose speed stands twice. */
  readonly twice: readonly number[];
  readonly peakPower?: PullPoint;
  readonly peakTorque?: PullPoint;
}

/** The rows of a pull, each with power and torque. Power as stated comes before the power its torque makes. */
export function readPull(rows: readonly PullRow[]): ReadPull {
  const disagree: { row: number; byTorque: number }[] = [];
  const twice: number[] = [];
  const points: PullPoint[] = [];
  const seen = new Set<number>();
  rows.forEach(({ speed, power, torque }, row) => {
    if (speed <= 0 || (power === undefined && torque === undefined)) return;
    if (seen.has(speed)) {
      twice.push(row);
      return;
    }
    seen.add(speed);
    const byTorque = torque === undefined ? undefined : powerFromTorque.compute({ torque, speed });
    if (power !== undefined && byTorque !== undefined && Math.abs(byTorque / power - 1) > DISAGREE)
      disagree.push({ row, byTorque });
    points.push({ speed, power: power ?? byTorque!, torque: torque ?? power! / (FULL_TURN * speed) });
  });
  points.sort((a, b) => a.speed - b.speed);
  const most = (of: (p: PullPoint) => number) =>
    points.length === 0 ? undefined : points.reduce((a, b) => (of(b) > of(a) ? b : a));
  const peakPower = most((p) => p.power);
  const peakTorque = most((p) => p.torque);
  return { points, disagree, twice, ...(peakPower ? { peakPower } : {}), ...(peakTorque ? { peakTorque } : {}) };
}

/** Power at a speed, W, in a straight line between rows; undefined outside them. */
export function powerAt(points: readonly PullPoint[], speed: number): number | undefined {
  const above = points.findIndex((p) => p.speed >= speed);
  if (above < 0 || (above === 0 && points[0]!.speed > speed)) return undefined;
  const b = points[above]!;
  if (b.speed === speed) return b.power;
  const a = points[above - 1]!;
  return a.power + ((b.power - a.power) * (speed - a.speed)) / (b.speed - a.speed);
}

export interface PullsMean {
  readonly points: readonly PullPoint[];
  /** One pull against the next as a share of the power, one standard deviation, pooled over the speeds; undefined for one. */
  readonly repeatability: number | undefined;
  /** The same at each speed where the pulls differ at all. */
  readonly shares: readonly number[];
}

/** The mean of several pulls at the speeds all of them reach, and how far one lies from the next (JCGM 100:2008, 4.2). */
export function meanOfPowers(pulls: readonly (readonly PullPoint[])[]): PullsMean {
  const [first] = pulls;
  if (!first) return { points: [], repeatability: undefined, shares: [] };
  const shares: number[] = [];
  const points = first.flatMap(({ speed }): PullPoint[] => {
    const powers = pulls.map((p) => powerAt(p, speed));
    if (powers.some((p) => p === undefined)) return [];
    const all = powers as number[];
    const power = mean(all);
    const s = deviation(all);
    if (s !== undefined && power > 0) shares.push(s / power);
    return [{ speed, power, torque: power / (FULL_TURN * speed) }];
  });
  return { points, shares, repeatability: shares.length > 0 ? pooledShares.compute({ shares }) : undefined };
}

/** What a pull says each cfm of its head made; see the claims' method of the same name. */
export const madePerFlow = (power: number, flow: number, cylinders: number, charge: number): Working =>
  work(impliedPowerPerFlow, {
    power: noted(power, 'peak of the pull'),
    flow: noted(flow, 'best intake flow the cam reaches'),
    cylinders,
    charge,
  });

/** The usual factor counts as so many engines, until the shop has pulled more than it. Common practice, no source. */
const PRIOR = 2;
/** The usual factor's own standard deviation between engines: of the triangle from 0.24 to 0.28 hp/cfm. */
const PRIOR_DEVIATION = horsepowerPerCfm(
  Math.sqrt((0.24 ** 2 + 0.257 ** 2 + 0.28 ** 2 - 0.24 * 0.257 - 0.24 * 0.28 - 0.257 * 0.28) / 18),
);

export interface LearntFactor {
  readonly count: number;
  readonly factor: Working;
  /** Standard deviation of the next engine about it, W/(m³/s). */
  readonly u: number;
}

export const learntPowerPerFlow: Method<{ factors: readonly number[]; usual: number; weight: number }> = {
  id: 'learnt-power-per-flow',
  title: 'The shop’s own power per flow',
  formula: 'k = \\frac{w\\,k_0 + \\sum_i k_i}{w + m}',
  inputs: {
    factors: { label: 'power each cfm made, one engine each', symbol: 'k_i', kind: 'powerPerFlow' },
    usual: { label: 'usual factor', symbol: 'k_0', kind: 'powerPerFlow' },
    weight: { label: 'engines the usual factor counts for', symbol: 'w', kind: 'count' },
  },
  result: { label: 'power per flow, one cylinder', symbol: 'k', kind: 'powerPerFlow' },
  source: `Mean with a prior of a few engines. ${COMMON_PRACTICE}`,
  caution: 'Of engines of one kind of use, fuel and dyno; the factor of a chassis dyno is another one.',
  compute: ({ factors, usual, weight }) =>
    (weight * usual + factors.reduce((sum, k) => sum + k, 0)) / (weight + factors.length),
};

/** What the shop's pulls teach, one factor an engine; undefined without any. */
export function learntFactor(factors: readonly number[]): LearntFactor | undefined {
  if (factors.length === 0) return undefined;
  const factor = work(learntPowerPerFlow, {
    factors,
    usual: noted(USUAL_POWER_PER_FLOW, 'until the shop has more pulls'),
    weight: PRIOR,
  });
  const k = factor.value;
  const squares =
    PRIOR * (PRIOR_DEVIATION ** 2 + (USUAL_POWER_PER_FLOW - k) ** 2) +
    factors.reduce((sum, f) => sum + (f - k) ** 2, 0);
  const n = PRIOR + factors.length;
  // Of one more engine: the spread between engines, and what the mean itself is not sure of.
  return { count: factors.length, factor, u: Math.sqrt((squares / (n - 1)) * (1 + 1 / n)) };
}
