import {
  bandOf,
  camsApart,
  evaluateTarget,
  powerFromTorque,
  responsesAt,
  tieTo,
  type CamFound,
  type PullPoint,
  type Settled,
  type SimulationSetup,
  type Tie,
  type Tied,
  type TorqueBand,
  valuesOf,
  Refusal,
} from '@alluvium/core';
import {
  evaluateHead,
  fingerprint,
  toCoreBuild,
  toSimulation,
  type Build,
  type Pull,
  type WholeHead,
} from '@alluvium/records';
import { onScopeDispose, ref, shallowRef, watch } from 'vue';
import type { ActiveBuild } from '../data/build.js';
import { useJudging } from '../data/judging.js';
import { headVersions } from '../simulation/headVersions.js';
import { Cancelled, Pool } from '../simulation/pool.js';

// pull()!: a curve is made of a pull.
// torque[]!, rows[]!, rows.at()!, settled[]!, speeds[]!, all[]!: lists by speed; a pull has rows.
// v[]!, found.values[]!: two are sought, so two are found.
// find()!: everything tied is among what was assumed.

/** Speeds at which the engine of a pull is run, and of these those at which the assumptions are moved. */
const SPEEDS = 8;
const SENSITIVE = [0, 4, 7] as const;
/** Speeds at which a cam is sought. */
const CAM_SPEEDS = 3;

export interface PullCurve {
  readonly setup: SimulationSetup;
  readonly speeds: readonly number[];
  /** N·m, at each speed that settled. */
  readonly torque: readonly number[];
  readonly band?: readonly TorqueBand[];
}

/** A run over speed as points with their power, W. */
export const pointsOf = (speeds: readonly number[], torque: readonly number[]): PullPoint[] =>
  speeds.map((speed, i) => ({
    speed,
    torque: torque[i]!,
    power: powerFromTorque.compute({ torque: torque[i]!, speed }),
  }));

/** The engine as it stood on the dyno: what the pull says of cam and compression in the place of the build's. */
export function engineOf(build: Build, { setup }: Pick<Pull, 'setup'>): Build {
  const { cam } = build;
  return {
    ...build,
    compression: setup.compression ?? build.compression,
    cam: cam && {
      ...cam,
      lobeSeparation: setup.lobeSeparation ?? cam.lobeSeparation,
      intakeCentreline: setup.intakeCentreline ?? cam.intakeCentreline,
    },
  };
}

function torqueOf({ point }: Settled): number {
  if (!point.ok) throw new Refusal('pointFailed', [], point.reason);
  return point.torque;
}

