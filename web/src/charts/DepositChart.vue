<script setup lang="ts">
import { difference, type FlowCurve } from '@alluvium/core';
import { scaleLinear } from 'd3-scale';
import { area, line } from 'd3-shape';
import { useElementSize } from '@vueuse/core';
import { computed, useId, useTemplateRef } from 'vue';
import { useSettings } from '../state/settings.js';
import { markOf } from './marks.js';
import { spreadLabels, unitTicks } from './ticks.js';

/** Difference from the baseline over lift: what was laid down is hatched, what was washed out is dotted. */
const props = defineProps<{
  base: FlowCurve;
  others: readonly { letter: string; index: number; curve: FlowCurve }[];
  topLift: number;
  height: number;
  side: 'intake' | 'exhaust';
  /** What was noted at a lift, written where it happened. */
  notes?: readonly { lift: number; text: string }[];
}>();
const settings = useSettings();
const box = useTemplateRef<HTMLElement>('box');
const svg = useTemplateRef<SVGSVGElement>('svg');
defineExpose({ svg });
const { width: measured } = useElementSize(box);
const width = computed(() => Math.max(320, measured.value || 660));
const id = useId();
const LEFT = 36;
const RIGHT = 118;

const rows = computed(() =>
  props.others.map((o) => {
    const end = Math.min(o.curve.last.lift, props.base.last.lift);
    // Below the first row of either nothing is known.
    const start = Math.max(o.curve.first.lift, props.base.first.lift);
    const points = Array.from({ length: 101 }, (_, i) => start + ((end - start) * i) / 100).map((lift) => ({
      lift,
      gain: difference(props.base, o.curve, lift) ?? 0,
    }));
    return { ...o, points, end, last: points.at(-1)!.gain };
  }),
);
const x = computed(() => scaleLinear([0, props.topLift], [LEFT, width.value - RIGHT]));
const y = computed(() => {
  const all = rows.value.flatMap((r) => r.points.map((p) => p.gain));
  const high = Math.max(2e-3, ...all) * 1.08;
  const low = Math.min(-4e-4, ...all) * 1.08;
  return scaleLinear([low, high], [props.height - 8, 8]);
});
const yTicks = computed(() => unitTicks(y.value.domain()[0]!, y.value.domain()[1]!, 'flow', settings.system, 4));
const shapes = computed(() =>
  rows.value.map((r) => {
    const fill = (keep: (g: number) => number) =>
      area<{ lift: number; gain: number }>()
        .x((p) => x.value(p.lift))
        .y0(y.value(0))
        .y1((p) => y.value(keep(p.gain)))(r.points)!;
    return {
      ...r,
      gain: fill((g) => Math.max(0, g)),
      loss: fill((g) => Math.min(0, g)),
      outline: line<{ lift: number; gain: number }>()
        .x((p) => x.value(p.lift))
        .y((p) => y.value(p.gain))(r.points)!,
      mark: markOf(r.index),
    };
  }),
);
const labels = computed(() => {
  const ys = spreadLabels(
    rows.value.map((r) => y.value(r.last)),
    17,
    8,
    props.height - 8,
  );
  return rows.value.map((r, i) => ({ ...r, ly: ys[i]! }));
});
</script>

<template>
  <div ref="box" class="chart">
    <svg
      ref="svg"
      :width="width"
      :height="height"
      :viewBox="`0 0 ${width} ${height}`"
      role="img"
      :aria-label="`Difference from the baseline: ${rows.map((r) => `${r.letter} ${settings.say.of(r.last, 'flow', { digits: 0, signed: true })} at the last lift`).join(', ')}`"
    >
      <defs>
        <pattern :id="`${id}-laid`" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(-35)">
          <line x1="0" x2="7" y1="3" y2="3" stroke="var(--gain)" stroke-width="1" />
        </pattern>
        <pattern :id="`${id}-washed`" width="5" height="5" patternUnits="userSpaceOnUse">
          <circle cx="2" cy="2" r="1" fill="var(--loss)" />
        </pattern>
      </defs>
      <g v-for="t in yTicks" :key="t">
        <line :x1="LEFT" :x2="width - RIGHT" :y1="y(t)" :y2="y(t)" stroke="var(--rule)" />
        <text :x="LEFT - 8" :y="y(t) + 5" text-anchor="end" class="tick">
          {{ settings.say.of(t, 'flow', { digits: 0, signed: true }).split('\u00a0')[0] }}
        </text>
      </g>
      <g v-for="s in shapes" :key="s.letter">
        <path :d="s.gain" :fill="`url(#${id}-laid)`" opacity="0.6" />
        <path :d="s.gain" fill="var(--gain)" opacity="0.1" />
        <path :d="s.loss" :fill="`url(#${id}-washed)`" />
        <path
          :d="s.outline"
          fill="none"
          stroke="var(--ink)"
          :stroke-dasharray="s.mark.dash"
          :stroke-width="s.mark.width"
        />
      </g>
      <line :x1="LEFT" :x2="width - RIGHT" :y1="y(0)" :y2="y(0)" stroke="var(--ink)" />
      <g v-for="(n, i) in notes ?? []" :key="`note${n.lift}`">
        <line :x1="x(n.lift)" :x2="x(n.lift)" :y1="y(0)" :y2="26 + 16 * (i % 3)" stroke="var(--slate)" />
        <text :x="x(n.lift) - 4" :y="22 + 16 * (i % 3)" text-anchor="end" class="noted">{{ n.text }}</text>
      </g>
      <text v-for="l in labels" :key="l.letter" :x="width - RIGHT + 10" :y="l.ly + 5" class="name">
        {{ l.letter }} {{ settings.say.of(l.last, 'flow', { digits: 0, signed: true }).split('\u00a0')[0] }}
      </text>
    </svg>
  </div>
</template>

<style scoped>
.chart {
  min-width: 0;
}
svg {
  display: block;
}
text {
  font-family: var(--sans);
  font-size: 14px;
  fill: var(--ink);
}
.tick {
  fill: var(--slate);
}
.name {
  font-weight: 500;
}
.noted {
  font: italic 13px var(--serif);
}
</style>
