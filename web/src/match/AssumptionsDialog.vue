<script setup lang="ts">
import { ASSUMPTION_WORDS, format, type Quantity } from '@alluvium/core';
import {
  ASSUMPTIONS,
  ASSUMPTION_NAMES,
  addition,
  removal,
  replacement,
  usualAssumption,
  type Assumption,
  type AssumptionName,
} from '@alluvium/records';
import { computed, reactive } from 'vue';
import { useListOf } from '../data/queries.js';
import { useChange } from '../data/useChange.js';
import QuantityField from '../parts/QuantityField.vue';
import { useSettings } from '../state/settings.js';

// FACTOR[]!, typed[]!: its name is a key there.

/** What is taken of each uncertainty until something better is known, and the shop's own figures in their place. */
defineEmits<{ close: [] }>();
const settings = useSettings();
const list = useListOf('assumption');
const change = useChange('here');
const FACTOR: Partial<Record<AssumptionName, string>> = {
  leastPowerPerFlow: 'power per flow, least',
  likelyPowerPerFlow: 'power per flow, likeliest',
  mostPowerPerFlow: 'power per flow, most',
};
const wordsOf = (name: AssumptionName) =>
  name in FACTOR
    ? { label: FACTOR[name]!, source: ASSUMPTION_WORDS.powerPerFlow.source }
    : ASSUMPTION_WORDS[name as keyof typeof ASSUMPTION_WORDS];
const own = computed(() => new Map((list.data.value ?? []).map((a: Assumption) => [a.name, a])));
const typed = reactive<Partial<Record<AssumptionName, Quantity | null>>>({});
const unreadable = reactive<Partial<Record<AssumptionName, string>>>({});
const value = (name: AssumptionName) => (name in typed ? typed[name]! : (own.value.get(name)?.value ?? null));
const usual = (name: AssumptionName) =>
  format(
    usualAssumption(name),
    ASSUMPTIONS[name].kind,
    settings.figures,
    ASSUMPTIONS[name].kind === 'percent' ? { digits: 1 } : {},
  );
const edited = computed(() => (Object.keys(typed) as AssumptionName[]).filter((n) => !unreadable[n]));

async function save(): Promise<void> {
  if (Object.values(unreadable).some(Boolean)) return;
  const steps = edited.value.flatMap((name) => {
    const stands = own.value.get(name);
    const next = typed[name];
    if (!next) return stands ? [removal('assumption', stands.id)] : [];
    return [
      stands ? replacement('assumption', { ...stands, value: next }) : addition('assumption', { name, value: next }),
    ];
  });
  if (steps.length === 0) return;
  if (await change.make(steps, 'The shop’s own assumptions are saved; every verdict follows.'))
    for (const name of Object.keys(typed) as AssumptionName[]) delete typed[name];
}
</script>

<template>
  <el-dialog :model-value="true" title="Assumptions" width="720" @close="$emit('close')">
    <p class="note">
      Used wherever nothing better is known of a reading, a size or a factor. Leave a line empty for the usual figure.
    </p>
    <form @submit.prevent="save">
      <table class="ruled">
        <thead>
          <tr>
            <th>what</th>
            <th class="num">usual</th>
            <th>the shop’s own</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="name in ASSUMPTION_NAMES" :key="name">
            <td>
              {{ wordsOf(name).label }}
              <span class="note source">{{ wordsOf(name).source }}</span>
            </td>
            <td class="num">{{ usual(name) }}</td>
            <td>
              <QuantityField
                :model-value="value(name)"
                :kind="ASSUMPTIONS[name].kind"
                :label="wordsOf(name).label"
                hide-label
                @update:model-value="typed[name] = $event"
                @update:problem="unreadable[name] = $event"
              />
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="change.refusal.value" class="loss" role="alert">{{ change.refusal.value }}</p>
      <p class="foot">
        <el-button type="primary" native-type="submit" :disabled="edited.length === 0" :loading="change.busy.value">
          Save
        </el-button>
        <el-button @click="$emit('close')">Close</el-button>
      </p>
    </form>
  </el-dialog>
</template>

<style scoped>
.source {
  display: block;
  font-size: 13px;
}
td:last-child {
  width: 190px;
}
.foot {
  position: sticky;
  bottom: 0;
  margin: 0;
  padding: 10px 0 0;
  background: var(--paper-raised);
}
</style>
