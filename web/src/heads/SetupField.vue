<script setup lang="ts">
import type { Kind, Quantity } from '@alluvium/core';
import type { Setup, SetupField } from '@alluvium/records';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';

/** One field of a set-up as the field table has it: a quantity, a choice, or a word. */
defineProps<{
  field: Omit<SetupField, 'field' | 'gate'> & { readonly field: keyof Setup };
  modelValue: unknown;
  problem?: string | undefined;
}>();
defineEmits<{ 'update:modelValue': [unknown]; typing: [string] }>();
</script>

<template>
  <QuantityField
    v-if="field.kind"
    :model-value="modelValue as Quantity | null"
    :kind="field.kind as Kind"
    :label="field.ask"
    placeholder="unknown"
    :problem="problem"
    @update:model-value="$emit('update:modelValue', $event)"
    @update:problem="$emit('typing', $event)"
  />
  <ChoiceField
    v-else-if="field.options"
    :model-value="modelValue as string"
    :label="field.ask"
    :options="field.options"
    :problem="problem"
    @update:model-value="$emit('update:modelValue', $event)"
  />
  <TextField
    v-else
    :model-value="modelValue as string"
    :label="field.ask"
    :placeholder="field.placeholder ?? ''"
    :problem="problem"
    @update:model-value="$emit('update:modelValue', $event)"
  />
</template>
