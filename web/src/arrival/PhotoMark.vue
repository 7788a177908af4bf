<script setup lang="ts">
import type { PhotoRegion } from '@alluvium/records';
import { nextTick, ref, useTemplateRef, watch } from 'vue';

// box.value!, querySelector()!: the photo is on the page when it is pressed.

/**
 * A photo with the part of it that shows what was found. While it is being marked a frame is drawn by dragging, or moved
 * by the arrows and resized by Shift and the arrows.
 */
const props = defineProps<{ src: string; alt: string; region: PhotoRegion | null; marking: boolean }>();
const emit = defineEmits<{ mark: [PhotoRegion] }>();
const box = useTemplateRef<HTMLElement>('box');
const frame = ref<PhotoRegion | null>(props.region);
watch(
  () => props.region,
  (now) => (frame.value = now),
);
/** Where a frame begins that nobody drew yet. */
const MIDDLE: PhotoRegion = { x: 0.4, y: 0.4, width: 0.2, height: 0.2 };
const STEP = 0.01;
const LEAST = 0.02;
watch(
  () => props.marking,
  (now) => {
    if (!now) return void (frame.value = props.region);
    if (!frame.value) put(MIDDLE);
    void nextTick(() => box.value?.querySelector<HTMLElement>('.frame')?.focus());
  },
);
const within = (v: number, most: number) => Math.min(most, Math.max(0, v));
function put(next: PhotoRegion): void {
  const width = within(Math.max(LEAST, next.width), 1);
  const height = within(Math.max(LEAST, next.height), 1);
  frame.value = { x: within(next.x, 1 - width), y: within(next.y, 1 - height), width, height };
  emit('mark', frame.value);
}
function at(event: PointerEvent): [number, number] {
  const area = box.value!.querySelector('img')!.getBoundingClientRect();
  return [within((event.clientX - area.left) / area.width, 1), within((event.clientY - area.top) / area.height, 1)];
}
let from: [number, number] | undefined;
function down(event: PointerEvent): void {
  if (!props.marking) return;
  event.preventDefault();
  (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  from = at(event);
}
function move(event: PointerEvent): void {
  if (!from) return;
  const to = at(event);
  const [width, height] = [Math.abs(to[0] - from[0]), Math.abs(to[1] - from[1])];
  if (width < LEAST && height < LEAST) return;
  put({ x: Math.min(from[0], to[0]), y: Math.min(from[1], to[1]), width, height });
}
const DIRECTIONS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
function onKey(event: KeyboardEvent): void {
  const way = DIRECTIONS[event.key];
  if (!way || !frame.value) return;
  event.preventDefault();
  event.stopPropagation();
  const [dx, dy] = [way[0] * STEP, way[1] * STEP];
  const { x, y, width, height } = frame.value;
  put(event.shiftKey ? { x, y, width: width + dx, height: height + dy } : { x: x + dx, y: y + dy, width, height });
}
const share = (v: number) => `${100 * v}%`;
</script>

<template>
  <div
    ref="box"
    class="photo"
    :class="{ marking }"
    @pointerdown="down"
    @pointermove="move"
    @pointerup="from = undefined"
    @pointercancel="from = undefined"
  >
    <img :src="src" :alt="alt" draggable="false" />
    <span
      v-if="frame"
      class="frame"
      :role="marking ? 'group' : undefined"
      :tabindex="marking ? 0 : undefined"
      :aria-label="marking ? 'The part that shows it: arrows move it, Shift and arrows resize it' : undefined"
      :style="{
        left: share(frame.x),
        top: share(frame.y),
        width: share(frame.width),
        height: share(frame.height),
      }"
      @keydown="onKey"
    />
  </div>
</template>

<style scoped>
.photo {
  position: relative;
  display: inline-block;
}
.marking {
  cursor: crosshair;
  touch-action: none;
}
img {
  display: block;
  max-width: 100%;
  max-height: 66vh;
}
/* Light within dark: seen on any picture. */
.frame {
  position: absolute;
  border: 2px solid #fff;
  outline: 2px solid var(--loss);
  pointer-events: none;
}
.marking .frame:focus-visible {
  outline-width: 4px;
}
</style>
