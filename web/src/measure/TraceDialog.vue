<script setup lang="ts">
import { outlineOf, parseQuantity, selfCrossing, signedArea } from '@alluvium/core';
import { PICTURE_TYPES, centred } from '@alluvium/records';
import { computed, onBeforeUnmount, ref, useTemplateRef } from 'vue';
import StepLine from '../parts/StepLine.vue';
import TextField from '../parts/TextField.vue';
import FilePick from '../parts/FilePick.vue';
import { ARROWS, dotAt, useCross, type Dot } from '../parts/dots.js';
import { useSettings } from '../state/settings.js';

/**
 * Traces a section from a photo of the slice or the mould: two points of known distance set the scale, then the outline is
 * clicked. Points can be dragged, nudged by the arrows, taken out, and taken back.
 */
const emit = defineEmits<{ done: [[number, number][]]; close: [] }>();
const settings = useSettings();
interface State {
  readonly scale: readonly Dot[];
  readonly outline: readonly Dot[];
}
const url = ref('');
const size = ref({ width: 1000, height: 700 });
const state = ref<State>({ scale: [], outline: [] });
const past = ref<State[]>([]);
const distance = ref('');
const chosen = ref(-1);
const problem = ref('');
const svg = useTemplateRef<SVGSVGElement>('svg');
onBeforeUnmount(() => url.value && URL.revokeObjectURL(url.value));

function open(file: File | undefined): void {
  if (!file) return;
  if (!Object.keys(PICTURE_TYPES).includes(file.type)) {
    problem.value = `“${file.name}” is no picture this program takes: JPEG, PNG or WebP.`;
    return;
  }
  problem.value = '';
  if (url.value) URL.revokeObjectURL(url.value);
  url.value = URL.createObjectURL(file);
  const image = new Image();
  image.onload = () => (size.value = { width: image.naturalWidth, height: image.naturalHeight });
  image.onerror = () => {
    problem.value = `“${file.name}” cannot be shown as a picture.`;
    url.value = '';
  };
  image.src = url.value;
}
function change(next: Partial<State>): void {
  past.value.push(state.value);
  state.value = { ...state.value, ...next };
}
function back(): void {
  const before = past.value.pop();
  if (before) state.value = before;
  chosen.value = -1;
}
const at = (event: PointerEvent) => dotAt(svg.value!, event);
const { cross, step } = useCross(() => size.value);
function place(p: Dot): void {
  if (!url.value) return;
  if (state.value.scale.length < 2) change({ scale: [...state.value.scale, p] });
  else change({ outline: [...state.value.outline, p] });
}
let dragging = -1;
function press(event: PointerEvent): void {
  const dot = (event.target as Element).getAttribute('data-dot');
  if (dot !== null) {
    dragging = Number(dot);
    chosen.value = dragging;
    past.value.push(state.value);
    svg.value!.setPointerCapture(event.pointerId);
    return;
  }
  if (!url.value) return;
  const p = at(event);
  if (state.value.scale.length < 2) change({ scale: [...state.value.scale, p] });
  else {
    // A new point goes in after the one chosen, else at the end.
    const outline = state.value.outline.slice();
    const place = chosen.value >= 0 ? chosen.value + 1 : outline.length;
    outline.splice(place, 0, p);
    change({ outline });
    chosen.value = place;
  }
}
function drag(event: PointerEvent): void {
  if (dragging < 0) return;
  const outline = state.value.outline.slice();
  outline[dragging] = at(event);
  state.value = { ...state.value, outline };
}
const release = () => (dragging = -1);
function onKey(event: KeyboardEvent): void {
  if ((event.target as HTMLElement).tagName === 'INPUT') return;
  const move = ARROWS[event.key];
  const point = state.value.outline[chosen.value];
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') back();
  else if (move && !point) step(move, event.shiftKey);
  else if ((event.key === ' ' || event.key === 'Enter') && cross.value && (event.target as Element) === svg.value)
    place(cross.value);
  else if (move && point) {
    const outline = state.value.outline.slice();
    const by = event.shiftKey ? 10 : 1;
    outline[chosen.value] = [point[0] + move[0] * by, point[1] + move[1] * by];
    change({ outline });
  } else if ((event.key === 'Delete' || event.key === 'Backspace') && point) {
    change({ outline: state.value.outline.filter((_, i) => i !== chosen.value) });
    chosen.value = Math.min(chosen.value, state.value.outline.length - 1);
  } else return;
  event.preventDefault();
  event.stopPropagation();
}
const known = computed(() => {
  const parsed = parseQuantity(distance.value, 'length', settings.system);
  return parsed.ok && parsed.quantity.si > 0 ? parsed.quantity.si : undefined;
});
/** Metres in a pixel of the photo. */
const perPixel = computed(() => {
  const [a, b] = state.value.scale;
  if (!a || !b || known.value === undefined) return undefined;
  const pixels = Math.hypot(a[0] - b[0], a[1] - b[1]);
  return pixels > 1 ? known.value / pixels : undefined;
});
const points = computed(() =>
  perPixel.value === undefined
    ? []
    : state.value.outline.map(([x, y]): [number, number] => [x * perPixel.value!, -y * perPixel.value!]),
);
const crossing = computed(() => (points.value.length > 3 ? selfCrossing(points.value) : undefined));
const crossingAt = computed(() => {
  const c = crossing.value;
  return c && perPixel.value ? ([c.at[0] / perPixel.value, -c.at[1] / perPixel.value] as Dot) : undefined;
});
const says = computed(() => {
  if (!url.value) return 'Choose or drop a photo of the slice or of the mould’s cut, taken square on.';
  if (state.value.scale.length < 2)
    return 'Click two points whose distance you know: the jaws of the calipers, a ruler.';
  if (known.value === undefined) return 'Type how far apart the two points are.';
  if (state.value.outline.length < 3)
    return 'Click round the outline. Drag points; arrows nudge, Delete takes one out, Ctrl Z goes back. By keyboard: arrows move the cross, Space sets a point.';
  if (crossing.value)
    return `The outline crosses itself between points ${crossing.value.first + 1} and ${crossing.value.second + 1}: move or remove one of them.`;
  const area = Math.abs(signedArea(outlineOf({ kind: 'outline', points: points.value })));
  return `${points.value.length} points, ${settings.say.of(area, 'area')}.`;
});
const STEPS = ['Photo', 'Scale', 'Outline'];
const reached = computed(() => {
  if (!url.value) return 0;
  if (state.value.scale.length < 2 || known.value === undefined) return 1;
  return state.value.outline.length < 3 || crossing.value ? 2 : 3;
});
function done(): void {
  emit(
    'done',
    centred(points.value).map(([x, y]) => [Number(x.toFixed(7)), Number(y.toFixed(7))]),
  );
}
const r = computed(() => Math.max(3, size.value.width / 160));
</script>

