<script setup lang="ts">
import { format, meanOfPulls, portSpread, scatter, unitFor, work, type SheetResult, type Side } from '@alluvium/core';
import { computed } from 'vue';
import WideFrame from '../parts/WideFrame.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';

/** Port against port at each lift: how far they lie apart. */
const props = defineProps<{ sides: readonly Side[]; results: readonly SheetResult[] }>();
const settings = useSettings();
const cfmUnit = computed(() => unitFor('flow', settings.system).symbol);
const ports = computed(() => {
  const bySide = (side: Side) => {
    const lifts = new Map<number, number[]>();
    for (const result of props.results)
      for (const p of result[side].points) {
        const key = Math.round(p.lift * 1e6);
        lifts.set(key, [...(lifts.get(key) ?? []), p.flow.value]);
      }
    return [...lifts]
      .filter(([, flows]) => flows.length > 1)
      .sort(([a], [b]) => a - b)
      .map(([key, flows]) => {
        return {
          lift: key / 1e6,
          mean: work(meanOfPulls, { pulls: flows }),
          range: work(portSpread, { flows }),
          scatter: work(scatter, { pulls: flows }),
        };
      });
  };
  return props.sides.map((side) => ({ side, rows: bySide(side) })).filter((s) => s.rows.length > 0);
});
</script>

<template>
  <div>
    <section v-for="p in ports" :key="p.side">
      <h2>Port against port, {{ p.side }}</h2>
      <WideFrame>
        <table class="ruled spread">
          <thead>
            <tr>
              <th>lift</th>
              <th class="num">mean, {{ cfmUnit }}</th>
              <th class="num">port-to-port spread</th>
              <th class="num">spread</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in p.rows" :key="r.lift">
              <td>{{ format(r.lift, 'lift', settings.figures) }}</td>
              <td class="num"><WorkedNumber :working="r.mean" bare /></td>
              <td class="num"><WorkedNumber :working="r.range" bare /></td>
              <td class="num"><WorkedNumber :working="r.scatter" bare :digits="2" /></td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
    </section>
  </div>
</template>

<style scoped>
section {
  margin-top: 18px;
}
.spread {
  max-width: 520px;
}
</style>
