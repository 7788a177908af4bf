<script setup lang="ts">
import { CALIBRATION_BAND } from '@alluvium/core';
import { extent } from 'd3-array';
import { computed } from 'vue';
import ChartCurve from '../charts/ChartCurve.vue';
import ChartFrame from '../charts/ChartFrame.vue';
import ChartPoints from '../charts/ChartPoints.vue';
import type { Axis, Point } from '../charts/chart.js';
import { SQUARE } from '../charts/marks.js';
import { thinned } from '../charts/ticks.js';
import { useSettings } from '../state/settings.js';

// props.checks[]!: a point is made of each check.

/** The factor of a bench over time, with the band in which nothing is said. */
const props = defineProps<{
  checks: readonly { readonly date: string; readonly factor: number; readonly plate: boolean }[];
}>();
const settings = useSettings();
const DAY = 86_400_000;
const points = computed(() => props.checks.map(({ date, factor }): Point => [Date.parse(`${date}T00:00:00Z`), factor]));
/** Dates that have room beside each other. */
const MOST_DATES = 6;
const x = computed((): Axis => {
  const [a = 0, b = 0] = extent(points.value, ([at]) => at);
  const pad = Math.max(DAY * 5, (b - a) * 0.05);
  return {
    ...{ from: a - pad, to: b + pad, name: 'date' },
    say: (at) => settings.say.day(new Date(at).toISOString().slice(0, 10)),
    ticks: thinned(points.value, MOST_DATES).map(([at]) => at),
  };
});
const y = computed((): Axis => {
  const far = Math.max(2 * CALIBRATION_BAND, ...props.checks.map((c) => Math.abs(c.factor - 1) * 1.15));
  return { from: 1 - far, to: 1 + far, digits: 3, ticks: 5 };
});
const of = (plate: boolean) => points.value.filter((_, i) => props.checks[i]!.plate === plate);
</script>

<template>
  <ChartFrame label="Factor of the bench over time" :x="x" :y="y" :height="200" :most="640" :top="10" :right="40">
    <template #behind="c">
      <rect
        :x="c.left"
        :width="c.right - c.left"
        :y="c.y(1 + CALIBRATION_BAND)"
        :height="c.y(1 - CALIBRATION_BAND) - c.y(1 + CALIBRATION_BAND)"
        fill="var(--water)"
        fill-opacity="0.45"
      />
    </template>
    <ChartCurve :points="points" :width="1.5" still />
    <ChartPoints name="orifice plate" :points="of(true)" :size="5" :width="2" />
    <ChartPoints name="control head" :points="of(false)" :mark="SQUARE" :width="2" />
  </ChartFrame>
</template>
