<script setup lang="ts">
import { useChart, type Point } from './chart.js';

/** A mark at each point. With a name it is read at the cursor and saved, unless a curve tells it already. */
const props = withDefaults(
  defineProps<{
    points: readonly Point[];
    name?: string;
    /** Path of the mark about nought, px; a dot where left out. */
    mark?: string;
    /** Half the width of a dot, px. */
    size?: number;
    stroke?: string;
    fill?: string;
    width?: number;
    say?: (point: Point) => string;
    still?: boolean;
    /** What sets one point apart from the others. */
    each?: (index: number) => { readonly stroke?: string; readonly fill?: string; readonly opacity?: number };
  }>(),
  {
    ...{ name: '', mark: '', size: 4, stroke: 'var(--ink)', fill: 'var(--paper)', width: 1.5 },
    say: undefined,
    each: undefined,
  },
);
const chart = useChart();
if (!props.still) chart.draws(() => ({ name: props.name, points: props.points, say: props.say }));
const DOT = (r: number) => `M${-r},0a${r},${r} 0 1,0 ${2 * r},0a${r},${r} 0 1,0 ${-2 * r},0`;
</script>

<template>
  <g v-if="!name || !chart.hides(name)" :fill="fill" :stroke="stroke" :stroke-width="width">
    <path
      v-for="([x, y], i) in points"
      :key="i"
      :d="mark || DOT(size)"
      :transform="`translate(${chart.x(x)},${chart.y(y)})`"
      v-bind="each?.(i)"
    />
  </g>
</template>
