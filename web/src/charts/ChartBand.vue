<script setup lang="ts">
import { area, curveLinear, curveMonotoneX } from 'd3-shape';
import { computed } from 'vue';
import { useChart } from './chart.js';

/** The room between two lines: where a curve may lie, what is left, what was gained. Hidden with the curve of its name. */
const props = withDefaults(
  defineProps<{
    points: readonly (readonly [x: number, low: number, high: number])[];
    name?: string;
    fill?: string;
    opacity?: number;
    round?: boolean;
  }>(),
  { name: '', fill: 'var(--water)', opacity: 0.45 },
);
const chart = useChart();
const d = computed(() =>
  props.points.length < 2
    ? ''
    : (area<(typeof props.points)[number]>()
        .x(([x]) => chart.x(x))
        .y0(([, low]) => chart.y(low))
        .y1(([, , high]) => chart.y(high))
        .curve(props.round ? curveMonotoneX : curveLinear)(props.points as (typeof props.points)[number][]) ?? ''),
);
</script>

<template>
  <path v-if="!name || !chart.hides(name)" :d="d" :fill="fill" :opacity="opacity" />
</template>
