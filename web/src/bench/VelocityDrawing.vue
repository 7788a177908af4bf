<script setup lang="ts">
import { formatNumber, type Point } from '@alluvium/core';
import { contours } from 'd3-contour';
import { geoPath, geoTransform } from 'd3-geo';
import { extent } from 'd3-array';
import { computed, useId } from 'vue';
import { useSettings } from '../state/settings.js';
import { vLegible } from '../charts/legible.js';

// known.value[]!: drawn where one is known.

/** A velocity map as a contour picture, on the section's own outline where one is measured. */
const props = defineProps<{
  rows: number;
  columns: number;
  /** m/s by row and column; undefined where nothing was read. */
  velocities: readonly (readonly (number | undefined)[])[];
  /** The section, m; null draws a plain grid. */
  outline: readonly Point[] | null;
  wall: 'left' | 'right' | 'unknown';
}>();
const settings = useSettings();
const clip = useId();
const SIZE = 290;
const MARGIN = 34;

const box = computed(() => {
  const [x0, x1] = extent(props.outline ?? [], (p) => p[0]) as [number, number] | [undefined, undefined];
  const [y0, y1] = extent(props.outline ?? [], (p) => p[1]) as [number, number] | [undefined, undefined];
  return x0 === undefined || x1 === undefined || y0 === undefined || y1 === undefined
    ? { left: 0, top: 1, w: props.columns / props.rows, h: 1 }
    : { left: x0, top: y1, w: x1 - x0, h: y1 - y0 };
});
const scale = computed(() => SIZE / Math.max(box.value.w, box.value.h));
const width = computed(() => box.value.w * scale.value);
const height = computed(() => box.value.h * scale.value);
const shape = computed(() =>
  props.outline
    ? `M${props.outline.map(([x, y]) => `${(x - box.value.left) * scale.value},${(box.value.top - y) * scale.value}`).join('L')}Z`
    : `M0,0H${width.value}V${height.value}H0Z`,
);

/** Value at a place of the grid, 0 to 1 both ways, straight between the cells beside it. Missing cells take their nearest. */
const known = computed(() =>
  props.velocities.flatMap((row, r) => row.flatMap((v, c) => (v === undefined ? [] : [{ r, c, v }]))),
);
function cell(r: number, c: number): number {
  const row = Math.max(0, Math.min(props.rows - 1, r));
  const column = Math.max(0, Math.min(props.columns - 1, c));
  const v = props.velocities[row]?.[column];
  if (v !== undefined) return v;
  let best = known.value[0]!;
  for (const k of known.value)
    if (Math.hypot(k.r - row, k.c - column) < Math.hypot(best.r - row, best.c - column)) best = k;
  return best.v;
}
function at(x: number, y: number): number {
  const [c, r] = [x * props.columns - 0.5, y * props.rows - 0.5];
  const [c0, r0] = [Math.floor(c), Math.floor(r)];
  const [fc, fr] = [c - c0, r - r0];
  return (
    (cell(r0, c0) * (1 - fc) + cell(r0, c0 + 1) * fc) * (1 - fr) +
    (cell(r0 + 1, c0) * (1 - fc) + cell(r0 + 1, c0 + 1) * fc) * fr
  );
}
const FINE = 48;
const bands = computed(() => {
  if (known.value.length < 2) return [];
  const values = Array.from({ length: FINE * FINE }, (_, i) =>
    at(((i % FINE) + 0.5) / FINE, (Math.floor(i / FINE) + 0.5) / FINE),
  );
  const [low, high] = extent(values) as [number, number];
  if (!(high > low)) return [];
  const path = geoPath(
    geoTransform({
      point(x, y) {
        this.stream.point((x / FINE) * width.value, (y / FINE) * height.value);
      },
    }),
  );
  const steps = Array.from({ length: 8 }, (_, i) => low + ((high - low) * i) / 8);
  return contours()
    .size([FINE, FINE])
    .thresholds(steps)(values)
    .map((c, i) => ({ d: path(c) ?? '', depth: i / 7, value: c.value }));
});
const marks = computed(() =>
  known.value.map(({ r, c, v }) => ({
    x: ((c + 0.5) / props.columns) * width.value,
    y: ((r + 0.5) / props.rows) * height.value,
    v: formatNumber(v, 'velocity', settings.figures),
  })),
);
</script>

<template>
  <svg
    v-legible
    :viewBox="`${-MARGIN} ${-MARGIN} ${width + 2 * MARGIN} ${height + 2 * MARGIN}`"
    :width="width + 2 * MARGIN"
    role="img"
    aria-label="Velocities across the section"
  >
    <clipPath :id="clip"><path :d="shape" /></clipPath>
    <g :clip-path="`url(#${clip})`">
      <path v-for="(b, i) in bands" :key="i" :d="b.d" class="band" :style="{ fillOpacity: 0.06 + 0.13 * b.depth }" />
    </g>
    <path :d="shape" class="bank" />
    <text v-for="(m, i) in marks" :key="i" :x="m.x" :y="m.y + 4" text-anchor="middle" class="value">{{ m.v }}</text>
    <text :x="width / 2" y="-12" text-anchor="middle" class="edge">roof</text>
    <text :x="width / 2" :y="height + 22" text-anchor="middle" class="edge">floor</text>
    <text
      v-if="wall !== 'unknown'"
      :transform="`translate(${wall === 'left' ? -14 : width + 22},${height / 2}) rotate(-90)`"
      text-anchor="middle"
      class="edge"
    >
      cylinder wall
    </text>
  </svg>
</template>

<style scoped>
.band {
  fill: var(--intake);
}
.bank {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.value {
  font-size: max(13px, calc(12px * var(--per-px, 0)));
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 2.5px;
  stroke-opacity: 0.6;
}
.edge {
  font: italic 14px var(--serif);
  fill: var(--slate);
}
</style>
