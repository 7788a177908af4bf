<script setup lang="ts">
import {
  HEAD_CLASSES,
  HEAD_KINDS,
  MATERIALS,
  replacement,
  type RecordOf,
  type Step,
  type WholeHead,
} from '@alluvium/records';
import { computed, ref } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import TextField from '../parts/TextField.vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { useHeadOf } from '../data/queries.js';
import HeadPicker from '../parts/HeadPicker.vue';

const props = defineProps<{ whole: WholeHead }>();
const emit = defineEmits<{ close: [] }>();
const form = useRecordForm(
  'head',
  () => props.whole.head,
  () => props.whole.head as Draft<'head'>,
  (h: RecordOf<'head'>) => `${h.name} saved.`,
  { resolve: withPair, autosave: true },
);
const { draft, problems } = form;
/** The other head of one engine, whichever of the two names it. */
const pairId = computed({
  get: () => draft.value.pairOf ?? '',
  set: (id) => (draft.value.pairOf = id || null),
});
const other = useHeadOf(() => draft.value.pairOf ?? '');
/** Two heads of one engine name each other: both are written in one change. */
function withPair(typed: Draft<'head'>): { draft: Draft<'head'>; first: Step[] } {
  const { head, pair } = props.whole;
  const first: Step[] = [];
  if (pair && pair.head.id !== typed.pairOf && pair.head.pairOf === head.id)
    first.push(replacement('head', { ...pair.head, pairOf: null }));
  const now = other.data.value;
  if (now && now.id === typed.pairOf && now.pairOf !== head.id)
    first.push(replacement('head', { ...now, pairOf: head.id }));
  return { draft: typed, first };
}
/** Typed with commas between them. */
const tagText = ref(draft.value.tags.join(', '));
const tags = computed({
  get: () => tagText.value,
  set: (text) => {
    tagText.value = text;
    draft.value.tags = [
      ...new Set(
        text
          .split(',')
          .map((t) => t.trim())
          .filter(Boolean),
      ),
    ];
  },
});
const pick = <T extends string>(list: readonly T[]) => list.map((v) => [v, v] as const);
async function save(): Promise<void> {
  if (await form.save()) emit('close');
}
</script>

<template>
  <form class="fields" @submit.prevent="save">
    <TextField v-model="draft.name" label="Name" :problem="problems.name" required />
    <TextField v-model="draft.maker" label="Maker" :problem="problems.maker" />
    <TextField v-model="draft.catalogueNumber" label="Number" :problem="problems.catalogueNumber" />
    <ChoiceField v-model="draft.kind" label="Kind" :options="pick(HEAD_KINDS)" />
    <ChoiceField v-model="draft.class" data-field="class" label="Class" :options="pick(HEAD_CLASSES)" />
    <ChoiceField v-model="draft.material" data-field="material" label="Material" :options="pick(MATERIALS)" />
    <ChoiceField
      v-model="draft.intakeValves"
      label="Intake valves a cylinder"
      :options="[
        [1, '1'],
        [2, '2'],
        [3, '3'],
      ]"
    />
    <ChoiceField
      v-if="draft.intakeValves !== null && draft.intakeValves > 1"
      v-model="draft.intakePorts"
      label="Intake ports a cylinder"
      :options="[
        [null, 'one, shared'],
        [2, '2, each tested by itself'],
        [3, '3, each tested by itself'],
      ]"
    />
    <ChoiceField
      v-model="draft.exhaustValves"
      label="Exhaust valves a cylinder"
      :options="[
        [1, '1'],
        [2, '2'],
      ]"
    />
    <TextField
      :model-value="draft.cylinders"
      data-field="cylinders"
      type="number"
      label="Cylinders it covers"
      :problem="problems.cylinders"
      @update:model-value="draft.cylinders = $event === '' ? null : Number($event)"
    />
    <HeadPicker
      v-model="pairId"
      data-field="pairOf"
      label="Other head of its engine, of a vee or a flat one"
      :others="[['', 'none: it stands alone']]"
    />
    <FormQuantity :form="form" field="price" kind="money" label="Price" />
    <TextField
      v-model="tags"
      label="Tags"
      placeholder="street, in stock"
      :problem="problems.tags ?? problems['tags.0']"
    />
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
