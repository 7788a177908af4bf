<script setup lang="ts">
import { OPERATIONS, attributionWords, changeRangeWords, lossWords, type Side, type Split } from '@alluvium/core';
import type { LossStages, WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import { useSettings } from '../state/settings.js';
import LossChart from './LossChart.vue';

// props.loss!, props.loss.stages[]!: changes are drawn of a loss, one fewer than its stages.

/** Where the flow is lost: valve or port, by all stages fitted together, beside the porter's own word. */
const props = defineProps<{
  whole: WholeHead;
  side: Side;
  loss: LossStages | undefined;
  split: Split | undefined;
  busy: boolean;
  problem: string;
}>();
const settings = useSettings();
/** What the porter says he cut on this side at a stage. */
const own = (stageId: string) => {
  const kinds = props.whole.operations
    .filter((o) => o.stageId === stageId && (o.side === props.side || o.side === null))
    .map((o) => OPERATIONS[o.kind].works);
  return [...new Set(kinds)].join(' and ') || 'nothing noted';
};
const rows = computed(() =>
  props.split && props.loss
    ? props.split.changes.map((c, i) => ({
        stage: props.loss!.stages[i + 1]!,
        valve: changeRangeWords(c.valve, settings.say),
        port: changeRangeWords(c.port, settings.say),
        words: attributionWords(c),
      }))
    : [],
);
</script>

<template>
  <div>
    <p v-if="!loss" class="reading">
      This stage has no {{ side }} curve with a known valve: flow it, and measure the valve, and it can be said where
      the flow is lost.
    </p>
    <p v-else-if="busy" class="note" role="status">Fitting {{ loss.stages.length }} stages …</p>
    <p v-else-if="problem" class="loss" role="alert">{{ problem }}</p>
    <template v-else-if="split">
      <p class="reading">{{ lossWords(split, split.shares.length - 1, settings.say) }}</p>
      <template v-if="rows.length">
        <h2>
          What each stage changed
          <span class="note">flow each would pass by itself; bars: 95 % over four forms of the model</span>
        </h2>
        <LossChart :split="split" :names="loss.stages.map((s) => s.name)" />
        <table class="ruled">
          <thead>
            <tr>
              <th>stage</th>
              <th>valve</th>
              <th>port</th>
              <th>the curves say</th>
              <th>the porter says</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in rows" :key="r.stage.id">
              <td>{{ r.stage.name }}</td>
              <td>{{ r.valve }}</td>
              <td>{{ r.port }}</td>
              <td>{{ r.words }}</td>
              <td>{{ own(r.stage.id) }}</td>
            </tr>
          </tbody>
        </table>
      </template>
      <h2>How well each form fits</h2>
      <table class="ruled forms">
        <thead>
          <tr>
            <th>area of the valve</th>
            <th>its coefficient</th>
            <th class="num">leaves</th>
            <th class="num">allowed to be wrong by</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="f in split.fits" :key="`${f.form.area} ${f.form.fall}`">
            <td>{{ f.form.area }}</td>
            <td>{{ f.form.fall === 'free' ? 'falls with lift' : 'held' }}</td>
            <td class="num">{{ settings.say.of(f.left, 'percent', { digits: 1 }) }}</td>
            <td class="num">{{ settings.say.of(f.wrong, 'percent', { digits: 1 }) }}</td>
          </tr>
        </tbody>
      </table>
      <p class="note">
        Two restrictions in series, 1/Q² = 1/Q
        <sub>v</sub>
        ² + 1/Q
        <sub>p</sub>
        ². One curve does not tell the two apart; how each changed from stage to stage it does. A valve-out pull (valve
        out, a radiused plug in the seat) is typed as a row of the sheet with “valve out” in the place of the lift.
      </p>
    </template>
  </div>
</template>

<style scoped>
h2 {
  margin: 14px 0 6px;
}
.forms {
  max-width: 560px;
}
</style>
