<script setup lang="ts" generic="T extends string | number | boolean | null">
import { computed, useId } from 'vue';
import { usePointer } from './pointer.js';

/** A choice among some, found by typing its first letters; on a touch screen only where the list is long. */
const props = defineProps<{
  modelValue: T;
  label: string;
  options: readonly (readonly [value: T, text: string])[];
  hideLabel?: boolean;
  problem?: string;
}>();
const emit = defineEmits<{ 'update:modelValue': [T] }>();
const id = useId();
/** Lists longer than this are not seen at once. */
const MANY = 8;
const keyboard = usePointer();
// A page that is drawn anew gives the same list as another object: the open list stays as it is.
const listed = computed<{ value: number; label: string }[]>((before) =>
  before?.length === props.options.length && before.every(({ label }, i) => label === props.options[i]![1])
    ? before
    : props.options.map(([, label], value) => ({ value, label })),
);
// By place: what is chosen may be nothing, or no text.
const chosen = computed({
  get: () => {
    const at = props.options.findIndex(([value]) => value === props.modelValue);
    return at < 0 ? undefined : at;
  },
  set: (at) => {
    const option = at === undefined ? undefined : props.options[at];
    if (option) emit('update:modelValue', option[0]);
  },
});
</script>

<template>
  <div class="field">
    <label :for="id" :class="{ unseen: hideLabel }">{{ label }}</label>
    <el-select-v2
      :id="id"
      v-model="chosen"
      :options="listed"
      :filterable="keyboard || options.length > MANY"
      default-first-option
      :fit-input-width="false"
      :persistent="false"
      :aria-invalid="problem ? true : undefined"
      placeholder="–"
      no-match-text="Nothing of that name"
    />
    <p v-if="problem" class="loss says" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
label:not(.unseen) {
  display: block;
  color: var(--slate);
  font-size: 14px;
}
.says {
  margin: 1px 2px 0;
  font-size: 13px;
}
</style>
