<script setup lang="ts">
import { usualBest, type BandPoint, type PointResult } from '@alluvium/core';
import { bisector, max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { area, line } from 'd3-shape';
import { computed } from 'vue';
import { vLegible } from '../charts/legible.js';
import { useSettings } from '../state/settings.js';

/**
 * Coefficients against L/D: on the minimum area with what no valve passes shaded, and a line above which the tightest
 * place of the port would run beyond the usual; and on the curtain area with every head of the library behind.
 */
const props = defineProps<{
  claimed: readonly PointResult[];
  measured: readonly PointResult[];
  library: readonly Pick<BandPoint, 'liftRatio' | 'coefficient'>[];
  /** Coefficients at which the air at the tightest place could go no faster, by lift ratio. */
  ceiling: readonly { readonly liftRatio: number; readonly coefficient: number }[];
  /** What that place is called. */
  place: string | undefined;
  side: 'intake' | 'exhaust';
}>();
const settings = useSettings();
const W = 560;
const H = 190;
const LEFT = 42;
const colour = computed(() => (props.side === 'intake' ? 'var(--intake)' : 'var(--exhaust)'));
const reach = computed(() => (max([...props.claimed, ...props.measured].map((p) => p.liftRatio ?? 0)) ?? 0.35) * 1.06);
const x = computed(() => scaleLinear([0, reach.value], [LEFT, W - 16]));
type On = 'minimum' | 'curtain';
const of = (points: readonly PointResult[], on: On) =>
  points.flatMap((p) =>
    p.liftRatio === undefined || !p.coefficients[on] ? [] : [{ r: p.liftRatio, c: p.coefficients[on].value }],
  );
const top = computed(() => Math.max(1.12, ...of(props.claimed, 'minimum').map((p) => p.c * 1.05)));
const yMin = computed(() => scaleLinear([0.4, top.value], [H - 10, 10]));
const yCurtain = computed(() => scaleLinear([0.2, 0.95], [H - 26, 10]));
const usual = computed(() =>
  line<number>(
    (r) => x.value(r),
    (r) => yCurtain.value(usualBest(r)),
  )(Array.from({ length: 40 }, (_, i) => 0.03 + ((reach.value - 0.03) * i) / 39))!,
);
/** A coefficient of one, or that of the tightest place where it is lower. */
const edge = computed(() => {
  const known = [...props.ceiling].sort((a, b) => a.liftRatio - b.liftRatio);
  const at = (r: number): number => {
    const i = bisector((p: (typeof known)[number]) => p.liftRatio).left(known, r);
    const [before, after] = [known[i - 1], known[i]];
    if (!after) return before?.coefficient ?? 1;
    if (!before) return 1;
    const share = (r - before.liftRatio) / (after.liftRatio - before.liftRatio);
    return before.coefficient + share * (after.coefficient - before.coefficient);
  };
  return Array.from({ length: 61 }, (_, i) => (reach.value * i) / 60).map((r) => ({ r, c: Math.min(1, at(r)) }));
});
const limited = computed(() => edge.value.some((p) => p.c < 0.999));
const impossible = computed(() =>
  area<{ r: number; c: number }>()
    .x((p) => x.value(p.r))
    .y0(yMin.value(top.value))
    .y1(() => yMin.value(1))(edge.value)!,
);
const edgeLine = computed(() =>
  line<{ r: number; c: number }>()
    .x((p) => x.value(p.r))
    .y((p) => yMin.value(p.c))(edge.value)!,
);
/** All dots of the library as one line of dots: over a thousand elements would hold the page up. */
const dots = computed(() =>
  props.library
    .filter((p) => p.liftRatio <= reach.value)
    .map((p) => `M${x.value(p.liftRatio).toFixed(1)},${yCurtain.value(p.coefficient).toFixed(1)}h0`)
    .join(''),
);
</script>

<template>
  <div>
    <svg v-legible :viewBox="`0 0 ${W} ${H}`" :width="W" role="img" aria-label="Coefficients on the minimum area">
      <path :d="impossible" class="impossible" />
      <text :x="LEFT + 8" :y="yMin(1) - 6" class="word loss">no valve can</text>
      <text v-if="limited" :x="W - 22" :y="yMin(1) + 16" text-anchor="end" class="word">
        beyond the usual for this {{ place }}
      </text>
      <g v-for="t in [0.4, 0.6, 0.8, 1]" :key="t">
        <line :x1="LEFT" :x2="W - 16" :y1="yMin(t)" :y2="yMin(t)" class="grid" />
        <text :x="LEFT - 7" :y="yMin(t) + 4" text-anchor="end">{{ settings.say.number(t, 1) }}</text>
      </g>
      <path :d="edgeLine" class="edge" />
      <text :x="LEFT + 6" :y="H - 16" class="word">on the minimum area</text>
      <circle v-for="p in of(measured, 'minimum')" :key="`m${p.r}`" :cx="x(p.r)" :cy="yMin(p.c)" r="4" :fill="colour" />
      <path
        v-for="p in of(claimed, 'minimum')"
        :key="`c${p.r}`"
        :d="`M${x(p.r)},${yMin(p.c) - 6}l6,6l-6,6l-6,-6z`"
        class="claim"
      />
    </svg>
    <svg
      v-legible
      :viewBox="`0 0 ${W} ${H}`"
      :width="W"
      role="img"
      aria-label="Coefficients on the curtain area against the library"
    >
      <g v-for="t in [0.2, 0.4, 0.6, 0.8]" :key="t">
        <line :x1="LEFT" :x2="W - 16" :y1="yCurtain(t)" :y2="yCurtain(t)" class="grid" />
        <text :x="LEFT - 7" :y="yCurtain(t) + 4" text-anchor="end">{{ settings.say.number(t, 1) }}</text>
      </g>
      <path :d="dots" class="library" />
      <path :d="usual" class="usual" />
      <text :x="LEFT + 6" :y="H - 34" class="word">
        on the curtain area; grey: your library, dashed: the best that is usual
      </text>
      <circle
        v-for="p in of(measured, 'curtain')"
        :key="`m${p.r}`"
        :cx="x(p.r)"
        :cy="yCurtain(p.c)"
        r="4"
        :fill="colour"
      />
      <path
        v-for="p in of(claimed, 'curtain')"
        :key="`c${p.r}`"
        :d="`M${x(p.r)},${yCurtain(p.c) - 6}l6,6l-6,6l-6,-6z`"
        class="claim"
      />
      <text v-for="t in x.ticks(6)" :key="`x${t}`" :x="x(t)" :y="H - 6" text-anchor="middle">
        {{ settings.say.number(t, 2) }}
      </text>
    </svg>
  </div>
</template>

<style scoped>
svg {
  display: block;
}
.impossible {
  fill: var(--loss);
  fill-opacity: 0.14;
}
.edge {
  fill: none;
  stroke: var(--loss);
}
.grid {
  stroke: var(--rule);
}
.library {
  fill: none;
  stroke: var(--slate);
  stroke-width: 4;
  stroke-linecap: round;
  stroke-opacity: 0.5;
}
.usual {
  fill: none;
  stroke: var(--slate);
  stroke-dasharray: 5 4;
}
.claim {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.8;
}
text {
  font-size: max(13px, calc(12px * var(--per-px, 0)));
  fill: var(--slate);
}
.word {
  font: italic max(14px, calc(13px * var(--per-px, 0))) var(--serif);
}
.word.loss {
  fill: var(--loss);
}
</style>
