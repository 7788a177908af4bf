<script setup lang="ts">
import { flowCurve, formatNumber, type FlowPoint } from '@alluvium/core';
import { useElementSize } from '@vueuse/core';
import { max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { computed, useTemplateRef } from 'vue';
import { spreadLabels, unitTicks } from '../charts/ticks.js';
import { useSettings } from '../state/settings.js';
import type { Behind } from './runContext.js';

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
const box = useTemplateRef<HTMLElement>('box');
const { width: w, height: h } = useElementSize(box);
const width = computed(() => Math.max(300, w.value || 960));
const height = computed(() => Math.max(140, h.value || 290));
const LEFT = 60;
const RIGHT = 70;
const TOP = 14;
const BOTTOM = 30;
const NAME = 150;

const top = computed(
  () => (max([...props.points, ...props.behind.flatMap((b) => b.points)].map((p) => p.flow)) ?? 0.0944) * 1.08,
);
const x = computed(() =>
  scaleLinear([0, props.topLift * 1.02], [LEFT, width.value - (props.behind.length ? NAME : RIGHT)]),
);
const y = computed(() =>
  scaleLinear(
    [0, Math.max(top.value, (props.called ?? 0) * 1.06, (props.now?.flow ?? 0) * 1.06)],
    [height.value - BOTTOM, TOP],
  ),
);
const path = (points: readonly FlowPoint[]): string => {
  const curve = flowCurve(points);
  if (!curve) return '';
  const lifts = Array.from(
    { length: 81 },
    (_, i) => curve.first.lift + (i / 80) * (curve.last.lift - curve.first.lift),
  );
  return line<number>(
    (l) => x.value(l),
    (l) => y.value(curve.at(l)!),
  )(lifts)!;
};
const ticksOf = (kind: 'lift' | 'flow', scale: ReturnType<typeof scaleLinear<number>>, count: number) =>
  unitTicks(0, scale.domain()[1]!, kind, settings.system, count)
    .filter((v) => v > 0)
    .map((v) => ({
      at: scale(v),
      text: formatNumber(v, kind, settings.figures, kind === 'flow' ? { digits: 0 } : {}),
    }));
const xTicks = computed(() => ticksOf('lift', x.value, 7));
const yTicks = computed(() => ticksOf('flow', y.value, 4));
/** Names at the right end of their curves, kept apart. */
const names = computed(() => {
  const ends = props.behind.map((b) => b.points.reduce((far, p) => (p.lift > far.lift ? p : far)));
  const heights = spreadLabels(
    ends.map((p) => y.value(p.flow) + 5),
    19,
    TOP + 10,
    height.value - BOTTOM,
  );
  return props.behind.map((b, i) => ({ name: b.name, x: x.value(ends[i]!.lift) + 12, y: heights[i]! }));
});
</script>

<template>
  <div ref="box" class="box">
    <svg
      :width="width"
      :height="height"
      :viewBox="`0 0 ${width} ${height}`"
      role="img"
      aria-label="Flow recorded so far over lift"
    >
      <g v-for="t in yTicks" :key="t.text">
        <line :x1="LEFT" :x2="width - 20" :y1="t.at" :y2="t.at" class="grid" />
        <text :x="LEFT - 10" :y="t.at + 5" text-anchor="end" class="tick">{{ t.text }}</text>
      </g>
      <text v-for="t in xTicks" :key="t.text" :x="t.at" :y="height - 6" text-anchor="middle" class="tick">
        {{ t.text }}
      </text>
      <path v-for="b in behind" :key="b.name" :d="path(b.points)" class="behind" />
      <text v-for="n in names" :key="n.name" :x="n.x" :y="n.y" class="name">{{ n.name }}</text>
      <g v-if="called !== undefined">
        <path :d="`M${LEFT + 18},${y(called) - 9}l9,9l-9,9l-9,-9z`" class="called" />
        <text :x="LEFT + 36" :y="y(called) + 6" class="name call">
          called {{ formatNumber(called, 'flow', settings.figures, { digits: 0 }) }} at peak
        </text>
      </g>
      <path :d="path(points)" class="own" />
      <g v-for="p in points" :key="p.lift">
        <circle :cx="x(p.lift)" :cy="y(p.flow)" r="6" :class="{ noisy: p.noisy }" class="dot" />
      </g>
      <line v-if="now" :x1="x(now.lift)" :x2="x(now.lift)" :y1="TOP" :y2="height - BOTTOM" class="here" />
      <circle v-if="now?.flow !== undefined" :cx="x(now.lift)" :cy="y(now.flow)" r="8" class="live" />
    </svg>
  </div>
</template>

<style scoped>
.box {
  min-width: 0;
  min-height: 0;
  height: 100%;
  overflow: hidden;
}
svg {
  display: block;
}
.grid {
  stroke: var(--rule);
}
.tick {
  fill: var(--slate);
  font-size: 16px;
}
.own {
  fill: none;
  stroke: #e9d8a6;
  stroke-width: 3.5;
}
.dot {
  fill: #e9d8a6;
}
.dot.noisy {
  fill: var(--paper);
  stroke: var(--caution);
  stroke-width: 3;
}
.behind {
  fill: none;
  stroke: var(--slate);
  stroke-width: 2;
  stroke-dasharray: 7 5;
}
.name {
  font: italic 16px var(--serif);
  fill: var(--slate);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 5px;
}
.called {
  fill: none;
  stroke: var(--caution-line);
  stroke-width: 2;
}
.call {
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
