<script setup lang="ts">
import { format } from '@alluvium/core';
import { edgeOf, uncertaintyIn, type WayRead } from '@alluvium/records';
import { scaleLinear } from 'd3-scale';
import { useElementSize } from '@vueuse/core';
import { computed, useTemplateRef } from 'vue';
import { spreadLabels, unitTicks } from '../charts/ticks.js';
import { useSettings } from '../state/settings.js';

/** Price against power: each way a cross as wide as it is unsure, the edge drawn through those nothing beats. */
const props = defineProps<{ ways: readonly WayRead[]; budget?: number | undefined; wanted?: number | undefined }>();
const settings = useSettings();
const box = useTemplateRef<HTMLElement>('box');
const { width: measured } = useElementSize(box);
const width = computed(() => Math.max(320, measured.value || 620));
const HEIGHT = 260;
const LEFT = 54;
const RIGHT = 16;
const BOTTOM = 34;
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
const x = computed(() =>
  scaleLinear(
    [0, Math.max(props.budget ?? 0, ...points.value.map((p) => p.cost + p.dc)) * 1.08 || 1],
    [LEFT, width.value - RIGHT],
  ),
);
const y = computed(() => {
  const all = [
    ...points.value.flatMap((p) => [p.power - p.dp, p.power + p.dp]),
    ...(props.wanted ? [props.wanted] : []),
  ];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const pad = (high - low) * 0.12 || 1;
  return scaleLinear([low - pad, high + pad], [HEIGHT - BOTTOM, 10]);
});
const yTicks = computed(() => unitTicks(y.value.domain()[0]!, y.value.domain()[1]!, 'power', settings.system, 5));
/** The edge as steps: for more money never less power. */
const line = computed(() => {
  const on = points.value.filter((p) => p.edge).sort((a, b) => a.cost - b.cost);
  return on
    .map((p, i) => {
      const at = `${x.value(p.cost)} ${y.value(p.power)}`;
      return i === 0 ? `M${at}` : `L${x.value(p.cost)} ${y.value(on[i - 1]!.power)} L${at}`;
    })
    .join(' ');
});
const labels = computed(() => {
  const ys = spreadLabels(
    points.value.map((p) => y.value(p.power)),
    16,
    12,
    HEIGHT - BOTTOM - 6,
  );
  return points.value.map((p, i) => {
    const left = x.value(p.cost) > width.value * 0.6;
    return { ...p, ly: ys[i]!, lx: x.value(p.cost) + (left ? -8 : 8), anchor: left ? 'end' : 'start' };
  });
});
const power = (v: number) => format(v, 'power', settings.figures, { digits: 0 });
</script>

<template>
  <div ref="box">
    <svg
      v-if="points.length"
      :width="width"
      :height="HEIGHT"
      :viewBox="`0 0 ${width} ${HEIGHT}`"
      role="img"
      :aria-label="`Price against power: ${points.map((p) => `${p.name} ${format(p.cost, 'money', settings.figures)}, ${power(p.power)}`).join('; ')}`"
    >
      <g v-for="t in yTicks" :key="t">
        <line :x1="LEFT" :x2="width - RIGHT" :y1="y(t)" :y2="y(t)" stroke="var(--rule)" />
        <text :x="LEFT - 6" :y="y(t) + 5" text-anchor="end" class="tick">{{ power(t).split('\u00a0')[0] }}</text>
      </g>
      <text v-for="t in x.ticks(6)" :key="`x${t}`" :x="x(t)" :y="HEIGHT - 12" text-anchor="middle" class="tick">
        {{ format(t, 'money', settings.figures) }}
      </text>
      <line
        v-if="budget"
        :x1="x(budget)"
        :x2="x(budget)"
        y1="10"
        :y2="HEIGHT - BOTTOM"
        stroke="var(--caution-line)"
        stroke-dasharray="4 4"
      />
      <text v-if="budget" :x="x(budget) - 4" y="20" text-anchor="end" class="tick">budget</text>
      <line
        v-if="wanted"
        :x1="LEFT"
        :x2="width - RIGHT"
        :y1="y(wanted)"
        :y2="y(wanted)"
        stroke="var(--intake)"
        stroke-dasharray="4 4"
      />
      <text v-if="wanted" :x="LEFT + 4" :y="y(wanted) - 4" class="tick">target</text>
      <path :d="line" fill="none" stroke="var(--ink)" stroke-width="1.4" stroke-dasharray="1 4" />
      <g v-for="p in labels" :key="p.name">
        <line
          :x1="x(p.cost - p.dc)"
          :x2="x(p.cost + p.dc)"
          :y1="y(p.power)"
          :y2="y(p.power)"
          stroke="var(--ink)"
          stroke-width="1.6"
        />
        <line
          :x1="x(p.cost)"
          :x2="x(p.cost)"
          :y1="y(p.power - p.dp)"
          :y2="y(p.power + p.dp)"
          stroke="var(--ink)"
          stroke-width="1.6"
        />
        <circle
          :cx="x(p.cost)"
          :cy="y(p.power)"
          r="4"
          :fill="p.edge ? 'var(--ink)' : 'var(--paper)'"
          stroke="var(--ink)"
        />
        <text :x="p.lx" :y="p.ly - 6" :text-anchor="p.anchor">{{ p.name }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
svg {
  display: block;
}
text {
  font: 14px var(--sans);
  fill: var(--ink);
}
.tick {
  fill: var(--slate);
  font-size: 13px;
}
</style>
