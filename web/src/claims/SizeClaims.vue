<script setup lang="ts">
import { format } from '@alluvium/core';
import { MEASURE_ITEMS, type JudgedSize } from '@alluvium/records';
import { scaleLinear } from 'd3-scale';
import { computed } from 'vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import { vLegible } from '../charts/legible.js';
import WideFrame from '../parts/WideFrame.vue';
import HoverNote from '../parts/HoverNote.vue';

/** Sizes stated and found: each pair of marks on a scale of what differences matter, with the verdict in words. */
const props = defineProps<{ sizes: readonly JudgedSize[]; named: (id: string | null) => string }>();
const settings = useSettings();
const W = 190;
const MOST = 4;
/** Everything is drawn in units of the difference that matters, stated at nought; further out stands at the edge. */
const x = scaleLinear([-MOST, MOST], [12, W - 12]).clamp(true);
const rows = computed(() =>
  props.sizes.map((s) => ({
    ...s,
    name: `${s.measure.item}${s.measure.side ? `, ${s.measure.side}` : ''}`,
    off: s.difference && s.difference.value / s.tolerance,
    kind: MEASURE_ITEMS[s.measure.item].kind,
  })),
);
</script>

<template>
  <section class="sizes">
    <h2>Sizes stated and found</h2>
    <WideFrame>
      <table class="ruled">
        <thead>
          <tr>
            <th>size</th>
            <th>said by</th>
            <th class="num">stated</th>
            <th class="num">found</th>
            <th class="num">found less stated</th>
            <th class="mid">
              ◇ stated &#160; ● found
              <span class="unseen">, between the lines no difference that matters</span>
            </th>
            <th>verdict</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in rows" :key="s.measure.id">
            <td>
              <HoverNote :says="s.conditions || undefined">
                <span>{{ s.name }}</span>
              </HoverNote>
            </td>
            <td class="who">{{ named(s.measure.sourceId) }}</td>
            <td class="num">{{ s.measure.value.typed }}</td>
            <td class="num">{{ s.found === undefined ? '–' : format(s.found, s.kind, settings.figures) }}</td>
            <td class="num"><WorkedNumber :working="s.difference ?? null" signed /></td>
            <td class="mid">
              <svg
                v-if="s.off !== undefined"
                v-legible
                :viewBox="`0 0 ${W} 22`"
                :width="W"
                height="22"
                aria-hidden="true"
              >
                <line :x1="x(-1)" :x2="x(-1)" y1="2" y2="20" class="limit" />
                <line :x1="x(1)" :x2="x(1)" y1="2" y2="20" class="limit" />
                <line :x1="x(0)" :x2="x(s.off)" y1="11" y2="11" :class="Math.abs(s.off) > 1 ? 'grave' : 'stalk'" />
                <circle :cx="x(s.off)" cy="11" r="4.5" />
                <path :d="`M${x(0)},5l6,6l-6,6l-6,-6z`" class="claim" />
                <text v-if="Math.abs(s.off) > MOST" :x="x(s.off) + (s.off > 0 ? -10 : 10)" y="9" class="more">
                  {{ s.off > 0 ? '→' : '←' }}
                </text>
              </svg>
            </td>
            <td :class="{ loss: s.verdict === 'high' || s.verdict === 'low' }">{{ s.words }}</td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
  </section>
</template>

<style scoped>
.sizes {
  margin-bottom: 26px;
}
td {
  vertical-align: middle;
}
.mid {
  width: 200px;
  text-align: center;
}
svg {
  display: block;
}
.who {
  white-space: nowrap;
}
.limit {
  stroke: var(--rule-strong);
  stroke-dasharray: 3 3;
}
.stalk {
  stroke: var(--slate);
}
.grave {
  stroke: var(--loss);
  stroke-width: 2;
}
circle {
  fill: var(--intake);
}
.claim {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.8;
}
.more {
  font-size: max(12px, calc(12px * var(--per-px, 0)));
  fill: var(--loss);
  text-anchor: middle;
}
</style>
