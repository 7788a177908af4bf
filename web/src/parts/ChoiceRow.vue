<script setup lang="ts" generic="T extends string">
/** A row of words of which one is chosen: which of alike things. */
defineProps<{
  modelValue: T;
  label: string;
  options: readonly (readonly [value: T, text: string])[];
}>();
const emit = defineEmits<{ 'update:modelValue': [T] }>();
</script>

<template>
  <!-- The arrow keys along the row are its own: the page's are not meant. -->
  <el-radio-group
    class="row"
    :aria-label="label"
    :model-value="modelValue"
    @update:model-value="emit('update:modelValue', $event as T)"
    @keydown.left.right.up.down.stop
  >
    <el-radio-button v-for="[value, text] in options" :key="value" :value="value">{{ text }}</el-radio-button>
  </el-radio-group>
</template>

<style scoped>
.row {
  flex-wrap: wrap;
  gap: 0 16px;
}
.row :deep(.el-radio-button) {
  --el-border: none;
  --el-radio-button-checked-text-color: var(--ink);
  --el-radio-button-checked-bg-color: transparent;
  --el-radio-button-checked-border-color: transparent;
}
.row :deep(.el-radio-button__inner) {
  padding: 2px 0 5px;
  color: var(--slate);
  font: 400 var(--el-font-size-base) / 1.3 var(--sans);
  background: none;
}
.row :deep(.is-active .el-radio-button__inner) {
  font-weight: 600;
  text-decoration: underline 2px;
  text-underline-offset: 6px;
}
</style>
