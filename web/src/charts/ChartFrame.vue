<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, provide, reactive, ref, shallowReactive, useTemplateRef } from 'vue';
import PressArea from '../parts/PressArea.vue';
import { usePointer } from '../parts/pointer.js';
import { useSettings } from '../state/settings.js';
import {
  CHART,
  drawnTable,
  readAt,
  scaleOf,
  stops,
  keptWhileAlive,
  valueText,
  type Axis,
  type Drawn,
  type NamePlace,
} from './chart.js';
import ChartAxes from './ChartAxes.vue';
import ChartMenu from './ChartMenu.vue';
import { useCursor } from './useCursor.js';

// svg.value!: it is pointed at.

/**
 * The frame of a chart: as wide as its place, its text always of one size. It draws both axes, reads what is drawn at the
 * cursor (mouse, touch, arrow keys), hides a curve by its name, and saves what is drawn. Marks stand in its slot.
 */
const props = withDefaults(
  defineProps<{
    /** What the chart shows, said before anything else. */
    label: string;
    /** More of it, in words, for who cannot see it. */
    words?: string | undefined;
    x: Axis;
    y: Axis;
    height?: number;
    /** As high as its place instead. */
    fills?: boolean;
    least?: number;
    most?: number;
    left?: number;
    right?: number;
    top?: number;
    bottom?: number;
    /** The place of x shown by the first press of an arrow; the middle where left out. */
    first?: number;
    /** What is read stands elsewhere. */
    mute?: boolean;
    /** The arrow keys are the page's own. */
    keyless?: boolean;
  }>(),
  {
    height: 300,
    least: 300,
    most: Infinity,
    left: 50,
    right: 18,
    top: 22,
    bottom: 34,
    words: undefined,
    first: undefined,
  },
);
/** The place read, in units of x. */
const cursor = defineModel<number>('cursor');
const settings = useSettings();
const box = useTemplateRef<HTMLElement>('box');
const svg = useTemplateRef<SVGSVGElement>('svg');
defineExpose({ svg });
const size = useElementSize(box);
const width = computed(() => Math.min(props.most, Math.max(props.least, size.width.value || 620)));
const tall = computed(() => (props.fills ? Math.max(140, size.height.value || props.height) : props.height));
const edge = computed(() => ({
  left: props.left,
  right: width.value - props.right,
  top: props.top,
  bottom: tall.value - props.bottom,
}));
const scaleX = computed(() => scaleOf(props.x, [edge.value.left, edge.value.right]));
const scaleY = computed(() => scaleOf(props.y, [edge.value.bottom, edge.value.top]));
const marks = shallowReactive(new Map<symbol, () => Drawn>());
const labels = shallowReactive(new Map<symbol, () => readonly NamePlace[]>());
const hidden = reactive(new Set<string>());
const chart = reactive({
  x: computed(() => (v: number) => scaleX.value(v)),
  y: computed(() => (v: number) => scaleY.value(v)),
  left: computed(() => edge.value.left),
  right: computed(() => edge.value.right),
  top: computed(() => edge.value.top),
  bottom: computed(() => edge.value.bottom),
  hides: (name: string) => hidden.has(name),
  draws: (drawn: () => Drawn) => keptWhileAlive(marks, drawn),
  names: (places: () => readonly NamePlace[]) => keptWhileAlive(labels, places),
});
provide(CHART, chart);
const toggle = (name: string) => void (hidden.delete(name) || hidden.add(name));
/** Names that hide and show: pressed with a mouse or by keys; a finger finds them too small and has the menu. */
const pointer = usePointer();
// Only another name or place is news: a frame drawn anew hands its marks new lists of the same.
const names = computed<NamePlace[]>((before) => {
  const now = [...labels.values()].flatMap((places) => places());
  return before && JSON.stringify(before) === JSON.stringify(now) ? before : now;
});