<template>
  <el-dialog :model-value="true" title="Trace a section" width="min(1080px, 94vw)" top="4vh" @close="$emit('close')">
    <div class="trace" @keydown="onKey" @dragover.prevent @drop.prevent.stop="open($event.dataTransfer?.files[0])">
      <StepLine :steps="STEPS" :at="reached" />
      <p class="bar">
        <FilePick :accept="Object.keys(PICTURE_TYPES).join(',')" @files="open($event[0])">photo …</FilePick>
        <TextField
          v-model="distance"
          class="apart"
          label="the two points are apart"
          :placeholder="settings.system === 'inch' ? '1.000 in' : '25 mm'"
        />
        <el-button link :disabled="past.length === 0" @click="back">Undo</el-button>
        <el-button link :disabled="state.scale.length === 0" @click="change({ scale: [] })">
          Set the scale again
        </el-button>
      </p>
      <p class="note" aria-live="polite">{{ says }}</p>
      <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
      <svg
        ref="svg"
        :viewBox="`0 0 ${size.width} ${size.height}`"
        tabindex="0"
        aria-label="Photo to trace"
        @pointerdown="press"
        @pointermove="drag"
        @pointerup="release"
        @pointercancel="release"
      >
        <image v-if="url" :href="url" :width="size.width" :height="size.height" />
        <rect v-else :width="size.width" :height="size.height" class="empty" />
        <g v-for="(p, i) in state.scale" :key="`s${i}`" class="scale">
          <path :d="`M${p[0] - r * 2} ${p[1]}h${r * 4}M${p[0]} ${p[1] - r * 2}v${r * 4}`" :stroke-width="r / 2" />
        </g>
        <line
          v-if="state.scale.length === 2"
          class="scale"
          :x1="state.scale[0]![0]"
          :y1="state.scale[0]![1]"
          :x2="state.scale[1]![0]"
          :y2="state.scale[1]![1]"
          :stroke-width="r / 3"
        />
        <polygon
          v-if="state.outline.length > 1"
          :points="state.outline.map((p) => p.join(',')).join(' ')"
          class="outline"
          :stroke-width="r / 2"
        />
        <circle
          v-for="(p, i) in state.outline"
          :key="i"
          :data-dot="i"
          :cx="p[0]"
          :cy="p[1]"
          :r="r"
          class="dot"
          :class="{ chosen: i === chosen }"
          :stroke-width="r / 3"
        />
        <path
          v-if="cross"
          class="scale"
          :d="`M${cross[0] - r * 3} ${cross[1]}h${r * 6}M${cross[0]} ${cross[1] - r * 3}v${r * 6}`"
          :stroke-width="r / 4"
        />
        <circle
          v-if="crossingAt"
          class="crossing"
          :cx="crossingAt[0]"
          :cy="crossingAt[1]"
          :r="r * 2.5"
          :stroke-width="r / 2"
        />
      </svg>
    </div>
    <template #footer>
      <el-button link @click="$emit('close')">Cancel</el-button>
      <el-button type="primary" :disabled="points.length < 3 || Boolean(crossing)" @click="done">
        Remove this workline
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 24px;
  align-items: baseline;
  margin: 0;
}
.apart {
  width: 90px;
  border: 0;
  border-bottom: 1px solid var(--el-border-color);
  background: transparent;
  color: inherit;
  font: inherit;
}
svg {
  display: block;
  width: 100%;
  max-height: 62vh;
  cursor: crosshair;
  touch-action: none;
}
.empty {
  fill: var(--paper-deep);
}
.scale {
  stroke: var(--caution-line);
  fill: none;
}
.outline {
  fill: rgb(23 112 124 / 18%);
  stroke: var(--intake);
}
.dot {
  fill: var(--paper);
  stroke: var(--intake);
  cursor: move;
}
.dot.chosen {
  fill: var(--intake);
}
.crossing {
  fill: none;
  stroke: var(--loss);
}
.el-button {
  margin-right: 18px;
}
</style>