/** What the simulation forecasts of a pull's head over the speeds it was pulled at, with its range; when asked for. */
export function usePullCurve(
  active: () => ActiveBuild | undefined,
  pull: () => Pull | undefined,
  whole: () => WholeHead | undefined,
) {
  const judging = useJudging();
  const pool = new Pool();
  onScopeDispose(() => pool.close());
  const curve = shallowRef<PullCurve>();
  const cam = shallowRef<CamFound>();
  const tie = shallowRef<Tie>();
  const busy = ref('');
  const problem = ref('');
  /** Everything a run is made of: what was found out about a pull since does not throw its run away. */
  const madeOf = (): string => {
    const [p, w] = [pull(), whole()];
    return fingerprint([active()?.build, p && [p.id, p.stageId, p.rows, p.setup], w && headVersions(w)]);
  };
  watch(madeOf, () => {
    pool.cancel();
    curve.value = undefined;
    cam.value = undefined;
    tie.value = undefined;
    problem.value = '';
    busy.value = '';
  });

  function setupOf(p = pull(), w = whole()): SimulationSetup | undefined {
    const a = active();
    if (!a?.target || !p?.stageId || !w) return undefined;
    const build = engineOf(a.build, p);
    const core = toCoreBuild(build, judging.value.assumptions);
    const target = evaluateTarget(core);
    const evaluation = evaluateHead(build, core, target, w, p.stageId, null, judging.value);
    return toSimulation(build, core, target, { whole: w, evaluation }, undefined, judging.value);
  }
  /** Does one long thing; a sentence where it cannot be done, silence where it was stopped. */
  async function doing<T>(what: string, work: () => Promise<T>): Promise<T | undefined> {
    busy.value = what;
    problem.value = '';
    try {
      return await work();
    } catch (error) {
      if (error instanceof Refusal) problem.value = error.message;
      else if (!(error instanceof Cancelled)) throw error;
      return undefined;
    } finally {
      busy.value = '';
    }
  }
  const speedsOf = (p: Pull): number[] => {
    const rows = p.rows.map((r) => r.speed.si).sort((a, b) => a - b);
    const [from, to] = [rows[0]!, rows.at(-1)!];
    return Array.from({ length: SPEEDS }, (_, i) => (i === SPEEDS - 1 ? to : from + ((to - from) * i) / (SPEEDS - 1)));
  };

  const run = () =>
    doing('Running it in the engine …', async () => {
      const setup = setupOf();
      if (!setup) return;
      const speeds = speedsOf(pull()!);
      const settled = await Promise.all(speeds.map((speed) => pool.ask<'single'>({ kind: 'single', setup, speed })));
      const points = settled.map(({ point }) => point);
      const ok = points.flatMap((p) => (p.ok ? [p] : []));
      if (ok.length < 3) {
        const failed = points.find((p) => !p.ok);
        throw new Refusal(
          'pointFailed',
          [],
          failed && !failed.ok ? failed.reason : 'The simulation settled at too few speeds.',
        );
      }
      const at = ok.map((p) => p.speed);
      const torque = ok.map((p) => p.torque);
      curve.value = { setup, speeds: at, torque };
      const found = await Promise.all(
        SENSITIVE.map(async (i) => {
          const before = { seed: settled[i]!.seed };
          const of = await pool.ask<'sensitivities'>({ kind: 'sensitivities', setup, speed: speeds[i]!, before });
          return typeof of === 'string' ? [] : [{ speed: speeds[i]!, of }];
        }),
      );
      const responses = responsesAt(setup, found.flat(), at, torque);
      if (responses.length > 0) curve.value = { setup, speeds: at, torque, band: bandOf(torque, responses) };
    });

  async function camFor(p: Pull, setup: SimulationSetup): Promise<CamFound> {
    const all = speedsOf(p);
    const speeds = Array.from(
      { length: CAM_SPEEDS },
      (_, i) => all[Math.round(((i + 1) * (SPEEDS - 1)) / CAM_SPEEDS)]!,
    );
    const found = await pool.ask<'cam'>({ kind: 'cam', setup, speeds });
    if (typeof found === 'string') throw new Refusal('pointFailed', [], found);
    return found;
  }
  /** The cam this head asks for in this engine. */
  const seekCam = () =>
    doing('Seeking the cam this head wants: half a minute …', async () => {
      const setup = setupOf();
      if (setup) cam.value = await camFor(pull()!, setup);
    });
  /** The cams of this head and of another one's pull, with the one that was installed. */
  const seekBoth = (otherPull: Pull, otherWhole: WholeHead) =>
    doing('Seeking the cam each of the two wants: a minute …', async () => {
      const [own, other] = [setupOf(), setupOf(otherPull, otherWhole)];
      if (!own || !other) return undefined;
      const [a, b] = await Promise.all([camFor(otherPull, other), camFor(pull()!, own)]);
      cam.value = b;
      return { a, b, now: own.cam };
    });

  /** Friction and combustion moved, within what is believed, until the simulation lies on the pull. `made`: N·m at the curve's speeds. */
  const tieIt = (made: readonly number[]) =>
    doing('Tying the simulation to the pull …', async () => {
      const now = curve.value;
      if (!now) return;
      const { setup, speeds } = now;
      const values = valuesOf(setup);
      const tied = tiedOf(setup);
      tie.value = await tieTo(tied, made, PULL_ROW * made.reduce((s, m) => s + m / made.length, 0), async (v) => {
        const own = { ...values, completeness: v[0]!, friction: v[1]! };
        const points = await Promise.all(
          speeds.map((speed) => pool.ask<'single'>({ kind: 'single', setup, speed, values: own })),
        );
        return points.map(torqueOf);
      });
    });

  /** Another head's torque over the same speeds in this engine, with what was tied. */
  const forecastHead = (other: WholeHead, stageId: string) =>
    doing('Forecasting the other head …', async () => {
      const [now, found, p] = [curve.value, tie.value, pull()];
      const setup = p && setupOf({ ...p, stageId }, other);
      if (!now || !found || !setup) return undefined;
      const own = { ...valuesOf(setup), completeness: found.values[0]!, friction: found.values[1]! };
      const points = await Promise.all(
        now.speeds.map((speed) => pool.ask<'single'>({ kind: 'single', setup, speed, values: own })),
      );
      return points.map(torqueOf);
    });
  const camOff = (): number | undefined => {
    const now = curve.value?.setup.cam ?? setupOf()?.cam;
    return cam.value && now ? camsApart(cam.value.at, now) : undefined;
  };
  return {
    curve,
    cam,
    tie,
    busy,
    problem,
    run,
    seekCam,
    seekBoth,
    tieIt,
    forecastHead,
    camOff,
    stop: () => pool.cancel(),
  };
}

/** A row of a pull is believed to this share. */
const PULL_ROW = 0.006;

/** What may be moved to lie on a pull: how much of the fuel burns, and friction; nearly one and the same thing. */
export function tiedOf(setup: SimulationSetup): Tied[] {
  return (['completeness', 'friction'] as const).map((id): Tied => {
    const a = setup.assumed.find((x) => x.id === id)!;
    return {
      id,
      label: a.label,
      value: a.value,
      u: a.half / Math.sqrt(3),
      low: a.value - 2 * a.half,
      high: a.value + 2 * a.half,
    };
  });
}
