<script setup lang="ts">
import { unitFor } from '@alluvium/core';
import { computed } from 'vue';
import { useSettings } from '../state/settings.js';
import { ticksOf, type Axis, type Scale } from './chart.js';

/** Both axes of a chart with their grid: lines of y, or of x where y is rows of names. */
const props = defineProps<{
  x: Axis;
  y: Axis;
  edge: { readonly left: number; readonly right: number; readonly top: number; readonly bottom: number };
  /** Of the whole chart, px. */
  height: number;
  scaleX: Scale;
  scaleY: Scale;
}>();
const settings = useSettings();
/** A tick of x has this much room at least, px. */
const TICK_ROOM = 76;
const xTicks = computed(() =>
  ticksOf(props.x, Math.max(2, Math.min(7, (props.edge.right - props.edge.left) / TICK_ROOM)), settings.say),
);
const yTicks = computed(() => ticksOf(props.y, Math.max(2, Math.min(6, props.height / 60)), settings.say));
</script>

<template>
  <g>
    <template v-if="!y.rows">
      <g v-for="t in yTicks" :key="`y${t.value}`">
        <line
          :x1="edge.left"
          :x2="edge.right"
          :y1="scaleY(t.value)"
          :y2="scaleY(t.value)"
          :class="Math.abs(t.value) < 1e-12 ? 'base' : 'grid'"
        />
        <text :x="edge.left - 7" :y="scaleY(t.value) + 5" text-anchor="end" class="tick">{{ t.text }}</text>
      </g>
      <text v-if="y.unit && y.kind" :x="edge.left - 7" :y="edge.top - 9" text-anchor="end" class="tick">
        {{ unitFor(y.kind, settings.system).symbol }}
      </text>
    </template>
    <template v-for="t in xTicks" :key="`x${t.value}`">
      <line
        v-if="y.rows"
        :x1="scaleX(t.value)"
        :x2="scaleX(t.value)"
        :y1="edge.top"
        :y2="edge.bottom"
        :class="Math.abs(t.value) < 1e-12 ? 'base' : 'grid'"
      />
      <text :x="scaleX(t.value)" :y="edge.bottom + 19" text-anchor="middle" class="tick">{{ t.text }}</text>
    </template>
  </g>
</template>

<style scoped>
.grid {
  stroke: var(--rule);
}
.base {
  stroke: var(--slate);
}
</style>
