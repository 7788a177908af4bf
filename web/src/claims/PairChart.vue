<script setup lang="ts">
import type { ClaimedPoint, FlowPoint } from '@alluvium/core';
import { max } from 'd3-array';
import { computed } from 'vue';
import ChartFrame from '../charts/ChartFrame.vue';
import ChartPoints from '../charts/ChartPoints.vue';
import type { Axis, Point } from '../charts/chart.js';
import { DIAMOND } from '../charts/marks.js';

// points[]!: a mark is drawn of each point.

/** Claimed and measured as paired marks per lift: a diamond, a dot, and the stalk between them. */
const props = defineProps<{
  points: readonly ClaimedPoint[];
  measured: readonly FlowPoint[];
  side: 'intake' | 'exhaust';
}>();
const claimed = computed(() => props.points.map((p): Point => [p.lift, p.flow.value]));
const found = computed(() => props.measured.map((p): Point => [p.lift, p.flow]));
const most = (at: 0 | 1) => max([...claimed.value, ...found.value], (p) => p[at]);
const x = computed((): Axis => ({ from: 0, to: (most(0) ?? 0.0127) * 1.05, kind: 'lift', name: 'lift' }));
const y = computed((): Axis => ({ from: 0, to: (most(1) ?? 0.1) * 1.08, kind: 'flow', digits: 0, unit: true }));
const grave = (p: ClaimedPoint) => p.verdict === 'impossible' || p.verdict === 'beyond anything measured';
</script>

<template>
  <ChartFrame label="Claimed and measured flow per lift" :x="x" :y="y" :most="560">
    <template #default="c">
      <ChartPoints name="measured" :points="found" :size="4.5" :fill="`var(--${side})`" stroke="none" />
      <template v-for="p in points" :key="p.lift">
        <line
          v-if="p.measured !== undefined"
          :x1="c.x(p.lift)"
          :x2="c.x(p.lift)"
          :y1="c.y(p.flow.value)"
          :y2="c.y(p.measured)"
          :stroke="grave(p) ? 'var(--loss)' : 'var(--slate)'"
          :stroke-width="grave(p) ? 2 : 1"
        />
      </template>
      <ChartPoints
        name="claimed"
        :points="claimed"
        :mark="DIAMOND"
        :width="1.8"
        :each="(i) => (grave(points[i]!) ? { stroke: 'var(--loss)' } : {})"
      />
      <text :x="c.left + 8" :y="c.top + 12" class="name">◇ claimed &#160; ● measured</text>
    </template>
  </ChartFrame>
</template>
