<script setup lang="ts">
import { replacement, type Build } from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';

/** In which money the ways of a build are counted: its currency, the tax still to come, exchange rates with their day. */
const props = defineProps<{ build: Build }>();
const change = useChange('here');
// Of its own, not the target's draft: what is typed there and not saved stays there.
const own = () => ({
  currency: props.build.currency,
  tax: props.build.tax,
  rates: props.build.rates.map((r) => ({ ...r })),
});
const draft = ref(own());
const unreadable = ref('');
const dirty = computed(() => JSON.stringify(draft.value) !== JSON.stringify(own()));
watch(
  () => props.build.version,
  () => (draft.value = own()),
);
const problem = (field: string) => change.problem.value?.fields.find((f) => f.field === field)?.message ?? '';
const add = () => draft.value.rates.push({ currency: '', rate: 1, date: today() });
const drop = (i: number) => draft.value.rates.splice(i, 1);
async function save(): Promise<void> {
  if (unreadable.value) return;
  await change.make(
    [replacement('build', { ...props.build, ...draft.value })],
    `${props.build.name}: currency, tax and rates saved.`,
  );
}
</script>

<template>
  <form class="money no-print" data-own-keys @submit.prevent="save">
    <h2>Money</h2>
    <div class="two">
      <TextField v-model="draft.currency" label="Currency of the sums" :problem="problem('currency')" />
      <QuantityField
        v-model="draft.tax"
        kind="percent"
        label="Tax still to come"
        :problem="problem('tax')"
        @update:problem="unreadable = $event"
      />
    </div>
    <div v-for="(r, i) in draft.rates" :key="i" class="rate">
      <TextField v-model="r.currency" label="One of" :problem="problem(`rates.${i}.currency`)" />
      <TextField
        :model-value="r.rate"
        type="number"
        :label="`is so many ${draft.currency || 'of ours'}`"
        :problem="problem(`rates.${i}.rate`)"
        @update:model-value="r.rate = Number($event)"
      />
      <TextField v-model="r.date" type="date" label="on" :problem="problem(`rates.${i}.date`)" />
      <el-button link :aria-label="`Remove rate ${i + 1}`" @click="drop(i)">Remove</el-button>
    </div>
    <p>
      <el-button size="small" @click="add">Add an exchange rate</el-button>
      <el-button size="small" type="primary" native-type="submit" :disabled="!dirty">Save the money</el-button>
      <span v-if="change.refusal.value" class="loss" role="alert">{{ change.refusal.value }}</span>
    </p>
  </form>
</template>

<style scoped>
.money {
  margin-top: 20px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 20px;
}
.rate {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr auto;
  gap: 12px;
  align-items: end;
}
</style>
