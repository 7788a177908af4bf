<script setup lang="ts">
import type { Kind } from '@alluvium/core';
import { extent } from 'd3-array';
import { computed, useTemplateRef } from 'vue';
import ChartBand from '../charts/ChartBand.vue';
import ChartCurve from '../charts/ChartCurve.vue';
import ChartFrame from '../charts/ChartFrame.vue';
import ChartNames from '../charts/ChartNames.vue';
import ChartPoints from '../charts/ChartPoints.vue';
import ChartRule from '../charts/ChartRule.vue';
import ChartTarget from '../charts/ChartTarget.vue';
import { tickText, valueText, type Axis, type Point } from '../charts/chart.js';
import { markOf, markPath } from '../charts/marks.js';
import { useSettings } from '../state/settings.js';

// l.points.at()!: what is drawn has points.

/** One line over engine speed, with what it is not sure of about it. */
export interface Line {
  readonly name: string;
  readonly index: number;
  readonly points: readonly {
    readonly speed: number;
    readonly value: number;
    readonly low?: number;
    readonly high?: number;
  }[];
  readonly ghost?: readonly { readonly speed: number; readonly value: number }[];
}
const props = defineProps<{
  lines: readonly Line[];
  kind: Kind;
  label: string;
  target?: { readonly speed: number; readonly value?: number };
  working?: readonly [number, number];
  /** The line whose band is drawn; all of them where left out. */
  band?: number | undefined;
  zero?: boolean;
  digits?: number;
}>();
const settings = useSettings();
const frame = useTemplateRef<InstanceType<typeof ChartFrame>>('frame');
defineExpose({ svg: computed(() => frame.value?.svg) });
const known = computed(() => props.lines.filter((l) => l.points.length > 0));
const x = computed((): Axis => {
  const [from = 0, to = 1] = extent([
    ...(props.target ? [props.target.speed] : []),
    ...known.value.flatMap((l) => l.points.map((p) => p.speed)),
  ]);
  return { from, to, kind: 'rotation', name: 'engine speed' };
});
const y = computed((): Axis => {
  const values = known.value.flatMap((l) => l.points.flatMap((p) => [p.value, p.low ?? p.value, p.high ?? p.value]));
  const [low = 0, high = 1] = extent([
    ...values,
    ...(props.target?.value === undefined ? [] : [props.target.value]),
    ...(props.zero ? [0] : []),
  ]);
  const room = Math.max((high - low) * 0.08, 1e-9);
  const { kind, digits } = props;
  return { from: low - room, to: high + room, kind, unit: true, ...(digits === undefined ? {} : { digits }) };
});
const drawn = computed(() =>
  // Also those not run yet: what is read stands in the order of the heads, not of their runs.
  props.lines.map((l) => ({
    ...l,
    mark: markOf(l.index),
    line: l.points.map((p): Point => [p.speed, p.value]),
    // Each third is marked, another third for each line: marks of lines that lie on each other stay apart.
    marked: l.points.filter((_, i) => i % 3 === l.index % 3).map((p): Point => [p.speed, p.value]),
    unsure: l.points.flatMap((p) =>
      p.low === undefined || p.high === undefined ? [] : [[p.speed, p.low, p.high] as const],
    ),
    ghosted: l.ghost?.map((p): Point => [p.speed, p.value]),
    say: ([speed, value]: Point) => {
      const { low, high } = l.points.find((p) => p.speed === speed) ?? {};
      const range =
        low === undefined || high === undefined
          ? ''
          : ` (${tickText(low, y.value, settings.say)} to ${tickText(high, y.value, settings.say)})`;
      return valueText(value, y.value, settings.say) + range;
    },
  })),
);
const inside = (speed: number) => Math.min(x.value.to, Math.max(x.value.from, speed));
</script>

<template>
  <ChartFrame
    ref="frame"
    :label="`${label} over engine speed`"
    :x="x"
    :y="y"
    :height="320"
    :right="72"
    :top="24"
    :first="target?.speed"
  >
    <template #behind="c">
      <rect
        v-if="working"
        :x="c.x(inside(working[0]))"
        :width="Math.max(0, c.x(inside(working[1])) - c.x(inside(working[0])))"
        :y="c.top"
        :height="c.bottom - c.top"
        fill="var(--paper-deep)"
      />
    </template>
    <template #default>
      <ChartRule v-if="zero" :y="0" stroke="var(--ink)" />
      <template v-for="l in drawn" :key="`band ${l.name}`">
        <ChartBand v-if="band === undefined || band === l.index" :name="l.name" :points="l.unsure" round />
      </template>
      <template v-for="l in drawn" :key="l.name">
        <ChartCurve
          v-if="l.ghosted"
          :name="l.name"
          :points="l.ghosted"
          stroke="var(--slate)"
          :width="1"
          opacity="0.55"
          round
          still
        />
        <ChartCurve :name="l.name" :points="l.line" :width="l.mark.width" :dash="l.mark.dash" :say="l.say" round />
        <ChartPoints :name="l.name" :points="l.marked" :mark="markPath(l.mark, 34)" :width="1.3" still />
      </template>
      <ChartNames :labels="known.map((l) => ({ name: l.name, y: l.points.at(-1)!.value }))" />
      <template v-if="target">
        <ChartRule :x="target.speed" stroke="var(--caution-line)" dash="3 3" />
        <ChartTarget v-if="target.value !== undefined" :x="target.speed" :y="target.value" />
      </template>
    </template>
  </ChartFrame>
</template>
