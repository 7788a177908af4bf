<script setup lang="ts">
import { computed } from 'vue';
import ChartFrame from '../charts/ChartFrame.vue';
import ChartPoints from '../charts/ChartPoints.vue';
import type { Axis, Point } from '../charts/chart.js';
import { DIAMOND } from '../charts/marks.js';
import { thinned } from '../charts/ticks.js';
import { useSettings } from '../state/settings.js';

// props.calls[]!: a dot is drawn of each call.

/** How far each call was off, one after the other. */
const props = defineProps<{
  calls: readonly {
    readonly key: string;
    readonly side: 'intake' | 'exhaust';
    /** As a share of what was measured. */
    readonly error: number;
    readonly date: string;
    readonly head: string;
  }[];
}>();
const settings = useSettings();
/** Dates that have room beside each other. */
const MOST_DATES = 7;
const dateOf = (place: number) => {
  const call = props.calls[Math.round(place)];
  return call ? settings.say.day(call.date) : '';
};
const x = computed((): Axis => ({
  ...{ from: -0.5, to: props.calls.length - 0.5, say: dateOf, name: 'date' },
  ticks: thinned([...props.calls.keys()], MOST_DATES),
}));
const y = computed((): Axis => {
  const far = Math.max(0.05, ...props.calls.map((c) => Math.abs(c.error) * 1.15));
  return { from: -far, to: far, kind: 'percent', digits: 0, signed: true, unit: true };
});
const SIDES = ['intake', 'exhaust'] as const;
const of = (side: (typeof SIDES)[number]) =>
  props.calls.flatMap((c, i): Point[] => (c.side === side ? [[i, c.error]] : []));
const said = ([place, error]: Point) =>
  `${props.calls[place]!.head} ${settings.say.of(error, 'percent', { digits: 1, signed: true })}`;
</script>

<template>
  <ChartFrame
    label="How far each call was off, over time"
    :x="x"
    :y="y"
    :height="200"
    :most="640"
    :left="60"
    :right="30"
  >
    <template #default="c">
      <path
        :d="calls.map((k, i) => `M${c.x(i)} ${c.y(0)}V${c.y(k.error)}`).join('')"
        stroke="var(--slate)"
        fill="none"
      />
      <ChartPoints
        v-for="side in SIDES"
        :key="side"
        :name="side"
        :points="of(side)"
        :mark="DIAMOND"
        :stroke="`var(--${side})`"
        :width="2"
        :say="said"
      />
    </template>
  </ChartFrame>
</template>
