<script setup lang="ts">
import { readDifferences, type DifferencePoint, type Side } from '@alluvium/core';
import { computed } from 'vue';
import { useSettings } from '../state/settings.js';
import ChartCurve from './ChartCurve.vue';
import ChartFrame from './ChartFrame.vue';
import ChartPoints from './ChartPoints.vue';
import type { Point } from './chart.js';

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
const read = computed(() =>
  props.sides.flatMap(({ side, points }) => {
    const reading = readDifferences(points);
    return reading
      ? [{ side, ...reading, line: reading.points.map((p): Point => [p.lift, p.difference]), tone: `var(--${side})` }]
      : [];
  }),
);
const all = computed(() => read.value.flatMap((r) => r.line));
const x = computed(() => ({
  ...{ from: 0, to: Math.max(0.005, ...all.value.map(([lift]) => lift)) * 1.04 },
  ...{ kind: 'lift' as const, name: 'lift' },
}));
const y = computed(() => {
  const reach = Math.max(0.002, ...all.value.map(([, d]) => Math.abs(d))) * 1.2;
  return { from: -reach, to: reach, kind: 'flow' as const, digits: 0, signed: true, unit: true };
});
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
  <div>
    <ChartFrame
      :label="`Difference from ${baseline} over lift`"
      :words="`Difference from ${baseline} over lift. ${words.join(' ')}`"
      :x="x"
      :y="y"
      :height="height"
    >
      <template #default="c">
        <text :x="c.left + 6" :y="c.bottom - 6" class="name">level: {{ baseline }}</text>
        <template v-for="r in read" :key="r.side">
          <ChartCurve :name="r.side" :points="r.line" :stroke="r.tone" :width="2" />
          <ChartPoints :name="r.side" :points="r.line" :stroke="r.tone" :size="3.5" still />
          <path
            v-for="l in r.crossings"
            :key="l"
            :d="`M${c.x(l)} ${c.y(0) - 7}V${c.y(0) + 7}`"
            stroke="var(--caution-line)"
            stroke-width="2"
          />
        </template>
      </template>
    </ChartFrame>
    <p v-for="w in words" :key="w" class="reading">{{ w }}</p>
  </div>
</template>

<style scoped>
.reading {
  margin: 4px 0 0;
}
</style>
