<script setup lang="ts">
import { CORRECTIONS } from '@alluvium/core';
import {
  DYNOS,
  PullSetup,
  readPullTable,
  splitTable,
  type Build,
  type Pull,
  type PullTable,
  type RecordOf,
} from '@alluvium/records';
import { computed, ref, useTemplateRef } from 'vue';
import { useRecordForm, type Draft } from '../data/form.js';
import type { CompareHead } from '../data/comparison.js';
import { today } from '../data/today.js';
import { workbookCells } from '../exchange/workbook.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import TextField from '../parts/TextField.vue';
import { useSettings } from '../state/settings.js';

/** One pull: what was on the engine, the air of the day, and the table as the dyno printed it. */
const props = defineProps<{ pull: Pull | undefined; build: Build; heads: readonly CompareHead[] }>();
const emit = defineEmits<{ saved: [pull: Pull]; remove: [] }>();
const settings = useSettings();
const form = useRecordForm(
  'pull',
  () => props.pull,
  (): Draft<'pull'> => ({
    id: 'new',
    version: 1,
    buildId: props.build.id,
    stageId: props.heads[0]?.stage.id ?? null,
    title: '',
    cell: '',
    position: 0,
    setup: PullSetup.parse({}),
    cause: null,
    causeNote: '',
    date: today(),
    dyno: 'engine dyno',
    correction: null,
    pressure: null,
    temperature: null,
    humidity: null,
    rows: [],
    note: '',
  }),
  (p: RecordOf<'pull'>) => `${p.title} saved.`,
  { scope: `-${props.build.id}`, saved: (p) => emit('saved', p) },
);
const { draft, problems } = form;
const onEngine = computed(() => {
  const known = props.heads.map((h) => [h.stage.id, `${h.letter} ${h.name}, ${h.stage.name}`] as const);
  const other = props.pull?.stageId && !known.some(([id]) => id === props.pull!.stageId);
  return [
    ...known.filter(([id], i) => known.findIndex(([k]) => k === id) === i),
    ...(other ? [[props.pull!.stageId, 'a head that is not in the lineup'] as const] : []),
    [null, 'another head, or not known'] as const,
  ];
});
const standards = [[null, 'nobody says'] as const, ...CORRECTIONS.map((c) => [c, c] as const)];

const table = ref<PullTable>();
const text = ref('');
function take(cells: string[][]): void {
  table.value = readPullTable(cells, settings.system);
  if (table.value.rows.length > 0) draft.value.rows = [...table.value.rows];
}
function typed(value: string): void {
  text.value = value;
  if (value.trim() === '') table.value = undefined;
  else take(splitTable(value));
}
const fileProblem = ref('');
const LARGEST = 16 * 1024 * 1024;
async function open(file: File | undefined): Promise<void> {
  fileProblem.value = '';
  if (!file) return;
  if (file.size > LARGEST) {
    fileProblem.value = `${file.name} is larger than 16 MB and was not read.`;
    return;
  }
  try {
    take(/\.xlsx$/i.test(file.name) ? await workbookCells(file) : splitTable(await file.text()));
    if (!draft.value.title) draft.value.title = file.name.replace(/\.\w+$/, '');
  } catch {
    fileProblem.value = `${file.name} cannot be read: it is no CSV or XLSX that this program understands.`;
  }
}
const picker = useTemplateRef<HTMLInputElement>('picker');
function pick(event: Event): void {
  const input = event.target as HTMLInputElement;
  void open(input.files?.[0]);
  // The same file can be chosen again once it was mended.
  input.value = '';
}
const SHOWN = 8;
const rows = computed(() => draft.value.rows ?? []);
</script>

<template>
  <form class="pull" data-own-keys @submit.prevent="form.save()">
    <TextField v-model="draft.title" label="Name of the pull" :problem="problems.title" />
    <TextField
      :model-value="draft.date"
      type="date"
      label="Date"
      :problem="problems.date"
      @update:model-value="draft.date = $event || null"
    />
    <ChoiceField v-model="draft.stageId" label="Head on the engine" :options="onEngine" />
    <ChoiceField v-model="draft.dyno!" label="Taken on" :options="DYNOS.map((d) => [d, d] as const)" />
    <ChoiceField v-model="draft.correction" label="Its figures are by" :options="standards" />
    <FormQuantity :form="form" field="pressure" kind="pressure" label="Barometer" placeholder="990 mbar" />
    <FormQuantity :form="form" field="temperature" kind="temperature" label="Air temperature" />
    <FormQuantity :form="form" field="humidity" kind="percent" label="Relative humidity" />
    <TextField
      class="wide"
      type="textarea"
      label="Paste the table: rpm with power, torque or both"
      :model-value="text"
      placeholder="rpm, hp, lb ft"
      @update:model-value="typed"
    />
    <p class="wide file">
      <el-button size="small" @click="picker?.click()">Choose a CSV or XLSX file</el-button>
      <input ref="picker" type="file" accept=".csv,.tsv,.txt,.xlsx" hidden aria-label="Dyno file" @change="pick" />
      <span v-if="fileProblem" class="loss" role="alert">{{ fileProblem }}</span>
    </p>
    <ul v-if="table && (table.problems.length || table.notices.length)" class="wide says" aria-live="polite">
      <li v-for="n in table.notices" :key="n" class="caution">{{ n }}</li>
      <li v-for="p in table.problems.slice(0, SHOWN)" :key="p.line" class="loss">line {{ p.line }}: {{ p.message }}</li>
      <li v-if="table.problems.length > SHOWN" class="loss">and {{ table.problems.length - SHOWN }} more lines</li>
    </ul>
    <p v-if="problems.rows" class="wide loss" role="alert">{{ problems.rows }}</p>
    <p v-if="rows.length" class="wide note">
      {{ rows.length }} {{ rows.length === 1 ? 'row' : 'rows' }}, {{ rows[0]!.speed.typed }} to
      {{ rows.at(-1)!.speed.typed }}
    </p>
    <TextField v-model="draft.note" class="wide" type="textarea" label="What else was on the engine, and how it ran" />
    <FormFoot class="wide" :form="form" save-word="Save the pull" />
    <p v-if="pull" class="wide">
      <button class="worded no-print" type="button" @click="emit('remove')">Remove this pull</button>
    </p>
  </form>
</template>

<style scoped>
.pull {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 8px 20px;
  align-content: start;
}
.wide {
  grid-column: 1 / -1;
  margin: 0;
}
.says {
  padding-left: 18px;
}
.file {
  display: flex;
  gap: 14px;
  align-items: center;
}
</style>
