<script setup lang="ts">
import { outlineOf, signedArea } from '@alluvium/core';
import { PICTURE_TYPES, centred } from '@alluvium/records';
import { computed, useTemplateRef } from 'vue';
import StepLine from '../parts/StepLine.vue';
import TextField from '../parts/TextField.vue';
import FilePick from '../parts/FilePick.vue';
import { useSettings } from '../state/settings.js';
import { useTrace } from './useTrace.js';

// state.scale[]!: drawn once both ends are set.

/**
 * Traces a section from a photo of the slice or the mould: two points of known distance set the scale, then the outline is
 * clicked. Points can be dragged, nudged by the arrows, taken out, and taken back.
 */
const emit = defineEmits<{ done: [[number, number][]]; close: [] }>();
const settings = useSettings();
const svg = useTemplateRef<SVGSVGElement>('svg');
const {
  url,
  size,
  state,
  past,
  distance,
  chosen,
  problem,
  cross,
  known,
  points,
  crossing,
  crossingAt,
  open,
  change,
  back,
  press,
  drag,
  release,
  onKey,
} = useTrace(svg);
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
        <FilePick :accept="Object.keys(PICTURE_TYPES).join(',')" @files="open($event[0])">Choose a photo …</FilePick>
        <TextField
          v-model="distance"
          class="apart"
          label="Distance between the two points"
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
        Use this outline
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
  width: 220px;
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
