<script setup lang="ts">
import type { Trace } from '@alluvium/core';
import { extent } from 'd3-array';
import { computed } from 'vue';
import ChartCurve from '../charts/ChartCurve.vue';
import ChartFrame from '../charts/ChartFrame.vue';
import { unitFor } from '@alluvium/core';
import type { Axis, Point } from '../charts/chart.js';
import { markOf } from '../charts/marks.js';
import { useSettings } from '../state/settings.js';

// trace.volume[]!, trace.pressure[]!: a trace's lists are equally long.

/** Pressure over volume round a cycle, both by their logarithms: so the pumping loop is as plain as the work. */
const props = defineProps<{
  traces: readonly { readonly name: string; readonly index: number; readonly trace: Trace }[];
}>();
const settings = useSettings();
const spans = (of: (t: Trace) => readonly number[]) => {
  const [from = 1, to = 2] = extent(props.traces.flatMap((t) => [...of(t.trace)]));
  return { from, to, log: true };
};
const x = computed((): Axis => ({ ...spans((t) => t.volume), kind: 'volume', name: 'volume' }));
const y = computed((): Axis => ({ ...spans((t) => t.pressure), kind: 'pressure' }));
const loops = computed(() =>
  props.traces.map(({ name, index, trace }) => ({
    name,
    dash: markOf(index).dash,
    points: [...trace.angle.keys(), 0].map((i): Point => [trace.volume[i]!, trace.pressure[i]!]),
  })),
);
const unit = (kind: 'pressure' | 'volume') => unitFor(kind, settings.system).symbol;
</script>

<template>
  <ChartFrame
    label="Pressure over volume round the cycle, logarithms of both"
    :x="x"
    :y="y"
    :height="320"
    :most="620"
    :left="58"
    :right="12"
    :top="24"
  >
    <template #default="c">
      <text :x="c.left + 4" y="14" class="name">
        pressure, {{ unit('pressure') }}, over volume, {{ unit('volume') }}
      </text>
      <ChartCurve v-for="l in loops" :key="l.name" :name="l.name" :points="l.points" :width="1.6" :dash="l.dash" />
    </template>
  </ChartFrame>
</template>
