<script setup lang="ts">
import { CORRECTIONS } from '@alluvium/core';
import { DYNOS, PullSetup, addition, type Build, type Pull, type RecordOf } from '@alluvium/records';
import { computed, ref } from 'vue';
import FilePick from '../parts/FilePick.vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { useWholeHead } from '../data/queries.js';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import HeadPicker from '../parts/HeadPicker.vue';
import TextField from '../parts/TextField.vue';
import PullColumns from './PullColumns.vue';
import PullSetupFields from './PullSetupFields.vue';
import { usePullTable } from './usePullTable.js';

// picked.data.value!, table.value!, rows[]!, rows.at()!: what was picked, pasted and read.

/** One pull: what was on the engine, the air of the day, and the table as the dyno printed it. */
const props = defineProps<{
  pull: Pull | undefined;
  build: Build;
  /** Heads that may have been on the engine. */
  stages: readonly (readonly [string, string])[];
  first: string | null;
}>();
const emit = defineEmits<{ saved: [pull: Pull]; remove: [] }>();
const change = useChange();
const form = useRecordForm(
  'pull',
  () => props.pull,
  (): Draft<'pull'> => ({
    id: 'new',
    version: 1,
    buildId: props.build.id,
    stageId: props.first,
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
// A head outside the lineup is found by typing.
const other = ref('');
const picked = useWholeHead(other);
const onEngine = computed(() => {
  const found = (picked.data.value?.stages ?? []).map(
    (st) => [st.id, `${picked.data.value!.head.name}, ${st.name}`] as const,
  );
  const all = [...props.stages, ...found];
  return [
    ...all.filter(([id], i) => all.findIndex(([k]) => k === id) === i),
    [null, 'another head, or not known'] as const,
  ];
});
const standards = [[null, 'nobody says'] as const, ...CORRECTIONS.map((c) => [c, c] as const)];

const pasted = usePullTable((rows) => (draft.value.rows = [...rows]));
const { table, text, fileProblem, typed } = pasted;
async function open(file: File | undefined): Promise<void> {
  if (file && (await pasted.open(file)) && !draft.value.title) draft.value.title = file.name.replace(/\.\w+$/, '');
}
/** Every pull of a file that holds several: each becomes a pull of its own with what is typed here. */
async function saveAll(): Promise<void> {
  const { id: _id, version: _version, ...shared } = draft.value;
  const steps = table.value!.pulls.map((p, i) =>
    addition('pull', {
      ...shared,
      title: `${shared.title || 'Pull'}${p.name ? ` ${p.name}` : ` ${i + 1}`}`.slice(0, 120),
      position: (shared.position ?? 0) + i,
      rows: p.rows,
    }),
  );
  const made = await change.make(steps, `${steps.length} pulls saved.`);
  if (made) {
    form.discard();
    typed('');
  }
}
const SHOWN = 8;
const rows = computed(() => draft.value.rows ?? []);
</script>

<template>
  <form class="pull" data-own-keys @submit.prevent="form.save()">
    <TextField v-model="draft.title" label="Name of the pull" required :problem="problems.title" />
    <TextField
      :model-value="draft.date"
      type="date"
      label="Date"
      :problem="problems.date"
      @update:model-value="draft.date = $event || null"
    />
    <ChoiceField v-model="draft.stageId" label="Head on the engine" :options="onEngine" />
    <HeadPicker v-model="other" label="A head outside the lineup" />
    <ChoiceField v-model="draft.dyno" label="Taken on" :options="DYNOS.map((d) => [d, d] as const)" />
    <ChoiceField v-model="draft.correction" label="Its figures are by" :options="standards" />
    <FormQuantity :form="form" field="pressure" kind="pressure" label="Barometer" placeholder="990 mbar" />
    <FormQuantity :form="form" field="temperature" kind="temperature" label="Air temperature" />
    <FormQuantity :form="form" field="humidity" kind="percent" label="Relative humidity" />
    <TextField v-model="draft.cell" label="Cell" :problem="problems.cell" />
    <TextField
      :model-value="draft.position"
      type="number"
      label="Which pull of its day"
      :problem="problems.position"
      @update:model-value="draft.position = $event === '' ? 0 : Number($event)"
    />
    <PullSetupFields v-model="draft.setup" class="wide" :build="build" :problems="problems" @typing="form.typing" />
    <TextField
      class="wide"
      type="textarea"
      label="Paste the table: rpm with power, torque or both"
      :model-value="text"
      placeholder="rpm, hp, lb ft"
      @update:model-value="typed"
    />
    <p class="wide file">
      <FilePick accept=".csv,.tsv,.txt,.xlsx" @files="open($event[0])">Choose a CSV or XLSX file</FilePick>
      <span v-if="fileProblem" class="loss" role="alert">{{ fileProblem }}</span>
    </p>
    <ul v-if="table && (table.problems.length || table.notices.length)" class="wide says" aria-live="polite">
      <li v-for="n in table.notices" :key="n" class="caution">{{ n }}</li>
      <li v-for="p in table.problems.slice(0, SHOWN)" :key="p.line" class="loss">line {{ p.line }}: {{ p.message }}</li>
      <li v-if="table.problems.length > SHOWN" class="loss">and {{ table.problems.length - SHOWN }} more lines</li>
    </ul>
    <PullColumns v-if="table?.columns.length" class="wide" :pasted="pasted" />
    <p v-if="table && table.pulls.length > 1" class="wide">
      <el-button size="small" @click="saveAll">Save all {{ table.pulls.length }} pulls of this file</el-button>
      <span class="note">each with what is typed here; the first is shown</span>
    </p>
    <p v-if="problems.rows" class="wide loss" role="alert">{{ problems.rows }}</p>
    <p v-if="rows.length" class="wide note">
      {{ rows.length }} {{ rows.length === 1 ? 'row' : 'rows' }}, {{ rows[0]!.speed.typed }} to
      {{ rows.at(-1)!.speed.typed }}
    </p>
    <TextField v-model="draft.note" class="wide" type="textarea" label="What else was on the engine, and how it ran" />
    <FormFoot class="wide" :form="form" save-word="Save the pull" />
    <p v-if="pull" class="wide">
      <el-button link class="no-print" @click="emit('remove')">Remove this pull</el-button>
    </p>
  </form>
</template>

<style scoped>
.pull {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 8px 20px;
  min-width: 0;
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
