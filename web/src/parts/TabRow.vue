<script setup lang="ts" generic="T extends string">
/** A row of words of which one is chosen: what a page shows, or which side. */
withDefaults(
  defineProps<{
    modelValue: T;
    label: string;
    options: readonly (readonly [value: T, text: string])[];
    /** `tab` changes what is shown, `radio` which of alike things. */
    kind?: 'tab' | 'radio';
  }>(),
  { kind: 'tab' },
);
defineEmits<{ 'update:modelValue': [T] }>();
</script>

<template>
  <span class="row" :role="kind === 'tab' ? 'tablist' : 'radiogroup'" :aria-label="label">
    <button
      v-for="[value, text] in options"
      :key="value"
      class="plain"
      :class="{ on: modelValue === value }"
      type="button"
      :role="kind"
      :aria-selected="kind === 'tab' ? modelValue === value : undefined"
      :aria-checked="kind === 'radio' ? modelValue === value : undefined"
      @click="$emit('update:modelValue', value)"
    >
      {{ text }}
    </button>
  </span>
</template>

<style scoped>
.row {
  display: flex;
  gap: 16px;
  white-space: nowrap;
}
button {
  color: var(--slate);
  padding: 2px 0 3px;
}
.on {
  color: var(--ink);
  font-weight: 600;
  box-shadow: inset 0 -2px 0 var(--ink);
}
</style>
