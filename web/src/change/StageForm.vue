<script setup lang="ts">
import type { RecordOf, Stage, WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import { useRecordForm, type Draft } from '../data/form.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import TextField from '../parts/TextField.vue';

/** What a stage is called, when it was, which stage it comes from, and why it was not flowed. */
const props = defineProps<{ whole: WholeHead; stage?: Stage | undefined }>();
const emit = defineEmits<{ done: [stage: Stage | undefined] }>();
const last = computed(() => props.whole.stages.at(-1));
const form = useRecordForm(
  'stage',
  () => props.stage,
  (): Draft<'stage'> => ({
    id: 'new',
    version: 1,
    headId: props.whole.head.id,
    parentId: last.value?.id ?? null,
    name: '',
    position: (last.value?.position ?? -1) + 1,
    date: null,
    unflowed: '',
    note: '',
  }),
  (s: RecordOf<'stage'>) => `Stage “${s.name}” saved.`,
  { scope: `.${props.whole.head.id}`, autosave: true },
);
const { draft, problems } = form;
const parents = computed(() => [
  [null, 'nothing: it is the first'] as const,
  ...props.whole.stages.filter((s) => s.id !== props.stage?.id).map((s) => [s.id, s.name] as const),
]);
async function save(): Promise<void> {
  const saved = await form.save();
  if (saved) emit('done', saved);
}
</script>

<template>
  <form class="stage" data-own-keys @submit.prevent="save" @keydown.esc="emit('done', undefined)">
    <TextField
      v-model="draft.name"
      label="Name of the stage"
      required
      placeholder="bowl blend"
      :problem="problems.name"
    />
    <TextField
      :model-value="draft.date"
      type="date"
      label="Date"
      :problem="problems.date"
      @update:model-value="draft.date = $event || null"
    />
    <ChoiceField v-model="draft.parentId" label="Comes from" :options="parents" :problem="problems.parentId" />
    <TextField
      v-model="draft.unflowed"
      label="If it was not flowed: why"
      placeholder="the bench was away"
      :problem="problems.unflowed"
    />
    <TextField v-model="draft.note" class="wide" type="textarea" label="Note" :problem="problems.note" />
    <FormFoot class="wide" :form="form" :save-word="stage ? 'Save' : 'Add the stage'" />
    <p class="wide"><el-button link @click="emit('done', undefined)">Close</el-button></p>
  </form>
</template>

<style scoped>
.stage {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
  gap: 6px 20px;
  margin: 8px 0;
  padding: 4px 0 8px 14px;
  border-left: 3px solid var(--intake);
}
.wide {
  grid-column: 1 / -1;
  margin: 0;
}
</style>
