<script setup lang="ts" generic="T extends string | number | boolean | null">
import { computed } from 'vue';
import { usePointer } from './pointer.js';

// props.options[]!: equally long, as was seen in front of it.

/** A list that opens, found in by typing first letters; on a touch screen only where it is long. */
const props = defineProps<{
  modelValue: T;
  options: readonly (readonly [value: T, text: string])[];
  /** Of the field, where a label on the page belongs to it. */
  id?: string;
  /** What it is called, where no label is on the page. */
  label?: string;
  /** The sentence that says what is wrong with it. */
  describedBy?: string | undefined;
}>();
const emit = defineEmits<{ 'update:modelValue': [T] }>();
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
  <el-select-v2
    :id="id"
    v-model="chosen"
    :options="listed"
    :filterable="keyboard || options.length > MANY"
    default-first-option
    :fit-input-width="false"
    :persistent="false"
    :aria-label="label"
    :aria-invalid="describedBy ? true : undefined"
    :aria-describedby="describedBy"
    placeholder="–"
    no-match-text="Nothing of that name"
  />
</template>
