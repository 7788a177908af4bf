<script setup lang="ts">
import type { Kind, Quantity } from '@alluvium/core';
import type { SetupField } from '@alluvium/records';
import { computed } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';

/** One field of a set-up as the field table has it: a quantity, a choice, or a word. */
const props = defineProps<{
  field: Omit<SetupField, 'field' | 'gate' | 'unlike'>;
  modelValue: unknown;
  /** Shown in a quantity that is empty; nothing takes its unit. */
  hint?: string;
  problem?: string | undefined;
}>();
defineEmits<{ 'update:modelValue': [unknown]; typing: [string] }>();
const quantity = computed(() => props.modelValue as Quantity | null);
const text = computed(() => props.modelValue as string);
</script>

<template>
  <QuantityField
    v-if="field.kind"
    :model-value="quantity"
    :kind="field.kind as Kind"
    :label="field.ask"
    :placeholder="hint || undefined"
    :problem="problem"
    @update:model-value="$emit('update:modelValue', $event)"
    @update:problem="$emit('typing', $event)"
  />
  <ChoiceField
    v-else-if="field.options"
    :model-value="text"
    :label="field.ask"
    :options="field.options"
    :problem="problem"
    @update:model-value="$emit('update:modelValue', $event)"
  />
  <TextField
    v-else
    :model-value="text"
    :label="field.ask"
    :placeholder="field.placeholder ?? ''"
    :problem="problem"
    @update:model-value="$emit('update:modelValue', $event)"
  />
</template>
