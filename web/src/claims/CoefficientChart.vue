<script setup lang="ts">
import { usualBest, type BandPoint, type PointResult } from '@alluvium/core';
import { bisector, max } from 'd3-array';
import { computed } from 'vue';
import ChartBand from '../charts/ChartBand.vue';
import ChartCurve from '../charts/ChartCurve.vue';
import ChartFrame from '../charts/ChartFrame.vue';
import ChartPoints from '../charts/ChartPoints.vue';
import type { Axis, Point } from '../charts/chart.js';
import { DIAMOND } from '../charts/marks.js';

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
const colour = computed(() => (props.side === 'intake' ? 'var(--intake)' : 'var(--exhaust)'));
const reach = computed(() => (max([...props.claimed, ...props.measured].map((p) => p.liftRatio ?? 0)) ?? 0.35) * 1.06);
type On = 'minimum' | 'curtain';
const of = (points: readonly PointResult[], on: On) =>
  points.flatMap((p): Point[] =>
    p.liftRatio === undefined || !p.coefficients[on] ? [] : [[p.liftRatio, p.coefficients[on].value]],
  );
const top = computed(() => Math.max(1.12, ...of(props.claimed, 'minimum').map(([, c]) => c * 1.05)));
const x = computed((): Axis => ({ from: 0, to: reach.value, digits: 2, name: 'L/D' }));
const minimum = computed((): Axis => ({ from: 0.4, to: top.value, digits: 2, ticks: [0.4, 0.6, 0.8, 1] }));
const curtain: Axis = { from: 0.2, to: 0.95, digits: 2, ticks: [0.2, 0.4, 0.6, 0.8] };
const usual = computed(() =>
  Array.from({ length: 40 }, (_, i) => 0.03 + ((reach.value - 0.03) * i) / 39).map((r): Point => [r, usualBest(r)]),
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
  return Array.from({ length: 61 }, (_, i) => (reach.value * i) / 60).map((r): Point => [r, Math.min(1, at(r))]);
});
const limited = computed(() => edge.value.some(([, c]) => c < 0.999));
const impossible = computed(() => edge.value.map(([r]) => [r, 1, top.value] as const));
const known = computed(() => props.library.filter((p) => p.liftRatio <= reach.value));
</script>

<template>
  <div>
    <ChartFrame
      label="Coefficients on the minimum area"
      :x="{ ...x, ticks: 0 }"
      :y="minimum"
      :height="190"
      :most="560"
      :top="10"
      :bottom="10"
    >
      <template #behind>
        <ChartBand :points="impossible" fill="var(--loss)" :opacity="0.14" />
      </template>
      <template #default="c">
        <text :x="c.left + 8" :y="c.y(1) - 6" class="aside no">no valve can</text>
        <text v-if="limited" :x="c.right - 6" :y="c.y(1) + 16" text-anchor="end" class="aside">
          beyond the usual for this {{ place }}
        </text>
        <ChartCurve :points="edge" stroke="var(--loss)" :width="1" still />
        <text :x="c.left + 6" :y="c.bottom - 6" class="aside">on the minimum area</text>
        <ChartPoints name="measured" :points="of(measured, 'minimum')" :fill="colour" stroke="none" />
        <ChartPoints name="claimed" :points="of(claimed, 'minimum')" :mark="DIAMOND" :width="1.8" />
      </template>
    </ChartFrame>
    <ChartFrame
      label="Coefficients on the curtain area against the library"
      :x="x"
      :y="curtain"
      :height="190"
      :most="560"
      :top="10"
      :bottom="26"
    >
      <template #default="c">
        <!-- All dots of the library as one line of dots: over a thousand elements would hold the page up. -->
        <path
          :d="known.map((p) => `M${c.x(p.liftRatio).toFixed(1)},${c.y(p.coefficient).toFixed(1)}h0`).join('')"
          class="library"
        />
        <ChartCurve name="best that is usual" :points="usual" stroke="var(--slate)" :width="1" dash="5 4" still />
        <text :x="c.left + 6" :y="c.bottom - 8" class="aside">
          on the curtain area; grey: your library, dashed: the best that is usual
        </text>
        <ChartPoints name="measured" :points="of(measured, 'curtain')" :fill="colour" stroke="none" />
        <ChartPoints name="claimed" :points="of(claimed, 'curtain')" :mark="DIAMOND" :width="1.8" />
      </template>
    </ChartFrame>
  </div>
</template>

<style scoped>
.library {
  fill: none;
  stroke: var(--slate);
  stroke-width: 4;
  stroke-linecap: round;
  stroke-opacity: 0.5;
}
text.no {
  fill: var(--loss);
}
</style>
