import { differenceOf, responsesAt, workingWeights, type Difference } from '@alluvium/core';
import { computed, onScopeDispose, shallowRef, watch } from 'vue';
import type { ReadyHead } from './ready.js';
import type { Curve } from './useSweep.js';

// find()!: the speeds are those both were run at.

export interface HeadDifference {
  readonly head: ReadyHead;
  readonly d: Difference;
  /** At which both settled. */
  readonly speeds: readonly number[];
}

/** What a difference is made of: it is made anew where one of these is another. */
type Made = readonly [a: Curve, b: Curve, working: readonly [number, number]];

function made(a: ReadyHead, b: ReadyHead, [base, own, working]: Made): Omit<HeadDifference, 'head'> | undefined {
  if (!base.band || !own.band) return undefined;
  const speeds = base.points.map((p) => p.speed).filter((s) => own.points.some((q) => q.speed === s));
  if (speeds.length < 2) return undefined;
  const of = (h: ReadyHead, c: Curve) => {
    const torque = speeds.map((speed) => c.points.find((p) => p.speed === speed)!.torque);
    return { torque, responses: responsesAt(h.setup, c.sensitive, speeds, torque) };
  };
  return { d: differenceOf(of(a, base), of(b, own), workingWeights(speeds, ...working)), speeds };
}

/** Every other head against the first, made one at a time so that the page can be used between them. */
export function useDifferences(
  heads: () => readonly ReadyHead[],
  curves: () => ReadonlyMap<string, Curve>,
  working: () => readonly [number, number],
) {
  const kept = shallowRef<ReadonlyMap<string, { readonly from: Made; readonly difference: ReturnType<typeof made> }>>(
    new Map(),
  );
  let left = false;
  let going = false;
  onScopeDispose(() => (left = true));

  /** The first difference that is not what its curves are now. */
  function next(): (() => void) | undefined {
    const [a, ...others] = heads();
    const base = a && curves().get(a.id);
    if (!base) return undefined;
    for (const b of others) {
      const own = curves().get(b.id);
      if (!own) continue;
      const from: Made = [base, own, working()];
      const was = kept.value.get(b.id)?.from;
      if (was?.every((x, i) => x === from[i])) continue;
      return () => (kept.value = new Map(kept.value).set(b.id, { from, difference: made(a, b, from) }));
    }
    return undefined;
  }
  async function go(): Promise<void> {
    if (going) return;
    going = true;
    for (let make = next(); make; make = next()) {
      await new Promise((done) => setTimeout(done));
      if (left) return;
      make();
    }
    going = false;
  }
  watch([heads, curves, working], () => void go(), { immediate: true });
  return computed(() => {
    const [, ...others] = heads();
    return others.flatMap((head): HeadDifference[] => {
      const difference = kept.value.get(head.id)?.difference;
      return difference ? [{ head, ...difference }] : [];
    });
  });
}
