<script setup lang="ts">
import { computed } from 'vue';
import ChartFrame from '../charts/ChartFrame.vue';
import ChartPoints from '../charts/ChartPoints.vue';
import { rowsOf, type Axis, type Point } from '../charts/chart.js';
import { useSettings } from '../state/settings.js';

/** How far each source reads from our bench, with what that is known to. */
const props = defineProps<{
  offsets: readonly {
    readonly name: string;
    /** As a share: 0.02 reads two per cent high. */
    readonly value: number;
    readonly plus: number | undefined;
  }[];
}>();
const settings = useSettings();
const ROW = 30;
const percent = (v: number) => settings.say.of(v, 'percent', { digits: 1, signed: true });
const x = computed((): Axis => {
  const far = 1.1 * Math.max(0.05, ...props.offsets.map((o) => Math.abs(o.value) + (o.plus ?? 0)));
  return { from: -far, to: far, name: 'reads', say: (v) => settings.say.of(v, 'percent', { digits: 0, signed: true }) };
});
const said = ({ value, plus }: (typeof props.offsets)[number]) =>
  percent(value) + (plus ? ` ± ${settings.say.of(plus, 'percent', { digits: 1 })}` : '');
</script>

<template>
  <ChartFrame
    label="Offsets of the sources with their errors"
    :words="`Offsets of the sources with their errors: ${offsets.map((o) => `${o.name} ${said(o)}`).join(', ')}`"
    :x="x"
    :y="rowsOf(offsets.length)"
    :height="offsets.length * ROW + 34"
    :most="620"
    :left="150"
    :top="4"
    :bottom="28"
  >
    <template #default="c">
      <g v-for="(o, i) in offsets" :key="o.name">
        <text :x="c.left - 8" :y="c.y(i + 0.5) + 5" text-anchor="end">{{ o.name }}</text>
        <path
          v-if="o.plus"
          :d="`M${c.x(o.value - o.plus)} ${c.y(i + 0.5)}H${c.x(o.value + o.plus)}`"
          stroke="var(--slate)"
          stroke-width="2"
        />
        <ChartPoints :name="o.name" :points="[[o.value, i + 0.5] as Point]" :size="5" :width="2" :say="() => said(o)" />
      </g>
    </template>
  </ChartFrame>
</template>
