<script setup lang="ts">
import { CALIBRATION_BAND } from '@alluvium/core';
import { scaleLinear, scaleTime } from 'd3-scale';
import { computed } from 'vue';
import { vLegible } from '../charts/legible.js';
import { useSettings } from '../state/settings.js';

/** The factor of a bench over time, with the band in which nothing is said. */
const props = defineProps<{
  checks: readonly { readonly date: string; readonly factor: number; readonly plate: boolean }[];
}>();
const settings = useSettings();
const W = 620;
const H = 190;
const LEFT = 52;
const at = (date: string) => new Date(`${date}T00:00:00Z`);
const x = computed(() => {
  const times = props.checks.map((c) => at(c.date).getTime());
  const [a, b] = [Math.min(...times), Math.max(...times)];
  const pad = Math.max(86_400_000 * 5, (b - a) * 0.05);
  return scaleTime([new Date(a - pad), new Date(b + pad)], [LEFT, W - 20]);
});
const y = computed(() => {
  const far = Math.max(2 * CALIBRATION_BAND, ...props.checks.map((c) => Math.abs(c.factor - 1) * 1.15));
  return scaleLinear([1 - far, 1 + far], [H - 26, 10]);
});
const ticks = computed(() => y.value.ticks(5));
const line = computed(() => `M${props.checks.map((c) => `${x.value(at(c.date))},${y.value(c.factor)}`).join('L')}`);
</script>

<template>
  <svg v-legible :viewBox="`0 0 ${W} ${H}`" :width="W" role="img" aria-label="Factor of the bench over time">
    <rect
      :x="LEFT"
      :width="W - 20 - LEFT"
      :y="y(1 + CALIBRATION_BAND)"
      :height="y(1 - CALIBRATION_BAND) - y(1 + CALIBRATION_BAND)"
      class="band"
    />
    <g v-for="t in ticks" :key="t">
      <line :x1="LEFT" :x2="W - 20" :y1="y(t)" :y2="y(t)" class="grid" />
      <text :x="LEFT - 8" :y="y(t) + 4" text-anchor="end">{{ settings.say.number(t, 3) }}</text>
    </g>
    <path :d="line" class="line" />
    <g v-for="c in checks" :key="c.date + c.factor">
      <circle v-if="c.plate" :cx="x(at(c.date))" :cy="y(c.factor)" r="5" class="dot" />
      <rect v-else :x="x(at(c.date)) - 5" :y="y(c.factor) - 5" width="10" height="10" class="dot" />
      <text :x="x(at(c.date))" :y="H - 6" text-anchor="middle">{{ settings.say.day(c.date) }}</text>
    </g>
  </svg>
</template>

<style scoped>
.band {
  fill: var(--water);
  fill-opacity: 0.45;
}
.grid {
  stroke: var(--rule);
}
.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
}
.dot {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 2;
}
text {
  font-size: max(13px, calc(12px * var(--per-px, 0)));
  fill: var(--slate);
}
@media (max-width: 800px) {
  svg {
    max-width: 100%;
    height: auto;
  }
}
</style>
