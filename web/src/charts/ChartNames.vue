<script setup lang="ts">
import { computed } from 'vue';
import { useChart } from './chart.js';
import { spreadLabels } from './ticks.js';

// ys[]!: one for each label.

/** Each curve named at its own end, kept apart; a name that is pressed hides and shows its curve. */
const props = withDefaults(
  defineProps<{
    labels: readonly {
      readonly name: string;
      /** What is written, where it is not the name. */
      readonly text?: string;
      /** Where the curve ends. */
      readonly x?: number;
      readonly y: number;
      readonly stroke?: string;
    }[];
    /** Names of levels, not of curves: they hide nothing. */
    still?: boolean;
    tone?: string;
  }>(),
  { tone: 'end' },
);
const chart = useChart();
/** What can be pressed is this high, px, where there is room. */
const GAP = 24;
const STILL = 19;
const placed = computed(() => {
  const room = (chart.bottom - chart.top) / Math.max(1, props.labels.length);
  const gap = Math.min(props.still ? STILL : GAP, room);
  const ys = spreadLabels(
    props.labels.map((l) => chart.y(l.y)),
    gap,
    chart.top,
    chart.bottom,
  );
  return props.labels.map((l, i) => ({
    ...l,
    text: l.text ?? l.name,
    from: { x: l.x === undefined ? chart.right : chart.x(l.x), y: chart.y(l.y) },
    at: { x: chart.right + 11, y: ys[i]! },
  }));
});
if (!props.still) chart.names(() => placed.value.map(({ name, text, at }) => ({ name, text, x: at.x, y: at.y })));
</script>

<template>
  <g v-for="l in placed" :key="l.name" :opacity="chart.hides(l.name) ? 0.45 : 1">
    <line
      v-if="Math.abs(l.at.y - l.from.y) > 4"
      :x1="l.from.x + 3"
      :x2="l.at.x - 2"
      :y1="l.from.y"
      :y2="l.at.y"
      stroke="var(--rule)"
    />
    <text
      :x="l.at.x"
      :y="l.at.y + 5"
      :class="tone"
      :style="l.stroke ? { fill: l.stroke } : undefined"
      :text-decoration="chart.hides(l.name) ? 'line-through' : undefined"
    >
      {{ l.text }}
    </text>
  </g>
</template>
