<script setup lang="ts">
import { fromSi, unitFor, type StationBudget, type SurveyResult } from '@alluvium/core';
import { scaleLinear } from 'd3-scale';
import { area, curveMonotoneX, line } from 'd3-shape';
import { useElementSize } from '@vueuse/core';
import { computed, useTemplateRef } from 'vue';
import { markOf } from '../charts/marks.js';
import { spreadLabels, unitTicks } from '../charts/ticks.js';
import { useSettings } from '../state/settings.js';
import { vLegible } from '../charts/legible.js';

/** Area along the port against other heads or stages; shaded, as far as the metal allows; beneath, the rate of change. */
const props = defineProps<{
  own: SurveyResult;
  letter: string;
  others: readonly { letter: string; index: number; survey: SurveyResult }[];
  budget: readonly StationBudget[] | undefined;
  needed: number | undefined;
  height: number;
}>();
const settings = useSettings();
const box = useTemplateRef<HTMLElement>('box');
const { width: measured } = useElementSize(box);
const width = computed(() => Math.max(420, measured.value || 720));
const LEFT = 30;
const RIGHT = 30;
const RATE = 46;

const all = computed(() => [props.own, ...props.others.map((o) => o.survey)]);
const x = computed(() =>
  scaleLinear(
    [
      Math.min(...all.value.map((s) => s.stations[0]!.station)),
      Math.max(...all.value.map((s) => s.stations.at(-1)!.station)),
    ],
    [LEFT, width.value - RIGHT],
  ),
);
const bottom = computed(() => props.height - RATE - 20);
const y = computed(() => {
  const areas = [
    ...all.value.flatMap((s) => s.stations.map((t) => t.area.value)),
    ...(props.budget ?? []).map((b) => b.largest),
    ...(props.needed ? [props.needed] : []),
  ];
  const [low, high] = [Math.min(...areas), Math.max(...areas)];
  return scaleLinear([low - (high - low) * 0.08, high + (high - low) * 0.06], [bottom.value, 6]);
});
const yTicks = computed(() => unitTicks(y.value.domain()[0]!, y.value.domain()[1]!, 'area', settings.system, 4));
const unit = computed(() => unitFor('area', settings.system));
const say = (si: number) => settings.say.number(fromSi(si, unit.value), unit.value.symbol === 'mm²' ? 0 : 1);
const xTicks = computed(() => x.value.ticks(6));
const path = (s: SurveyResult) =>
  line<SurveyResult['stations'][number]>()
    .x((t) => x.value(t.station))
    .y((t) => y.value(t.area.value))
    .curve(curveMonotoneX)(s.stations)!;
const allowed = computed(() =>
  props.budget
    ? area<StationBudget>()
        .x((b) => x.value(b.station))
        .y0((b) => y.value(b.area))
        .y1((b) => y.value(b.largest))
        .curve(curveMonotoneX)(props.budget)!
    : '',
);
const ends = computed(() => {
  const list = [
    { letter: props.letter, at: props.own.stations.at(-1)!.area.value },
    ...props.others.map((o) => ({ letter: o.letter, at: o.survey.stations.at(-1)!.area.value })),
  ];
  const spread = spreadLabels(
    list.map((e) => y.value(e.at)),
    14,
    10,
    bottom.value,
  );
  return list.map((e, i) => ({ letter: e.letter, y: spread[i]! + 5 }));
});
/** Steepest rate of change sets the height of the bars. */
const rate = computed(() => {
  const most = Math.max(1e-9, ...props.own.taper.map((t) => Math.abs(t.rate)));
  const mid = props.height - RATE / 2 - 2;
  return props.own.taper.map((t) => {
    const h = (Math.abs(t.rate) / most) * (RATE / 2 - 3);
    return {
      x: x.value(t.from) + 1,
      width: Math.max(1, x.value(t.to) - x.value(t.from) - 2),
      y: t.rate > 0 ? mid - h : mid,
      height: h,
      grows: t.rate > 0,
      title: `${settings.say.number(t.rate * 1000, 1)} mm² a mm`,
    };
  });
});
</script>

<template>
  <div ref="box">
    <svg
      v-legible
      :viewBox="`0 0 ${width} ${height}`"
      :height="height"
      width="100%"
      role="img"
      aria-label="Area along the port"
    >
      <g v-for="t in yTicks" :key="t">
        <line class="grid" :x1="LEFT" :x2="width - RIGHT" :y1="y(t)" :y2="y(t)" />
        <text class="tick" :x="LEFT - 6" :y="y(t) + 4">{{ say(t) }}</text>
      </g>
      <path v-if="allowed" :d="allowed" class="allowed" />
      <line v-if="needed" class="needed" :x1="LEFT" :x2="width - RIGHT" :y1="y(needed)" :y2="y(needed)" />
      <path
        v-for="o in others"
        :key="o.letter"
        :d="path(o.survey)"
        class="other"
        :stroke-dasharray="markOf(o.index).dash || '2 3'"
      />
      <path :d="path(own)" class="own" />
      <text v-for="e in ends" :key="e.letter" class="end" :x="width - RIGHT + 6" :y="e.y">{{ e.letter }}</text>
      <text v-for="t in xTicks" :key="`x${t}`" class="tick middle" :x="x(t)" :y="bottom + 15">
        {{ settings.say.number(t * 1000, 0) }}{{ t === xTicks[0] ? ' mm' : '' }}
      </text>
      <g>
        <title>Rate of change of area</title>
        <line class="grid" :x1="LEFT" :x2="width - RIGHT" :y1="height - RATE / 2 - 2" :y2="height - RATE / 2 - 2" />
        <rect
          v-for="r in rate"
          :key="r.x"
          :x="r.x"
          :y="r.y"
          :width="r.width"
          :height="r.height"
          :class="r.grows ? 'grows' : 'narrows'"
        >
          <title>{{ r.title }}</title>
        </rect>
        <text class="note-text" :x="width - RIGHT + 2" :y="height - RATE / 2 - 8">opens</text>
        <text class="note-text" :x="width - RIGHT + 2" :y="height - RATE / 2 + 14">closes</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
svg {
  display: block;
  overflow: visible;
}
.grid {
  stroke: var(--rule);
}
.tick {
  font-size: max(13px, calc(12px * var(--per-px, 0)));
  fill: var(--slate);
  text-anchor: end;
}
.middle {
  text-anchor: middle;
}
.allowed {
  fill: var(--paper-deep);
  stroke: var(--rule);
}
.needed {
  stroke: var(--caution-line);
  stroke-width: 1.6;
  stroke-dasharray: 2 4;
}
.own {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.4;
}
.other {
  fill: none;
  stroke: var(--intake);
  stroke-width: 1.7;
}
.end {
  font-weight: 600;
  fill: var(--ink);
}
.grows {
  fill: var(--intake);
  opacity: 0.55;
}
.narrows {
  fill: var(--slate);
  opacity: 0.55;
}
.note-text {
  font: italic max(13px, calc(12px * var(--per-px, 0))) var(--serif);
  fill: var(--slate);
}
</style>
