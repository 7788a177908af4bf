<script setup lang="ts">
import type { Between, Split } from '@alluvium/core';
import { scaleLinear } from 'd3-scale';
import { useElementSize } from '@vueuse/core';
import { computed, useTemplateRef } from 'vue';
import { useSettings } from '../state/settings.js';

/** What each stage changed of valve and port: the likeliest as a mark, what the forms leave open as a bar. */
const props = defineProps<{ split: Split; names: readonly string[] }>();
const settings = useSettings();
const box = useTemplateRef<HTMLElement>('box');
const { width: measured } = useElementSize(box);
const width = computed(() => Math.max(320, measured.value || 640));
const ROW = 52;
const LEFT = 210;
const RIGHT = 20;
const height = computed(() => ROW * props.split.changes.length + 34);
const x = computed(() => {
  const all = props.split.changes.flatMap((c) => [c.valve.low, c.port.low, c.valve.high, c.port.high]);
  return scaleLinear([Math.min(-0.02, ...all), Math.max(0.02, ...all)], [LEFT, width.value - RIGHT]).nice();
});
const bar = (r: Between) => ({
  x: x.value(r.low),
  width: Math.max(1, x.value(r.high) - x.value(r.low)),
  at: x.value(r.value),
});
const rows = computed(() =>
  props.split.changes.map((c, i) => ({
    name: props.names[i + 1]!,
    y: i * ROW,
    valve: bar(c.valve),
    port: bar(c.port),
  })),
);
const tick = (t: number) => `${t > 0 ? '+' : t < 0 ? '−' : ''}${settings.say.number(Math.abs(100 * t), 0)} %`;
</script>

<template>
  <div ref="box">
    <svg
      :width="width"
      :height="height"
      :viewBox="`0 0 ${width} ${height}`"
      role="img"
      aria-label="Change of valve and port by stage, with what is left open"
    >
      <g v-for="t in x.ticks(6)" :key="t">
        <line :x1="x(t)" :x2="x(t)" y1="0" :y2="height - 28" :stroke="t === 0 ? 'var(--ink)' : 'var(--rule)'" />
        <text :x="x(t)" :y="height - 10" text-anchor="middle" class="tick">{{ tick(t) }}</text>
      </g>
      <g v-for="r in rows" :key="r.name" :transform="`translate(0 ${r.y})`">
        <text x="0" y="22" class="name">{{ r.name }}</text>
        <rect :x="r.valve.x" y="8" :width="r.valve.width" height="10" fill="var(--slate)" opacity="0.35" />
        <circle :cx="r.valve.at" cy="13" r="4" fill="var(--ink)" />
        <text :x="LEFT - 8" y="17" text-anchor="end" class="tick">valve</text>
        <rect :x="r.port.x" y="26" :width="r.port.width" height="10" fill="var(--intake)" opacity="0.35" />
        <path :d="`M${r.port.at - 5} 36 L${r.port.at} 26 L${r.port.at + 5} 36 Z`" fill="var(--intake)" />
        <text :x="LEFT - 8" y="35" text-anchor="end" class="tick">port</text>
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
.name {
  font-weight: 600;
}
</style>
