<script setup lang="ts">
import { curveLinear, curveMonotoneX, line } from 'd3-shape';
import { computed } from 'vue';
import { useChart, type Point } from './chart.js';

/** A line through points. With a name it is read at the cursor, saved, and hidden by its name. */
const props = withDefaults(
  defineProps<{
    points: readonly Point[];
    name?: string;
    short?: string;
    /** What of it is read and saved, where that is not each point of the line. */
    rows?: readonly Point[] | undefined;
    at?: (x: number) => number | undefined;
    say?: (point: Point) => string;
    stroke?: string;
    width?: number;
    dash?: string;
    /** Drawn round between its points, never past them. */
    round?: boolean;
    /** Drawn only: what it says is told by another mark. */
    still?: boolean;
  }>(),
  { name: '', short: '', stroke: 'var(--ink)', width: 1.8, dash: '', rows: undefined, at: undefined, say: undefined },
);
const chart = useChart();
if (!props.still)
  chart.draws(() => ({
    ...{ name: props.name, short: props.short, points: props.rows ?? props.points },
    ...{ at: props.at, say: props.say },
  }));
const d = computed(
  () =>
    line<Point>()
      .x(([x]) => chart.x(x))
      .y(([, y]) => chart.y(y))
      .curve(props.round ? curveMonotoneX : curveLinear)(props.points as Point[]) ?? '',
);
</script>

<template>
  <path
    v-if="!name || !chart.hides(name)"
    :d="d"
    fill="none"
    :stroke="stroke"
    :stroke-width="width"
    :stroke-dasharray="dash || undefined"
  />
</template>
