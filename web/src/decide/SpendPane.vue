<script setup lang="ts">
import { USUAL_ASSUMPTIONS, type Quantity } from '@alluvium/core';
import { moneyText, spendings, type WayRead } from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import type { ActiveBuild } from '../data/build.js';
import { useJudging } from '../data/judging.js';
import { standingOf, useCuts, useListOf, useWays } from '../data/queries.js';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import WideFrame from '../parts/WideFrame.vue';

/** What the next money buys best, starting from one of the ways. */
const props = defineProps<{ active: ActiveBuild; ways: readonly WayRead[]; first: string }>();
const settings = useSettings();
const judging = useJudging();
const cuts = useCuts(() => props.active.build.id);
const prices = useListOf('listprice');
const view = useWays(() => props.active.build.id);
const { loading, error } = standingOf(cuts);
const from = ref(props.first);
watch(
  () => props.first,
  (id) => (from.value = id),
);
const amount = ref<Quantity>({ si: 500, typed: '500' });
const found = computed(() => {
  const { build, core, target } = props.active;
  const at = props.ways.findIndex((w) => w.way.id === from.value);
  if (at < 0 || !target || !view.data.value) return [];
  const context = { ...judging.value, sources: view.data.value.sources };
  return spendings(
    props.ways,
    at,
    amount.value.si,
    {
      build,
      core,
      target,
      context,
      wholes: view.data.value.wholes,
      cuts: cuts.data.value ?? [],
      prices: prices.data.value ?? [],
      hourRate: (judging.value.assumptions ?? USUAL_ASSUMPTIONS).hourRate,
    },
    settings.say,
  );
});
const power = (w: number) => settings.say.of(w, 'power', { digits: 0, signed: true });
</script>

<template>
  <div>
    <h2>What the next money buys</h2>
    <div class="ask no-print">
      <ChoiceField v-model="from" label="Starting from" :options="ways.map((w) => [w.way.id, w.way.name] as const)" />
      <QuantityField
        :model-value="amount"
        kind="money"
        label="The next"
        @update:model-value="$event && $event.si > 0 && (amount = $event)"
      />
    </div>
    <WaitingNote v-if="!cuts.data.value" :loading="loading" :error="error" />
    <p v-else-if="found.length === 0" class="note">
      Nothing more can be said: no forecast is kept of its next cut, no other way makes more, and more lift brings it
      nothing.
    </p>
    <WideFrame v-else>
      <table class="ruled">
        <thead>
          <tr>
            <th>what</th>
            <th class="num">costs</th>
            <th class="num">adds</th>
            <th class="num">for {{ amount.typed }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in found" :key="s.what">
            <td>
              {{ s.what }}
              <small class="note">{{ s.because }}</small>
            </td>
            <td class="num">
              {{ s.cost === undefined ? 'not known' : moneyText(s.cost, active.build, settings.say) }}
              <small v-if="s.cost !== undefined && s.cost > amount.si" class="note">more than {{ amount.typed }}</small>
            </td>
            <td class="num">{{ power(s.power) }}</td>
            <td class="num"><WorkedNumber v-if="s.buys" :working="s.buys" :digits="1" /></td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
    <p class="note">
      Power by the peak-flow rule. A forecast is of the mean flow over the cam; the flow that counts is taken to go with
      it.
    </p>
  </div>
</template>

<style scoped>
.ask {
  display: grid;
  grid-template-columns: 2fr 1fr;
  gap: 6px 20px;
}
small {
  display: block;
}
</style>
