/** A head as a ledger: each stage with what was done, what it cost, and what it gave. */
import {
  SIDES,
  USUAL_ASSUMPTIONS,
  gainAdded,
  gainPerHour,
  gainPerMoney,
  noted,
  peakFlowPower,
  togetherWords,
  torqueFromPower,
  work,
  workCost,
  type Build as CoreBuild,
  type Side,
  type TargetResult,
  type Working,
} from '@alluvium/core';
import type { WholeHead } from '../api.js';
import type { Operation } from '../nouns/change.js';
import type { Stage } from '../nouns/head.js';
import { lineage } from '../select.js';
import { stageGain, type ChangeContext, type StageGain } from './stageGain.js';

// build!: power comes of a build.

/** The engine a gain is valued for. */
export interface LedgerBuild {
  readonly core: CoreBuild;
  readonly target: TargetResult;
}

/** One side of a ledger's row. */
export interface SideEntry {
  readonly gain: StageGain;
  readonly perHour?: Working;
  readonly perMoney?: Working;
  /** Gains of this side from the first stage up to this one. */
  readonly sum?: Working;
}

export interface LedgerRow {
  readonly stage: Stage;
  readonly operations: readonly Operation[];
  /** Hours of all of it, s; undefined where none were noted. */
  readonly time: number | undefined;
  readonly cost?: Working;
  readonly sides: { readonly [S in Side]?: SideEntry };
  /** Power of the intake's gain at the target, and its torque at that speed. */
  readonly power?: Working;
  readonly torque?: Working;
  /** What cannot be told apart, and why it was not flowed. */
  readonly said: readonly string[];
}

type Changed = Pick<WholeHead, 'head' | 'stages' | 'ports' | 'sheets' | 'measures' | 'operations'>;

const total = (values: readonly (number | undefined)[]): number | undefined => {
  const known = values.filter((v) => v !== undefined);
  return known.length === 0 ? undefined : known.reduce((s, v) => s + v, 0);
};
/** Work that counts for a side: its own, and what belongs to none. */
const ofSide = (operations: readonly Operation[], side: Side) =>
  operations.filter((o) => o.side === side || o.side === null);

function costOf(operations: readonly Operation[], rate: number): Working | undefined {
  const time = total(operations.map((o) => o.time?.si));
  const parts = total(operations.map((o) => o.parts?.si));
  if (parts === undefined && (time === undefined || rate === 0)) return undefined;
  return work(workCost, { time: time ?? 0, rate: noted(rate, 'the shop’s own rate'), parts: parts ?? 0 });
}

function saidOf(stage: Stage, operations: readonly Operation[], gains: readonly StageGain[], first: boolean): string[] {
  const said: string[] = [];
  for (const side of [...SIDES, null]) {
    const kinds = [...new Set(operations.filter((o) => o.side === side).map((o) => o.kind))];
    if (kinds.length > 1) said.push(togetherWords(kinds));
  }
  if (gains.length === 0 && !first)
    said.push(
      stage.unflowed ? `Not flowed: ${stage.unflowed}` : 'Not flowed, or not the stage before; nobody said why.',
    );
  const together = gains[0]?.together ?? [];
  if (together.length > 0)
    said.push(
      `What it gained stands together with ${together.map((s) => `“${s.name}”`).join(' and ')}: not flowed between.`,
    );
  return said;
}

/** The ledger of the stages that led to one, the first stage first. */
export function ledgerOf(
  whole: Changed,
  stageId: string,
  context: ChangeContext = {},
  build?: LedgerBuild,
): LedgerRow[] {
  const rate = (context.assumptions ?? USUAL_ASSUMPTIONS).hourRate;
  const sums: Record<Side, Working[]> = { intake: [], exhaust: [] };
  return lineage(whole.stages, stageId)
    .reverse()
    .map((stage, i): LedgerRow => {
      const operations = whole.operations.filter((o) => o.stageId === stage.id);
      const gains = SIDES.flatMap((side) => stageGain(whole, stage, side, context) ?? []);
      const sides = Object.fromEntries(
        gains.map((gain): [Side, SideEntry] => {
          const { side } = gain;
          if (!gain.gain) return [side, { gain }];
          sums[side] = [...sums[side], gain.gain];
          const own = ofSide(operations, side);
          const time = total(own.map((o) => o.time?.si));
          const cost = costOf(own, rate);
          return [
            side,
            {
              gain,
              ...(time ? { perHour: work(gainPerHour, { gain: gain.gain, time }) } : {}),
              ...(cost && cost.value > 0 ? { perMoney: work(gainPerMoney, { gain: gain.gain, cost }) } : {}),
              sum: work(gainAdded, { gains: sums[side].map((g) => g.value) }),
            },
          ];
        }),
      );
      const best = sides.intake?.gain.best;
      const factor = build?.target.powerPerFlow;
      const power =
        best && build && factor !== undefined
          ? work(peakFlowPower, {
              powerPerFlow: factor,
              flow: best,
              cylinders: build.core.cylinders,
              charge: build.target.charge,
            })
          : undefined;
      const cost = costOf(operations, rate);
      return {
        stage,
        operations,
        time: total(operations.map((o) => o.time?.si)),
        ...(cost ? { cost } : {}),
        sides,
        ...(power ? { power, torque: work(torqueFromPower, { power, speed: build!.core.speed }) } : {}),
        said: saidOf(stage, operations, gains, i === 0),
      };
    });
}
