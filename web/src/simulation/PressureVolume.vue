<script setup lang="ts">
import { unitFor, type Trace } from '@alluvium/core';
import { extent } from 'd3-array';
import { scaleLog } from 'd3-scale';
import { line } from 'd3-shape';
import { useElementSize } from '@vueuse/core';
import { computed, useTemplateRef } from 'vue';
import { markOf } from '../charts/marks.js';
import { useSettings } from '../state/settings.js';

/** Pressure over volume round a cycle, both by their logarithms: so the pumping loop is as plain as the work. */
const props = defineProps<{
  traces: readonly { readonly name: string; readonly index: number; readonly trace: Trace }[];
}>();
const settings = useSettings();
const box = useTemplateRef<HTMLElement>('box');
const { width: measured } = useElementSize(box);
const width = computed(() => Math.min(620, Math.max(320, measured.value || 560)));
const HEIGHT = 320;
const [LEFT, RIGHT, TOP, BOTTOM] = [58, 12, 24, 34];
const all = (of: (t: Trace) => readonly number[]) =>
  extent(props.traces.flatMap((t) => [...of(t.trace)])) as [number, number];
const x = computed(() =>
  scaleLog(
    all((t) => t.volume),
    [LEFT, width.value - RIGHT],
  ),
);
const y = computed(() =>
  scaleLog(
    all((t) => t.pressure),
    [HEIGHT - BOTTOM, TOP],
  ),
);
const loops = computed(() =>
  props.traces.map(({ name, index, trace }) => ({
    name,
    dash: markOf(index).dash,
    d:
      line<number>()
        .x((i) => x.value(trace.volume[i]!))
        .y((i) => y.value(trace.pressure[i]!))([...trace.angle.keys(), 0]) ?? '',
  })),
);
/** Round figures of a unit between two values, one, two and five of each power of ten. */
function ticks([low, high]: readonly number[], kind: 'pressure' | 'volume') {
  const { factor } = unitFor(kind, settings.system);
  const found: number[] = [];
  for (let power = -4; power < 8; power++)
    for (const m of [1, 2, 5]) {
      const v = m * 10 ** power * factor;
      if (v >= low! && v <= high!) found.push(v);
    }
  return found.map((v) => ({ v, text: Number((v / factor).toPrecision(3)).toString() }));
}
const unit = (kind: 'pressure' | 'volume') => unitFor(kind, settings.system).symbol;
</script>

<template>
  <div ref="box" class="box">
    <svg
      class="chart"
      :width="width"
      :viewBox="`0 0 ${width} ${HEIGHT}`"
      role="img"
      aria-label="Pressure over volume round the cycle, logarithms of both"
    >
      <g v-for="t in ticks(y.domain(), 'pressure')" :key="t.v">
        <line :x1="LEFT" :x2="width - RIGHT" :y1="y(t.v)" :y2="y(t.v)" stroke="var(--rule)" />
        <text :x="LEFT - 6" :y="y(t.v) + 5" text-anchor="end" class="tick">{{ t.text }}</text>
      </g>
      <text
        v-for="t in ticks(x.domain(), 'volume')"
        :key="t.v"
        :x="x(t.v)"
        :y="HEIGHT - 12"
        text-anchor="middle"
        class="tick"
      >
        {{ t.text }}
      </text>
      <text :x="LEFT + 4" y="14" class="name">pressure, {{ unit('pressure') }}, over volume, {{ unit('volume') }}</text>
      <path
        v-for="l in loops"
        :key="l.name"
        :d="l.d"
        fill="none"
        stroke="var(--ink)"
        stroke-width="1.6"
        :stroke-dasharray="l.dash"
      />
    </svg>
  </div>
</template>

<style scoped>
.box {
  min-width: 0;
}
</style>
