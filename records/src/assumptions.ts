/** What is assumed where nothing was measured: the usual figures, and the shop's own in their places. */
import { USUAL_ASSUMPTIONS, type AssumedFigure, type Assumptions, type Kind } from '@alluvium/core';
import type { Assumption } from './nouns/assumption.js';

type Single = { [K in AssumedFigure]: Assumptions[K] extends number ? K : never }[AssumedFigure];

/** Every assumption by its name, with the kind of quantity it is and the most that is believable. */
export const ASSUMPTIONS: Readonly<
  Record<
    Single | 'leastPowerPerFlow' | 'likelyPowerPerFlow' | 'mostPowerPerFlow',
    { readonly kind: Kind; readonly max?: number }
  >
> = {
  repeatability: { kind: 'percent', max: 0.2 },
  setup: { kind: 'percent', max: 0.2 },
  liftZero: { kind: 'lift', max: 0.002 },
  checkedBench: { kind: 'percent', max: 0.3 },
  uncheckedBench: { kind: 'percent', max: 0.3 },
  otherBench: { kind: 'percent', max: 0.3 },
  claim: { kind: 'percent', max: 0.5 },
  betweenRows: { kind: 'percent', max: 5 },
  rowReach: { kind: 'lift', max: 0.01 },
  fixture: { kind: 'percent', max: 2 },
  leastPowerPerFlow: { kind: 'powerPerFlow' },
  likelyPowerPerFlow: { kind: 'powerPerFlow' },
  mostPowerPerFlow: { kind: 'powerPerFlow' },
  statedFactor: { kind: 'percent', max: 0.5 },
  velocityLimit: { kind: 'percent', max: 0.5 },
  pistonRatio: { kind: 'percent', max: 0.5 },
  area: { kind: 'percent', max: 0.5 },
  volume: { kind: 'percent', max: 0.5 },
  length: { kind: 'percent', max: 0.5 },
  chokeShare: { kind: 'percent', max: 1 },
  charge: { kind: 'percent', max: 0.5 },
  nitrous: { kind: 'percent', max: 1 },
  statedSize: { kind: 'ratio', max: 20 },
  hourRate: { kind: 'money', max: 1e5 },
};
export type AssumptionName = keyof typeof ASSUMPTIONS;
export const ASSUMPTION_NAMES = Object.keys(ASSUMPTIONS) as AssumptionName[];

/** The usual value of one assumption, SI. */
export function usualAssumption(name: AssumptionName): number {
  const [low, likely, high] = USUAL_ASSUMPTIONS.powerPerFlow;
  if (name === 'leastPowerPerFlow') return low;
  if (name === 'likelyPowerPerFlow') return likely;
  if (name === 'mostPowerPerFlow') return high;
  return USUAL_ASSUMPTIONS[name];
}

/** The usual figures with the shop's own in their places. A triangle whose corners do not rise is left as usual. */
export function assumptionsOf(own: readonly Assumption[]): Assumptions {
  const of = (name: AssumptionName): number => own.find((a) => a.name === name)?.value.si ?? usualAssumption(name);
  const factor = [of('leastPowerPerFlow'), of('likelyPowerPerFlow'), of('mostPowerPerFlow')] as const;
  const rises = factor[0] <= factor[1] && factor[1] <= factor[2] && factor[0] < factor[2];
  const singles = Object.fromEntries(
    ASSUMPTION_NAMES.filter((n) => n in USUAL_ASSUMPTIONS).map((n) => [n, of(n)]),
  ) as unknown as Omit<Assumptions, 'powerPerFlow'>;
  return { ...singles, powerPerFlow: rises ? factor : USUAL_ASSUMPTIONS.powerPerFlow };
}
