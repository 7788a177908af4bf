// @vitest-environment happy-dom
import type * as Core from '@alluvium/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, nextTick, ref, shallowRef, watch, type EffectScope } from 'vue';
import type { ReadyHead } from './ready.js';
import { useDifferences } from './useDifferences.js';
import type { Curve } from './useSweep.js';

const core = vi.hoisted(() => ({ differences: 0 }));
vi.mock('@alluvium/core', async (original) => {
  const real = await original<typeof Core>();
  return {
    ...real,
    differenceOf: (...of: Parameters<typeof real.differenceOf>) => {
      core.differences++;
      return real.differenceOf(...of);
    },
  };
});

const SPEEDS = [50, 60, 70];
const setup = { assumed: [{ id: 'intakeSheet', leaf: 'sheet', half: 0, value: 1 }] };
const head = (id: string) => ({ id, letter: id.toUpperCase(), setup }) as unknown as ReadyHead;
const curve = (id: string, torque: number) =>
  ({
    id,
    points: SPEEDS.map((speed) => ({ speed, torque, ok: true })),
    sensitive: [{ speed: 50, of: [] }],
    band: SPEEDS.map(() => ({ low: torque - 5, high: torque + 5 })),
  }) as unknown as Curve;

describe('the differences of a lineup', () => {
  const heads = ref<ReadyHead[]>([]);
  const curves = shallowRef<ReadonlyMap<string, Curve>>(new Map());
  const working = shallowRef<readonly [number, number]>([50, 70]);
  let scope: EffectScope;
  beforeEach(() => {
    vi.useFakeTimers();
    core.differences = 0;
    heads.value = [head('a'), head('b'), head('c')];
    curves.value = new Map([
      ['a', curve('a', 300)],
      ['b', curve('b', 310)],
      ['c', curve('c', 290)],
    ]);
    scope = effectScope();
  });
  afterEach(() => {
    scope.stop();
    vi.useRealTimers();
  });
  const differences = () =>
    scope.run(() =>
      useDifferences(
        () => heads.value,
        () => curves.value,
        () => working.value,
      ),
    )!;

  it('come one after the other, so that none holds up the page for all', async () => {
    const found = differences();
    expect(found.value).toEqual([]);
    const seen: string[][] = [];
    scope.run(() => watch(found, (now) => seen.push(now.map((x) => x.head.id)), { flush: 'sync' }));
    await vi.runAllTimersAsync();
    expect(seen).toEqual([['b'], ['b', 'c']]);
    expect(found.value.map(({ d }) => Math.round(d.mean))).toEqual([10, -10]);
  });
  it('only that of a head whose curve is another is made anew', async () => {
    const found = differences();
    await vi.runAllTimersAsync();
    expect(core.differences).toBe(2);
    curves.value = new Map(curves.value).set('c', curve('c', 320));
    await vi.runAllTimersAsync();
    expect(core.differences).toBe(3);
    expect(found.value.map(({ d }) => Math.round(d.mean))).toEqual([10, 20]);
    // A head renamed, or put elsewhere, is not run again.
    heads.value = [head('a'), head('c'), head('b')];
    await vi.runAllTimersAsync();
    expect(core.differences).toBe(3);
    expect(found.value.map((x) => x.head.id)).toEqual(['c', 'b']);
  });
  it('a head without a range has none, and what is left behind is not made', async () => {
    curves.value = new Map(curves.value).set('b', { ...curve('b', 310), band: undefined } as unknown as Curve);
    const found = differences();
    await vi.runAllTimersAsync();
    expect(found.value.map((x) => x.head.id)).toEqual(['c']);
    curves.value = new Map(curves.value).set('b', curve('b', 310));
    await nextTick();
    scope.stop();
    await vi.runAllTimersAsync();
    expect(core.differences).toBe(1);
  });
});
