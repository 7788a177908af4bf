/** Two heads in one engine: how they differ, by how much that is known, and what would turn it. */
import { shareAbove, deviations, moments, DRAWS, type Response, type Sides } from '../uncertainty/propagate.js';
import { standardUncertainty } from '../uncertainty/leaf.js';
import { bandOfDraws, type TorqueBand } from './ranges.js';

// ra ?? rb!: one of the two is there.

/** Responses of B less those of A: what both share by name is one thing. */
export function differenceResponses(a: readonly Response[], b: readonly Response[]): Response[] {
  const ids = new Map([...a, ...b].map((r) => [r.leaf.id, r]));
  return [...ids.values()].map(({ leaf }) => {
    const of = (list: readonly Response[]) => list.find((r) => r.leaf.id === leaf.id);
    const [ra, rb] = [of(a), of(b)];
    const zero = new Array<number>((ra ?? rb)!.change.length).fill(0);
    const less = (of: (r: Response) => readonly number[]) => {
      const [from, to] = [ra ? of(ra) : zero, rb ? of(rb) : zero];
      return to.map((c, k) => c - from[k]!);
    };
    return {
      leaf,
      change: less((r) => r.change),
      sides: { low: less((r) => sidesOf(r).low), high: less((r) => sidesOf(r).high) },
    };
  });
}
/** One straight line is two that go on in each other. */
const sidesOf = ({ sides, change }: Response): Sides => sides ?? { low: change.map((c) => -c), high: change };

export interface Difference {
  /** B less A at each speed, Nm, and its own band. */
  readonly torque: readonly number[];
  readonly band: readonly TorqueBand[];
  /** Odds that B's mean over the working speeds is the greater one, the mean and its standard uncertainty. */
  readonly odds: number;
  readonly mean: number;
  readonly u: number;
  /** The assumption that alone would turn the order soonest, where one within its range does. */
  readonly turns?: { readonly label: string; readonly id: string; readonly value: number };
  /** What each assumption does to the mean difference, for one standard uncertainty, greatest first. */
  readonly of: readonly {
    readonly id: string;
    readonly label: string;
    readonly change: number;
    /** What would make it known, where something does. */
    readonly act?: string | undefined;
  }[];
}

/** Two heads at the same speeds; `weights` sum to 1. */
export function differenceOf(
  a: { readonly torque: readonly number[]; readonly responses: readonly Response[] },
  b: { readonly torque: readonly number[]; readonly responses: readonly Response[] },
  weights: readonly number[],
): Difference {
  const torque = b.torque.map((t, k) => t - a.torque[k]!);
  const responses = differenceResponses(a.responses, b.responses);
  const draws = deviations(responses, torque.length);
  const mean = torque.reduce((s, t, k) => s + t * weights[k]!, 0);
  const means = new Float64Array(DRAWS);
  for (let k = 0; k < torque.length; k++) for (let d = 0; d < DRAWS; d++) means[d]! += weights[k]! * draws[k]![d]!;
  for (let d = 0; d < DRAWS; d++) means[d]! += mean;
  const weigh = (list: readonly number[]) => list.reduce((s, v, k) => s + v * weights[k]!, 0);
  const ends = Math.sqrt(3);
  const turning = responses
    .flatMap((r) => {
      // Each end of its range alone: does the order turn?
      const { low, high } = sidesOf(r);
      const at = (z: number) => mean + weigh(z < 0 ? low : high) * Math.abs(z);
      return [-ends, ends].flatMap((z) => {
        const value = at(z);
        if (value * mean >= 0) return [];
        const share = mean / (mean - value);
        return [
          {
            label: r.leaf.label,
            id: r.leaf.id,
            value: r.leaf.value + share * z * standardUncertainty(r.leaf.spread),
            share,
          },
        ];
      });
    })
    .sort((x, y) => x.share - y.share)[0];
  return {
    torque,
    band: bandOfDraws(torque, draws),
    odds: shareAbove(means),
    ...moments(means),
    mean,
    ...(turning ? { turns: { label: turning.label, id: turning.id, value: turning.value } } : {}),
    of: responses
      .map((r) => ({ id: r.leaf.id, label: r.leaf.label, change: weigh(r.change), act: r.leaf.settle?.act }))
      .sort((x, y) => Math.abs(y.change) - Math.abs(x.change)),
  };
}

/** Weights of the speeds between two, nothing outside; they sum to 1. */
export function workingWeights(speeds: readonly number[], from: number, to: number): number[] {
  const inside: number[] = speeds.map((s) => (s >= from - 1e-6 && s <= to + 1e-6 ? 1 : 0));
  const sum = inside.reduce((a, b) => a + b, 0);
  return sum === 0 ? speeds.map(() => 1 / speeds.length) : inside.map((w) => w / sum);
}
