<script setup lang="ts">
import { useId } from 'vue';

/** Files from this device; the words that can be pressed stand in the slot. */
defineProps<{
  accept: string;
  multiple?: boolean;
  disabled?: boolean;
  /** Straight from the camera at the back of a phone. */
  camera?: boolean;
}>();
const emit = defineEmits<{ files: [files: File[]] }>();
const id = useId();
function picked(event: Event): void {
  const input = event.target as HTMLInputElement;
  const files = [...(input.files ?? [])];
  // The same file may be chosen again, once it was put right.
  input.value = '';
  if (files.length) emit('files', files);
}
</script>

<template>
  <label :for="id" class="pick" :class="{ disabled }">
    <slot />
    <input
      :id="id"
      type="file"
      :multiple="multiple"
      :accept="accept"
      :disabled="disabled"
      :capture="camera ? 'environment' : undefined"
      @change="picked"
    />
  </label>
</template>

<style scoped>
.pick {
  position: relative;
  cursor: pointer;
  border-bottom: 1px solid var(--slate);
}
.pick:hover {
  color: var(--intake);
}
.pick:focus-within {
  outline: 2px solid var(--focus);
  outline-offset: 2px;
}
.disabled {
  color: var(--faint);
  cursor: default;
}
input {
  position: absolute;
  inset: 0;
  width: 100%;
  opacity: 0;
  pointer-events: none;
}
</style>
