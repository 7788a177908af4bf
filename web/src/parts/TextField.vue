<script setup lang="ts">
import { defineAsyncComponent, useId } from 'vue';
import FieldRow from './FieldRow.vue';

/** A calendar is much to fetch: only where a day is asked for. */
const DayPicker = defineAsyncComponent(() => import('./DayPicker.vue'));
/** A labelled line or box of text with its sentence when something is wrong. */
defineProps<{
  modelValue: string | number | null;
  label: string;
  problem?: string;
  type?: 'text' | 'textarea' | 'date' | 'number';
  placeholder?: string;
  hideLabel?: boolean;
  /** It must be given before the form is saved. */
  required?: boolean;
}>();
defineEmits<{ 'update:modelValue': [string] }>();
const id = useId();
</script>

<template>
  <FieldRow :id="id" :label="label" :hide-label="hideLabel" :required="required" :problem="problem">
    <DayPicker
      v-if="type === 'date'"
      :id="id"
      :model-value="modelValue ? String(modelValue) : ''"
      :label="label"
      :placeholder="placeholder"
      :invalid="Boolean(problem)"
      :required="required"
      :described-by="problem ? `${id}-says` : undefined"
      @update:model-value="$emit('update:modelValue', $event)"
    />
    <el-input
      v-else
      :id="id"
      :model-value="modelValue ?? ''"
      :type="type ?? 'text'"
      :placeholder="placeholder"
      :autosize="type === 'textarea' ? { minRows: 2, maxRows: 6 } : undefined"
      autocomplete="off"
      :aria-invalid="Boolean(problem)"
      :aria-required="required"
      :aria-describedby="problem ? `${id}-says` : undefined"
      @update:model-value="$emit('update:modelValue', $event as string)"
    />
  </FieldRow>
</template>

<style scoped>
:deep(.day.el-date-editor) {
  width: 100%;
}
</style>
