<script setup lang="ts">
import { format } from '@alluvium/core';
import { edgeOf, uncertaintyIn, type WayRead } from '@alluvium/records';
import { computed } from 'vue';
import ChartFrame from '../charts/ChartFrame.vue';
import ChartPoints from '../charts/ChartPoints.vue';
import ChartRule from '../charts/ChartRule.vue';
import type { Axis, Chart, Point } from '../charts/chart.js';
import { spreadLabels } from '../charts/ticks.js';
import { useSettings } from '../state/settings.js';

// edge[]!, ys[]!, on[]!: one for each way; the one before, from the second on.

/** Price against power: each way a cross as wide as it is unsure, the edge drawn through those nothing beats. */
const props = defineProps<{ ways: readonly WayRead[]; budget?: number | undefined; wanted?: number | undefined }>();
const settings = useSettings();
const points = computed(() => {
  const edge = edgeOf(props.ways);
  return props.ways.flatMap((w, i) => {
    if (!w.power || w.cost.lines.length === 0) return [];
    const u = uncertaintyIn(w.power, w.book);
    return [
      { name: w.way.name, cost: w.cost.sum.value, dc: 2 * w.cost.u, power: w.power.value, dp: 2 * u, edge: edge[i]! },
    ];
  });
});
const money = (v: number) => format(v, 'money', settings.figures);
const power = (v: number) => format(v, 'power', settings.figures, { digits: 0 });
const x = computed((): Axis => {
  const most = Math.max(props.budget ?? 0, ...points.value.map((p) => p.cost + p.dc)) * 1.08;
  return { from: 0, to: most || 1, say: money, name: 'cost' };
});
const y = computed((): Axis => {
  const all = [
    ...points.value.flatMap((p) => [p.power - p.dp, p.power + p.dp]),
    ...(props.wanted ? [props.wanted] : []),
  ];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const pad = (high - low) * 0.12 || 1;
  return { from: low - pad, to: high + pad, kind: 'power', digits: 0, unit: true };
});
/** The edge as steps: for more money never less power. */
function edge({ x, y }: Pick<Chart, 'x' | 'y'>): string {
  const on = points.value.filter((p) => p.edge).sort((a, b) => a.cost - b.cost);
  return on
    .map((p, i) => (i === 0 ? `M${x(p.cost)} ${y(p.power)}` : `L${x(p.cost)} ${y(on[i - 1]!.power)} V${y(p.power)}`))
    .join(' ');
}
function labels({ x, y, left, right, top, bottom }: Pick<Chart, 'x' | 'y' | 'left' | 'right' | 'top' | 'bottom'>) {
  const ys = spreadLabels(
    points.value.map((p) => y(p.power)),
    16,
    top + 2,
    bottom - 6,
  );
  return points.value.map((p, i) => {
    const before = x(p.cost) > left + (right - left) * 0.6;
    return { ...p, ly: ys[i]!, lx: x(p.cost) + (before ? -8 : 8), anchor: before ? 'end' : 'start' };
  });
}
const words = computed(
  () => `Price against power: ${points.value.map((p) => `${p.name} ${money(p.cost)}, ${power(p.power)}`).join('; ')}`,
);
</script>

<template>
  <ChartFrame v-if="points.length" label="Price against power" :words="words" :x="x" :y="y" :height="260" :left="54">
    <template #default="c">
      <ChartRule v-if="budget" :x="budget" stroke="var(--caution-line)" dash="4 4" text="budget" far />
      <ChartRule v-if="wanted" :y="wanted" stroke="var(--intake)" dash="4 4" text="target" />
      <path :d="edge(c)" fill="none" stroke="var(--ink)" stroke-width="1.4" stroke-dasharray="1 4" />
      <g v-for="p in labels(c)" :key="p.name">
        <path
          :d="`M${c.x(p.cost - p.dc)} ${c.y(p.power)}H${c.x(p.cost + p.dc)}M${c.x(p.cost)} ${c.y(p.power - p.dp)}V${c.y(p.power + p.dp)}`"
          stroke="var(--ink)"
          stroke-width="1.6"
        />
        <ChartPoints
          :name="p.name"
          :points="[[p.cost, p.power] as Point]"
          :fill="p.edge ? 'var(--ink)' : 'var(--paper)'"
        />
        <text :x="p.lx" :y="p.ly - 6" :text-anchor="p.anchor">{{ p.name }}</text>
      </g>
    </template>
  </ChartFrame>
</template>