const drawn = computed(() => [...marks.values()].map((mark) => mark()).filter((d) => !hidden.has(d.name)));
const places = computed(() => stops(drawn.value, props.x));
const canRead = computed(() => places.value.length > 0);
const { follow, walk } = useCursor(cursor, places, {
  at: (event) => {
    const { left, width: shown } = svg.value!.getBoundingClientRect();
    return scaleX.value.invert(((event.clientX - left) * width.value) / (shown || width.value));
  },
  first: () => props.first,
});
const read = computed(() => {
  if (cursor.value === undefined || props.mute) return '';
  const here = readAt(drawn.value, cursor.value, props.x).map(({ drawn: d, point }) =>
    [d.short || d.name, d.say?.(point) ?? valueText(point[1], props.y, settings.say)].filter(Boolean).join(' '),
  );
  return here.length ? `${valueText(cursor.value, props.x, settings.say)}: ${here.join(', ')}` : '';
});
const table = () => drawnTable(drawn.value, props.x, props.y, settings.system);
/** The menu is made when it may be wanted. */
const near = ref(false);
</script>

<template>
  <figure
    ref="box"
    class="chart-frame"
    :class="{ fills }"
    @pointerenter="near = true"
    @focusin="near = true"
    @pointerleave="cursor = undefined"
  >
    <figcaption class="print-only">{{ label }}</figcaption>
    <svg
      ref="svg"
      class="chart"
      :width="width"
      :height="tall"
      :viewBox="`0 0 ${width} ${tall}`"
      role="img"
      :tabindex="keyless ? undefined : 0"
      :aria-label="`${words ?? label}${canRead && !keyless ? '. The arrow keys read it.' : ''}`"
      @pointermove="follow"
      @pointerdown="follow"
      @keydown="(event) => keyless || walk(event)"
    >
      <slot name="behind" v-bind="chart" />
      <ChartAxes :x="x" :y="y" :edge="edge" :height="tall" :scale-x="scaleX" :scale-y="scaleY" />
      <slot v-bind="chart" />
      <line
        v-if="cursor !== undefined"
        :x1="scaleX(cursor)"
        :x2="scaleX(cursor)"
        :y1="edge.top"
        :y2="edge.bottom"
        class="cursor"
      />
    </svg>
    <template v-if="pointer">
      <PressArea
        v-for="n in names"
        :key="n.name"
        class="hide no-print"
        :style="{ left: `${n.x - 2}px`, top: `${n.y - 12}px`, width: `${Math.max(24, width - n.x)}px` }"
        :aria-pressed="!hidden.has(n.name)"
        :aria-label="`Curve ${n.text}`"
        @click="toggle(n.name)"
      />
    </template>
    <slot name="over" v-bind="chart" />
    <ChartMenu
      v-if="near"
      class="menu no-print"
      :svg="svg"
      :title="label"
      :table="table"
      :names="pointer ? [] : names"
      :hidden="hidden"
      @toggle="toggle"
    />
    <p v-if="!mute && canRead" class="note read no-print" aria-live="polite">{{ read || '\u00a0' }}</p>
  </figure>
</template>

<style scoped>
.chart-frame {
  position: relative;
  min-width: 0;
  margin: 0;
  overflow: hidden;
}
svg {
  touch-action: pan-y;
}
.fills {
  height: 100%;
  min-height: 0;
}
/* Of no height itself: else the place would grow with what measures itself by it. */
.fills svg,
.fills .read {
  position: absolute;
}
.fills .read {
  inset: 0 auto auto 60px;
  pointer-events: none;
}
.cursor {
  stroke: var(--ink);
  stroke-width: 0.8;
}
.read {
  margin: 0;
  min-height: 20px;
}
.hide {
  position: absolute;
  height: 24px;
}
.menu {
  position: absolute;
  top: 0;
  right: 0;
  opacity: 0;
}
.chart-frame:hover .menu,
.menu:focus-within {
  opacity: 1;
}
@media (hover: none) {
  .menu {
    opacity: 1;
  }
}
</style>
