<script setup lang="ts">
import { DAY_PATTERNS, useSettings } from '../state/settings.js';

/** A day, kept as 2026-05-31 and written in the user's own order, never in the browser's. */
defineProps<{
  id: string;
  modelValue: string;
  label: string;
  placeholder: string | undefined;
  invalid: boolean;
  required: boolean | undefined;
  describedBy: string | undefined;
}>();
defineEmits<{ 'update:modelValue': [string] }>();
const settings = useSettings();
</script>

<template>
  <el-date-picker
    :id="id"
    class="day"
    :model-value="modelValue"
    type="date"
    value-format="YYYY-MM-DD"
    :format="DAY_PATTERNS[settings.days]"
    :placeholder="placeholder ?? settings.say.day('2026-05-31')"
    :aria-label="label"
    :aria-invalid="invalid"
    :aria-required="required"
    :aria-describedby="describedBy"
    @update:model-value="$emit('update:modelValue', ($event as string | null) ?? '')"
  />
</template>
