<script setup lang="ts">
import { SIDES, type Quantity } from '@alluvium/core';
import { fieldsOf, type Setup, type SetupField as Field, type Source } from '@alluvium/records';
import { computed } from 'vue';
import { fieldProblem } from '../data/fieldProblem.js';
import ChoiceField from '../parts/ChoiceField.vue';
import BenchScales from './BenchScales.vue';
import SetupField from './SetupField.vue';

/** How the test was done. What nobody knows stays unknown and is shown as unknown. */
const props = defineProps<{
  modelValue: Setup;
  problems: Record<string, string>;
  /** The bench it was done on, and the day. */
  bench: Source | undefined;
  day: string;
}>();
const emit = defineEmits<{ 'update:modelValue': [Setup]; typing: [string, string] }>();

const READS = [
  ['flow', 'flow'],
  ['percent', 'percent of a range'],
  ['differential', 'percent of a differential'],
  ['difference', 'differences only'],
] as const;
const fields = computed(() => fieldsOf(props.modelValue, SIDES));
const set = (change: Partial<Setup>) => emit('update:modelValue', { ...props.modelValue, ...change });
/** What was refused, else what is out of any bench's range while it is typed. */
function problemOf(name: keyof Setup): string | undefined {
  const value = props.modelValue[name];
  const outside =
    typeof value === 'object' ? fieldProblem('sheet', `setup.${name}`, value as Quantity | null) : undefined;
  return props.problems[`setup.${name}`] ?? outside;
}
/** Asked of a sheet only: the bench works them out from its leak test and its check. */
type Shown = Omit<Field, 'field' | 'gate'> & { readonly field: keyof Setup };
const OF_SHEET: readonly Shown[] = [
  { field: 'intakeLeak', ask: 'Intake leak, valve shut', kind: 'flow' },
  { field: 'exhaustLeak', ask: 'Exhaust leak, valve shut', kind: 'flow' },
  { field: 'factor', ask: 'Bench factor', kind: 'ratio' },
];
const parts = computed<{ more: boolean; fields: readonly Shown[] }[]>(() => [
  { more: false, fields: fields.value.filter((f) => f.gate) },
  { more: true, fields: [...fields.value.filter((f) => !f.gate), ...OF_SHEET] },
]);
</script>

<template>
  <div>
    <component :is="part.more ? 'details' : 'div'" v-for="part in parts" :key="String(part.more)">
      <summary v-if="part.more">more of the set-up: entry, plug, chamber, notch, air, leaks</summary>
      <div class="setup">
        <ChoiceField
          v-if="!part.more"
          :model-value="modelValue.reads"
          label="The bench reads"
          :options="READS"
          @update:model-value="set({ reads: $event })"
        />
        <SetupField
          v-for="f in part.fields"
          :key="f.field"
          :field="f"
          :model-value="modelValue[f.field]"
          hint="unknown"
          :problem="problemOf(f.field)"
          :data-field="`setup.${f.field}`"
          @update:model-value="set({ [f.field]: $event })"
          @typing="emit('typing', `setup.${f.field}`, $event)"
        />
      </div>
      <BenchScales
        v-if="!part.more && (modelValue.reads === 'percent' || modelValue.reads === 'differential')"
        :ranges="modelValue.ranges"
        :since="modelValue.scales"
        :bench="bench"
        :day="day"
        @change="set"
        @typing="(path, p) => emit('typing', path, p)"
      />
    </component>
  </div>
</template>

<style scoped>
.setup {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 18px;
}
summary {
  cursor: pointer;
  color: var(--slate);
  margin: 6px 0;
}
</style>
