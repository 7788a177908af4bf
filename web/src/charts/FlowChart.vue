<script setup lang="ts">
import { peakWithin, type CamProfile, type FlowCurve, type Kind } from '@alluvium/core';
import { max } from 'd3-array';
import { computed, useTemplateRef } from 'vue';
import { useSettings } from '../state/settings.js';
import ChartCurve from './ChartCurve.vue';
import ChartFrame from './ChartFrame.vue';
import ChartNames from './ChartNames.vue';
import ChartPoints from './ChartPoints.vue';
import ChartRule from './ChartRule.vue';
import type { Point } from './chart.js';
import DwellRibbon from './DwellRibbon.vue';
import { pointsAlong } from './along.js';
import { markOf, markPath } from './marks.js';

// d.rows[]!: a mark is drawn of each row.

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
const frame = useTemplateRef<InstanceType<typeof ChartFrame>>('frame');
defineExpose({ svg: computed(() => frame.value?.svg) });
const BOTTOM = 46;

const colour = computed(() => (props.side === 'intake' ? 'var(--intake)' : 'var(--exhaust)'));
const x = computed(() => {
  const most = Math.max(
    props.xKind === 'lift' ? 0.0102 : 0.2,
    props.camLift ?? 0,
    ...props.series.map((s) => s.curve.last.lift),
  );
  return {
    ...{ from: 0, to: most * 1.03, kind: props.xKind, name: props.xKind === 'lift' ? 'lift' : 'L/D' },
    ...(props.xKind === 'lift' ? {} : { digits: 2 }),
  };
});
const y = computed(() => {
  const flows = props.series.flatMap((s) => s.curve.points.map((p) => p.flow));
  const most = Math.max(props.kind === 'flow' ? 0.0236 : 0.2, (props.demand ?? 0) * 1.06, max(flows) ?? 0);
  return { from: 0, to: most * 1.06, kind: props.kind, digits: props.kind === 'ratio' ? 2 : 0, unit: true };
});
const beyond = (lift: number) => props.camLift !== undefined && lift > props.camLift + 1e-6;
const drawn = computed(() =>
  props.series.map((s) => ({
    ...s,
    title: [s.letter, s.name].filter(Boolean).join(' '),
    line: pointsAlong(s.curve),
    rows: s.curve.points.map((p): Point => [p.lift, p.flow]),
    mark: markOf(s.index),
    stroke: s.colour ? s.colour : s.index === 0 && props.series.length > 1 ? 'var(--ink)' : colour.value,
    flags: (s.notes ?? []).flatMap((n) => {
      const flow = s.curve.at(n.lift);
      return flow === undefined ? [] : [{ ...n, flow }];
    }),
  })),
);
const title = computed(() => props.label ?? `${props.side} flow over lift`);
const words = computed(() =>
  [
    title.value,
    ...props.series.map(
      (s) =>
        `${s.letter} ${s.name}: best ${settings.say.of(peakWithin(s.curve, Infinity).flow, props.kind as Kind, { digits: 0 })}`,
    ),
  ].join('; '),
);
</script>

<template>
  <ChartFrame ref="frame" :label="title" :words="words" :x="x" :y="y" :height="height" :right="118" :bottom="BOTTOM">
    <template #behind="c">
      <template v-if="camLift !== undefined && camLift < x.to">
        <rect
          :x="c.x(camLift)"
          :y="c.top - 8"
          :width="c.right - c.x(camLift)"
          :height="c.bottom - c.top + 8"
          fill="var(--paper-deep)"
        />
        <text v-if="camLift < x.to * 0.94" :x="c.right - 5" :y="c.bottom - 8" text-anchor="end" class="aside">
          beyond this cam
        </text>
      </template>
    </template>
    <template #default="c">
      <ChartRule
        v-if="demand !== undefined"
        :y="demand"
        stroke="var(--caution-line)"
        :width="1.6"
        dash="2 3"
        :text="`target asks ${settings.say.of(demand, 'flow', { digits: 0 }).split('\u00a0')[0]}`"
        tone="asked"
      />
      <g v-for="d in drawn" :key="d.letter" :opacity="d.claim ? 0.75 : 1">
        <ChartCurve
          :name="d.title"
          :short="d.letter"
          :points="d.line"
          :rows="d.rows"
          :at="d.curve.at"
          :stroke="d.stroke"
          :width="d.mark.width"
          :dash="d.mark.dash"
        />
        <ChartPoints
          v-if="!d.claim"
          :name="d.title"
          :points="d.rows"
          :mark="markPath(d.mark)"
          :stroke="d.stroke"
          still
          :each="
            (i) => ({
              stroke: d.noisy?.includes(d.rows[i]![0]) ? 'var(--caution-line)' : d.stroke,
              opacity: beyond(d.rows[i]![0]) ? 0.55 : 1,
            })
          "
        />
        <g v-for="n in d.flags" :key="n.lift" :transform="`translate(${c.x(n.lift)},${c.y(n.flow)})`" class="flag">
          <title>{{ settings.say.of(n.lift, xKind) }}: {{ n.text }}</title>
          <path d="M0 -6V-22H14L10 -18.5L14 -15H0" :fill="d.stroke" :stroke="d.stroke" />
          <text v-if="!d.letter" x="17" y="-14" class="aside">
            {{ n.text.length > 26 ? `${n.text.slice(0, 25)}…` : n.text }}
          </text>
        </g>
      </g>
      <ChartNames
        :labels="drawn.map((d) => ({ name: d.title, x: d.curve.last.lift, y: d.curve.last.flow, stroke: d.stroke }))"
      />
      <DwellRibbon v-if="cam" :cam="cam" :x="c.x" :y="c.bottom + 24" />
    </template>
  </ChartFrame>
</template>
