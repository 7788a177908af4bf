<script setup lang="ts">
import type { FlowCurve } from '@alluvium/core';
import { line } from 'd3-shape';
import { computed } from 'vue';
import { pointsAlong } from './along.js';
import type { Point } from './chart.js';

// y()()!: drawn without a canvas, a line is text.

/** A curve the size of a word. */
const props = defineProps<{ intake?: FlowCurve; exhaust?: FlowCurve; topFlow: number; topLift: number }>();
const WIDTH = 110;
const HEIGHT = 34;
const path = (curve: FlowCurve) =>
  line<Point>()
    .x(([lift]) => 2 + (lift / props.topLift) * (WIDTH - 4))
    .y(([, flow]) => HEIGHT - 2 - (flow / props.topFlow) * (HEIGHT - 4))(pointsAlong(curve, 30))!;
const paths = computed(() => ({
  intake: props.intake && path(props.intake),
  exhaust: props.exhaust && path(props.exhaust),
}));
</script>

<template>
  <svg :width="WIDTH" :height="HEIGHT" aria-hidden="true">
    <line x1="2" :x2="WIDTH - 2" :y1="HEIGHT - 2" :y2="HEIGHT - 2" stroke="var(--rule)" />
    <path
      v-if="paths.exhaust"
      :d="paths.exhaust"
      fill="none"
      stroke="var(--exhaust)"
      stroke-width="1.4"
      stroke-dasharray="4 2"
    />
    <path v-if="paths.intake" :d="paths.intake" fill="none" stroke="var(--intake)" stroke-width="1.8" />
  </svg>
</template>
