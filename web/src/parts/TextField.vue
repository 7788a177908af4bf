<script setup lang="ts">
import { useId } from 'vue';
import { DAY_PATTERNS, useSettings } from '../state/settings.js';

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
const settings = useSettings();
</script>

<template>
  <div class="field" :class="{ wrong: problem, needed: required }">
    <label :for="id" :class="{ unseen: hideLabel }">{{ label }}</label>
    <!-- A day is kept as 2026-05-31 and written in the user's own order, never in the browser's. -->
    <el-date-picker
      v-if="type === 'date'"
      :id="id"
      class="day"
      :model-value="modelValue ? String(modelValue) : ''"
      type="date"
      value-format="YYYY-MM-DD"
      :format="DAY_PATTERNS[settings.days]"
      :placeholder="placeholder ?? settings.say.day('2026-05-31')"
      :aria-label="label"
      :aria-invalid="Boolean(problem)"
      :aria-required="required"
      :aria-describedby="problem ? `${id}-says` : undefined"
      @update:model-value="$emit('update:modelValue', ($event as string | null) ?? '')"
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
    <p v-if="problem" :id="`${id}-says`" class="loss says" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
label {
  display: block;
  color: var(--slate);
  font-size: 14px;
}
.field :deep(.day.el-date-editor) {
  width: 100%;
}
.says {
  margin: 1px 2px 0;
  font-size: 13px;
}
</style>
