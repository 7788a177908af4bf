import type { Seed, SimulationSetup, SpeedResult } from '@alluvium/core';
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import { Cancelled, Pool } from './pool.js';

interface At {
  readonly speed: number;
  readonly power: number;
  readonly torque: number;
}

/** Both engines at a speed: on the coarse grid at first, then as any point is run. */
export interface Beside {
  readonly speed: number;
  readonly now: At;
  readonly then: At;
  /** Run to its end on the grid of every other curve. */
  readonly sure: boolean;
}

const byKey = (setup: SimulationSetup): string => JSON.stringify(setup);

/**
 * An engine as it is and as it would be, over speed. A first look comes from four cycles of 30 mm begun from the settled
 * state of the engine as it is, by difference; the runs proper take its place as they come.
 */
export function useWhatIf(
  both: () => { readonly now: SimulationSetup; readonly then: SimulationSetup; readonly changed: boolean },
  speeds: () => readonly number[],
  target: () => number,
  say: (speed: number) => string,
) {
  const pool = new Pool();
  /** Short runs alone: they are never stopped, only left unread, so that their workers stay warm. */
  const quick = new Pool(2);
  onScopeDispose(() => {
    pool.close();
    quick.close();
  });
  const settled = shallowRef<ReadonlyMap<number, { readonly point: SpeedResult; readonly seed: Seed }>>(new Map());
  let settledOf = '';
  const looked = shallowRef<ReadonlyMap<number, SpeedResult>>(new Map());
  const before = shallowRef<ReadonlyMap<number, SpeedResult>>(new Map());
  const after = shallowRef<ReadonlyMap<number, SpeedResult>>(new Map());
  const failed = ref<readonly string[]>([]);
  const trouble = ref('');
  const order = computed(() => [...speeds()].sort((a, b) => Math.abs(a - target()) - Math.abs(b - target())));
  let round = 0;
  let beforeOf = '';

  /** The engine as it is, settled on 30 mm at every speed: what a first look begins from. */
  async function prepare(): Promise<void> {
    const { now } = both();
    const key = byKey(now);
    if (settledOf !== key) {
      settledOf = key;
      settled.value = new Map();
    }
    await Promise.all(
      order.value.map(async (speed) => {
        if (settled.value.has(speed)) return;
        const { point, seed } = await quick.ask<'look'>({ kind: 'look', setup: now, speed });
        if (settledOf === key && point.ok && seed) settled.value = new Map(settled.value).set(speed, { point, seed });
      }),
    );
  }
  async function look(own: number): Promise<void> {
    await prepare();
    const { then } = both();
    await Promise.all(
      order.value.map(async (speed) => {
        const base = settled.value.get(speed);
        if (!base || own !== round) return;
        const { point } = await quick.ask<'look'>({ kind: 'look', setup: then, speed, from: base.seed }, true);
        if (own === round && point.ok) looked.value = new Map(looked.value).set(speed, point);
      }),
    );
  }
  async function exact(own: number): Promise<void> {
    const { now, then } = both();
    const key = byKey(now);
    if (beforeOf !== key) before.value = new Map();
    beforeOf = key;
    const one = async (setup: SimulationSetup, to: typeof before, speed: number) => {
      const { point } = await pool.ask<'single'>({ kind: 'single', setup, speed });
      if (own !== round) return;
      if (point.ok) to.value = new Map(to.value).set(speed, point);
      else failed.value = [...failed.value, `${say(speed)}: ${point.reason}`];
    };
    await Promise.all(
      order.value.flatMap((speed) => [
        one(then, after, speed),
        ...(before.value.has(speed) ? [] : [one(now, before, speed)]),
      ]),
    );
  }
  async function run(): Promise<void> {
    const own = ++round;
    pool.cancel();
    looked.value = new Map();
    after.value = new Map();
    failed.value = [];
    trouble.value = '';
    if (!both().changed) return;
    try {
      await look(own);
      if (own === round) await exact(own);
    } catch (e) {
      if (own === round && !(e instanceof Cancelled)) trouble.value = (e as Error).message;
    }
  }
  watch(
    () => JSON.stringify(both()),
    () => void run(),
  );

  const beside = computed((): Beside[] =>
    speeds().flatMap((speed): Beside[] => {
      const [a, b] = [before.value.get(speed), after.value.get(speed)];
      if (a && b) return [{ speed, now: a, then: b, sure: true }];
      const [base, first] = [settled.value.get(speed)?.point, looked.value.get(speed)];
      if (!base || !first) return [];
      // What 30 mm adds to the one it adds to the other.
      const from = a ?? base;
      const then = {
        speed,
        power: from.power + first.power - base.power,
        torque: from.torque + first.torque - base.torque,
      };
      return [{ speed, now: from, then, sure: false }];
    }),
  );
  return { beside, failed, trouble, prepare };
}
