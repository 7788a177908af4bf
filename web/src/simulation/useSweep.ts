import {
  bandOf,
  foundOver,
  responsesAt,
  runnerKnown,
  sensitiveSpeeds,
  type FoundAt,
  type Sensitivity,
  type Settled,
  type SimulationSetup,
  type SpeedPoint,
  type SpeedResult,
  type TorqueBand,
} from '@alluvium/core';
import { computed, markRaw, onScopeDispose, reactive, ref, watch, type ComputedRef } from 'vue';
import { Cancelled, Pool } from './pool.js';

// swept.get()!, curveBy.get()!: set above for this head.

/** One head as far as it has been run. */
export interface SweptHead {
  readonly id: string;
  readonly setup: SimulationSetup;
  /** By speed: the curve's own point, the mean over an assumed runner where that is done, else at one length. */
  readonly points: Map<number, SpeedPoint>;
  /** At the likeliest runner alone. */
  readonly single: Map<number, SpeedPoint>;
  /** What the runner's ends do, where it was averaged, and every assumption, where they were run. */
  readonly runner: Map<number, Sensitivity>;
  readonly sensitive: Map<number, readonly Sensitivity[]>;
  /** Where each speed's curve point ended: what its ranges go on from. */
  readonly ends: Map<number, Settled>;
}

/** A head's finished curve over the speeds that settled. */
export interface Curve {
  readonly id: string;
  readonly points: readonly SpeedResult[];
  readonly failed: readonly { readonly speed: number; readonly reason: string }[];
  readonly single: readonly SpeedResult[];
  /** Of the torque, where the assumptions were run. */
  readonly band?: readonly TorqueBand[];
  /** What the assumptions do, at the speeds where they were run; nothing before that makes a range. */
  readonly sensitive: readonly FoundAt[];
  /** Every speed was averaged over the runner. */
  readonly whole: boolean;
}

export function curveOf(head: SweptHead, speeds: readonly number[]): Curve {
  const all = speeds.flatMap((speed) => {
    const point = head.points.get(speed) ?? head.single.get(speed);
    return point ? [point] : [];
  });
  const points = all.filter((p): p is SpeedResult => p.ok);
  const found = foundOver(
    [...head.sensitive].map(([speed, of]) => ({ speed, of })),
    [...head.runner].map(([speed, runner]) => ({ speed, runner })),
  );
  const asked = points.map((p) => p.speed);
  const responses =
    found.length > 0
      ? responsesAt(
          head.setup,
          found,
          asked,
          points.map((p) => p.torque),
        )
      : [];
  return {
    id: head.id,
    points,
    failed: all.flatMap((p) => (p.ok ? [] : [{ speed: p.speed, reason: p.reason }])),
    single: speeds.flatMap((s) => {
      const p = head.single.get(s);
      return p?.ok ? [p] : [];
    }),
    sensitive: found,
    whole: points.length > 0 && points.every((p) => head.points.has(p.speed)),
    ...(responses.length > 0 && points.length > 0
      ? {
          band: bandOf(
            points.map((p) => p.torque),
            responses,
          ),
        }
      : {}),
  };
}

/** One head in one engine, asked to be run. */
type Asked = Pick<SweptHead, 'id' | 'setup'>;

const notRun = ({ id, setup }: Asked): SweptHead => ({
  id,
  setup: markRaw(setup),
  points: new Map(),
  single: new Map(),
  runner: new Map(),
  sensitive: new Map(),
  ends: markRaw(new Map()),
});

/**
 * Runs every head over the speeds, the speed wanted first: the curves, then what is not known, where every assumption
 * is run before where only the runner is.
 */
