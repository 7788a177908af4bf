<script setup lang="ts">
import { arrivalMark } from '@alluvium/core';
import { line, curveNatural } from 'd3-shape';
import { computed, nextTick, useTemplateRef, watch } from 'vue';
import { useRoute } from 'vue-router';
import { useDoubtful } from '../data/claims.js';
import { useComparison } from '../data/comparison.js';
import { STEPS, stepOf } from './router.js';

// SWAY[]!: the remainder is a place of the list.
// curve()()!: drawn without a canvas, a line is text.
// marks[]!: there is one.

/** The steps of the work as one meandering line, with a mark where something is still owed. */
const route = useRoute();
const { active, heads } = useComparison();

const GAP = 54;
const TOP = 34;
const SWAY = [30, 38, 24, 34];
const stops = STEPS.map((step, i) => ({ ...step, x: SWAY[i % SWAY.length]!, y: TOP + i * GAP }));
const course = line<{ x: number; y: number }>()
  .x((s) => s.x)
  .y((s) => s.y)
  .curve(curveNatural)([
  { x: 28, y: -60 },
  ...stops,
  { x: 26, y: TOP + stops.length * GAP },
  { x: 36, y: TOP + (stops.length + 1) * GAP },
  { x: 24, y: TOP + (stops.length + 2) * GAP },
  { x: 32, y: TOP + (stops.length + 4) * GAP },
])!;

const here = computed(() => stepOf(route));
const owed = computed<Record<string, string>>(() => {
  const unflowed = heads.value.filter((h) => !h.result?.intake.curve).length;
  const result: Record<string, string> = {};
  if (active.value && !active.value.build.cam) result.target = 'no cam yet';
  if (active.value?.problem) result.target = 'cam does not fit';
  if (active.value && heads.value.length === 0) result.heads = 'lineup is empty';
  else if (unflowed > 0) result.heads = `${unflowed} without a sheet`;
  const marks = heads.value.flatMap((h) => arrivalMark(h.arrival) ?? []);
  if (marks.length === 1) result.arrival = marks[0]!;
  else if (marks.length > 1) result.arrival = `${marks.length} heads owe something`;
  if (doubtful.value > 0) result.claims = `${doubtful.value} doubtful`;
  return result;
});
/** Claims about the heads of the lineup that are worth a second look, judged as the page of claims judges them. */
const lined = computed(() => [...new Set(heads.value.map((h) => h.whole.head.id))]);
const doubts = useDoubtful(() => lined.value);
const doubtful = computed(() => (lined.value.length > 0 ? (doubts.data.value?.count ?? 0) : 0));
const steps = useTemplateRef<HTMLElement>('steps');
watch(
  here,
  async () => {
    await nextTick();
    steps.value?.querySelector('.here')?.scrollIntoView?.({ inline: 'center', block: 'nearest' });
  },
  { immediate: true },
);
const query = computed(() => (active.value ? { build: active.value.build.id } : {}));
</script>

<template>
  <nav ref="steps" aria-label="Steps of the work">
    <svg class="line" width="60" height="100%" aria-hidden="true">
      <path :d="course" fill="none" stroke="var(--water)" stroke-width="9" stroke-linecap="round" />
      <path :d="course" fill="none" stroke="var(--slate)" stroke-width="1" />
      <circle
        v-for="s in stops"
        :key="s.name"
        :cx="s.x"
        :cy="s.y"
        :r="here === s.name ? 7 : 4.6"
        :fill="here === s.name ? 'var(--ink)' : 'var(--paper)'"
        stroke="var(--ink)"
        stroke-width="1.6"
      />
    </svg>
    <RouterLink
      v-for="s in stops"
      :key="s.name"
      :to="{ name: s.name, query: s.needsBuild ? query : {} }"
      class="stop"
      :class="{ here: here === s.name }"
      :aria-current="here === s.name ? 'page' : undefined"
      :style="{ '--y': `${s.y - 11}px` }"
    >
      {{ s.title }}
      <span v-if="owed[s.name]" class="owed">{{ owed[s.name] }}</span>
    </RouterLink>
  </nav>
</template>

<style scoped>
nav {
  grid-area: course;
  position: relative;
  overflow: hidden;
  border-right: 1px solid var(--rule);
}
.line {
  position: absolute;
  left: 0;
  top: 0;
}
.stop {
  position: absolute;
  top: var(--y);
  left: 0;
  right: 0;
  padding-left: 51px;
  color: var(--slate);
  text-decoration: none;
}
.stop:hover {
  color: var(--ink);
}
.stop.here {
  color: var(--ink);
  font-weight: 600;
}
/* On a phone the course lies along the top: the page has the whole width. */
@media (width < 700px) {
  nav {
    display: flex;
    gap: 4px;
    overflow-x: auto;
    border-right: 0;
    border-bottom: 3px solid var(--water);
    scrollbar-width: none;
  }
  .line {
    display: none;
  }
  .stop {
    position: relative;
    top: 0;
    flex: none;
    min-width: 44px;
    padding: 10px 9px 0;
    line-height: 20px;
  }
  .stop.here {
    box-shadow: inset 0 -3px 0 var(--ink);
  }
  .stop:has(.owed)::after {
    content: '';
    position: absolute;
    top: 8px;
    right: 2px;
    width: 7px;
    height: 7px;
    border-radius: 50%;
    background: var(--caution);
  }
}
.owed {
  display: block;
  font: italic 13px/1.2 var(--serif);
  color: var(--caution);
}
@media (width < 700px) {
  .owed {
    position: absolute;
    width: 1px;
    height: 1px;
    overflow: hidden;
    clip-path: inset(50%);
  }
}
</style>
