/** The shop's own power per flow from all pulls of its engines, by use and fuel. */
import {
  evaluateTarget,
  learntFactor,
  mean,
  numberOf,
  type Assumptions,
  type LearntFactor,
  Refusal,
} from '@alluvium/core';
import type { WholeHead } from '../api.js';
import { evaluateHead, type JudgingContext } from '../evaluateHead.js';
import type { Build } from '../nouns/build.js';
import type { OwnFactor, Pull } from '../nouns/dyno.js';
import { toCoreBuild } from '../toCore.js';
import { peakBy, powerPerFlowOf, readPullOf } from './pulls.js';

// of[]!, own[]!: a group begins with one.

/** One pull's factor: what each cfm of its head made. */
export interface PullFactor {
  readonly pullId: string;
  readonly buildId: string;
  readonly build: string;
  readonly stageId: string;
  /** The head and its stage, as they are named. */
  readonly head: string;
  readonly use: string;
  readonly fuel: string;
  /** W/(m³/s) of one cylinder. */
  readonly factor: number;
}

/** Factors of every pull on an engine dyno whose head was flowed. `wholes` are the heads that were pulled. */
export function pullFactors(
  pulls: readonly Pull[],
  builds: readonly Build[],
  wholes: readonly WholeHead[],
  context: JudgingContext = {},
): PullFactor[] {
  return pulls.flatMap((pull): PullFactor[] => {
    const build = builds.find((b) => b.id === pull.buildId);
    const whole = wholes.find((w) => w.stages.some((s) => s.id === pull.stageId));
    if (!build || !whole || !pull.stageId) return [];
    const by = peakBy(pull, 'SAE J1349', build);
    const power = typeof by === 'string' ? readPullOf(pull).peakPower?.power : by.value;
    if (power === undefined) return [];
    try {
      const core = toCoreBuild(build, context.assumptions);
      const target = evaluateTarget(core);
      const evaluation = evaluateHead(build, core, target, whole, pull.stageId, null, context);
      const working = powerPerFlowOf(pull, power, build, evaluation, numberOf(target.charge));
      if (!working) return [];
      return [
        {
          pullId: pull.id,
          buildId: build.id,
          build: build.name,
          stageId: pull.stageId,
          head: `${whole.head.name}, ${evaluation.stage.name}`,
          use: build.use,
          fuel: build.fuel,
          factor: working.value,
        },
      ];
    } catch (error) {
      if (error instanceof Refusal) return [];
      throw error;
    }
  });
}

export interface LearntBy {
  readonly use: string;
  readonly fuel: string;
  readonly learnt: LearntFactor;
  /** One engine and head each, with its own factor. */
  readonly engines: readonly { readonly name: string; readonly factor: number; readonly pulls: number }[];
}

/** What the pulls teach, by use and fuel; an engine with its head counts once, however often it was pulled. */
export function learntBy(factors: readonly PullFactor[]): LearntBy[] {
  const kinds = [...new Set(factors.map((f) => `${f.use}|${f.fuel}`))].sort();
  return kinds.flatMap((kind): LearntBy[] => {
    const own = factors.filter((f) => `${f.use}|${f.fuel}` === kind);
    const keys = [...new Set(own.map((f) => `${f.buildId} ${f.stageId}`))];
    const engines = keys.map((k) => {
      const of = own.filter((f) => `${f.buildId} ${f.stageId}` === k);
      return { name: `${of[0]!.build}, ${of[0]!.head}`, factor: mean(of.map((f) => f.factor)), pulls: of.length };
    });
    const learnt = learntFactor(engines.map((e) => e.factor));
    return learnt ? [{ use: own[0]!.use, fuel: own[0]!.fuel, learnt, engines }] : [];
  });
}

/** The shop's figures for one build: its own power per flow of such engines, where it keeps one. */
export function assumptionsForBuild(
  assumptions: Assumptions,
  build: Pick<Build, 'use' | 'fuel'>,
  own: readonly OwnFactor[],
): Assumptions {
  const found = own.find((f) => f.use === build.use && f.fuel === build.fuel);
  return found ? { ...assumptions, powerPerFlow: [found.low.si, found.likely.si, found.high.si] } : assumptions;
}
