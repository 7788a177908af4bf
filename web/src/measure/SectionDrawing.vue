<script setup lang="ts">
import { outlineOf, type Point, type Section, type SectionBudget } from '@alluvium/core';
import { computed } from 'vue';
import { vLegible } from '../charts/legible.js';
import { useSettings } from '../state/settings.js';

// w[]!: looked for in front of it.

/** One section seen from the flange, to scale: the channel, how far it may grow, the metal at each side. */
const props = defineProps<{ section: Section; budget: SectionBudget | undefined }>();
const settings = useSettings();
const SIZE = 250;
const outline = computed(() => outlineOf(props.section.shape));
const grown = computed(() =>
  props.budget && props.budget.largest > props.budget.area * 1.0005 ? props.budget.outline : [],
);
const reach = computed(() => {
  const points = [...outline.value, ...grown.value];
  const walls = Object.values(props.section.walls).map((w) => w.thickness);
  return Math.max(...points.flatMap(([x, y]) => [Math.abs(x), Math.abs(y)])) + Math.max(0.004, ...walls) + 0.003;
});
const scale = computed(() => SIZE / 2 / reach.value);
const path = (points: readonly Point[]) =>
  points.length
    ? `M${points.map(([x, y]) => `${(SIZE / 2 + x * scale.value).toFixed(1)} ${(SIZE / 2 - y * scale.value).toFixed(1)}`).join('L')}Z`
    : '';
const box = computed(() => {
  const [xs, ys] = [outline.value.map((p) => p[0]), outline.value.map((p) => p[1])];
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.max(...ys), bottom: Math.min(...ys) };
});
/** Each wall as a stroke at its far side, with its figure in the metal. */
const walls = computed(() => {
  const { left, right, top, bottom } = box.value;
  const c = (x: number, y: number) => [SIZE / 2 + x * scale.value, SIZE / 2 - y * scale.value] as const;
  const w = props.section.walls;
  const at = {
    roof: w.roof && {
      a: c(left, top + w.roof.thickness),
      b: c(right, top + w.roof.thickness),
      t: c(0, top + w.roof.thickness / 2),
    },
    floor: w.floor && {
      a: c(left, bottom - w.floor.thickness),
      b: c(right, bottom - w.floor.thickness),
      t: c(0, bottom - w.floor.thickness / 2),
    },
    front: w.front && {
      a: c(left - w.front.thickness, top),
      b: c(left - w.front.thickness, bottom),
      t: c(left - w.front.thickness / 2, 0),
    },
    rear: w.rear && {
      a: c(right + w.rear.thickness, top),
      b: c(right + w.rear.thickness, bottom),
      t: c(right + w.rear.thickness / 2, 0),
    },
  };
  return Object.entries(at).flatMap(([side, m]) => {
    if (!m) return [];
    const wall = w[side as keyof typeof w]!;
    const spare = props.budget?.walls.find((x) => x.side === side)?.spare ?? 0;
    return [{ side, ...m, text: settings.say.number(wall.thickness * 1000, 1), behind: wall.behind, thin: spare < 0 }];
  });
});
</script>

<template>
  <svg v-legible :viewBox="`0 0 ${SIZE} ${SIZE}`" role="img" aria-label="The section seen from the flange, to scale">
    <path v-if="grown.length" :d="path(grown)" class="grown" />
    <path :d="path(outline)" class="channel" />
    <g v-for="w in walls" :key="w.side" :class="{ thin: w.thin }">
      <line :x1="w.a[0]" :y1="w.a[1]" :x2="w.b[0]" :y2="w.b[1]" class="wall" />
      <text :x="w.t[0]" :y="w.t[1] + 4">{{ w.text }}</text>
      <title>{{ w.side }}: {{ w.text }} mm to {{ w.behind }}</title>
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-width: 250px;
}
.channel {
  fill: var(--water);
  stroke: var(--intake);
  stroke-width: 2;
}
.grown {
  fill: var(--paper-deep);
  stroke: var(--slate);
  stroke-dasharray: 4 3;
}
.wall {
  stroke: var(--slate);
  stroke-width: 1.4;
}
text {
  font-size: max(11.5px, calc(12px * var(--per-px, 0)));
  text-anchor: middle;
  fill: var(--ink);
}
.thin text {
  fill: var(--loss);
  font-weight: 600;
}
.thin .wall {
  stroke: var(--loss);
}
</style>
