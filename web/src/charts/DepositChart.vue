<script setup lang="ts">
import { difference, type FlowCurve } from '@alluvium/core';
import { computed, useId } from 'vue';
import { useSettings } from '../state/settings.js';
import ChartBand from './ChartBand.vue';
import ChartCurve from './ChartCurve.vue';
import ChartFrame from './ChartFrame.vue';
import ChartNames from './ChartNames.vue';
import ChartRule from './ChartRule.vue';
import type { Point } from './chart.js';
import { markOf } from './marks.js';

// line.at()!: what is drawn has points.

/** Difference from the baseline over lift: what was laid down is hatched, what was washed out is dotted. */
const props = defineProps<{
  base: FlowCurve;
  others: readonly { letter: string; index: number; curve: FlowCurve }[];
  topLift: number;
  height: number;
  side: 'intake' | 'exhaust';
  /** What was noted at a lift, written where it happened. */
  notes?: readonly { lift: number; text: string }[];
}>();
const settings = useSettings();
const id = useId();
const STEPS = 100;
const rows = computed(() =>
  props.others.map((o) => {
    const end = Math.min(o.curve.last.lift, props.base.last.lift);
    // Below the first row of either nothing is known.
    const start = Math.max(o.curve.first.lift, props.base.first.lift);
    const gain = (lift: number) => difference(props.base, o.curve, lift) ?? 0;
    const line = Array.from({ length: STEPS + 1 }, (_, i) => start + ((end - start) * i) / STEPS).map((lift): Point => [
      lift,
      gain(lift),
    ]);
    return {
      ...o,
      line,
      // Read where either was measured.
      rows: [...o.curve.points, ...props.base.points]
        .filter((p) => p.lift >= start && p.lift <= end)
        .map((p): Point => [p.lift, gain(p.lift)]),
      gained: line.map(([lift, g]) => [lift, 0, Math.max(0, g)] as const),
      lost: line.map(([lift, g]) => [lift, 0, Math.min(0, g)] as const),
      last: line.at(-1)![1],
      mark: markOf(o.index),
    };
  }),
);
const x = computed(() => ({ from: 0, to: props.topLift, kind: 'lift' as const, name: 'lift', ticks: 0 }));
const y = computed(() => {
  const all = rows.value.flatMap((r) => r.line.map(([, gain]) => gain));
  return {
    ...{ from: Math.min(-4e-4, ...all) * 1.08, to: Math.max(2e-3, ...all) * 1.08 },
    ...{ kind: 'flow' as const, digits: 0, signed: true },
  };
});
const say = (gain: number) => settings.say.of(gain, 'flow', { digits: 0, signed: true });
const words = computed(
  () =>
    `Difference from the baseline: ${rows.value.map((r) => `${r.letter} ${say(r.last)} at the last lift`).join(', ')}`,
);
</script>

<template>
  <ChartFrame
    label="Difference from the baseline"
    :words="words"
    :x="x"
    :y="y"
    :height="height"
    :right="118"
    :top="8"
    :bottom="8"
  >
    <template #behind>
      <defs>
        <pattern :id="`${id}-laid`" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(-35)">
          <line x1="0" x2="7" y1="3" y2="3" stroke="var(--gain)" stroke-width="1" />
        </pattern>
        <pattern :id="`${id}-washed`" width="5" height="5" patternUnits="userSpaceOnUse">
          <circle cx="2" cy="2" r="1" fill="var(--loss)" />
        </pattern>
      </defs>
    </template>
    <template #default="c">
      <template v-for="r in rows" :key="r.letter">
        <ChartBand :name="r.letter" :points="r.gained" :fill="`url(#${id}-laid)`" :opacity="0.6" />
        <ChartBand :name="r.letter" :points="r.gained" fill="var(--gain)" :opacity="0.1" />
        <ChartBand :name="r.letter" :points="r.lost" :fill="`url(#${id}-washed)`" :opacity="1" />
        <ChartCurve :name="r.letter" :points="r.line" :rows="r.rows" :width="r.mark.width" :dash="r.mark.dash" />
      </template>
      <ChartRule :y="0" stroke="var(--ink)" />
      <g v-for="(n, i) in notes ?? []" :key="`note${n.lift}`">
        <line :x1="c.x(n.lift)" :x2="c.x(n.lift)" :y1="c.y(0)" :y2="26 + 16 * (i % 3)" stroke="var(--slate)" />
        <text :x="c.x(n.lift) - 4" :y="22 + 16 * (i % 3)" text-anchor="end" class="name">{{ n.text }}</text>
      </g>
      <ChartNames
        :labels="
          rows.map((r) => ({
            name: r.letter,
            text: `${r.letter} ${say(r.last).split('\u00a0')[0]}`,
            x: r.line.at(-1)![0],
            y: r.last,
          }))
        "
      />
    </template>
  </ChartFrame>
</template>
