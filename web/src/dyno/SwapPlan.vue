<script setup lang="ts">
import { sumChecked, Refusal } from '@alluvium/core';
import { plannedSwap } from '@alluvium/records';
import { computed, reactive } from 'vue';
import TextField from '../parts/TextField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';

/** A swap planned before money is spent: how many pulls, on which cam; and gains and losses that somebody added up. */
const props = defineProps<{
  /** How well a pull repeats, a share. */
  repeatability: number;
}>();
const plan = reactive({ percent: '2' });
const planned = computed(() => {
  const share = Number(plan.percent.replace(',', '.')) / 100;
  if (!Number.isFinite(share) || share === 0) return undefined;
  try {
    return plannedSwap(share, props.repeatability);
  } catch (error) {
    if (error instanceof Refusal) return undefined;
    throw error;
  }
});
const sum = reactive({ parts: '', stated: '' });
const checked = computed(() => {
  const parts = sum.parts.match(/[+−-]?\d+(?:[.,]\d+)?/g)?.map((t) => Number(t.replace('−', '-').replace(',', '.')));
  const stated = Number(sum.stated.replace('−', '-').replace(',', '.'));
  return parts && parts.length > 1 && sum.stated.trim() !== '' && Number.isFinite(stated)
    ? sumChecked(parts, stated)
    : undefined;
});
</script>

<template>
  <div class="no-print">
    <h2>Plan a swap</h2>
    <div class="plan">
      <TextField v-model="plan.percent" label="Difference that is expected, %" />
      <p v-if="planned">
        A, B, A with
        <WorkedNumber :working="planned" />
        pulls each turn would tell it, alternating, on one day and one tune.
      </p>
      <p v-else class="note">Type a difference above nothing.</p>
    </div>
    <p class="note">
      Which one cam would tell two heads apart, or whether none would, the engine’s simulation says for the lineup
      before a bolt is turned:
      <RouterLink :to="{ name: 'simulate' }">the cam each head wants</RouterLink>
      .
    </p>

    <h2>Gains and losses added up</h2>
    <div class="plan">
      <TextField v-model="sum.parts" label="The parts" placeholder="−15 +23" />
      <TextField v-model="sum.stated" label="The sum as stated" placeholder="3" />
      <p v-if="checked" :class="checked.agrees ? 'note' : 'loss'" role="status">
        {{ checked.agrees ? 'The sum is right.' : `They make ${checked.sum}, not ${sum.stated}.` }}
      </p>
    </div>
  </div>
</template>

<style scoped>
.plan {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
  gap: 6px 20px;
  align-items: end;
}
.plan p {
  margin: 0;
}
</style>
