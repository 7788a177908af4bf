<script setup lang="ts">
import { CORRECTIONS, KINDS, unitFor } from '@alluvium/core';
import {
  DYNOS,
  PULL_COLUMNS,
  PULL_KINDS,
  PullSetup,
  addition,
  headingsOf,
  mapFor,
  readPullTable,
  replacement,
  splitTable,
  type Build,
  type ColumnMap,
  type Pull,
  type PullColumn,
  type PullTable,
  type RecordOf,
} from '@alluvium/records';
import { computed, ref, shallowRef } from 'vue';
import FilePick from '../parts/FilePick.vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { newId } from '../data/ids.js';
import { useListOf, useWholeHead } from '../data/queries.js';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import { workbookCells } from '../exchange/workbook.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import HeadPicker from '../parts/HeadPicker.vue';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';
import { useSettings } from '../state/settings.js';
import WideFrame from '../parts/WideFrame.vue';

/** One pull: what was on the engine, the air of the day, and the table as the dyno printed it. */
const props = defineProps<{
  pull: Pull | undefined;
  build: Build;
  /** Heads that may have been on the engine. */
  stages: readonly (readonly [string, string])[];
  first: string | null;
}>();
const emit = defineEmits<{ saved: [pull: Pull]; remove: [] }>();
const settings = useSettings();
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

const maps = useListOf('columnmap');
const table = ref<PullTable>();
const text = ref('');
const cells = shallowRef<string[][]>([]);
/** Columns as they were laid down by hand; empty while the headings speak. */
const laid = ref<ColumnMap['columns']>([]);
function read(): void {
  table.value = readPullTable(
    cells.value,
    settings.system,
    laid.value.length > 0 ? laid.value : (maps.data.value ?? []),
  );
  if (table.value.rows.length > 0) draft.value.rows = [...table.value.rows];
}
function take(next: string[][]): void {
  cells.value = next;
  laid.value = [];
  read();
}
function layDown(i: number, column: PullColumn | null, unit?: string): void {
  const now = table.value?.columns ?? [];
  const base: ColumnMap['columns'] =
    laid.value.length > 0 ? laid.value : now.map((c) => (c.column ? { column: c.column, unit: c.unit } : null));
  const usual = column && column !== 'run' ? unitFor(PULL_KINDS[column], settings.system).symbol : '';
  laid.value = base.map((c, k) =>
    k === i ? (column ? { column, unit: unit ?? usual } : null) : c?.column === column ? null : c,
  );
  read();
}
/** The columns are kept, so that the next file with these headings is read the same way. */
async function remember(): Promise<void> {
  const headings = headingsOf(table.value!.columns);
  const stands = mapFor(maps.data.value ?? [], headings);
  const columns = [...laid.value];
  await change.make(
    [
      stands
        ? replacement('columnmap', { ...stands, columns })
        : addition('columnmap', { id: newId(), headings, columns }),
    ],
    'Files with these headings are read this way from now on.',
  );
}
const columnChoices = [[null, 'left out'] as const, ...PULL_COLUMNS.map((c) => [c as PullColumn | null, c] as const)];
const unitsOf = (column: PullColumn | null) =>
  column && column !== 'run' ? KINDS[PULL_KINDS[column]].units.map((u) => [u.symbol, u.symbol || 'none'] as const) : [];
const preview = computed(() => cells.value.filter((r) => r.some((c) => /\d/.test(c))).slice(0, 3));
function typed(value: string): void {
  text.value = value;
  if (value.trim() === '') {
    table.value = undefined;
    cells.value = [];
  } else take(splitTable(value));
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
/** One field of what was on the engine. */
const setupTo = (fields: Partial<Pull['setup']>) => (draft.value.setup = { ...draft.value.setup!, ...fields });
const setup = computed(() => draft.value.setup ?? PullSetup.parse({}));
const QUANTITIES = [
  ['compression', 'compression', 'Compression as built'],
  ['lobeSeparation', 'angle', 'Lobe separation as installed'],
  ['intakeCentreline', 'angle', 'Intake centreline as installed'],
  ['duration', 'angle', 'Duration, intake'],
  ['ignition', 'angle', 'Ignition before top dead centre'],
] as const;
const TEXTS = [
  ['manifold', 'Manifold'],
  ['exhaust', 'Exhaust'],
  ['fuel', 'Fuel'],
  ['tune', 'Tune'],
] as const;
const boosted = computed(() => props.build.induction.kind === 'boosted');
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
    <ChoiceField v-model="draft.dyno!" label="Taken on" :options="DYNOS.map((d) => [d, d] as const)" />
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
    <details class="wide">
      <summary>What was on the engine besides the head</summary>
      <div class="setup">
        <QuantityField
          v-for="[key, kind, label] in QUANTITIES"
          :key="key"
          :model-value="setup[key]"
          :kind="kind"
          :label="label"
          :problem="problems[`setup.${key}`] ?? ''"
          @update:model-value="setupTo({ [key]: $event })"
          @update:problem="form.typing(`setup.${key}`, $event)"
        />
        <TextField
          v-for="[key, label] in TEXTS"
          :key="key"
          :model-value="setup[key]"
          :label="label"
          :problem="problems[`setup.${key}`] ?? ''"
          @update:model-value="setupTo({ [key]: $event })"
        />
        <template v-if="build.fuel === 'diesel'">
          <ChoiceField
            v-if="boosted"
            :model-value="setup.charging"
            label="How it gets its air"
            :options="[
              [null, 'nobody says'],
              ['mechanical', 'mechanically charged'],
              ['turbo', 'turbocharged'],
            ]"
            @update:model-value="setupTo({ charging: $event })"
          />
          <TextField
            :model-value="setup.fuelPerCycle"
            type="number"
            label="Fuel of a cycle, mg for each litre"
            :problem="problems['setup.fuelPerCycle'] ?? ''"
            @update:model-value="setupTo({ fuelPerCycle: $event === '' ? null : Number($event) })"
          />
        </template>
      </div>
    </details>
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
    <details v-if="table?.columns.length" class="wide" :open="table.rows.length === 0 || laid.length > 0">
      <summary>Its columns</summary>
      <WideFrame>
        <table class="ruled">
          <thead>
            <tr>
              <th v-for="(c, i) in table.columns" :key="i">
                {{ c.text || `column ${i + 1}` }}
                <ChoiceField
                  :model-value="c.column"
                  hide-label
                  :label="`Column ${i + 1} is`"
                  :options="columnChoices"
                  @update:model-value="layDown(i, $event)"
                />
                <ChoiceField
                  v-if="unitsOf(c.column).length > 1"
                  :model-value="c.unit"
                  hide-label
                  :label="`Unit of column ${i + 1}`"
                  :options="unitsOf(c.column)"
                  @update:model-value="layDown(i, c.column, $event)"
                />
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(row, r) in preview" :key="r">
              <td v-for="(_, i) in table.columns" :key="i" class="num">{{ row[i] }}</td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
      <el-button v-if="laid.length && table.rows.length" size="small" @click="remember">
        Read files with these headings this way
      </el-button>
    </details>
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
.setup {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: 6px 16px;
  margin-top: 6px;
}
summary {
  cursor: pointer;
  color: var(--slate);
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
