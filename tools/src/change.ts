/** What `evaluate` prints of the stages of a head: its ledger, and with `--change` where the flow is lost. */
import { SIDES, lossWords, splitStages, type Build as CoreBuild, type Say, type TargetResult } from '@alluvium/core';
import { ledgerOf, lossStages, uncertaintyIn, type ChangeContext, type WholeHead } from '@alluvium/records';
import { z } from 'zod';

const figure = z.number().nullable();
const Between = z.object({ value: z.number(), low: z.number(), high: z.number() });
const Gain = z
  .object({
    before: z.string(),
    after: z.string(),
    credited: z.boolean(),
    comparison: z.string(),
    gain: figure.describe('of the mean flow over the cam, m³/s'),
    standardUncertainty: figure,
    share: figure,
    perHour: figure.describe('m³/s for each second worked'),
    perMoney: figure,
    sinceFirst: figure,
    lifts: z.array(z.object({ lift: z.number(), gain: z.number(), counts: z.boolean() })),
  })
  .nullable();

export const ChangeReport = z.object({
  head: z.string(),
  stages: z.array(
    z.object({
      stage: z.string(),
      done: z.array(z.string()),
      time: figure.describe('s'),
      cost: figure,
      intake: Gain,
      exhaust: Gain,
      power: figure,
      torque: figure,
      said: z.array(z.string()),
    }),
  ),
  loss: z
    .array(
      z.object({
        side: z.enum(['intake', 'exhaust']),
        stages: z.array(z.string()),
        portShare: z.array(Between),
        changes: z.array(z.object({ valve: Between, port: Between })),
        sentence: z.string(),
      }),
    )
    .optional(),
});
export type ChangeReport = z.infer<typeof ChangeReport>;

function lossOf(whole: WholeHead, stageId: string, context: ChangeContext, say: Say) {
  return SIDES.flatMap((side) => {
    const loss = lossStages(whole, stageId, side, context);
    if (!loss) return [];
    const split = splitStages(loss.input, loss.lift, loss.assumptions);
    return [
      {
        side,
        stages: loss.stages.map((s) => s.id),
        portShare: [...split.shares],
        changes: split.changes.map(({ valve, port }) => ({ valve, port })),
        sentence: lossWords(split, split.shares.length - 1, say),
      },
    ];
  });
}

/** The ledger of a head to its last stage; undefined where it has but one. */
export function changeOf(
  whole: WholeHead,
  context: ChangeContext,
  build: { readonly core: CoreBuild; readonly target: TargetResult },
  split: boolean,
  say: Say,
): ChangeReport | undefined {
  const last = whole.stages.at(-1);
  if (!last || whole.stages.length < 2) return undefined;
  return {
    head: whole.head.id,
    stages: ledgerOf(whole, last.id, context, build).map((row) => {
      const side = (name: (typeof SIDES)[number]): z.infer<typeof Gain> => {
        const entry = row.sides[name];
        if (!entry) return null;
        const { gain } = entry;
        return {
          before: gain.before.sheet.id,
          after: gain.after.sheet.id,
          credited: gain.credited,
          comparison: gain.comparison.sentence,
          gain: gain.gain?.value ?? null,
          standardUncertainty: gain.gain ? uncertaintyIn(gain.gain, gain.book) : null,
          share: gain.share?.value ?? null,
          perHour: entry.perHour?.value ?? null,
          perMoney: entry.perMoney?.value ?? null,
          sinceFirst: entry.sum?.value ?? null,
          lifts: gain.credited ? gain.lifts.map((l) => ({ lift: l.lift, gain: l.gain.value, counts: l.counts })) : [],
        };
      };
      return {
        stage: row.stage.id,
        done: row.operations.map((o) => [o.side, o.kind].filter(Boolean).join(' ')),
        time: row.time ?? null,
        cost: row.cost?.value ?? null,
        intake: side('intake'),
        exhaust: side('exhaust'),
        power: row.power?.value ?? null,
        torque: row.torque?.value ?? null,
        said: [...row.said],
      };
    }),
    ...(split ? { loss: lossOf(whole, last.id, context, say) } : {}),
  };
}
