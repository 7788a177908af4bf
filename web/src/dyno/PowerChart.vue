<script setup lang="ts">
import { rpm, smoothed, type PullPoint } from '@alluvium/core';
import type { Held } from '@alluvium/records';
import { useLocalStorage } from '@vueuse/core';
import { extent } from 'd3-array';
import { computed } from 'vue';
import ChartBand from '../charts/ChartBand.vue';
import ChartCurve from '../charts/ChartCurve.vue';
import ChartFrame from '../charts/ChartFrame.vue';
import ChartNames from '../charts/ChartNames.vue';
import ChartPoints from '../charts/ChartPoints.vue';
import ChartRule from '../charts/ChartRule.vue';
import ChartTarget from '../charts/ChartTarget.vue';
import { tickText, type Axis, type Point } from '../charts/chart.js';
import ChoiceRow from '../parts/ChoiceRow.vue';
import { useSettings } from '../state/settings.js';

/** Power over engine speed of pulls that are alike, with what was forecast of the head and what the build asks. */
const props = defineProps<{
  series: readonly { readonly name: string; readonly points: readonly PullPoint[]; readonly here: boolean }[];
  estimates: readonly Held[];
  target: { readonly power: number; readonly speed: number };
  /** The simulation over speed, with its range where it was found. */
  forecast?:
    | {
        readonly points: readonly PullPoint[];
        readonly band?: readonly { readonly speed: number; readonly low: number; readonly high: number }[] | undefined;
      }
    | undefined;
}>();
const settings = useSettings();
/** Names short enough to stand beside a line. */
const SHORT: Readonly<Record<string, string>> = {
  area: 'port area',
  valve: 'VE drops',
  'peak-flow': 'peak flow',
  'ratio-derated': 'derated',
};
/** For the eye alone: every figure of the page is of the rows as they were read. */
const over = useLocalStorage('alluvium.dyno.smooth', '0');
const WIDTHS = [
  ['0', 'as read'],
  ['200', 'over 200 rpm'],
  ['400', 'over 400 rpm'],
] as const;
const at = (points: readonly PullPoint[]) => points.map((p): Point => [p.speed, p.power]);
const drawn = computed(() =>
  props.series.flatMap((s) =>
    s.points.length > 0 ? [{ ...s, rows: at(s.points), line: at(smoothed(s.points, rpm(Number(over.value)))) }] : [],
  ),
);
const x = computed((): Axis => {
  const [from = 0, to = 1] = extent([props.target.speed, ...drawn.value.flatMap((s) => s.rows.map(([v]) => v))]);
  return { from, to, kind: 'rotation', name: 'engine speed' };
});
const y = computed((): Axis => {
  const most = Math.max(
    props.target.power,
    ...drawn.value.flatMap((s) => s.rows.map(([, power]) => power)),
    ...props.estimates.map((e) => e.estimate.value),
    ...(props.forecast?.band ?? []).map((b) => b.high),
    ...(props.forecast?.points ?? []).map((p) => p.power),
  );
  return { from: 0, to: most * 1.06, kind: 'power', unit: true };
});
const band = computed(() => (props.forecast?.band ?? []).map((b) => [b.speed, b.low, b.high] as const));
const rungs = computed(() =>
  props.estimates.map((e) => ({
    name: e.id,
    text: `${SHORT[e.id] ?? e.title} ${tickText(e.estimate.value, y.value, settings.say)}`,
    y: e.estimate.value,
  })),
);
</script>

<template>
  <div class="box">
    <ChartFrame label="Power over engine speed" :x="x" :y="y" :right="104">
      <ChartRule v-for="r in rungs" :key="r.name" :y="r.y" dash="2 4" />
      <ChartNames :labels="rungs" still tone="tick" />
      <ChartBand :points="band" :opacity="0.22" />
      <ChartCurve v-if="forecast" name="simulated" :points="at(forecast.points)" stroke="var(--intake)" dash="6 3" />
      <template v-for="s in drawn" :key="s.name">
        <ChartCurve
          :name="s.name"
          :points="s.line"
          :rows="s.rows"
          :stroke="s.here ? 'var(--ink)' : 'var(--water)'"
          :width="s.here ? 2.4 : 1.6"
        />
        <ChartPoints
          v-if="over !== '0'"
          :name="s.name"
          :points="s.rows"
          :size="1.6"
          stroke="none"
          :fill="s.here ? 'var(--ink)' : 'var(--water)'"
          still
        />
      </template>
      <ChartTarget :x="target.speed" :y="target.power" above />
    </ChartFrame>
    <div class="eye no-print">
      <span class="note">Line drawn</span>
      <ChoiceRow v-model="over" label="How the line is drawn" :options="WIDTHS" />
      <span v-if="over !== '0'" class="note">dots: as read; every figure is of the dots</span>
    </div>
  </div>
</template>

<style scoped>
.box {
  min-width: 0;
  overflow: hidden;
}
.eye {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  align-items: baseline;
}
</style>
