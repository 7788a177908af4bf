<script setup lang="ts">
import type { SizeWanted } from '@alluvium/core';
import { extent } from 'd3-array';
import { computed } from 'vue';
import ChartCurve from '../charts/ChartCurve.vue';
import ChartFrame from '../charts/ChartFrame.vue';
import ChartNames from '../charts/ChartNames.vue';
import ChartRule from '../charts/ChartRule.vue';
import type { Axis, Point } from '../charts/chart.js';
import { markOf } from '../charts/marks.js';
import { useSettings } from '../state/settings.js';

// k.points.at()!: what is drawn has points.

/** Torque over the area of port and runner, as a share of each curve's best; its flat top drawn thick. */
const props = defineProps<{
  heads: readonly { readonly letter: string; readonly index: number; readonly sizes: readonly SizeWanted[] }[];
}>();
const settings = useSettings();
const curves = computed(() =>
  props.heads.flatMap(({ letter, index, sizes }) =>
    sizes.map((s) => {
      const best = Math.max(...s.points.map((p) => p.torque));
      const points = s.points.map((p): Point => [p.factor, p.torque / best]);
      return {
        name: `${letter}, ${settings.say.of(s.speed, 'rotation')}`,
        dash: markOf(index).dash,
        points,
        flat: points.filter(([factor]) => factor >= s.from && factor <= s.to),
      };
    }),
  ),
);
const percent = (v: number) => settings.say.of(v, 'percent', { digits: 0, signed: true });
const x = computed((): Axis => {
  const [from = 0.8, to = 1.35] = extent(curves.value.flatMap((c) => c.points.map(([factor]) => factor)));
  return {
    ...{ from, to, ticks: [0.8, 0.9, 1, 1.1, 1.2, 1.3], name: 'area against the measured one' },
    say: (t) => (t === 1 ? 'as it is' : percent(t - 1)),
  };
});
const y = computed((): Axis => {
  const [low = 0.9] = extent(curves.value.flatMap((c) => c.points.map(([, share]) => share)));
  return { from: Math.min(low, 0.97), to: 1.004, ticks: 4, say: (t) => percent(t - 1) };
});
</script>

<template>
  <ChartFrame
    label="Torque over the area of port and runner, against each curve’s best"
    :x="x"
    :y="y"
    :height="210"
    :most="560"
    :right="110"
  >
    <template #default="c">
      <ChartRule :x="1" dash="2 4" />
      <text :x="c.left + 4" y="14" class="name">torque against its best, over port area</text>
      <template v-for="k in curves" :key="k.name">
        <ChartCurve :name="k.name" :points="k.points" :width="1.4" :dash="k.dash" />
        <ChartCurve :name="k.name" :points="k.flat" stroke="var(--intake)" :width="4" stroke-opacity="0.45" still />
      </template>
      <ChartNames :labels="curves.map((k) => ({ name: k.name, y: k.points.at(-1)![1] }))" tone="tick" />
    </template>
  </ChartFrame>
</template>