export function useSweep(heads: () => readonly Asked[], speeds: () => readonly number[], target: () => number) {
  const pool = new Pool();
  const swept = reactive(new Map<string, SweptHead>());
  /** Each head's own: a point that comes makes only its head's range anew. */
  const curveBy = new Map<string, ComputedRef<Curve>>();
  const asked = ref(0);
  const done = ref(0);
  const problem = ref('');
  const stopped = ref(false);
  const keys = new Map<string, string>();
  let round = 0;

  function take(now: readonly Asked[], all: readonly number[]): SweptHead[] {
    for (const id of [...swept.keys()]) if (!now.some((h) => h.id === id)) swept.delete(id);
    return now.map((h) => {
      const key = JSON.stringify([h.setup, all]);
      // A head that did not change keeps what was run.
      if (!swept.has(h.id) || keys.get(h.id) !== key) {
        keys.set(h.id, key);
        swept.set(h.id, notRun(h));
        const own = swept.get(h.id)!;
        curveBy.set(
          h.id,
          computed(() => curveOf(own, all)),
        );
      }
      return swept.get(h.id)!;
    });
  }

  async function runCurve({ setup, ends, single }: SweptHead, speed: number): Promise<void> {
    const end = await pool.ask<'single'>({ kind: 'single', setup, speed });
    ends.set(speed, end);
    single.set(speed, end.point);
  }
  async function runRanges({ setup, ends, points, runner, sensitive }: SweptHead, speed: number, every: boolean) {
    const middle = ends.get(speed);
    // A worker that could not run the curve said so.
    if (!middle) return;
    if (!runnerKnown(setup) && !points.has(speed)) {
      const mean = await pool.ask<'sweep'>({ kind: 'sweep', setup, speed, middle });
      if (mean.runner) runner.set(speed, mean.runner);
      points.set(speed, mean.point);
    }
    if (!every || !middle.point.ok) return;
    const before = { seed: middle.seed, runner: runner.get(speed) };
    const of = await pool.ask<'sensitivities'>({ kind: 'sensitivities', setup, speed, before }, true);
    if (typeof of !== 'string') sensitive.set(speed, of);
  }

  async function begin(): Promise<void> {
    const own = ++round;
    pool.cancel();
    problem.value = '';
    stopped.value = false;
    const all = speeds();
    const now = take(heads(), all);
    const order = [...all].sort((a, b) => Math.abs(a - target()) - Math.abs(b - target()));
    const sensitive = new Set(sensitiveSpeeds(all, target()));
    const each = (of: readonly number[], wanted: (h: SweptHead, speed: number) => boolean) =>
      of.flatMap((speed) => now.flatMap((h) => (wanted(h, speed) ? [{ h, speed }] : [])));
    const curves = each(order, (h, speed) => !h.single.has(speed));
    const ranges = each(
      [...order.filter((s) => sensitive.has(s)), ...order.filter((s) => !sensitive.has(s))],
      (h, speed) =>
        (!runnerKnown(h.setup) && !h.points.has(speed)) || (sensitive.has(speed) && !h.sensitive.has(speed)),
    );
    asked.value = curves.length + ranges.length;
    done.value = 0;
    const counted = async (run: Promise<void>) => {
      try {
        await run;
      } catch (e) {
        if (own === round && !(e instanceof Cancelled)) problem.value = (e as Error).message;
      }
      if (own === round) done.value++;
    };
    await Promise.all(curves.map(({ h, speed }) => counted(runCurve(h, speed))));
    if (own !== round) return;
    await Promise.all(ranges.map(({ h, speed }) => counted(runRanges(h, speed, sensitive.has(speed)))));
  }
  function cancel(): void {
    round++;
    stopped.value = done.value < asked.value;
    asked.value = done.value;
    pool.cancel();
  }
  watch(
    () => JSON.stringify([heads(), speeds()]),
    () => void begin(),
    { immediate: true },
  );
  onScopeDispose(() => {
    round++;
    pool.close();
  });
  const curves = computed(() => heads().flatMap(({ id }) => (swept.has(id) ? [curveBy.get(id)!.value] : [])));
  return { pool, curves, asked, done, problem, stopped, begin, cancel };
}
