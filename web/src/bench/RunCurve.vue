<script setup lang="ts">
import { flowCurve, formatNumber, type FlowPoint } from '@alluvium/core';
import { max } from 'd3-array';
import { computed } from 'vue';
import { pointsAlong } from '../charts/along.js';
import ChartCurve from '../charts/ChartCurve.vue';
import ChartFrame from '../charts/ChartFrame.vue';
import ChartNames from '../charts/ChartNames.vue';
import ChartPoints from '../charts/ChartPoints.vue';
import type { Axis, Point } from '../charts/chart.js';
import { useSettings } from '../state/settings.js';
import type { Behind } from './runContext.js';

// points[]!: a mark is drawn of each point.

/** The curve as it is recorded, with what it is held against behind it. Drawn to be read from two metres. */
const props = defineProps<{
  points: readonly (FlowPoint & { noisy?: boolean })[];
  behind: readonly Behind[];
  /** Peak called before the test, m³/s. */
  called?: number | undefined;
  /** The lift called now, and what is read there. */
  now?: { lift: number; flow: number | undefined } | undefined;
  topLift: number;
}>();
const settings = useSettings();
const NAME = 150;
const top = computed(
  () => (max([...props.points, ...props.behind.flatMap((b) => b.points)].map((p) => p.flow)) ?? 0.0944) * 1.08,
);
const x = computed((): Axis => ({ from: 0, to: props.topLift * 1.02, kind: 'lift', name: 'lift' }));
const y = computed((): Axis => {
  const most = Math.max(top.value, (props.called ?? 0) * 1.06, (props.now?.flow ?? 0) * 1.06);
  return { from: 0, to: most, kind: 'flow', digits: 0 };
});
const rows = (points: readonly FlowPoint[]) => points.map((p): Point => [p.lift, p.flow]);
/** As far as this test goes. */
const along = (points: readonly FlowPoint[]) => {
  const curve = flowCurve(points);
  return curve ? pointsAlong(curve).filter(([lift]) => lift <= x.value.to) : [];
};
/** Each curve behind, drawn as far as this test goes. */
const drawn = computed(() => props.behind.map((b) => ({ name: b.name, line: along(b.points), rows: rows(b.points) })));
const names = computed(() =>
  drawn.value.flatMap(({ name, line }) => {
    const end = line.at(-1);
    return end ? [{ name, x: end[0], y: end[1] }] : [];
  }),
);
</script>

<template>
  <ChartFrame
    class="recorded"
    label="Flow recorded so far over lift"
    :x="x"
    :y="y"
    :height="290"
    fills
    keyless
    :left="60"
    :right="behind.length ? NAME : 70"
    :top="14"
    :bottom="30"
  >
    <template #default="c">
      <ChartCurve
        v-for="b in drawn"
        :key="b.name"
        :name="b.name"
        :points="b.line"
        :rows="b.rows"
        stroke="var(--slate)"
        :width="2"
        dash="7 5"
      />
      <!-- Still: a name that is pressed would take the keys from the run. -->
      <ChartNames :labels="names" still tone="name" />
      <g v-if="called !== undefined">
        <path :d="`M${c.left + 18},${c.y(called) - 9}l9,9l-9,9l-9,-9z`" class="called" />
        <text :x="c.left + 36" :y="c.y(called) + 6" class="name call">
          called {{ formatNumber(called, 'flow', settings.figures, { digits: 0 }) }} at peak
        </text>
      </g>
      <ChartCurve name="recorded" :points="along(points)" :rows="rows(points)" stroke="#e9d8a6" :width="3.5" />
      <ChartPoints
        :points="rows(points)"
        :size="6"
        stroke="none"
        fill="#e9d8a6"
        :width="3"
        :each="(i) => (points[i]!.noisy ? { fill: 'var(--paper)', stroke: 'var(--caution)' } : {})"
        still
      />
      <line v-if="now" :x1="c.x(now.lift)" :x2="c.x(now.lift)" :y1="c.top" :y2="c.bottom" class="here" />
      <circle v-if="now?.flow !== undefined" :cx="c.x(now.lift)" :cy="c.y(now.flow)" r="8" class="live" />
    </template>
  </ChartFrame>
</template>

<style scoped>
.recorded {
  --chart-text: 16px;
}
.recorded :deep(text.name) {
  font-size: 16px;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 5px;
}
.called {
  fill: none;
  stroke: var(--caution-line);
  stroke-width: 2;
}
.recorded text.call {
  fill: var(--caution);
}
.here {
  stroke: var(--rule-strong);
  stroke-dasharray: 2 5;
}
.live {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
