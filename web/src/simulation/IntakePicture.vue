<script setup lang="ts">
import type { Trace } from '@alluvium/core';
import { extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { computed, nextTick, onMounted, useTemplateRef, watch } from 'vue';
import { useSettings } from '../state/settings.js';
import { inView } from './gasExchange.js';

// props.trace.path[]!, props.trace.path[][]!: places of the trace's own lists.

/** Pressure along the intake against crank angle, drawn into a canvas: rows of pixels are cells, columns angles. */
const props = defineProps<{ name: string; trace: Trace; left: number; right: number }>();
const settings = useSettings();
const canvas = useTemplateRef<HTMLCanvasElement>('canvas');
const span = computed(() => extent(inView(props.trace).flatMap(([, i]) => props.trace.path[i]!)) as [number, number]);
function paint(): void {
  const context = canvas.value?.getContext('2d');
  if (!canvas.value || !context) return;
  const seen = inView(props.trace);
  const cells = props.trace.place.length;
  canvas.value.width = seen.length;
  canvas.value.height = cells;
  const [low, high] = span.value;
  const style = getComputedStyle(canvas.value);
  const ink = (name: string, otherwise: string) => style.getPropertyValue(name).trim() || otherwise;
  const colour = scaleLinear<string>(
    [low, (low + high) / 2, high],
    [ink('--intake', '#17707c'), ink('--paper-raised', '#f9f7f1'), ink('--exhaust', '#b4532a')],
  );
  seen.forEach(([, i], column) => {
    for (let c = 0; c < cells; c++) {
      context.fillStyle = colour(props.trace.path[i]![c]!);
      context.fillRect(column, c, 1, 1);
    }
  });
}
const range = computed(() => {
  const [low, high] = span.value.map((p) => settings.say.of(p, 'pressure'));
  return `${low} (blue) to ${high} (red)`;
});
onMounted(paint);
watch(
  () => props.trace,
  () => void nextTick(paint),
);
</script>

<template>
  <div>
    <p class="note">{{ name }}: pressure along the intake, plenum at the top, valve at the bottom; {{ range }}</p>
    <canvas
      ref="canvas"
      :style="{ marginLeft: `${left}px`, width: `calc(100% - ${left + right}px)` }"
      role="img"
      :aria-label="`Pressure along the intake of ${name} against crank angle`"
    />
  </div>
</template>

<style scoped>
canvas {
  display: block;
  height: 110px;
}
.note {
  margin: 6px 0 2px;
}
</style>
