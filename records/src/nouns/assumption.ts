import { USUAL_ASSUMPTIONS, type Assumptions, type Kind } from '@alluvium/core';
import { z } from 'zod';
import { QuantityInput, quantitySchema } from '../quantity.js';
import { Day, Id, Note, Stored } from './common.js';
import { describedNoun } from './descriptor.js';

type Single = { [K in keyof Assumptions]: Assumptions[K] extends number ? K : never }[keyof Assumptions];

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

/** The shop's own figure in place of a usual one. */
export const Assumption = z
  .object({ ...Stored, name: z.enum(ASSUMPTION_NAMES as [AssumptionName, ...AssumptionName[]]), value: QuantityInput })
  .transform((a, ctx) => {
    const { kind, max } = ASSUMPTIONS[a.name];
    const value = quantitySchema(kind, {
      min: kind === 'powerPerFlow' ? 1e5 : 0,
      ...(max === undefined ? {} : { max }),
      sentence: 'This is no believable figure for that.',
    }).safeParse(a.value);
    if (value.success) return { ...a, value: value.data };
    for (const issue of value.error.issues) ctx.addIssue({ code: 'custom', message: issue.message, path: ['value'] });
    return z.NEVER;
  });
export type Assumption = z.infer<typeof Assumption>;

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

/** A verdict as it was said on a day: its words, its odds, and the versions of every record it rested on. */
export const FrozenVerdict = z.object({
  ...Stored,
  buildId: Id,
  made: Day,
  note: Note,
  content: z.object({
    program: z.string().max(40),
    target: z.string().max(1000),
    best: z.string().max(4000),
    heads: z
      .array(
        z.object({
          letter: z.string().max(4),
          name: z.string().max(300),
          stage: z.string().max(200),
          sheet: z.string().max(300).default(''),
          degree: z.string().max(40),
          odds: z.number().min(0).max(1).nullable(),
          words: z.string().max(6000),
          limits: z
            .array(
              z.object({
                runner: z.string().max(200),
                id: z.string().max(20),
                margin: z.number(),
                u: z.number(),
                odds: z.number().min(0).max(1),
              }),
            )
            .max(200),
        }),
      )
      .max(100),
    /** `sheet 417-received-p3` → 2. */
    records: z.array(z.object({ noun: z.string().max(40), id: Id, version: z.int32().min(1) })).max(5000),
  }),
});
export type FrozenVerdict = z.infer<typeof FrozenVerdict>;

export const assumptionNoun = describedNoun({
  schema: Assumption,
  one: 'assumption',
  many: 'assumptions',
  key: 'assumptions',
});

export const frozenVerdictNoun = describedNoun({
  schema: FrozenVerdict,
  one: 'kept verdict',
  many: 'kept verdicts',
  key: 'verdicts',
  refers: { buildId: 'build' },
});
