<script setup lang="ts">
import { SIDES, listed } from '@alluvium/core';
import {
  booksOf,
  differencePoints,
  emptyCells,
  evaluateSheetOf,
  excusedFor,
  expectations,
  onBench,
  owedAgain,
  owedOfSheet,
  readSheetTable,
  removal,
  replacement,
  sheetNames,
  sheetTable,
  sheetWorkbook,
  toCsv,
  withStated,
  type Owed,
  type RecordOf,
  type Sheet,
  type SheetTable,
  type Source,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { computed, ref, useTemplateRef, watch } from 'vue';
import { onBeforeRouteLeave, useRouter } from 'vue-router';
import DifferenceChart from '../charts/DifferenceChart.vue';
import FlowChart from '../charts/FlowChart.vue';
import { download } from '../charts/save.js';
import { useActiveBuild } from '../data/build.js';
import { useRecordForm, type Draft } from '../data/form.js';
import { useJudging } from '../data/judging.js';
import { useListOf } from '../data/queries.js';
import { today } from '../data/today.js';
import { useUndo } from '../data/undo.js';
import { useChange } from '../data/useChange.js';
import { saveWorkbook } from '../exchange/workbook.js';
import FormFoot from '../parts/FormFoot.vue';
import OwedLines from '../parts/OwedLines.vue';
import TextField from '../parts/TextField.vue';
import { toField } from '../parts/toField.js';
import { useSettings } from '../state/settings.js';
import SetupFields from './SetupFields.vue';
import SheetDoubts from './SheetDoubts.vue';
import SheetFigures from './SheetFigures.vue';
import SheetGrid from './SheetGrid.vue';
import SheetHistory from './SheetHistory.vue';
import SheetNamed from './SheetNamed.vue';
import SheetPage from './SheetPage.vue';
import { blankSheet, canGoOn, type GoOn } from './blankSheet.js';
import { sheetQuestions } from './sheetQuestions.js';
import { useSheetCells } from './useSheetCells.js';
import { resolver } from './useSheetNames.js';

/** One flow sheet as it is typed: its table and curve, how it was tested, what it is asked and what it still owes. */
const props = defineProps<{
  whole: WholeHead;
  stage: Stage;
  sheet?: Sheet;
  sources: readonly Source[];
  /** What a new sheet begins as. */
  kind?: Sheet['kind'];
  /** The sheet a new one goes on from, and to what: the next port, another bore. */
  after?: GoOn | undefined;
}>();
const emit = defineEmits<{ added: [sheet: Sheet]; next: [GoOn] }>();
const settings = useSettings();
const undo = useUndo();
const router = useRouter();
const change = useChange();
const { active } = useActiveBuild();
const last = computed(() =>
  props.whole.sheets
    .filter((s) => s.kind === 'measured')
    .sort((a, b) => (a.date ?? '').localeCompare(b.date ?? ''))
    .at(-1),
);
/** A claim, a measured sheet and one that goes on from another keep drafts of their own, each for its stage. */
const scope = `-${props.kind === 'claim' ? 'claim-' : ''}${props.after ? `${props.after.to}-${props.after.sheet.id}-` : ''}${props.stage.id}`;
const form = useRecordForm(
  'sheet',
  () => props.sheet,
  () => blankSheet(props.stage.id, last.value, props.kind, props.after, props.whole),
  (s: RecordOf<'sheet'>) => `${s.title} saved.`,
  { scope, resolve: resolver(() => props), saved },
);
const { draft, problems } = form;
const table = useSheetCells(form, () => props.sheet, scope);
const { cells, read } = table;

/** The sheet as it stands, without the rows that cannot be read yet. */
const standing = computed(() => ({ ...draft.value, id: props.sheet?.id ?? 'draft', rows: table.rows.value }) as Sheet);
const result = computed(() => {
  try {
    return evaluateSheetOf(props.whole, standing.value);
  } catch {
    return undefined;
  }
});
const judging = useJudging();
const books = computed(
  () => result.value && booksOf(props.whole, [standing.value], { ...judging.value, sources: props.sources }),
);
const series = computed(() =>
  SIDES.flatMap((side, index) => {
    const curve = result.value?.[side].curve;
    if (!curve) return [];
    const noisy = result.value![side].points.filter((p) => p.noisy).map((p) => p.lift);
    const notes = standing.value.rows.flatMap((r) => (r.note && r[side] ? [{ lift: r.lift.si, text: r.note }] : []));
    return [{ letter: '', name: side, index: index * 2, curve, colour: `var(--${side})`, noisy, notes }];
  }),
);
const isDifference = computed(() => draft.value.setup!.reads === 'difference');
const differences = computed(() =>
  SIDES.map((side) => ({ side, points: differencePoints(standing.value, side) })).filter((s) => s.points.length > 0),
);
const baseline = computed(
  () => props.whole.sheets.find((s) => s.id === draft.value.baselineId)?.title ?? 'its baseline',
);

// What breaks the shape is asked about, never changed by itself.
const calls = useListOf('call');
/** It hangs on how the sheet was taken: typing a row reads no other sheet again. */
const expected = computed(() => {
  const { stageId, sourceId, kind, intakePortId, setup } = draft.value;
  const taken = {
    id: props.sheet?.id ?? 'draft',
    stageId: stageId!,
    sourceId,
    kind: kind!,
    intakePortId,
    setup: setup!,
  };
  return expectations(props.whole, taken, calls.data.value ?? []);
});
const settled = ref(new Set<string>());
const questions = computed(() =>
  sheetQuestions(
    {
      sheet: standing.value,
      cells: cells.value,
      result: result.value,
      expected: expected.value,
      system: settings.system,
      say: settings.say,
    },
    (now) => (cells.value = now),
  ).filter((q) => !settled.value.has(q.key)),
);

/** A whole table was pasted over another: its further rows are gone, and said. */
function replaced(rows: number): void {
  undo.announce(
    `The pasted table replaces the one before it; ${rows} further ${rows === 1 ? 'row is' : 'rows are'} gone. Ctrl Z in the table brings ${rows === 1 ? 'it' : 'them'} back.`,
  );
}
function takeTable(pasted: SheetTable): void {
  const { sheet, problems: bad } = readSheetTable(pasted, draft.value.title ?? '', settings.system);
  draft.value.setup = {
    ...draft.value.setup!,
    ...Object.fromEntries(
      Object.keys(pasted.setup)
        .filter((k) => k in sheet.setup)
        .map((k) => [k, sheet.setup[k as keyof typeof sheet.setup]]),
    ),
  };
  if (pasted.setup.title) draft.value.title = sheet.title;
  if (pasted.cells.length) cells.value = [...pasted.cells, emptyCells()];
  if (bad.length) undo.announce(bad[0]!);
}

const bench = computed(() => props.sources.find((s) => s.id === draft.value.sourceId));
const day = computed(() => draft.value.date ?? today());
/** A bench that reads percent is read by its own full scales: those of the day, wherever the sheet has none of its own. */
watch(
  () => [draft.value.sourceId, draft.value.setup!.reads] as const,
  ([, reads]) => {
    const setup = draft.value.setup!;
    if (reads !== 'percent' && reads !== 'differential') return;
    if (setup.scales === null && setup.ranges.length > 0) return;
    const there = bench.value?.scales.some((s) => s.since === setup.scales);
    if (!there && (bench.value || setup.scales !== null)) draft.value.setup = onBench(setup, bench.value, day.value);
  },
);

/** What the source states of all its tests and this sheet does not know: offered, never filled in by itself. */
const offered = computed(() => {
  if (!bench.value || draft.value.kind !== 'claim') return undefined;
  const { setup, taken } = withStated(draft.value.setup!, bench.value.stated);
  return taken.length > 0 ? { setup, text: `${bench.value.name} states of its tests: ${listed(taken)}.` } : undefined;
});

// A new sheet owes nothing while its first row is not typed.
const owed = computed(() => (read.value.rows.length > 0 ? owedOfSheet(standing.value) : []));
const page = useTemplateRef<HTMLFormElement>('page');
const toOwed = (o: Owed) => toField(o.field!, page.value ?? document);
const excuse = (key: string, reason: string) => form.set('excused', excusedFor(draft.value.excused!, key, reason));
const oweAgain = (key: string) => form.set('excused', owedAgain(draft.value.excused!, key));

/** On the way to another page: what is saved meanwhile calls nobody back. */
let leaving = false;
onBeforeRouteLeave(() => void (leaving = true));
/** A new sheet goes on under its own address at once. */
function saved(record: Sheet): void {
  table.settled();
  if (props.sheet) return;
  emit('added', record);
  if (!leaving) void router.replace({ query: { stage: props.stage.id, sheet: record.id } });
}
const steps = computed(() => canGoOn(standing.value as Draft<'sheet'>, props.whole));
async function saveAnd(to: GoOn['to']): Promise<void> {
  const record = form.dirty.value || !props.sheet ? ((await table.save()) as Sheet | undefined) : props.sheet;
  if (record) emit('next', { to, sheet: record });
}
async function remove(): Promise<void> {
  const { id, title } = props.sheet!;
  if (await change.make([removal('sheet', id)], `${title} removed.`))
    await router.replace({ query: { stage: props.stage.id } });
}
const countAgain = () =>
  change.make([replacement('sheet', { ...props.sheet!, setAside: '' })], `${props.sheet!.title} counts again.`);
const fileName = computed(() =>
  `${props.whole.head.name} ${props.stage.name} ${draft.value.title}`.replace(/[^\w.-]+/g, '-'),
);
const names = () => sheetNames(props.sheet!, props.sources, props.whole.ports);
const saveCsv = () => download(`${fileName.value}.csv`, toCsv(sheetTable(props.sheet!, names())), 'text/csv');
const saveXlsx = () => saveWorkbook(fileName.value, sheetWorkbook(props.sheet!, names(), settings.system));
const camLift = computed(() => active.value?.build.cam?.intakeLift.si);
</script>

<template>
  <form ref="page" class="sheet" @submit.prevent="table.save()">
    <div class="left">
      <p v-if="sheet?.setAside" class="caution aside" role="status">
        Set aside: {{ sheet.setAside }}.
        <el-button link @click="countAgain">Count it again</el-button>
      </p>
      <SheetNamed :form="form" :whole="whole" :sources="sources" :sheet="sheet" />
      <div data-field="rows">
        <SheetGrid
          v-model="cells"
          :reads="draft.setup!.reads"
          :problems="read.problems"
          :system="settings.system"
          :dim-beyond="camLift"
          :watch="(active?.build.watchLifts ?? []).map((w) => w.si)"
          @table="takeTable"
          @replaced="replaced"
        />
      </div>
      <p class="note">
        Type, or paste a block or a message (300: 149/110). Several pulls: 188.2 / 188.9. Depression not held: 188 @
        27.5. Noise: a ~ at the end.
      </p>
      <SheetDoubts :questions="questions" @settled="settled.add($event)" />
      <TextField v-model="draft.stopped" label="Why the run stopped where it did" :problem="problems.stopped" />
      <TextField v-model="draft.note" type="textarea" label="Note" :problem="problems.note" />
      <FormFoot :form="{ ...form, discard: table.discard }" save-word="Save the sheet" />
      <p v-if="steps.length && read.rows.length" class="files">
        <el-button v-for="[to, word] in steps" :key="to" link :disabled="form.saving.value" @click="saveAnd(to)">
          {{ word }}
        </el-button>
      </p>
      <OwedLines
        v-if="owed.length"
        :owed="owed"
        title="This sheet owes"
        @go="toOwed"
        @excuse="excuse"
        @again="oweAgain"
      />
      <p v-if="sheet" class="files">
        <el-button link @click="saveCsv">CSV</el-button>
        <el-button link @click="saveXlsx">XLSX</el-button>
        <SheetHistory :id="sheet.id" :version="sheet.version" />
        <el-button link @click="remove">Remove</el-button>
      </p>
    </div>
    <div class="right">
      <SheetPage v-model="draft.pageId" :head-id="whole.head.id" :photos="whole.attachments" />
      <DifferenceChart v-if="isDifference && differences.length" :sides="differences" :baseline="baseline" />
      <FlowChart
        v-else-if="series.length"
        :series="series"
        side="intake"
        :height="250"
        :cam-lift="camLift"
        :demand="active?.target?.demand?.value"
        label="The sheet as it stands"
      />
      <p v-else class="note">The curve grows here as you type.</p>
      <SheetFigures v-if="result && !isDifference" :result="result" :books="books" />
      <h2>How it was tested</h2>
      <p v-if="offered" class="note">
        {{ offered.text }}
        <el-button link @click="draft.setup = offered.setup">Use it</el-button>
      </p>
      <SetupFields v-model="draft.setup!" :problems="problems" :bench="bench" :day="day" @typing="form.typing" />
    </div>
  </form>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-columns: minmax(380px, 5fr) minmax(0, 5fr);
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
.aside {
  margin: 0;
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
@media (width < 1060px) {
  .sheet {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
