<script setup lang="ts">
import { computed } from 'vue';
import { useChart } from './chart.js';

// props.y!: a level rule has a height.

/** A line right across the field at one value, with a word at it: a target, a limit, a budget. */
const props = withDefaults(
  defineProps<{
    x?: number;
    y?: number;
    stroke?: string;
    width?: number;
    dash?: string;
    text?: string;
    /** Look of the word: `tick`, `name`, `asked`. */
    tone?: string;
    /** The word stands before an upright line, or at the far end of a level one. */
    far?: boolean;
  }>(),
  { stroke: 'var(--slate)', width: 1, dash: '', text: '', tone: 'tick', x: undefined, y: undefined },
);
const chart = useChart();
const at = computed(() => {
  const { left, right, top, bottom } = chart;
  if (props.x !== undefined) {
    const x = chart.x(props.x);
    return {
      ...{ x1: x, x2: x, y1: top, y2: bottom },
      word: { x: x + (props.far ? -5 : 5), y: top + 12, anchor: props.far ? 'end' : 'start' },
    };
  }
  const y = chart.y(props.y!);
  return {
    ...{ x1: left, x2: right, y1: y, y2: y },
    word: { x: props.far ? right - 4 : left + 4, y: y - 6, anchor: props.far ? 'end' : 'start' },
  };
});
</script>

<template>
  <g>
    <line
      :x1="at.x1"
      :x2="at.x2"
      :y1="at.y1"
      :y2="at.y2"
      :stroke="stroke"
      :stroke-width="width"
      :stroke-dasharray="dash || undefined"
    />
    <text v-if="text" :x="at.word.x" :y="at.word.y" :text-anchor="at.word.anchor" :class="tone">{{ text }}</text>
  </g>
</template>
