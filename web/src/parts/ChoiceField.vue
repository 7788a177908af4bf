<script setup lang="ts" generic="T extends string | number | boolean | null">
import { useId } from 'vue';
import ChoiceList from './ChoiceList.vue';
import FieldRow from './FieldRow.vue';

/** A choice among some, as a row of a form. */
defineProps<{
  modelValue: T;
  label: string;
  options: readonly (readonly [value: T, text: string])[];
  hideLabel?: boolean;
  problem?: string;
}>();
const emit = defineEmits<{ 'update:modelValue': [T] }>();
const id = useId();
</script>

<template>
  <FieldRow :id="id" :label="label" :hide-label="hideLabel" :problem="problem">
    <ChoiceList
      :id="id"
      :model-value="modelValue"
      :options="options"
      :described-by="problem ? `${id}-says` : undefined"
      @update:model-value="emit('update:modelValue', $event)"
    />
  </FieldRow>
</template>
