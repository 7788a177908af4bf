<script setup lang="ts">
import { extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { useElementSize } from '@vueuse/core';
import { computed, useTemplateRef } from 'vue';
import { budgetOfWorking, type Limit, type LimitId } from '@alluvium/core';
import type { CompareHead } from '../data/comparison.js';
import { useSettings } from '../state/settings.js';
import { useWorking } from '../state/working.js';
import { unitTicks } from '../charts/ticks.js';

/** One ladder a head: the speeds at which flow, port area and valve area run out, against the target's speed. */
const props = defineProps<{ heads: readonly CompareHead[]; speed: number }>();
const settings = useSettings();
const panel = useWorking();
const box = useTemplateRef<HTMLElement>('box');
const { width: measured } = useElementSize(box);
const width = computed(() => Math.max(420, measured.value || 760));
const LEFT = 168;
const RIGHT = 30;
const TOP = 30;
const STEP = 58;
const WORDS: Record<LimitId, string> = { flow: 'flow', area: 'port area', valve: 'VE drops' };

/** Half of the range a limit lies in nineteen times in twenty, as an engine speed; 0 where nothing says. */
const reach = (h: CompareHead, l: Limit) =>
  l.id === 'valve' ? 0 : 2 * (budgetOfWorking(l.speed, h.verdict.book)?.u ?? 0);
const rows = computed(() =>
  props.heads.map((h, i) => ({
    head: h,
    y: TOP + 26 + i * STEP,
    limits: h.match.limits.map((l) => ({ ...l, reach: reach(h, l) })),
  })),
);
const height = computed(() => TOP + props.heads.length * STEP + 34);
const x = computed(() => {
  const [low = props.speed, high = props.speed] = extent([
    props.speed,
    ...props.heads.flatMap((h) => h.match.limits.map((l) => l.speed.value)),
  ]);
  const room = Math.max((high - low) * 0.12, props.speed * 0.08);
  return scaleLinear([low - room, high + room], [LEFT, width.value - RIGHT]);
});
const ticks = computed(() => unitTicks(x.value.domain()[0]!, x.value.domain()[1]!, 'rotation', settings.system, 6));
const rev = (n: number) => String(Math.round((n * 60) / 10) * 10);
</script>

<template>
  <div ref="box" class="box">
    <svg
      :width="width"
      :height="height"
      :viewBox="`0 0 ${width} ${height}`"
      role="group"
      aria-label="RPM limits of each head"
    >
      <g v-for="t in ticks" :key="t">
        <line :x1="x(t)" :x2="x(t)" :y1="TOP - 4" :y2="height - 30" stroke="var(--rule)" />
        <text :x="x(t)" :y="height - 12" text-anchor="middle" class="tick">{{ rev(t) }}</text>
      </g>
      <line
        :x1="x(speed)"
        :x2="x(speed)"
        :y1="TOP - 12"
        :y2="height - 30"
        stroke="var(--caution-line)"
        stroke-width="2"
        stroke-dasharray="3 3"
      />
      <text :x="x(speed)" :y="TOP - 15" text-anchor="middle" class="asked">target {{ rev(speed) }}</text>
      <g v-for="r in rows" :key="r.head.id">
        <text x="0" :y="r.y + 5" class="name">{{ r.head.letter }} {{ r.head.name }}</text>
        <line
          v-if="r.limits.length"
          :x1="LEFT"
          :x2="x(r.head.match.first?.speed.value ?? r.limits[0]!.speed.value)"
          :y1="r.y"
          :y2="r.y"
          stroke="var(--water)"
          stroke-width="9"
        />
        <line
          v-if="r.limits.length"
          :x1="x(r.limits[0]!.speed.value)"
          :x2="x(r.limits.at(-1)!.speed.value)"
          :y1="r.y"
          :y2="r.y"
          stroke="var(--slate)"
          stroke-dasharray="2 3"
        />
        <g
          v-for="(l, i) in r.limits"
          :key="l.id"
          class="rung"
          role="button"
          tabindex="0"
          :aria-label="`${r.head.letter} ${r.head.name}: ${WORDS[l.id]} ${rev(l.speed.value)} rpm. Show the working.`"
          @click="panel.show(l.speed, r.head.verdict.book)"
          @keydown.enter="panel.show(l.speed, r.head.verdict.book)"
        >
          <line
            v-if="l.reach > 0"
            :x1="Math.max(LEFT, x(l.speed.value - l.reach))"
            :x2="Math.min(width - 4, x(l.speed.value + l.reach))"
            :y1="r.y + (l.id === 'area' ? 6 : -6)"
            :y2="r.y + (l.id === 'area' ? 6 : -6)"
            stroke="var(--slate)"
            stroke-width="1.2"
          />
          <rect :x="x(l.speed.value) - 12" :y="r.y - 24" width="24" height="48" fill="transparent" />
          <line
            :x1="x(l.speed.value)"
            :x2="x(l.speed.value)"
            :y1="r.y - 9"
            :y2="r.y + 9"
            :stroke="l.id === 'valve' ? 'var(--slate)' : l.speed.value < speed ? 'var(--loss)' : 'var(--ink)'"
            :stroke-width="l.id === r.head.match.first?.id ? 3.4 : 1.8"
            :stroke-dasharray="l.id === 'valve' ? '3 2' : undefined"
          />
          <text
            :x="x(l.speed.value)"
            :y="i % 2 ? r.y + 23 : r.y - 13"
            text-anchor="middle"
            class="limit"
            :class="{ under: l.id !== 'valve' && l.speed.value < speed, soft: l.id === 'valve' }"
          >
            {{ WORDS[l.id] }} {{ rev(l.speed.value) }}
          </text>
        </g>
        <text v-if="r.limits.length === 0" :x="LEFT" :y="r.y + 5" class="asked">nothing known yet</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.box {
  min-width: 0;
  overflow: hidden;
}
text {
  font-family: var(--sans);
  font-size: 14px;
  fill: var(--ink);
}
.tick {
  fill: var(--slate);
}
.name {
  font-weight: 600;
}
.asked {
  font: italic 15px var(--serif);
  fill: var(--caution);
}
.limit {
  font-size: 13px;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.soft {
  fill: var(--slate);
}
.under {
  fill: var(--loss);
}
.rung {
  cursor: pointer;
}
.rung:focus-visible {
  outline: 2px solid var(--focus);
}
</style>
