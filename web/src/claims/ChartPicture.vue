<script setup lang="ts">
import type { Attachment } from '@alluvium/records';
import { computed, ref, useTemplateRef } from 'vue';
import { ARROWS, dotAt, useCross, type Dot } from '../parts/dots.js';
import type { ChartState } from './chartReading.js';

// svg.value!: it is pointed at.

/** The picture of a chart with the marks of its axes and the points of its curves, by mouse and by keyboard. */
const props = defineProps<{
  picture: Pick<Attachment, 'id' | 'width' | 'height'>;
  state: ChartState;
  /** The point that arrows move; −1 for none. */
  chosen: number;
}>();
const emit = defineEmits<{
  place: [Dot];
  move: [index: number, to: Dot, first: boolean];
  choose: [number];
  out: [number];
  back: [];
}>();
const svg = useTemplateRef<SVGSVGElement>('svg');
const zoom = ref(1);
const { cross, step } = useCross(() => props.picture);
const r = computed(() => Math.max(2.5, props.picture.width / 200 / zoom.value));

let dragging = -1;
let moved = false;
function press(event: PointerEvent): void {
  // Here rather than by the browser afterwards, so that a field that takes the cursor for a mark's value keeps it.
  svg.value!.focus({ preventScroll: true });
  const dot = (event.target as Element).getAttribute('data-dot');
  if (dot === null) return emit('place', dotAt(svg.value!, event));
  dragging = Number(dot);
  moved = false;
  emit('choose', dragging);
  svg.value!.setPointerCapture(event.pointerId);
}
function drag(event: PointerEvent): void {
  if (dragging < 0) return;
  emit('move', dragging, dotAt(svg.value!, event), !moved);
  moved = true;
}
const release = () => (dragging = -1);
function onKey(event: KeyboardEvent): void {
  const move = ARROWS[event.key];
  const point = props.state.points[props.chosen];
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') emit('back');
  else if (move && point) {
    const by = event.shiftKey ? 10 : 1;
    emit('move', props.chosen, [point.dot[0] + move[0] * by, point.dot[1] + move[1] * by], true);
  } else if (move) step(move, event.shiftKey);
  else if (event.key === 'Escape' && props.chosen >= 0) emit('choose', -1);
  else if ((event.key === ' ' || event.key === 'Enter') && cross.value) {
    emit('place', cross.value);
    // The next arrow moves the cross on, not the point just set.
    emit('choose', -1);
  } else if ((event.key === 'Delete' || event.key === 'Backspace') && point) emit('out', props.chosen);
  else return;
  event.preventDefault();
  event.stopPropagation();
}
const crossPath = ([x, y]: Dot, size: number) =>
  `M${x - r.value * size} ${y}h${r.value * size * 2}M${x} ${y - r.value * size}v${r.value * size * 2}`;
const axis = (kind: 'lift' | 'flow') => {
  const [a, b] = [props.state.at[`${kind}1`], props.state.at[`${kind}2`]];
  return a && b ? `M${a.join(' ')}L${b.join(' ')}` : '';
};
const marks = computed(() => Object.entries(props.state.at).filter((m): m is [string, Dot] => m[1] !== undefined));
</script>

<template>
  <div>
    <div class="frame">
      <svg
        ref="svg"
        :viewBox="`0 0 ${picture.width} ${picture.height}`"
        :style="{ width: `${zoom * 100}%`, height: `${zoom * 54}vh` }"
        tabindex="0"
        aria-label="Chart to read"
        @mousedown.prevent
        @pointerdown="press"
        @pointermove="drag"
        @pointerup="release"
        @pointercancel="release"
        @keydown="onKey"
      >
        <image :href="`/api/attachment/${picture.id}/picture`" :width="picture.width" :height="picture.height" />
        <path v-for="k in ['lift', 'flow'] as const" :key="k" :d="axis(k)" class="axis" :stroke-width="r / 2" />
        <path v-for="[name, at] in marks" :key="name" :d="crossPath(at, 2.4)" class="mark" :stroke-width="r / 1.6" />
        <circle
          v-for="(p, i) in state.points"
          :key="i"
          :data-dot="i"
          :cx="p.dot[0]"
          :cy="p.dot[1]"
          :r="r * 1.5"
          :class="[p.side, { chosen: i === chosen }]"
          :stroke-width="r / 2"
        />
        <path v-if="cross" :d="crossPath(cross, 3)" class="cross" :stroke-width="r / 2.5" />
      </svg>
    </div>
    <p class="zoom">
      <el-button link :disabled="zoom <= 1" @click="zoom = Math.max(1, zoom / 1.5)">Smaller</el-button>
      <el-button link :disabled="zoom >= 5" @click="zoom = Math.min(5.1, zoom * 1.5)">Larger</el-button>
      <span class="note">By keyboard: arrows move the cross, Space sets.</span>
    </p>
  </div>
</template>

<style scoped>
.frame {
  height: calc(54vh + 2px);
  overflow: auto;
  border: 1px solid var(--rule);
}
svg {
  display: block;
  cursor: crosshair;
  touch-action: none;
}
.axis {
  stroke: var(--caution-line);
  stroke-opacity: 0.6;
}
.mark,
.cross {
  fill: none;
  stroke: var(--caution-line);
}
circle {
  fill: var(--paper);
  fill-opacity: 0.6;
  cursor: move;
}
circle.intake {
  stroke: var(--intake);
}
circle.exhaust {
  stroke: var(--exhaust);
}
circle.intake.chosen {
  fill: var(--intake);
}
circle.exhaust.chosen {
  fill: var(--exhaust);
}
.zoom {
  display: flex;
  gap: 18px;
  margin: 4px 0 0;
}
</style>
