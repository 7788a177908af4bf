<script setup lang="ts">
import { HEAD_KINDS, MATERIALS, type Head, type RecordOf } from '@alluvium/records';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import TextField from '../parts/TextField.vue';
import { useRecordForm, type Draft } from '../data/form.js';

const props = defineProps<{ head: Head }>();
const emit = defineEmits<{ close: [] }>();
const form = useRecordForm(
  'head',
  () => props.head,
  () => props.head as Draft<'head'>,
  (h: RecordOf<'head'>) => `${h.name} saved.`,
);
const { draft, problems } = form;
const pick = <T extends string>(list: readonly T[]) => list.map((v) => [v, v] as const);
async function save(): Promise<void> {
  if (await form.save()) emit('close');
}
</script>

<template>
  <form class="fields" @submit.prevent="save">
    <TextField v-model="draft.name" label="Name" :problem="problems.name" />
    <TextField v-model="draft.maker" label="Maker" :problem="problems.maker" />
    <TextField v-model="draft.catalogueNumber" label="Number" :problem="problems.catalogueNumber" />
    <ChoiceField v-model="draft.kind!" label="Kind" :options="pick(HEAD_KINDS)" />
    <ChoiceField v-model="draft.material!" label="Material" :options="pick(MATERIALS)" />
    <ChoiceField
      v-model="draft.intakeValves!"
      label="Intake valves a cylinder"
      :options="[
        [1, '1'],
        [2, '2'],
        [3, '3'],
      ]"
    />
    <ChoiceField
      v-if="draft.intakeValves! > 1"
      v-model="draft.intakePorts"
      label="Intake ports a cylinder"
      :options="[
        [null, 'one, shared'],
        [2, '2, each tested by itself'],
        [3, '3, each tested by itself'],
      ]"
    />
    <ChoiceField
      v-model="draft.exhaustValves!"
      label="Exhaust valves a cylinder"
      :options="[
        [1, '1'],
        [2, '2'],
      ]"
    />
    <FormQuantity :form="form" field="price" kind="money" label="Price" />
    <TextField v-model="draft.note" type="textarea" label="Note" :problem="problems.note" class="wide" />
    <FormFoot class="wide" :form="form" />
  </form>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 8px 24px;
  border-bottom: 1px solid var(--rule-strong);
  padding: 10px 0 14px;
}
.wide {
  grid-column: 1 / -1;
}
</style>
