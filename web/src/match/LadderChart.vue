<script setup lang="ts">
import { budgetOfWorking, type Limit, type LimitId } from '@alluvium/core';
import { useMediaQuery } from '@vueuse/core';
import { extent } from 'd3-array';
import { computed } from 'vue';
import ChartFrame from '../charts/ChartFrame.vue';
import ChartPoints from '../charts/ChartPoints.vue';
import { rowsOf, type Axis, type Point } from '../charts/chart.js';
import type { CompareHead } from '../data/comparison.js';
import PressArea from '../parts/PressArea.vue';
import { useWorking } from '../state/working.js';

// r.limits[]!, r.limits.at()!: a head has limits.

/** One ladder a head: the speeds at which flow, port area and valve area run out, against the target's speed. */
const props = defineProps<{ heads: readonly CompareHead[]; speed: number }>();
const panel = useWorking();
const STEP = computed(() => (narrow.value ? 76 : 58));
/** Names stand before the ladders, or above them where there is no room. */
const narrow = useMediaQuery('(width < 700px)');
const NAMES = 168;
const WORDS: Record<LimitId, string> = { flow: 'flow', area: 'port area', valve: 'VE drops' };

/** Half of the range a limit lies in nineteen times in twenty, as an engine speed; 0 where nothing says. */
const reach = (h: CompareHead, l: Limit) =>
  l.id === 'valve' ? 0 : 2 * (budgetOfWorking(l.speed, h.verdict.book)?.u ?? 0);
const rev = (n: number) => String(Math.round((n * 60) / 10) * 10);
const rows = computed(() =>
  props.heads.map((head, row) => ({
    head,
    /** In rows from the top. */
    level: row + 0.5,
    limits: head.match.limits.map((l) => ({
      ...l,
      at: l.speed.value,
      reach: reach(head, l),
      stroke: l.id === 'valve' ? 'var(--slate)' : l.speed.value < props.speed ? 'var(--loss)' : 'var(--ink)',
    })),
  })),
);
const x = computed((): Axis => {
  const [low = props.speed, high = props.speed] = extent([
    props.speed,
    ...props.heads.flatMap((h) => h.match.limits.map((l) => l.speed.value)),
  ]);
  const room = Math.max((high - low) * 0.12, props.speed * 0.08);
  return { from: low - room, to: high + room, kind: 'rotation', name: 'engine speed' };
});
/** What a head's limit at a speed is. */
const said = (limits: readonly { readonly id: LimitId; readonly at: number }[], [at]: Point) =>
  limits.flatMap((l) => (l.at === at ? [WORDS[l.id]] : [])).join(', ');
</script>

<template>
  <ChartFrame
    label="RPM limits of each head"
    :x="x"
    :y="rowsOf(heads.length)"
    :height="heads.length * STEP + 64"
    :left="narrow ? 12 : NAMES"
    :right="30"
    :top="30"
    :bottom="34"
  >
    <template #default="c">
      <line
        :x1="c.x(speed)"
        :x2="c.x(speed)"
        :y1="c.top - 12"
        :y2="c.bottom"
        stroke="var(--caution-line)"
        stroke-width="2"
        stroke-dasharray="3 3"
      />
      <text :x="c.x(speed)" :y="c.top - 15" text-anchor="middle" class="asked">target {{ rev(speed) }}</text>
      <g v-for="r in rows" :key="r.head.id" :transform="`translate(0 ${c.y(r.level)})`">
        <text x="0" :y="narrow ? -26 : 5" class="head">{{ r.head.letter }} {{ r.head.name }}</text>
        <template v-if="r.limits.length">
          <path
            :d="`M${c.left} 0H${c.x(r.head.match.first?.speed.value ?? r.limits[0]!.at)}`"
            stroke="var(--water)"
            stroke-width="9"
          />
          <path
            :d="`M${c.x(r.limits[0]!.at)} 0H${c.x(r.limits.at(-1)!.at)}`"
            stroke="var(--slate)"
            stroke-dasharray="2 3"
          />
        </template>
        <text v-else :x="c.left" y="5" class="asked">nothing known yet</text>
        <g v-for="(l, i) in r.limits" :key="l.id">
          <path
            v-if="l.reach > 0"
            :d="`M${Math.max(c.left, c.x(l.at - l.reach))} ${l.id === 'area' ? 6 : -6}H${Math.min(c.right + 26, c.x(l.at + l.reach))}`"
            stroke="var(--slate)"
            stroke-width="1.2"
          />
          <path
            :d="`M${c.x(l.at)} -9V9`"
            :stroke="l.stroke"
            :stroke-width="l.id === r.head.match.first?.id ? 3.4 : 1.8"
            :stroke-dasharray="l.id === 'valve' ? '3 2' : undefined"
          />
          <text
            :x="c.x(l.at)"
            :y="i % 2 ? 23 : -13"
            text-anchor="middle"
            :class="{ under: l.id !== 'valve' && l.at < speed, tick: l.id === 'valve' }"
          >
            {{ WORDS[l.id] }} {{ rev(l.at) }}
          </text>
        </g>
      </g>
      <ChartPoints
        v-for="r in rows"
        :key="r.head.id"
        :name="r.head.name"
        :points="r.limits.map((l): Point => [l.at, r.level])"
        :size="0"
        stroke="none"
        :say="(point) => said(r.limits, point)"
      />
    </template>
    <template #over="c">
      <template v-for="r in rows" :key="r.head.id">
        <PressArea
          v-for="(l, i) in r.limits"
          :key="l.id"
          class="rung"
          :style="{ left: `${c.x(l.at) - 32}px`, top: `${c.y(r.level) - (i % 2 ? 1 : 29)}px` }"
          :aria-label="`${r.head.letter} ${r.head.name}: ${WORDS[l.id]} ${rev(l.at)} rpm. Show the working.`"
          @click="panel.show(l.speed, r.head.verdict.book)"
        />
      </template>
    </template>
  </ChartFrame>
</template>

<style scoped>
text.head {
  font-weight: 600;
}
text:not(.tick, .asked) {
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
text.under {
  fill: var(--loss);
}
.rung {
  /* Pressed where it is written, above or below its mark. */
  position: absolute;
  width: 64px;
  height: 30px;
}
</style>
