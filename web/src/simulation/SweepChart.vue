<script setup lang="ts">
import { unitFor, type Kind } from '@alluvium/core';
import { bisector, extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { area, curveMonotoneX, line } from 'd3-shape';
import { useElementSize } from '@vueuse/core';
import { computed, ref, useTemplateRef } from 'vue';
import { markOf, markPath } from '../charts/marks.js';
import { spreadLabels, unitTicks } from '../charts/ticks.js';
import { useSettings } from '../state/settings.js';

/** One line over engine speed, with what it is not sure of about it. */
export interface Line {
  readonly name: string;
  readonly index: number;
  readonly points: readonly {
    readonly speed: number;
    readonly value: number;
    readonly low?: number;
    readonly high?: number;
  }[];
  readonly ghost?: readonly { readonly speed: number; readonly value: number }[];
}
const props = defineProps<{
  lines: readonly Line[];
  kind: Kind;
  label: string;
  target?: { readonly speed: number; readonly value?: number };
  working?: readonly [number, number];
  /** The line whose band is drawn; all of them where left out. */
  band?: number | undefined;
  zero?: boolean;
  digits?: number;
}>();
const settings = useSettings();
const svg = useTemplateRef<SVGSVGElement>('svg');
defineExpose({ svg });
const box = useTemplateRef<HTMLElement>('box');
const { width: measured } = useElementSize(box);
const width = computed(() => Math.max(320, measured.value || 640));
const HEIGHT = 320;
const LEFT = 52;
const RIGHT = 72;
const TOP = 24;
const BOTTOM = 36;
const drawn = computed(() => props.lines.filter((l) => l.points.length > 0));
const x = computed(() => {
  const [from = 0, to = 1] = extent([
    ...(props.target ? [props.target.speed] : []),
    ...drawn.value.flatMap((l) => l.points.map((p) => p.speed)),
  ]);
  return scaleLinear([from, to], [LEFT, width.value - RIGHT]);
});
const y = computed(() => {
  const values = drawn.value.flatMap((l) => l.points.flatMap((p) => [p.value, p.low ?? p.value, p.high ?? p.value]));
  const [low = 0, high = 1] = extent([
    ...values,
    ...(props.target?.value === undefined ? [] : [props.target.value]),
    ...(props.zero ? [0] : []),
  ]);
  const room = Math.max((high - low) * 0.08, 1e-9);
  return scaleLinear([low - room, high + room], [HEIGHT - BOTTOM, TOP]);
});
const path = (points: readonly { speed: number; value: number }[]) =>
  line<{ speed: number; value: number }>()
    .x((p) => x.value(p.speed))
    .y((p) => y.value(p.value))
    .curve(curveMonotoneX)(points as { speed: number; value: number }[]) ?? '';
const bandPath = (l: Line) => {
  const known = l.points.filter((p) => p.low !== undefined);
  return known.length < 2
    ? ''
    : (area<(typeof known)[number]>()
        .x((p) => x.value(p.speed))
        .y0((p) => y.value(p.low!))
        .y1((p) => y.value(p.high!))
        .curve(curveMonotoneX)(known) ?? '');
};
const ends = computed(() => {
  const places = spreadLabels(
    drawn.value.map((l) => y.value(l.points.at(-1)!.value)),
    18,
    TOP,
    HEIGHT - BOTTOM,
  );
  return drawn.value.map((l, i) => ({ line: l, at: y.value(l.points.at(-1)!.value), label: places[i]! }));
});
const number = (value: number, kind: Kind, digits?: number) =>
  settings.say.of(value, kind, digits === undefined ? {} : { digits }).split('\u00a0')[0]!;

/** The cursor: a speed that was run, by mouse, touch or arrow keys. */
const cursor = ref<number>();
const speeds = computed(() =>
  [...new Set(drawn.value.flatMap((l) => l.points.map((p) => p.speed)))].sort((a, b) => a - b),
);
const nearest = bisector((s: number) => s).center;
function follow(event: PointerEvent): void {
  const left = svg.value!.getBoundingClientRect().left;
  const list = speeds.value;
  if (list.length > 0) cursor.value = list[nearest(list, x.value.invert(event.clientX - left))];
}
function step(by: number): void {
  const list = speeds.value;
  if (list.length === 0) return;
  const at =
    cursor.value === undefined ? nearest(list, props.target?.speed ?? list[0]!) : list.indexOf(cursor.value) + by;
  cursor.value = list[Math.max(0, Math.min(list.length - 1, at))];
}
const read = computed(() => {
  if (cursor.value === undefined) return '';
  const at = drawn.value.flatMap((l) => {
    const p = l.points.find((q) => q.speed === cursor.value);
    if (!p) return [];
    const range =
      p.low === undefined
        ? ''
        : ` (${number(p.low, props.kind, props.digits)} to ${number(p.high!, props.kind, props.digits)})`;
    return [
      `${l.name} ${settings.say.of(p.value, props.kind, props.digits === undefined ? {} : { digits: props.digits })}${range}`,
    ];
  });
  return `${settings.say.of(cursor.value, 'rotation')}: ${at.join(', ')}`;
});
</script>

<template>
  <div ref="box" class="box">
    <svg
      ref="svg"
      class="chart"
      :width="width"
      :viewBox="`0 0 ${width} ${HEIGHT}`"
      role="img"
      tabindex="0"
      :aria-label="`${label} over engine speed. Arrow keys read it.`"
      @pointermove="follow"
      @pointerdown="follow"
      @pointerleave="cursor = undefined"
      @keydown.right.prevent="step(1)"
      @keydown.left.prevent="step(-1)"
      @keydown.esc="cursor = undefined"
    >
      <rect
        v-if="working"
        :x="x(Math.max(working[0], x.domain()[0]!))"
        :width="Math.max(0, x(Math.min(working[1], x.domain()[1]!)) - x(Math.max(working[0], x.domain()[0]!)))"
        :y="TOP"
        :height="HEIGHT - TOP - BOTTOM"
        fill="var(--paper-deep)"
      />
      <g v-for="t in unitTicks(y.domain()[0]!, y.domain()[1]!, kind, settings.system, 6)" :key="t">
        <line
          :x1="LEFT"
          :x2="width - RIGHT"
          :y1="y(t)"
          :y2="y(t)"
          :stroke="zero && Math.abs(t) < 1e-9 ? 'var(--ink)' : 'var(--rule)'"
        />
        <text :x="LEFT - 6" :y="y(t) + 5" text-anchor="end" class="tick">{{ number(t, kind, digits) }}</text>
      </g>
      <text :x="LEFT - 6" y="12" text-anchor="end" class="tick">{{ unitFor(kind, settings.system).symbol }}</text>
      <text
        v-for="t in unitTicks(x.domain()[0]!, x.domain()[1]!, 'rotation', settings.system, 6)"
        :key="t"
        :x="x(t)"
        :y="HEIGHT - 14"
        text-anchor="middle"
        class="tick"
      >
        {{ number(t, 'rotation') }}
      </text>
      <template v-for="l in drawn" :key="`band ${l.name}`">
        <path v-if="band === undefined || band === l.index" :d="bandPath(l)" fill="var(--water)" opacity="0.45" />
      </template>
      <g v-for="l in drawn" :key="l.name">
        <path v-if="l.ghost" :d="path(l.ghost)" fill="none" stroke="var(--slate)" stroke-width="1" opacity="0.55" />
        <path
          :d="path(l.points)"
          fill="none"
          stroke="var(--ink)"
          :stroke-width="markOf(l.index).width"
          :stroke-dasharray="markOf(l.index).dash"
        />
        <path
          v-for="p in l.points.filter((_, i) => i % 3 === l.index % 3)"
          :key="p.speed"
          :d="markPath(markOf(l.index), 34)"
          :transform="`translate(${x(p.speed)} ${y(p.value)})`"
          fill="var(--paper)"
          stroke="var(--ink)"
          stroke-width="1.3"
        />
      </g>
      <g v-for="e in ends" :key="e.line.name">
        <line :x1="width - RIGHT" :x2="width - RIGHT + 9" :y1="e.at" :y2="e.label" stroke="var(--slate)" />
        <text :x="width - RIGHT + 13" :y="e.label + 5" class="end">{{ e.line.name }}</text>
      </g>
      <g v-if="target">
        <line
          :x1="x(target.speed)"
          :x2="x(target.speed)"
          :y1="TOP"
          :y2="HEIGHT - BOTTOM"
          stroke="var(--caution-line)"
          stroke-dasharray="3 3"
        />
        <g v-if="target.value !== undefined" :transform="`translate(${x(target.speed)} ${y(target.value)})`">
          <path d="M-7 0H7M0 -7V7" stroke="var(--caution-line)" stroke-width="2.4" />
          <text x="-10" y="-8" text-anchor="end" class="asked">target</text>
        </g>
      </g>
      <line
        v-if="cursor !== undefined"
        :x1="x(cursor)"
        :x2="x(cursor)"
        :y1="TOP"
        :y2="HEIGHT - BOTTOM"
        stroke="var(--ink)"
        stroke-width="0.8"
      />
    </svg>
    <p class="read note" aria-live="polite">{{ read || '\u00a0' }}</p>
  </div>
</template>

<style scoped>
.box {
  min-width: 0;
  overflow: hidden;
}
svg {
  touch-action: pan-y;
}
.end {
  font-weight: 600;
}
.asked {
  font: italic 15px var(--serif);
  fill: var(--caution);
}
.read {
  margin: 0;
  min-height: 20px;
}
</style>
