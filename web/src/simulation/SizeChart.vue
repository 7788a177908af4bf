<script setup lang="ts">
import type { SizeWanted } from '@alluvium/core';
import { extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useElementSize } from '@vueuse/core';
import { computed, useTemplateRef } from 'vue';
import { markOf } from '../charts/marks.js';
import { spreadLabels } from '../charts/ticks.js';
import { useSettings } from '../state/settings.js';

/** Torque over the area of port and runner, as a share of each curve's best; its flat top drawn thick. */
const props = defineProps<{
  heads: readonly { readonly letter: string; readonly index: number; readonly sizes: readonly SizeWanted[] }[];
}>();
const settings = useSettings();
const box = useTemplateRef<HTMLElement>('box');
const { width: measured } = useElementSize(box);
const width = computed(() => Math.min(560, Math.max(300, measured.value || 460)));
const HEIGHT = 210;
const [LEFT, RIGHT, TOP, BOTTOM] = [46, 92, 22, 30];
const curves = computed(() =>
  props.heads.flatMap(({ letter, index, sizes }) =>
    sizes.map((s) => {
      const best = Math.max(...s.points.map((p) => p.torque));
      const points = s.points.map((p) => ({ factor: p.factor, share: p.torque / best }));
      return {
        key: `${letter} ${s.speed}`,
        name: `${letter}, ${settings.say.of(s.speed, 'rotation')}`,
        dash: markOf(index).dash,
        points,
        flat: points.filter((p) => p.factor >= s.from && p.factor <= s.to),
      };
    }),
  ),
);
const x = computed(() => {
  const [low = 0.8, high = 1.35] = extent(curves.value.flatMap((c) => c.points.map((p) => p.factor)));
  return scaleLinear([low, high], [LEFT, width.value - RIGHT]);
});
const y = computed(() => {
  const [low = 0.9] = extent(curves.value.flatMap((c) => c.points.map((p) => p.share)));
  return scaleLinear([Math.min(low, 0.97), 1.004], [HEIGHT - BOTTOM, TOP]);
});
const path = computed(() =>
  line<{ factor: number; share: number }>()
    .x((p) => x.value(p.factor))
    .y((p) => y.value(p.share)),
);
const labels = computed(() =>
  spreadLabels(
    curves.value.map((c) => y.value(c.points.at(-1)!.share)),
    16,
    TOP,
    HEIGHT - BOTTOM,
  ),
);
const percent = (v: number) => settings.say.of(v, 'percent', { digits: 0, signed: true });
</script>

<template>
  <div ref="box" class="box">
    <svg
      class="chart"
      :width="width"
      :viewBox="`0 0 ${width} ${HEIGHT}`"
      role="img"
      aria-label="Torque over the area of port and runner, against each curve’s best"
    >
      <g v-for="t in y.ticks(4)" :key="t">
        <line :x1="LEFT" :x2="width - RIGHT" :y1="y(t)" :y2="y(t)" stroke="var(--rule)" />
        <text :x="LEFT - 6" :y="y(t) + 5" text-anchor="end" class="tick">{{ percent(t - 1) }}</text>
      </g>
      <text
        v-for="t in [0.8, 0.9, 1, 1.1, 1.2, 1.3]"
        :key="t"
        :x="x(t)"
        :y="HEIGHT - 10"
        text-anchor="middle"
        class="tick"
      >
        {{ t === 1 ? 'as it is' : percent(t - 1) }}
      </text>
      <line :x1="x(1)" :x2="x(1)" :y1="TOP" :y2="HEIGHT - BOTTOM" stroke="var(--slate)" stroke-dasharray="2 4" />
      <text :x="LEFT + 4" y="14" class="name">torque against its best, over port area</text>
      <g v-for="(c, i) in curves" :key="c.key">
        <path :d="path(c.points) ?? ''" fill="none" stroke="var(--ink)" stroke-width="1.4" :stroke-dasharray="c.dash" />
        <path :d="path(c.flat) ?? ''" fill="none" stroke="var(--intake)" stroke-width="4" stroke-opacity="0.45" />
        <text :x="width - RIGHT + 6" :y="labels[i]! + 5" class="tick">{{ c.name }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.box {
  min-width: 0;
}
</style>
