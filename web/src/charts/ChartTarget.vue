<script setup lang="ts">
import { useChart } from './chart.js';

/** What is asked for: a cross at its place, with the word beside or above it. */
defineProps<{ x: number; y: number; above?: boolean }>();
const chart = useChart();
</script>

<template>
  <g :transform="`translate(${chart.x(x)} ${chart.y(y)})`">
    <path d="M-7 0H7M0 -7V7" stroke="var(--caution-line)" stroke-width="2.4" />
    <text :x="above ? 0 : -10" :y="above ? -12 : -8" :text-anchor="above ? 'middle' : 'end'" class="asked">target</text>
  </g>
</template>
