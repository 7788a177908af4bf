<script setup lang="ts">
import { plannedPoints, type Plan } from '@alluvium/records';
import { max } from 'd3-array';
import { computed } from 'vue';
import { vLegible } from '../charts/legible.js';

/** A test before it is run: port by port along the time it takes, each point as high as the valve stands open. */
const props = defineProps<{ plan: Plan; seconds: number }>();
const [W, H, TOP, BASE] = [860, 118, 26, 84];
const points = computed(() => plannedPoints(props.plan));
const most = computed(() => max(points.value, (p) => p.lift) ?? 1);
const x = (i: number) => 4 + (i / Math.max(1, points.value.length)) * (W - 8);
const ticks = computed(() =>
  points.value.map((p, i) => ({ key: i, side: p.side, x: x(i + 0.5), y: BASE - (p.lift / most.value) * (BASE - TOP) })),
);
/** Runs of one port and side, with the minute each begins at. */
const runs = computed(() => {
  const found: { number: number; side: string; from: number; to: number }[] = [];
  points.value.forEach((p, i) => {
    const last = found.at(-1);
    if (last?.number === p.number && last.side === p.side) last.to = i + 1;
    else found.push({ number: p.number, side: p.side, from: i, to: i + 1 });
  });
  return found.map((run) => ({
    ...run,
    minute: Math.round(((run.from / points.value.length) * props.seconds) / 60),
    wide: x(run.to) - x(run.from) > 46,
  }));
});
/** The exhaust side is louder: where the direction turns, ears are covered. */
const turns = computed(() =>
  runs.value.filter((run, i) => run.side === 'exhaust' && runs.value[i - 1]?.side !== 'exhaust'),
);
</script>

<template>
  <svg
    v-legible
    :viewBox="`0 0 ${W} ${H}`"
    role="img"
    aria-label="The test along its time: ports, sides and lifts in their order"
  >
    <g v-for="run in runs" :key="run.from">
      <line :x1="x(run.from)" :x2="x(run.from)" :y1="TOP - 14" :y2="BASE" class="edge" />
      <text v-if="run.wide" :x="x(run.from) + 4" :y="TOP - 8" :class="run.side">port {{ run.number }}</text>
      <text v-if="run.wide" :x="x(run.from) + 2" :y="BASE + 16" class="time">{{ run.minute }} min</text>
    </g>
    <line v-for="t in ticks" :key="t.key" :x1="t.x" :x2="t.x" :y1="BASE" :y2="t.y" :class="['point', t.side]" />
    <line x1="4" :x2="W - 4" :y1="BASE" :y2="BASE" class="base" />
    <text v-for="t in turns" :key="t.from" :x="x(t.from) + 2" :y="BASE + 31" class="ears">ears covered</text>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
}
.edge {
  stroke: var(--rule);
}
.base {
  stroke: var(--ink);
}
.point {
  stroke-width: 2;
}
line.intake {
  stroke: var(--intake);
}
line.exhaust {
  stroke: var(--exhaust);
}
text {
  font-size: max(13px, calc(12px * var(--per-px, 0)));
  fill: var(--slate);
}
text.intake {
  fill: var(--intake);
}
text.exhaust {
  fill: var(--exhaust);
}
.ears {
  fill: var(--caution);
}
</style>
