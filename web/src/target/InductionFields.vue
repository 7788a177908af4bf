<script setup lang="ts">
import type { Quantity } from '@alluvium/core';
import type { Build } from '@alluvium/records';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';

type Induction = Build['induction'];
const props = defineProps<{ modelValue: Induction; problems: Record<string, string> }>();
const emit = defineEmits<{ 'update:modelValue': [Induction]; typing: [string, string] }>();

const KINDS = [
  ['natural', 'naturally aspirated'],
  ['boosted', 'boosted'],
  ['nitrous', 'nitrous'],
] as const;
const FIELDS = {
  natural: [],
  boosted: [
    ['pressureRatio', 'Pressure ratio, absolute', 'ratio'],
    ['chargeTemperature', 'Charge temperature', 'temperature'],
    ['ambientTemperature', 'Ambient temperature', 'temperature'],
  ],
  nitrous: [['power', 'Power the nitrous adds', 'power']],
} as const;

const value = (name: string) => (props.modelValue as unknown as Record<string, Quantity | null>)[name] ?? null;
const set = (name: string, q: Quantity | null) =>
  emit('update:modelValue', { ...props.modelValue, [name]: q } as Induction);
</script>

<template>
  <div class="induction">
    <ChoiceField
      :model-value="modelValue.kind"
      label="Induction"
      :options="KINDS"
      @update:model-value="emit('update:modelValue', { kind: $event } as Induction)"
    />
    <QuantityField
      v-for="[name, label, kind] in FIELDS[modelValue.kind]"
      :key="name"
      :model-value="value(name)"
      :kind="kind"
      :label="label"
      :problem="problems[`induction.${name}`]"
      required
      @update:model-value="set(name, $event)"
      @update:problem="emit('typing', `induction.${name}`, $event)"
    />
  </div>
</template>

<style scoped>
.induction {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 20px;
}
</style>
