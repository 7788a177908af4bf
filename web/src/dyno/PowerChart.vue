<script setup lang="ts">
import { rpm, smoothed, type PullPoint } from '@alluvium/core';
import type { Held } from '@alluvium/records';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useElementSize, useLocalStorage } from '@vueuse/core';
import { computed, useTemplateRef } from 'vue';
import { spreadLabels, unitTicks } from '../charts/ticks.js';
import TabRow from '../parts/TabRow.vue';
import { useSettings } from '../state/settings.js';

/** Power over engine speed of pulls that are alike, with what was forecast of the head and what the build asks. */
const props = defineProps<{
  series: readonly { readonly name: string; readonly points: readonly PullPoint[]; readonly here: boolean }[];
  estimates: readonly Held[];
  target: { readonly power: number; readonly speed: number };
  /** The simulation over speed, with its range where it was found. */
  forecast?:
    | {
        readonly points: readonly PullPoint[];
        readonly band?: readonly { readonly speed: number; readonly low: number; readonly high: number }[] | undefined;
      }
    | undefined;
}>();
const settings = useSettings();
const box = useTemplateRef<HTMLElement>('box');
const { width: measured } = useElementSize(box);
const width = computed(() => Math.max(320, measured.value || 560));
/** Names short enough to stand beside a line. */
const SHORT: Readonly<Record<string, string>> = {
  area: 'port area',
  valve: 'VE drops',
  'peak-flow': 'peak flow',
  'ratio-derated': 'derated',
};
const HEIGHT = 300;
const LEFT = 44;
const RIGHT = 104;
const TOP = 14;
const BOTTOM = 34;
/** For the eye alone: every figure of the page is of the rows as they were read. */
const over = useLocalStorage('alluvium.dyno.smooth', '0');
const WIDTHS = [
  ['0', 'as read'],
  ['200', 'over 200 rpm'],
  ['400', 'over 400 rpm'],
] as const;
const drawn = computed(() =>
  props.series.flatMap((s) =>
    s.points.length > 0 ? [{ ...s, line: smoothed(s.points, rpm(Number(over.value))) }] : [],
  ),
);
const speeds = computed(() => [props.target.speed, ...drawn.value.flatMap((s) => s.points.map((p) => p.speed))]);
const x = computed(() =>
  scaleLinear([Math.min(...speeds.value), Math.max(...speeds.value)], [LEFT, width.value - RIGHT]),
);
const most = computed(() =>
  Math.max(
    props.target.power,
    ...drawn.value.flatMap((s) => s.points.map((p) => p.power)),
    ...props.estimates.map((e) => e.estimate.value),
    ...(props.forecast?.band ?? []).map((b) => b.high),
    ...(props.forecast?.points ?? []).map((p) => p.power),
  ),
);
const y = computed(() => scaleLinear([0, most.value * 1.06], [HEIGHT - BOTTOM, TOP]));
const path = (points: readonly PullPoint[]) =>
  line<PullPoint>()
    .x((p) => x.value(p.speed))
    .y((p) => y.value(p.power))(points as PullPoint[]) ?? undefined;
const shade = computed(() => {
  const band = props.forecast?.band;
  if (!band) return undefined;
  const up = band.map((b) => `${x.value(b.speed)},${y.value(b.high)}`);
  const down = band.map((b) => `${x.value(b.speed)},${y.value(b.low)}`).reverse();
  return [...up, ...down].join(' ');
});
const rungs = computed(() => {
  const places = spreadLabels(
    props.estimates.map((e) => y.value(e.estimate.value)),
    17,
    TOP,
    HEIGHT - BOTTOM,
  );
  return props.estimates.map((e, i) => ({ ...e, at: y.value(e.estimate.value), label: places[i]! }));
});
const number = (value: number, kind: 'power' | 'rotation') => settings.say.of(value, kind).split('\u00a0')[0];
</script>

<template>
  <div ref="box" class="box">
    <svg
      class="chart"
      :width="width"
      :viewBox="`0 0 ${width} ${HEIGHT}`"
      role="img"
      aria-label="Power over engine speed"
    >
      <g v-for="t in unitTicks(0, most, 'power', settings.system, 5)" :key="t">
        <line :x1="LEFT" :x2="width - RIGHT" :y1="y(t)" :y2="y(t)" stroke="var(--rule)" />
        <text :x="LEFT - 6" :y="y(t) + 5" text-anchor="end" class="tick">{{ number(t, 'power') }}</text>
      </g>
      <text
        v-for="t in unitTicks(x.domain()[0]!, x.domain()[1]!, 'rotation', settings.system, 5)"
        :key="t"
        :x="x(t)"
        :y="HEIGHT - 12"
        text-anchor="middle"
        class="tick"
      >
        {{ number(t, 'rotation') }}
      </text>
      <g v-for="r in rungs" :key="r.id">
        <line :x1="LEFT" :x2="width - RIGHT" :y1="r.at" :y2="r.at" stroke="var(--slate)" stroke-dasharray="2 4" />
        <line :x1="width - RIGHT" :x2="width - RIGHT + 10" :y1="r.at" :y2="r.label" stroke="var(--slate)" />
        <text :x="width - RIGHT + 13" :y="r.label + 5" class="forecast">
          {{ SHORT[r.id] ?? r.title }} {{ number(r.estimate.value, 'power') }}
        </text>
      </g>
      <polygon v-if="shade" :points="shade" class="shade" />
      <path
        v-if="forecast"
        :d="path(forecast.points)"
        fill="none"
        stroke="var(--intake)"
        stroke-width="1.8"
        stroke-dasharray="6 3"
      />
      <path
        v-for="s in drawn"
        :key="s.name"
        :d="path(s.line)"
        fill="none"
        :stroke="s.here ? 'var(--ink)' : 'var(--water)'"
        :stroke-width="s.here ? 2.4 : 1.6"
      />
      <template v-if="over !== '0'">
        <template v-for="s in drawn" :key="s.name">
          <circle
            v-for="p in s.points"
            :key="p.speed"
            :cx="x(p.speed)"
            :cy="y(p.power)"
            r="1.6"
            :fill="s.here ? 'var(--ink)' : 'var(--water)'"
          />
        </template>
      </template>
      <g :transform="`translate(${x(target.speed)} ${y(target.power)})`">
        <path d="M-7 0H7M0 -7V7" stroke="var(--caution-line)" stroke-width="2.4" />
        <text x="0" y="-12" text-anchor="middle" class="asked">target</text>
      </g>
    </svg>
    <div class="eye no-print">
      <span class="note">Line drawn</span>
      <TabRow v-model="over" label="How the line is drawn" kind="radio" :options="WIDTHS" />
      <span v-if="over !== '0'" class="note">dots: as read; every figure is of the dots</span>
    </div>
  </div>
</template>

<style scoped>
.box {
  min-width: 0;
  overflow: hidden;
}
.eye {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  align-items: baseline;
}
text.forecast {
  font-size: 13px;
  fill: var(--slate);
}
.shade {
  fill: var(--water);
  opacity: 0.22;
}
text.asked {
  font: italic 15px var(--serif);
  fill: var(--caution);
}
</style>
