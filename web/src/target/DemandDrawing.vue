<script setup lang="ts">
import { format } from '@alluvium/core';
import { max } from 'd3-array';
import { computed } from 'vue';
import { vLegible } from '../charts/legible.js';
import { useComparison } from '../data/comparison.js';
import { useSettings } from '../state/settings.js';

/** What each port must carry, as a mark on a scale of flow, with the heads of the lineup where their best flow lies. */
const props = defineProps<{ demand: number }>();
const settings = useSettings();
const { heads } = useComparison();
const [W, BASE] = [380, 46];
const best = computed(() =>
  heads.value.flatMap((h) => {
    const flow = max(h.result?.intake.points ?? [], (p) => p.flow.value);
    return flow === undefined ? [] : [{ id: h.id, letter: h.letter, name: h.name, flow }];
  }),
);
const most = computed(() => 1.15 * Math.max(props.demand, ...best.value.map((b) => b.flow)));
const x = (flow: number) => 8 + (flow / most.value) * (W - 16);
const say = (flow: number) => format(flow, 'flow', settings.figures, { digits: 0 });
</script>

<template>
  <svg
    v-legible
    :viewBox="`0 0 ${W} 76`"
    role="img"
    :aria-label="`Flow asked of each port, ${say(demand)}, and the best flow of each head of the lineup: ${best.map((b) => `${b.name} ${say(b.flow)}`).join(', ') || 'none flowed yet'}`"
  >
    <rect :x="x(demand)" y="18" :width="W - 8 - x(demand)" :height="BASE - 18" class="enough" />
    <line x1="8" :x2="W - 8" :y1="BASE" :y2="BASE" class="base" />
    <line :x1="x(demand)" :x2="x(demand)" y1="12" :y2="BASE + 6" class="demand" />
    <text :x="x(demand)" y="10" class="mid asks">asked {{ say(demand) }}</text>
    <g v-for="(b, i) in best" :key="b.id">
      <circle :cx="x(b.flow)" :cy="BASE" r="5" class="head" :class="{ short: b.flow < demand }" />
      <text :x="x(b.flow)" :y="BASE + 18 + (i % 2) * 11" class="mid">{{ b.letter }}</text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 460px;
}
.enough {
  fill: var(--water);
  opacity: 0.5;
}
.base {
  stroke: var(--ink);
}
.demand {
  stroke: var(--caution-line);
  stroke-width: 2;
}
.head {
  fill: var(--intake);
  stroke: var(--paper);
}
.short {
  fill: var(--paper);
  stroke: var(--loss);
  stroke-width: 2;
}
text {
  font-size: max(12.5px, calc(12px * var(--per-px, 0)));
  fill: var(--ink);
}
.asks {
  fill: var(--caution);
}
.mid {
  text-anchor: middle;
}
</style>
