<script setup lang="ts">
import { peakWithin, type CamProfile, type FlowCurve, type Kind } from '@alluvium/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useElementSize } from '@vueuse/core';
import { computed, useTemplateRef } from 'vue';
import { useSettings } from '../state/settings.js';
import DwellRibbon from './DwellRibbon.vue';
import { markOf, markPath } from './marks.js';
import { spreadLabels, unitTicks } from './ticks.js';

/** Flow over lift, each head labelled at its own curve. */
export interface Series {
  readonly letter: string;
  readonly name: string;
  readonly index: number;
  readonly curve: FlowCurve;
  /** A claim is drawn without markers. */
  readonly claim?: boolean;
  readonly noisy?: readonly number[];
  /** Comments on rows, drawn as a flag on the curve. */
  readonly notes?: readonly { readonly lift: number; readonly text: string }[];
  /** Instead of the colour of the side. */
  readonly colour?: string;
}

const props = withDefaults(
  defineProps<{
    series: readonly Series[];
    side: 'intake' | 'exhaust';
    height?: number;
    demand?: number;
    camLift?: number;
    cam?: CamProfile;
    kind?: Kind;
    xKind?: Kind;
    label?: string;
  }>(),
  { height: 392, kind: 'flow', xKind: 'lift' },
);
const settings = useSettings();
const box = useTemplateRef<HTMLElement>('box');
const svg = useTemplateRef<SVGSVGElement>('svg');
defineExpose({ svg });
const { width: measured } = useElementSize(box);
const width = computed(() => Math.max(320, measured.value || 660));
const LEFT = 36;
const RIGHT = 118;
const TOP = 22;
const BOTTOM = 46;

const colour = computed(() => (props.side === 'intake' ? 'var(--intake)' : 'var(--exhaust)'));
const topLift = computed(
  () =>
    Math.max(props.xKind === 'lift' ? 0.0102 : 0.2, props.camLift ?? 0, ...props.series.map((s) => s.curve.last.lift)) *
    1.03,
);
const topFlow = computed(
  () =>
    Math.max(
      props.kind === 'flow' ? 0.0236 : 0.2,
      (props.demand ?? 0) * 1.06,
      ...props.series.flatMap((s) => s.curve.points.map((p) => p.flow)),
    ) * 1.06,
);
const x = computed(() => scaleLinear([0, topLift.value], [LEFT, width.value - RIGHT]));
const y = computed(() => scaleLinear([0, topFlow.value], [props.height - BOTTOM, TOP]));
const xTicks = computed(() => unitTicks(0, topLift.value, props.xKind, settings.system, 7).slice(1));
const yTicks = computed(() => unitTicks(0, topFlow.value, props.kind as Kind, settings.system, 5).slice(1));

const drawn = computed(() =>
  props.series.map((s) => {
    const { first, last } = s.curve;
    const lifts = Array.from({ length: 81 }, (_, i) => first.lift + ((last.lift - first.lift) * i) / 80);
    const path = line<number>()
      .x((l) => x.value(l))
      .y((l) => y.value(s.curve.at(l) ?? 0))(lifts)!;
    return {
      ...s,
      path,
      mark: markOf(s.index),
      stroke: s.colour ? s.colour : s.index === 0 && props.series.length > 1 ? 'var(--ink)' : colour.value,
      end: { x: x.value(last.lift), y: y.value(last.flow) },
    };
  }),
);
const labels = computed(() => {
  const ys = spreadLabels(
    drawn.value.map((d) => d.end.y),
    18,
    TOP,
    props.height - BOTTOM,
  );
  return drawn.value.map((d, i) => ({ ...d, ly: ys[i]! }));
});
const words = computed(() =>
  [
    props.label ?? `${props.side} flow over lift`,
    ...props.series.map(
      (s) =>
        `${s.letter} ${s.name}: best ${settings.say.of(peakWithin(s.curve, Infinity).flow, props.kind as Kind, { digits: 0 })}`,
    ),
  ].join('; '),
);
</script>

