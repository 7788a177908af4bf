<script setup lang="ts">
import { unitFor, type StationBudget, type SurveyResult } from '@alluvium/core';
import { extent } from 'd3-array';
import { computed } from 'vue';
import ChartBand from '../charts/ChartBand.vue';
import ChartCurve from '../charts/ChartCurve.vue';
import ChartFrame from '../charts/ChartFrame.vue';
import ChartNames from '../charts/ChartNames.vue';
import ChartRule from '../charts/ChartRule.vue';
import type { Axis, Point } from '../charts/chart.js';
import { markOf } from '../charts/marks.js';
import { useSettings } from '../state/settings.js';

// d.points.at()!: what is drawn has points.

/** Area along the port against other heads or stages; shaded, as far as the metal allows; beneath, the rate of change. */
const props = defineProps<{
  own: SurveyResult;
  letter: string;
  others: readonly { letter: string; index: number; survey: SurveyResult }[];
  budget: readonly StationBudget[] | undefined;
  needed: number | undefined;
  height: number;
}>();
const settings = useSettings();
/** Room under the chart for the rate of change, px. */
const RATE = 46;

const line = (survey: SurveyResult) => survey.stations.map((t): Point => [t.station, t.area.value]);
const drawn = computed(() => [
  { name: props.letter, points: line(props.own), stroke: 'var(--ink)', width: 2.4, dash: '' },
  ...props.others.map((o) => ({
    ...{ name: o.letter, points: line(o.survey), stroke: 'var(--intake)', width: 1.7 },
    dash: markOf(o.index).dash || '2 3',
  })),
]);
const millimetre = (m: number) => `${settings.say.number(m * 1000, 0)} mm`;
const x = computed((): Axis => {
  const [from = 0, to = 0.1] = extent(drawn.value.flatMap((d) => d.points.map(([station]) => station)));
  return { from, to, say: millimetre, name: 'station' };
});
const unit = computed(() => unitFor('area', settings.system));
const y = computed((): Axis => {
  const [low = 0, high = 1] = extent([
    ...drawn.value.flatMap((d) => d.points.map(([, area]) => area)),
    ...(props.budget ?? []).map((b) => b.largest),
    ...(props.needed ? [props.needed] : []),
  ]);
  return {
    ...{ from: low - (high - low) * 0.08, to: high + (high - low) * 0.06 },
    ...{ kind: 'area', digits: unit.value.symbol === 'mm²' ? 0 : 1, unit: true },
  };
});
const allowed = computed(() => (props.budget ?? []).map((b) => [b.station, b.area, b.largest] as const));
/** Steepest rate of change sets the height of the bars. */
const rate = computed(() => {
  const most = Math.max(1e-9, ...props.own.taper.map((t) => Math.abs(t.rate)));
  return props.own.taper.map((t) => ({
    ...t,
    height: (Math.abs(t.rate) / most) * (RATE / 2 - 3),
    grows: t.rate > 0,
    title: `${settings.say.number(t.rate * 1000, 1)} mm² a mm`,
  }));
});
</script>

<template>
  <ChartFrame label="Area along the port" :x="x" :y="y" :height="height" :left="46" :right="34" :bottom="RATE + 26">
    <template #default="c">
      <ChartBand :points="allowed" fill="var(--paper-deep)" :opacity="1" stroke="var(--rule)" round />
      <ChartRule v-if="needed" :y="needed" stroke="var(--caution-line)" :width="1.6" dash="2 4" />
      <ChartCurve v-for="d in [...drawn].reverse()" :key="d.name" v-bind="d" round />
      <ChartNames :labels="drawn.map((d) => ({ name: d.name, y: d.points.at(-1)![1] }))" />
      <g :transform="`translate(0 ${height - RATE / 2 - 2})`">
        <title>Rate of change of area</title>
        <line :x1="c.left" :x2="c.right" y1="0" y2="0" stroke="var(--rule)" />
        <rect
          v-for="r in rate"
          :key="r.from"
          :x="c.x(r.from) + 1"
          :y="r.grows ? -r.height : 0"
          :width="Math.max(1, c.x(r.to) - c.x(r.from) - 2)"
          :height="r.height"
          :fill="r.grows ? 'var(--intake)' : 'var(--slate)'"
          opacity="0.55"
        >
          <title>{{ r.title }}</title>
        </rect>
        <text class="aside" :x="c.left - 7" y="-6" text-anchor="end">opens</text>
        <text class="aside" :x="c.left - 7" y="16" text-anchor="end">closes</text>
      </g>
    </template>
  </ChartFrame>
</template>
