<script setup lang="ts">
import type { Between, Split } from '@alluvium/core';
import { computed } from 'vue';
import ChartFrame from '../charts/ChartFrame.vue';
import ChartPoints from '../charts/ChartPoints.vue';
import { rowsOf, type Axis, type Point } from '../charts/chart.js';
import { useSettings } from '../state/settings.js';

// props.names[]!: one more than the rows.

/** What each stage changed of valve and port: the likeliest as a mark, what the forms leave open as a bar. */
const props = defineProps<{ split: Split; names: readonly string[] }>();
const settings = useSettings();
/** A stage in the chart, px: its name, and a bar each for valve and port. */
const ROW = 52;
const BAR = 10;
const percent = (t: number) => settings.say.of(t, 'percent', { digits: 0, signed: true });
const x = computed((): Axis => {
  const all = props.split.changes.flatMap((c) => [c.valve.low, c.port.low, c.valve.high, c.port.high]);
  const [low, high] = [Math.min(-0.02, ...all), Math.max(0.02, ...all)];
  return { from: low - (high - low) * 0.04, to: high + (high - low) * 0.04, say: percent, name: 'change', ticks: 6 };
});
const PARTS = [
  { part: 'valve', at: 0.26, fill: 'var(--slate)', mark: '', tone: 'var(--ink)' },
  { part: 'port', at: 0.6, fill: 'var(--intake)', mark: 'M-5 5L0 -5L5 5Z', tone: 'var(--intake)' },
] as const;
const bars = computed(() =>
  props.split.changes.flatMap((change, row) =>
    PARTS.map((p) => ({ ...p, row, name: props.names[row + 1]!, between: change[p.part], level: row + p.at })),
  ),
);
const said = (b: Between) => `${percent(b.value)} (${percent(b.low)} to ${percent(b.high)})`;
</script>

<template>
  <ChartFrame
    label="Change of valve and port by stage, with what is left open"
    :x="x"
    :y="rowsOf(split.changes.length)"
    :height="ROW * split.changes.length + 34"
    :left="210"
    :right="20"
    :top="4"
    :bottom="30"
  >
    <template #default="c">
      <g v-for="b in bars" :key="`${b.row} ${b.part}`">
        <text v-if="b.part === 'valve'" x="0" :y="c.y(b.row) + 22" class="end">{{ b.name }}</text>
        <rect
          :x="c.x(b.between.low)"
          :y="c.y(b.level) - BAR / 2"
          :width="Math.max(1, c.x(b.between.high) - c.x(b.between.low))"
          :height="BAR"
          :fill="b.fill"
          opacity="0.35"
        />
        <text :x="c.left - 8" :y="c.y(b.level) + 5" text-anchor="end" class="tick">{{ b.part }}</text>
        <ChartPoints
          :name="`${b.part}, ${b.name}`"
          :points="[[b.between.value, b.level] as Point]"
          :mark="b.mark"
          :fill="b.tone"
          stroke="none"
          :say="() => said(b.between)"
        />
      </g>
    </template>
  </ChartFrame>
</template>
