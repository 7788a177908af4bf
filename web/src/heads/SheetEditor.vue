<script setup lang="ts">
import { evaluateSheet, listed, parseQuantity, unitFor, type Doubt, type Side, type System } from '@alluvium/core';
import {
  emptyCells,
  fingerprint,
  foreignUnit,
  looksSwapped,
  measuresAt,
  readCells,
  readSheetTable,
  respell,
  sheetTable,
  toCoreRows,
  toCoreSetup,
  toCsv,
  toPortValve,
  unitTyped,
  withStated,
  writeCells,
  type Cells,
  type RecordOf,
  type Sheet,
  type SheetTable,
  type Source,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { add, drop } from '../api/client.js';
import { useRefresh } from '../api/queries.js';
import FlowChart from '../charts/FlowChart.vue';
import { download } from '../charts/save.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import TextField from '../parts/TextField.vue';
import { useRecordForm } from '../parts/form.js';
import { useActiveBuild } from '../state/build.js';
import { useSettings } from '../state/settings.js';
import { useUndo } from '../state/undo.js';
import SetupFields from './SetupFields.vue';
import SheetDoubts, { type Question } from './SheetDoubts.vue';
import SheetFigures from './SheetFigures.vue';
import SheetGrid from './SheetGrid.vue';
import SheetHistory from './SheetHistory.vue';
import { blankSheet } from './blankSheet.js';

const props = defineProps<{
  whole: WholeHead;
  stage: Stage;
  sheet?: Sheet;
  sources: readonly Source[];
  /** What a new sheet begins as. */
  kind?: Sheet['kind'];
}>();
const emit = defineEmits<{ added: [id: string] }>();
const settings = useSettings();
const undo = useUndo();
const router = useRouter();
const refresh = useRefresh();
const { active } = useActiveBuild();
const last = computed(() =>
  props.whole.sheets
    .filter((s) => s.kind === 'measured')
    .sort((a, b) => (a.date ?? '').localeCompare(b.date ?? ''))
    .at(-1),
);
/** A claim and a measured sheet begun at one stage keep drafts of their own. */
const scope = `-${props.kind === 'claim' ? 'claim-' : ''}${props.stage.id}`;
const form = useRecordForm(
  'sheet',
  () => props.sheet,
  () => blankSheet(props.stage.id, last.value, props.kind),
  (s: RecordOf<'sheet'>) => `${s.title} saved.`,
  scope,
);
const { draft, problems } = form;

// The cells are what is typed; the rows of the draft follow from them. Cells that cannot be read yet are kept too.
const cellsKey = () => `alluvium.cells.${props.sheet?.id ?? `new${scope}`}`;
const cells = ref<Cells[]>([]);
function loadCells(): void {
  const text = form.restored.value ? localStorage.getItem(cellsKey()) : null;
  const kept = text ? (JSON.parse(text) as { system: System; cells: Cells[] }) : null;
  cells.value = [
    ...(kept
      ? respell(kept.cells, draft.value.setup!, kept.system, settings.system)
      : writeCells(draft.value.rows ?? [], settings.system)),
    emptyCells(),
  ];
}
loadCells();
// Bare numbers mean the unit of the system: when it changes, the cells are written anew before anything reads them.
watch(
  () => settings.system,
  (to, from) => (cells.value = respell(cells.value, draft.value.setup!, from, to)),
  { flush: 'sync' },
);
const read = computed(() => readCells(cells.value, draft.value.setup!, settings.system));
watch(
  read,
  ({ rows, problems: bad }) => {
    if (fingerprint(rows) !== fingerprint(draft.value.rows)) draft.value.rows = rows;
    form.typing('rows', bad[0]?.message ?? '');
    if (form.dirty.value)
      localStorage.setItem(cellsKey(), JSON.stringify({ system: settings.system, cells: cells.value }));
    else localStorage.removeItem(cellsKey());
  },
  { deep: true },
);
// What was sent to be saved: when it comes back, the cells may already say more and are kept; anything else that changes
// the draft from outside (their version taken, an undo) is written into the cells.
let sent = '';
watch(
  () => [props.sheet?.version, form.conflict.value] as const,
  () => {
    const rows = fingerprint(draft.value.rows);
    if (rows === fingerprint(read.value.rows)) return;
    if (rows === sent) draft.value.rows = read.value.rows;
    else loadCells();
  },
  { flush: 'post' },
);
function discard(): void {
  form.discard();
  localStorage.removeItem(cellsKey());
  loadCells();
}

const result = computed(() => {
  try {
    const measures = measuresAt(props.whole, props.stage.id);
    const valve = (side: Side) => toPortValve(props.whole.head, measures, side);
    const intake = valve('intake');
    const exhaust = valve('exhaust');
    const live = {
      setup: draft.value.setup!,
      rows: read.value.problems.length
        ? read.value.rows.filter((_, i) => !read.value.problems.some((p) => p.row === i))
        : read.value.rows,
    };
    return evaluateSheet(toCoreSetup(live), toCoreRows(live), {
      ...(intake ? { intake } : {}),
      ...(exhaust ? { exhaust } : {}),
    });
  } catch {
    return undefined;
  }
});
const series = computed(() =>
  (['intake', 'exhaust'] as const).flatMap((side, index) => {
    const curve = result.value?.[side].curve;
    return curve
      ? [
          {
            letter: '',
            name: side,
            index: index * 2,
            curve,
            colour: `var(--${side})`,
            noisy: result.value![side].points.filter((p) => p.noisy).map((p) => p.lift),
          },
        ]
      : [];
  }),
);

// What breaks the shape is asked about, never changed by itself.
const settled = ref(new Set<string>());
const questions = computed<Question[]>(() => {
  const found: Question[] = [];
  if (looksSwapped(read.value.rows))
    found.push({
      key: 'swap',
      text: 'The exhaust flows more than the intake at most lifts. Do the two columns stand in each other’s place?',
      mend: 'Swap them',
      act: swap,
    });
  const foreign = foreignUnit(
    cells.value.map((c) => c.lift),
    'lift',
    settings.system,
  );
  if (foreign)
    found.push({
      key: `unit${foreign}`,
      text: `Some lifts are in ${foreign}; those without a unit are read as ${unitFor('lift', settings.system).symbol}. Is that what they are?`,
      mend: `They are all ${foreign}`,
      act: () => inUnit(foreign),
    });
  for (const side of ['intake', 'exhaust'] as const) {
    const points = result.value?.[side].curve?.points ?? [];
    for (const doubt of result.value?.[side].doubts ?? []) found.push(question(side, doubt, points[doubt.index]!));
  }
  return found.filter((q) => !settled.value.has(q.key));
});
function question(side: Side, doubt: Doubt, point: { lift: number; flow: number }): Question {
  const say = (q: number) => settings.say.of(q, 'flow', { digits: 0 });
  const at = settings.say.of(point.lift, 'lift');
  const base = {
    key: `${side}${at}${point.flow}`,
    text: `At ${at} the ${side} reads ${say(point.flow)}, which breaks its curve; the rows beside it suggest about ${say(doubt.expected)}.`,
  };
  const plain =
    draft.value.setup!.reads === 'flow' &&
    (draft.value.setup!.depression === null || Math.abs(draft.value.setup!.depression.si / 6974.492 - 1) < 1e-6);
  if (doubt.meant === undefined || !plain) return base;
  const meant = say(doubt.meant).split('\u00a0')[0]!;
  return {
    ...base,
    text: `${base.text} Is it ${meant}?`,
    mend: `Use ${meant}`,
    act: () => put(side, point.lift, meant),
  };
}
function put(side: Side, lift: number, text: string): void {
  const cell = cells.value.find((c) => {
    const parsed = parseQuantity(c.lift, 'lift', settings.system);
    return parsed.ok && Math.abs(parsed.quantity.si - lift) < 1e-6;
  });
  if (cell) cell[side] = text;
}
/** Lifts typed without a unit get this one. */
function inUnit(unit: string): void {
  cells.value = cells.value.map((c) =>
    c.lift.trim() !== '' && unitTyped(c.lift) === '' ? { ...c, lift: `${c.lift.trim()} ${unit}` } : c,
  );
}
function swap(): void {
  cells.value = cells.value.map((c) => ({
    ...c,
    intake: c.exhaust,
    exhaust: c.intake,
    intakeRange: c.exhaustRange,
    exhaustRange: c.intakeRange,
  }));
}

function takeTable(table: SheetTable): void {
  const { sheet, problems: bad } = readSheetTable(table, draft.value.title ?? '', settings.system);
  const setup = {
    ...draft.value.setup!,
    ...Object.fromEntries(
      Object.keys(table.setup)
        .filter((k) => k in sheet.setup)
        .map((k) => [k, sheet.setup[k as keyof typeof sheet.setup]]),
    ),
  };
  draft.value.setup = setup;
  if (table.setup.title) draft.value.title = sheet.title;
  if (table.cells.length) cells.value = [...table.cells, emptyCells()];
  if (bad.length) undo.announce(bad[0]!);
}

// Ports are typed as numbers and made when they are new.
const number = (id: string | null) => String(props.whole.ports.find((p) => p.id === id)?.number ?? '');
const ports = ref({ intake: number(draft.value.intakePortId), exhaust: number(draft.value.exhaustPortId) });
const portProblem = (text: string) =>
  text.trim() === '' || /^([1-9]|[1-3]\d|4[0-8])$/.test(text.trim()) ? '' : 'A port number is 1 to 48.';
async function portId(side: Side): Promise<string | null> {
  const text = ports.value[side].trim();
  if (text === '') return null;
  const known = props.whole.ports.find((p) => p.side === side && p.number === Number(text));
  return known?.id ?? (await add('port', { headId: props.whole.head.id, side, number: Number(text) })).record.id;
}
const newSource = ref('');
const SOURCE_NEW = 'new';
const sourceChoice = ref<string>(draft.value.sourceId ?? '');
watch(
  () => draft.value.sourceId,
  (id) => (sourceChoice.value = id ?? ''),
);
const sourceOptions = computed(() => [
  ['', 'unknown'] as const,
  ...props.sources.map((s) => [s.id, s.name] as const),
  [SOURCE_NEW, 'a new source …'] as const,
]);
function chooseSource(id: string): void {
  sourceChoice.value = id;
  if (id !== SOURCE_NEW) draft.value.sourceId = id || null;
}

/** What the source states of all its tests and this sheet does not know: offered, never filled in by itself. */
const offered = computed(() => {
  const source = props.sources.find((s) => s.id === draft.value.sourceId);
  if (!source || draft.value.kind !== 'claim') return undefined;
  const { setup, taken } = withStated(draft.value.setup!, source.stated);
  return taken.length > 0 ? { setup, text: `${source.name} states of its tests: ${listed(taken)}.` } : undefined;
});
async function save(): Promise<void> {
  const wrongPort = portProblem(ports.value.intake) || portProblem(ports.value.exhaust);
  if (wrongPort) return void (problems.value = { '': wrongPort });
  if (!draft.value.title?.trim())
    draft.value.title =
      [
        props.sources.find((s) => s.id === draft.value.sourceId)?.name ?? newSource.value,
        ports.value.intake ? `port ${ports.value.intake}` : '',
      ]
        .filter(Boolean)
        .join(', ') || 'Flow sheet';
  if (sourceChoice.value === SOURCE_NEW && newSource.value.trim())
    draft.value.sourceId = (
      await add('source', { name: newSource.value, kind: draft.value.kind === 'claim' ? 'maker' : 'own bench' })
    ).record.id;
  draft.value.intakePortId = await portId('intake');
  draft.value.exhaustPortId = await portId('exhaust');
  sent = fingerprint(read.value.rows);
  const record = await form.save();
  if (!record) return;
  localStorage.removeItem(cellsKey());
  if (props.sheet) return;
  emit('added', record.id);
  await router.replace({ query: { stage: props.stage.id, sheet: record.id } });
}
async function remove(): Promise<void> {
  const { batch } = await drop('sheet', props.sheet!.id);
  undo.did(`${props.sheet!.title} deleted.`, batch);
  await router.replace({ query: { stage: props.stage.id } });
  await refresh();
}
const fileName = computed(() =>
  `${props.whole.head.name} ${props.stage.name} ${draft.value.title}`.replace(/[^\w.-]+/g, '-'),
);
const saveCsv = () => download(`${fileName.value}.csv`, toCsv(sheetTable(props.sheet!)), 'text/csv');
async function saveXlsx(): Promise<void> {
  const { default: write } = await import('write-excel-file/browser');
  await write(sheetTable(props.sheet!).map((row) => row.map((value) => ({ type: String, value })))).toFile(
    `${fileName.value}.xlsx`,
  );
}
const camLift = computed(() => active.value?.build.cam?.intakeLift.si);
</script>

<template>
  <form class="sheet" @submit.prevent="save">
    <div class="left">
      <div class="row">
        <TextField
          v-model="draft.title"
          label="Title of the sheet"
          :problem="problems.title"
          placeholder="made from source and port"
          class="grow"
        />
        <TextField
          :model-value="draft.date"
          type="date"
          label="Date"
          :problem="problems.date"
          @update:model-value="draft.date = $event || null"
        />
      </div>
      <div class="row four">
        <ChoiceField
          v-model="draft.kind!"
          label="What it is"
          :options="[
            ['measured', 'measured'],
            ['claim', 'a claim'],
          ]"
        />
        <ChoiceField
          :model-value="sourceChoice"
          label="Source"
          :options="sourceOptions"
          @update:model-value="chooseSource"
        />
        <TextField
          v-model="ports.intake"
          label="Intake port"
          :problem="portProblem(ports.intake)"
          placeholder="unknown"
        />
        <TextField
          v-model="ports.exhaust"
          label="Exhaust port"
          :problem="portProblem(ports.exhaust)"
          placeholder="unknown"
        />
      </div>
      <TextField v-if="sourceChoice === 'new'" v-model="newSource" label="Name of the new source" />
      <SheetGrid
        v-model="cells"
        :reads="draft.setup!.reads"
        :problems="read.problems"
        :system="settings.system"
        :dim-beyond="camLift"
        :watch="(active?.build.watchLifts ?? []).map((w) => w.si)"
        @table="takeTable"
      />
      <p class="note">
        Type or paste a block. Several pulls: 188.2 / 188.9. Depression not held: 188 @ 27.5. Noise: a ~ at the end.
      </p>
      <SheetDoubts :questions="questions" @settled="settled.add($event)" />
      <div class="row">
        <TextField
          v-model="draft.stopped"
          label="Why the run stopped where it did"
          :problem="problems.stopped"
          class="grow"
        />
      </div>
      <TextField v-model="draft.note" type="textarea" label="Note" :problem="problems.note" />
      <FormFoot :form="{ ...form, discard } as never" save-word="Save the sheet" />
      <p v-if="sheet" class="files">
        <button class="worded" type="button" @click="saveCsv">CSV</button>
        <button class="worded" type="button" @click="saveXlsx">XLSX</button>
        <SheetHistory :id="sheet.id" :version="sheet.version" />
        <button class="worded" type="button" @click="remove">delete</button>
      </p>
    </div>
    <div class="right">
      <FlowChart
        v-if="series.length"
        :series="series"
        side="intake"
        :height="250"
        :cam-lift="camLift"
        :demand="active?.target?.demand.value"
        label="The sheet as it stands"
      />
      <p v-else class="note">The curve grows here as you type.</p>
      <SheetFigures v-if="result" :result="result" :reads="draft.setup!.reads" />
      <h2>How it was tested</h2>
      <p v-if="offered" class="note">
        {{ offered.text }}
        <button class="worded" type="button" @click="draft.setup = offered.setup">Take it over</button>
      </p>
      <SetupFields v-model="draft.setup!" :problems="problems" @typing="form.typing" />
    </div>
  </form>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-columns: minmax(380px, 5fr) 5fr;
  gap: 30px;
  align-items: start;
}
.left,
.right {
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-width: 0;
}
.row {
  display: grid;
  grid-template-columns: 1fr 130px;
  gap: 18px;
}
.row.four {
  grid-template-columns: 1fr 1.4fr 0.8fr 0.8fr;
}
.row > .grow:only-child {
  grid-column: 1 / -1;
}
.files {
  display: flex;
  gap: 18px;
  margin: 0;
}
h2 {
  margin-top: 8px;
}
.note {
  margin: 0;
}
</style>