<template>
  <div ref="box" class="chart">
    <svg ref="svg" :width="width" :height="height" :viewBox="`0 0 ${width} ${height}`" role="img" :aria-label="words">
      <rect
        v-if="camLift !== undefined && camLift < topLift"
        :x="x(camLift)"
        :y="TOP - 8"
        :width="x(topLift) - x(camLift)"
        :height="height - BOTTOM - TOP + 8"
        fill="var(--paper-deep)"
      />
      <text
        v-if="camLift !== undefined && camLift < topLift * 0.94"
        :x="x(camLift) + 6"
        :y="height - BOTTOM - 8"
        class="aside"
      >
        beyond this cam
      </text>
      <g v-for="t in yTicks" :key="t">
        <line :x1="LEFT" :x2="width - RIGHT" :y1="y(t)" :y2="y(t)" stroke="var(--rule)" />
        <text :x="LEFT - 8" :y="y(t) + 5" text-anchor="end" class="tick">
          {{ settings.say.of(t, kind, { digits: kind === 'ratio' ? 2 : 0 }).split('\u00a0')[0] }}
        </text>
      </g>
      <line :x1="LEFT" :x2="width - RIGHT" :y1="y(0)" :y2="y(0)" stroke="var(--slate)" />
      <text
        v-for="t in xTicks"
        :key="t"
        :x="x(t)"
        :y="height - BOTTOM + 18"
        text-anchor="middle"
        class="tick"
        :class="{ dim: camLift !== undefined && t > camLift + 1e-6 }"
      >
        {{ settings.say.of(t, xKind, xKind === 'lift' ? {} : { digits: 2 }).split('\u00a0')[0] }}
      </text>
      <template v-if="demand !== undefined">
        <line
          :x1="LEFT"
          :x2="width - RIGHT"
          :y1="y(demand)"
          :y2="y(demand)"
          stroke="var(--caution-line)"
          stroke-dasharray="2 3"
          stroke-width="1.6"
        />
        <text :x="LEFT + 4" :y="y(demand) - 6" class="aside asked">
          target asks {{ settings.say.of(demand, 'flow', { digits: 0 }).split('\u00a0')[0] }}
        </text>
      </template>
      <g v-for="d in drawn" :key="d.letter" :opacity="d.claim ? 0.75 : 1">
        <path :d="d.path" fill="none" :stroke="d.stroke" :stroke-width="d.mark.width" :stroke-dasharray="d.mark.dash" />
        <template v-if="!d.claim">
          <path
            v-for="p in d.curve.points"
            :key="p.lift"
            :d="markPath(d.mark)"
            :transform="`translate(${x(p.lift)},${y(p.flow)})`"
            fill="var(--paper)"
            :stroke="d.noisy?.includes(p.lift) ? 'var(--caution-line)' : d.stroke"
            stroke-width="1.5"
            :opacity="camLift !== undefined && p.lift > camLift + 1e-6 ? 0.55 : 1"
          />
        </template>
        <g
          v-for="n in (d.notes ?? []).filter((n) => d.curve.at(n.lift) !== undefined)"
          :key="n.lift"
          :transform="`translate(${x(n.lift)},${y(d.curve.at(n.lift)!)})`"
          class="flag"
        >
          <title>{{ settings.say.of(n.lift, xKind) }}: {{ n.text }}</title>
          <path d="M0 -6V-22H14L10 -18.5L14 -15H0" :fill="d.stroke" :stroke="d.stroke" />
          <text v-if="!d.letter" x="17" y="-14" class="aside">
            {{ n.text.length > 26 ? `${n.text.slice(0, 25)}…` : n.text }}
          </text>
        </g>
      </g>
      <g v-for="l in labels" :key="l.letter">
        <line
          v-if="Math.abs(l.ly - l.end.y) > 4"
          :x1="l.end.x + 5"
          :x2="width - RIGHT + 8"
          :y1="l.end.y"
          :y2="l.ly"
          stroke="var(--rule)"
        />
        <text :x="width - RIGHT + 10" :y="l.ly + 5" class="name" :fill="l.stroke">{{ l.letter }} {{ l.name }}</text>
      </g>
      <DwellRibbon v-if="cam" :cam="cam" :x="x" :y="height - BOTTOM + 24" />
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
}
.tick {
  fill: var(--slate);
}
.dim {
  opacity: 0.75;
}
.aside {
  font-family: var(--serif);
  font-style: italic;
  font-size: 15px;
  fill: var(--slate);
}
.asked {
  fill: var(--caution);
}
.name {
  font-weight: 500;
}
</style>
