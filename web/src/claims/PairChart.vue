<script setup lang="ts">
import { formatNumber, type ClaimedPoint, type FlowPoint } from '@alluvium/core';
import { max } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { computed } from 'vue';
import { unitTicks } from '../charts/ticks.js';
import { useSettings } from '../state/settings.js';
import { vLegible } from '../charts/legible.js';

/** Claimed and measured as paired marks per lift: a diamond, a dot, and the stalk between them. */
const props = defineProps<{
  points: readonly ClaimedPoint[];
  measured: readonly FlowPoint[];
  side: 'intake' | 'exhaust';
}>();
const settings = useSettings();
const W = 560;
const H = 300;
const LEFT = 42;
const BOTTOM = 30;
const colour = computed(() => (props.side === 'intake' ? 'var(--intake)' : 'var(--exhaust)'));
const x = computed(() =>
  scaleLinear([0, (max([...props.points, ...props.measured].map((p) => p.lift)) ?? 0.0127) * 1.05], [LEFT, W - 16]),
);
const y = computed(() =>
  scaleLinear(
    [0, (max([...props.points.map((p) => p.flow.value), ...props.measured.map((p) => p.flow)]) ?? 0.1) * 1.08],
    [H - BOTTOM, 12],
  ),
);
const ticks = (kind: 'lift' | 'flow', scale: typeof x.value, count: number) =>
  unitTicks(0, scale.domain()[1]!, kind, settings.system, count)
    .filter((v) => v > 0)
    .map((v) => ({
      at: scale(v),
      text: formatNumber(v, kind, settings.figures, kind === 'flow' ? { digits: 0 } : {}),
    }));
const xTicks = computed(() => ticks('lift', x.value, 7));
const yTicks = computed(() => ticks('flow', y.value, 5));
const grave = (p: ClaimedPoint) => p.verdict === 'impossible' || p.verdict === 'beyond anything measured';
</script>

<template>
  <svg v-legible :viewBox="`0 0 ${W} ${H}`" :width="W" role="img" aria-label="Claimed and measured flow per lift">
    <g v-for="t in yTicks" :key="t.text">
      <line :x1="LEFT" :x2="W - 10" :y1="t.at" :y2="t.at" class="grid" />
      <text :x="LEFT - 7" :y="t.at + 4" text-anchor="end">{{ t.text }}</text>
    </g>
    <text v-for="t in xTicks" :key="t.text" :x="t.at" :y="H - 8" text-anchor="middle">{{ t.text }}</text>
    <circle v-for="p in measured" :key="p.lift" :cx="x(p.lift)" :cy="y(p.flow)" r="4.5" :fill="colour" />
    <g v-for="p in points" :key="p.lift">
      <line
        v-if="p.measured !== undefined"
        :x1="x(p.lift)"
        :x2="x(p.lift)"
        :y1="y(p.flow.value)"
        :y2="y(p.measured)"
        :class="grave(p) ? 'grave' : 'stalk'"
      />
      <path :d="`M${x(p.lift)},${y(p.flow.value) - 7}l7,7l-7,7l-7,-7z`" class="claim" :class="{ grave: grave(p) }" />
    </g>
    <text :x="LEFT + 8" y="24" class="key">◇ claimed &#160; ● measured</text>
  </svg>
</template>

<style scoped>
.grid {
  stroke: var(--rule);
}
.stalk {
  stroke: var(--slate);
}
line.grave {
  stroke: var(--loss);
  stroke-width: 2;
}
.claim {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.8;
}
.claim.grave {
  stroke: var(--loss);
}
text {
  font-size: max(13px, calc(12px * var(--per-px, 0)));
  fill: var(--slate);
}
.key {
  font: italic max(14px, calc(13px * var(--per-px, 0))) var(--serif);
}
</style>
