<script setup lang="ts">
import { computed, useId } from 'vue';
import { banksOf, between, edge, type RiverRow } from './river.js';

/** Water and banks of a river: the streams in it, the metal beside it, and what lies beyond. */
const props = defineProps<{ rows: readonly RiverRow[]; height: number }>();
const id = useId();
const banks = computed(() => banksOf(props.rows, props.height));
const water = computed(() =>
  between(
    props.rows,
    (r) => r.bottom,
    (r) => r.top,
  ),
);
/** Where streams lie, as shares of half the channel. */
const STREAMS = [-0.72, -0.4, -0.12, 0.16, 0.44, 0.74];
const streams = computed(() =>
  STREAMS.map((f) => edge(props.rows, (r) => props.height / 2 + (f * (r.bottom - r.top)) / 2)),
);
</script>

<template>
  <g>
    <defs>
      <pattern :id="`${id}-metal`" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" y1="0" x2="0" y2="8" class="hatch" />
      </pattern>
      <pattern :id="`${id}-waves`" width="26" height="13" patternUnits="userSpaceOnUse">
        <path d="M0 6q6.5 -6 13 0t13 0" class="wave" />
      </pattern>
      <linearGradient :id="`${id}-water`">
        <stop offset="0" stop-color="var(--water)" stop-opacity="0.45" />
        <stop offset="1" stop-color="var(--water)" />
      </linearGradient>
    </defs>
    <g v-for="b in banks" :key="b.side">
      <path :d="b.beyond" :fill="`url(#${id}-waves)`" />
      <path :d="b.metal" class="bank" />
      <path :d="b.metal" :fill="`url(#${id}-metal)`" />
      <path :d="b.far" class="far" />
    </g>
    <path :d="water" :fill="`url(#${id}-water)`" />
    <path v-for="(d, i) in streams" :key="i" :d="d" class="stream" />
    <path :d="edge(rows, (r) => r.top)" class="shore" />
    <path :d="edge(rows, (r) => r.bottom)" class="shore" />
  </g>
</template>

<style scoped>
.hatch {
  stroke: var(--slate);
  stroke-width: 1;
  opacity: 0.35;
}
.wave {
  fill: none;
  stroke: var(--intake);
  stroke-width: 1;
  opacity: 0.55;
}
.bank {
  fill: var(--paper-deep);
}
.far {
  fill: none;
  stroke: var(--slate);
  stroke-width: 1.2;
}
.stream {
  fill: none;
  stroke: var(--paper);
  stroke-width: 1.2;
  opacity: 0.85;
}
.shore {
  fill: none;
  stroke: var(--intake);
  stroke-width: 2.4;
}
</style>
