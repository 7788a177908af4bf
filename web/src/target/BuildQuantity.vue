<script setup lang="ts">
import type { Quantity } from '@alluvium/core';
import { computed } from 'vue';
import type { RecordForm } from '../data/form.js';
import { fieldProblem } from '../data/fieldProblem.js';
import QuantityField from '../parts/QuantityField.vue';
import type { BuildField } from './buildFields.js';

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
