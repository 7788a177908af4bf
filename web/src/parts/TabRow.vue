<script setup lang="ts" generic="T extends string">
import { computed, useTemplateRef } from 'vue';
import PressArea from './PressArea.vue';

/** A row of words of which one is chosen: what a page shows, or which side. */
const props = withDefaults(
  defineProps<{
    modelValue: T;
    label: string;
    options: readonly (readonly [value: T, text: string])[];
    /** `tab` changes what is shown, `radio` which of alike things. */
    kind?: 'tab' | 'radio';
  }>(),
  { kind: 'tab' },
);
const emit = defineEmits<{ 'update:modelValue': [T] }>();
const row = useTemplateRef<HTMLElement>('row');
/** One stop of the Tab key: the word chosen, or the first where none is. */
const stop = computed(() =>
  Math.max(
    0,
    props.options.findIndex(([value]) => value === props.modelValue),
  ),
);
/** Arrows, Home and End go along the row and choose, as in any row of tabs or radio buttons. */
function along(event: KeyboardEvent, at: number): void {
  const last = props.options.length - 1;
  const to = {
    ArrowRight: at === last ? 0 : at + 1,
    ArrowDown: at === last ? 0 : at + 1,
    ArrowLeft: at === 0 ? last : at - 1,
    ArrowUp: at === 0 ? last : at - 1,
    Home: 0,
    End: last,
  }[event.key];
  if (to === undefined) return;
  event.preventDefault();
  // The page's own arrow keys are not meant.
  event.stopPropagation();
  emit('update:modelValue', props.options[to]![0]);
  row.value?.querySelectorAll('button')[to]?.focus();
}
</script>

<template>
  <span ref="row" class="row" :role="kind === 'tab' ? 'tablist' : 'radiogroup'" :aria-label="label">
    <PressArea
      v-for="([value, text], i) in options"
      :key="value"
      class="part"
      :class="{ on: modelValue === value }"
      :role="kind"
      :tabindex="i === stop ? 0 : -1"
      :aria-selected="kind === 'tab' ? modelValue === value : undefined"
      :aria-checked="kind === 'radio' ? modelValue === value : undefined"
      @click="emit('update:modelValue', value)"
      @keydown="along($event, i)"
    >
      {{ text }}
    </PressArea>
  </span>
</template>

<style scoped>
.row {
  display: flex;
  gap: 16px;
  white-space: nowrap;
}
.part {
  color: var(--slate);
  padding: 2px 0 3px;
}
.on {
  color: var(--ink);
  font-weight: 600;
  box-shadow: inset 0 -2px 0 var(--ink);
}
@media (max-width: 800px) {
  .row {
    flex-wrap: wrap;
  }
}
</style>
