<script setup lang="ts">
import { parseQuantity, type Quantity } from '@alluvium/core';
import { ref, watch } from 'vue';
import TextField from '../parts/TextField.vue';
import { useSettings } from '../state/settings.js';

/** The few lifts the user cares most about, typed as a list. */
const props = defineProps<{ modelValue: Quantity[]; problem?: string }>();
const emit = defineEmits<{ 'update:modelValue': [Quantity[]] }>();
const settings = useSettings();
const text = ref('');
const own = ref('');

const shown = () => props.modelValue.map((q) => q.typed.replace(/ in$/, '')).join('  ');
watch(
  () => props.modelValue,
  () => {
    if (!own.value && document.activeElement?.tagName !== 'INPUT') text.value = shown();
  },
  { immediate: true },
);
function read(value: string): void {
  text.value = value;
  const parts = value
    .replace(/(\d)\s+(mm|in)\b/g, '$1$2')
    .split(/[\s;]+/)
    .filter(Boolean);
  const parsed = parts.map((p) => parseQuantity(p, 'lift', settings.system));
  const wrong = parsed.find((p) => !p.ok);
  own.value = wrong && !wrong.ok ? wrong.problem : '';
  if (!own.value)
    emit(
      'update:modelValue',
      parsed.flatMap((p) => (p.ok ? [p.quantity] : [])),
    );
}
</script>

<template>
  <TextField
    :model-value="text"
    label="Watch lifts"
    :problem="own || problem"
    placeholder=".300 .400 .500 .600"
    @update:model-value="read"
  />
</template>
