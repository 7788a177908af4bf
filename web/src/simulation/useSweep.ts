import {
  bandOf,
  responsesAt,
  runnerKnown,
  sensitiveSpeeds,
  type Sensitivity,
  type SimulationSetup,
  type SpeedPoint,
  type SpeedResult,
  type TorqueBand,
} from '@alluvium/core';
import { computed, onScopeDispose, reactive, ref, watch } from 'vue';
import { Cancelled, Pool } from './pool.js';

/** One head as far as it has been run. */
export interface SweptHead {
  readonly id: string;
  readonly setup: SimulationSetup;
  /** By speed: the curve's own point, the mean over an assumed runner where that is done, else at one length. */
  readonly points: Map<number, SpeedPoint>;
  /** At the likeliest runner alone. */
  readonly single: Map<number, SpeedPoint>;
  readonly sensitive: Map<number, readonly Sensitivity[]>;
}

/** A head's finished curve over the speeds that settled. */
export interface Curve {
  readonly id: string;
  readonly points: readonly SpeedResult[];
  readonly failed: readonly { readonly speed: number; readonly reason: string }[];
  readonly single: readonly SpeedResult[];
  /** Of the torque, where the assumptions were run. */
  readonly band?: readonly TorqueBand[];
  /** What the assumptions do, at the speeds where they were run. */
  readonly sensitive: readonly { readonly speed: number; readonly of: readonly Sensitivity[] }[];
  /** Every speed was averaged over the runner. */
  readonly whole: boolean;
}

export function curveOf(head: SweptHead, speeds: readonly number[]): Curve {
  const all = speeds.flatMap((speed) => {
    const point = head.points.get(speed) ?? head.single.get(speed);
    return point ? [point] : [];
  });
  const points = all.filter((p): p is SpeedResult => p.ok);
  const found = [...head.sensitive].map(([speed, of]) => ({ speed, of }));
  const asked = points.map((p) => p.speed);
  const responses =
    found.length >= 2
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

/** Runs every head over the speeds, the speed wanted first, then the curves, then what is not known. */
export function useSweep(
  heads: () => readonly { readonly id: string; readonly setup: SimulationSetup }[],
  speeds: () => readonly number[],
  target: () => number,
) {
  const pool = new Pool();
  const swept = reactive(new Map<string, SweptHead>());
  const asked = ref(0);
  const done = ref(0);
  const problem = ref('');
  const stopped = ref(false);
  const keys = new Map<string, string>();
  let round = 0;

  function begin(): void {
    const own = ++round;
    pool.cancel();
    problem.value = '';
    stopped.value = false;
    const now = heads();
    const all = speeds();
    const key = (setup: SimulationSetup) => JSON.stringify([setup, all]);
    for (const id of [...swept.keys()]) if (!now.some((h) => h.id === id)) swept.delete(id);
    for (const h of now) {
      // A head that did not change keeps what was run.
      if (swept.has(h.id) && keys.get(h.id) === key(h.setup)) continue;
      keys.set(h.id, key(h.setup));
      swept.set(h.id, { ...h, points: new Map(), single: new Map(), sensitive: new Map() });
    }
    const order = [...all].sort((a, b) => Math.abs(a - target()) - Math.abs(b - target()));
    const jobs: (() => Promise<void>)[] = [];
    const each = (run: (head: SweptHead) => (() => Promise<void>)[]) => {
      for (const { id } of now) jobs.push(...run(swept.get(id)!));
    };
    for (const speed of order)
      each((h) =>
        h.single.has(speed)
          ? []
          : [
              async () => {
                h.single.set(speed, await pool.ask<'single'>({ kind: 'single', setup: h.setup, speed }));
              },
            ],
      );
    for (const speed of sensitiveSpeeds(all, target()))
      each((h) =>
        h.sensitive.has(speed)
          ? []
          : [
              async () => {
                const of = await pool.ask<'sensitivities'>({ kind: 'sensitivities', setup: h.setup, speed });
                if (typeof of !== 'string') h.sensitive.set(speed, of);
              },
            ],
      );
    for (const speed of order)
      each((h) =>
        h.points.has(speed) || runnerKnown(h.setup)
          ? []
          : [
              async () => {
                const { point } = await pool.ask<'sweep'>({ kind: 'sweep', setup: h.setup, speed });
                h.points.set(speed, point);
              },
            ],
      );
    asked.value = jobs.length;
    done.value = 0;
    for (const job of jobs)
      job().then(
        () => {
          if (own === round) done.value++;
        },
        (e: unknown) => {
          if (own !== round || e instanceof Cancelled) return;
          done.value++;
          problem.value = (e as Error).message;
        },
      );
  }
  function cancel(): void {
    round++;
    stopped.value = done.value < asked.value;
    asked.value = done.value;
    pool.cancel();
  }
  watch(() => JSON.stringify([heads(), speeds()]), begin, { immediate: true });
  onScopeDispose(() => pool.close());
  const curves = computed(() =>
    heads().flatMap(({ id }) => {
      const head = swept.get(id);
      return head ? [curveOf(head, speeds())] : [];
    }),
  );
  return { pool, curves, asked, done, problem, stopped, begin, cancel };
}
