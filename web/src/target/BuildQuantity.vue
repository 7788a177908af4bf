<script lang="ts">
import type { Kind, Quantity } from '@alluvium/core';
import type { RecordForm } from '../data/form.js';

/** One quantity of a build: where it is kept and how it is asked for. */
export interface BuildField {
  readonly name: string;
  readonly kind: Kind;
  readonly label: string;
  readonly required?: boolean;
  readonly hint?: string;
}
</script>

<script setup lang="ts">
import { computed } from 'vue';
import { fieldProblem } from '../data/fieldProblem.js';
import QuantityField from '../parts/QuantityField.vue';

const props = defineProps<{ form: RecordForm<'build'>; field: BuildField }>();
const value = computed({
  get: () => (props.form.draft.value as Record<string, unknown>)[props.field.name] as Quantity | null,
  set: (q) => props.form.set(props.field.name, q),
});
</script>

<template>
  <QuantityField
    v-model="value"
    :data-field="field.name"
    :kind="field.kind"
    :label="field.label"
    :placeholder="field.hint"
    :required="field.required"
    :problem="form.problems.value[field.name] ?? fieldProblem('build', field.name, value)"
    @update:problem="form.typing(field.name, $event)"
  />
</template>
