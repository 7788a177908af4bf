<script setup lang="ts">
import { readDifferences, type DifferencePoint, type Side } from '@alluvium/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useElementSize } from '@vueuse/core';
import { computed, useTemplateRef } from 'vue';
import { useSettings } from '../state/settings.js';
import { unitTicks } from './ticks.js';

/** Differences over lift about their own baseline: the baseline is the level line, gain stands above it, loss below. */
const props = withDefaults(
  defineProps<{
    sides: readonly { readonly side: Side; readonly points: readonly DifferencePoint[] }[];
    /** What they were taken against. */
    baseline: string;
    height?: number;
  }>(),
  { height: 220 },
);
const settings = useSettings();
const box = useTemplateRef<HTMLElement>('box');
const { width: measured } = useElementSize(box);
const width = computed(() => Math.max(280, measured.value || 520));
const LEFT = 44;
const RIGHT = 18;
const TOP = 18;
const BOTTOM = 34;

const read = computed(() =>
  props.sides.flatMap(({ side, points }) => {
    const reading = readDifferences(points);
    return reading ? [{ side, ...reading }] : [];
  }),
);
const all = computed(() => read.value.flatMap((r) => r.points));
const reach = computed(() => Math.max(0.002, ...all.value.map((p) => Math.abs(p.difference))) * 1.2);
const top = computed(() => Math.max(0.005, ...all.value.map((p) => p.lift)) * 1.04);
const x = computed(() => scaleLinear([0, top.value], [LEFT, width.value - RIGHT]));
const y = computed(() => scaleLinear([-reach.value, reach.value], [props.height - BOTTOM, TOP]));
const xTicks = computed(() => unitTicks(0, top.value, 'lift', settings.system, 6).slice(1));
const yTicks = computed(() => {
  const up = unitTicks(0, reach.value, 'flow', settings.system, 3).slice(1);
  return [...up.map((t) => -t), 0, ...up];
});
const path = (points: readonly DifferencePoint[]) =>
  line<DifferencePoint>()
    .x((p) => x.value(p.lift))
    .y((p) => y.value(p.difference))(points) ?? '';
const flow = (q: number) => `${q > 0 ? '+' : ''}${settings.say.of(q, 'flow', { digits: 0 })}`;
const at = (l: number) => settings.say.of(l, 'lift');
const words = computed(() =>
  read.value.map((r) => {
    const gain = r.gain ? `gains most at ${at(r.gain.lift)}, ${flow(r.gain.difference)}` : 'gains nowhere';
    const loss = r.loss ? `loses most at ${at(r.loss.lift)}, ${flow(r.loss.difference)}` : 'loses nowhere';
    const crosses = r.crossings.length ? `crosses its baseline at ${r.crossings.map(at).join(', ')}` : 'never crosses';
    return `The ${r.side} ${gain}; ${loss}; ${crosses}.`;
  }),
);
</script>

<template>
  <div ref="box">
    <svg
      class="chart"
      :width="width"
      :height="height"
      :viewBox="`0 0 ${width} ${height}`"
      role="img"
      :aria-label="`Difference from ${baseline} over lift. ${words.join(' ')}`"
    >
      <g v-for="t in yTicks" :key="t">
        <line :x1="LEFT" :x2="width - RIGHT" :y1="y(t)" :y2="y(t)" :stroke="t === 0 ? 'var(--slate)' : 'var(--rule)'" />
        <text :x="LEFT - 8" :y="y(t) + 5" text-anchor="end">
          {{ t === 0 ? '0' : flow(t).split('\u00a0')[0] }}
        </text>
      </g>
      <text v-for="t in xTicks" :key="t" :x="x(t)" :y="height - BOTTOM + 18" text-anchor="middle">
        {{ at(t).split('\u00a0')[0] }}
      </text>
      <text :x="LEFT + 6" :y="height - BOTTOM - 6" class="base">level: {{ baseline }}</text>
      <g v-for="r in read" :key="r.side" :style="{ color: `var(--${r.side})` }">
        <path :d="path(r.points)" fill="none" stroke="currentColor" stroke-width="2" />
        <circle
          v-for="p in r.points"
          :key="p.lift"
          :cx="x(p.lift)"
          :cy="y(p.difference)"
          r="3.5"
          fill="var(--paper)"
          stroke="currentColor"
        />
        <path
          v-for="c in r.crossings"
          :key="c"
          :d="`M${x(c)} ${y(0) - 7}V${y(0) + 7}`"
          stroke="var(--caution-line)"
          stroke-width="2"
        />
      </g>
    </svg>
    <p v-for="w in words" :key="w" class="reading">{{ w }}</p>
  </div>
</template>

<style scoped>
.base {
  font-family: var(--serif);
  font-style: italic;
  fill: var(--slate);
}
.reading {
  margin: 4px 0 0;
}
</style>
