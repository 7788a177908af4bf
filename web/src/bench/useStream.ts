import { mean, steadiness, type Sample, type Steadiness, type SteadyLimits } from '@alluvium/core';
import type { Instrument } from '@alluvium/records';
import { computed, ref, type ComputedRef } from 'vue';
import { SILENCE_MS, useBenchLive } from './live.js';

/** After a move the stream of the moment before does not count, s. */
const AFTER_MOVE = 0.3;
/** Samples beside the flow that make one figure: two seconds of them. */
const FIGURE = 40;

export interface Stream {
  readonly bench: ComputedRef<Instrument | undefined>;
  /** No flow bench is connected: figures are typed. */
  readonly manual: ComputedRef<boolean>;
  /** How steady the reading is, of this very point. */
  readonly state: ComputedRef<Steadiness & { readonly silent: boolean }>;
  readonly depression: ComputedRef<number | undefined>;
  /** Range the bench says it is on. */
  readonly range: ComputedRef<string | undefined>;
  readonly dial: ComputedRef<number | undefined>;
  readonly swirl: ComputedRef<number | undefined>;
  /** Samples of a quantity since this point was called. */
  readonly fresh: (name: string) => readonly Sample[];
  /** From now on only samples of a new point count. */
  readonly restart: () => void;
}

/** What the instruments show of the point that is called. `reads` names the quantity that is recorded. */
export function useStream(reads: () => string, limits: () => SteadyLimits | undefined): Stream {
  const live = useBenchLive();
  const since = ref(0);
  const bench = computed(() => live.ofKind('flow bench'));
  const fresh = (name: string): readonly Sample[] => {
    void live.ticks;
    return live.samples(name).filter((s) => s.at >= since.value);
  };
  return {
    bench,
    manual: computed(() => bench.value === undefined),
    state: computed(() => ({
      ...steadiness(fresh(reads()), limits()),
      silent: bench.value !== undefined && live.silentFor(bench.value.id) > SILENCE_MS,
    })),
    depression: computed(() => {
      const within = fresh('depression').slice(-FIGURE);
      return within.length ? mean(within.map((s) => s.value)) : undefined;
    }),
    range: computed(() => {
      void live.ticks;
      return bench.value && live.mark(bench.value.id).range;
    }),
    dial: computed(() => {
      void live.ticks;
      return live.ofKind('dial indicator') ? live.latest('lift') : undefined;
    }),
    swirl: computed(() => {
      const turned = fresh('swirl');
      return turned.length >= 5 ? mean(turned.slice(-FIGURE).map((s) => s.value)) : undefined;
    }),
    fresh,
    restart: () => (since.value = (live.samples(reads()).at(-1)?.at ?? 0) + AFTER_MOVE),
  };
}
