<script setup lang="ts" generic="N extends Noun">
import type { Kind, Quantity } from '@alluvium/core';
import type { Noun } from '@alluvium/records';
import { computed } from 'vue';
import QuantityField from './QuantityField.vue';
import type { RecordForm } from '../data/form.js';
import { requiredOf } from '../data/required.js';
import { fieldProblem } from '../data/fieldProblem.js';

// keys[]!: there is one.

/** A quantity of a form by the path of its field, `measured` or `plan.step`: its value, its sentence, what is being typed. */
const props = withDefaults(
  defineProps<{
    form: RecordForm<N>;
    field: string;
    kind: Kind;
    label: string;
    placeholder?: string | undefined;
    required?: boolean | undefined;
  }>(),
  { required: undefined },
);
type Tree = Record<string, unknown>;
const value = computed(
  () =>
    props.field
      .split('.')
      .reduce<unknown>((at, key) => (at as Tree | null)?.[key], props.form.draft.value) as Quantity | null,
);
function put(quantity: Quantity | null): void {
  const [first, ...rest] = props.field.split('.') as [string, ...string[]];
  const into = (tree: unknown, keys: string[]): unknown =>
    keys.length === 0 ? quantity : { ...(tree as Tree), [keys[0]!]: into((tree as Tree)[keys[0]!], keys.slice(1)) };
  props.form.set(first, into((props.form.draft.value as Tree)[first], rest));
}
/** Said by the schema, unless the form knows better. */
const needed = computed(() => props.required ?? requiredOf(props.form.noun).has(props.field));
/** A value out of any engine's range is said while it is typed, in the schema's own sentence. */
const outside = computed(() => fieldProblem(props.form.noun, props.field, value.value));
</script>

<template>
  <QuantityField
    :model-value="value ?? null"
    :kind="kind"
    :label="label"
    :placeholder="placeholder"
    :required="needed"
    :problem="form.problems.value[field] ?? outside"
    @update:model-value="put"
    @update:problem="form.typing(field, $event)"
  />
</template>
