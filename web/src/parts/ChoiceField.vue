<script setup lang="ts" generic="T extends string | number | null">
import { computed, useId } from 'vue';

/** A choice among a few; the browser's own list, so that the keyboard works as everywhere. */
const props = defineProps<{
  modelValue: T;
  label: string;
  options: readonly (readonly [value: T, text: string])[];
  hideLabel?: boolean;
  problem?: string;
}>();
const emit = defineEmits<{ 'update:modelValue': [T] }>();
const id = useId();
const index = computed(() => props.options.findIndex(([value]) => value === props.modelValue));
function pick(event: Event): void {
  const option = props.options[Number((event.target as HTMLSelectElement).value)];
  if (option) emit('update:modelValue', option[0]);
}
</script>

<template>
  <div class="field">
    <label :for="id" :class="{ unseen: hideLabel }">{{ label }}</label>
    <select :id="id" :value="index" @change="pick">
      <option v-if="index < 0" :value="-1" disabled>–</option>
      <option v-for="([, text], i) in options" :key="i" :value="i">{{ text }}</option>
    </select>
    <p v-if="problem" class="loss says" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
label {
  display: block;
  color: var(--slate);
  font-size: 14px;
}
select {
  width: 100%;
  height: 32px;
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--el-border-color);
  font: inherit;
  color: inherit;
}
select option {
  background: var(--paper-raised);
  color: var(--ink);
}
.says {
  margin: 1px 2px 0;
  font-size: 13px;
}
</style>
