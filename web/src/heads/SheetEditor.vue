<script setup lang="ts">
import {
  emptyCells,
  excusedFor,
  owedAgain,
  owedOfSheet,
  readSheetTable,
  replacement,
  type Owed,
  type RecordOf,
  type Sheet,
  type SheetTable,
  type Source,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { computed, useTemplateRef } from 'vue';
import { onBeforeRouteLeave, useRouter } from 'vue-router';
import DifferenceChart from '../charts/DifferenceChart.vue';
import FlowChart from '../charts/FlowChart.vue';
import { useActiveBuild } from '../data/build.js';
import { useRecordForm, type Draft } from '../data/form.js';
import { useUndo } from '../data/undo.js';
import { useChange } from '../data/useChange.js';
import FormFoot from '../parts/FormFoot.vue';
import OwedLines from '../parts/OwedLines.vue';
import TextField from '../parts/TextField.vue';
import { toField } from '../parts/toField.js';
import { useSettings } from '../state/settings.js';
import SetupFields from './SetupFields.vue';
import SheetDoubts from './SheetDoubts.vue';
import SheetFiles from './SheetFiles.vue';
import SheetFigures from './SheetFigures.vue';
import SheetGrid from './SheetGrid.vue';
import SheetNamed from './SheetNamed.vue';
import SheetPage from './SheetPage.vue';
import SwirlCells from './SwirlCells.vue';
import { blankSheet, canGoOn, type GoOn } from './blankSheet.js';
import { useSheetCells } from './useSheetCells.js';
import { resolver } from './useSheetNames.js';
import { useSheetSource } from './useSheetSource.js';
import { useStandingSheet } from './useStandingSheet.js';

// bad[]!: there is one.
// o.field!: what a sheet owes is a field.
// props.sheet!: only what is there counts again.

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
const table = useSheetCells(form, () => props.sheet, scope, props.after?.sheet);
const { cells, read } = table;

const standingSheet = useStandingSheet(props, form, table);
const { standing, result, books, series, isDifference, differences, baseline, questions, settle } = standingSheet;

/** A whole table was pasted over another: its further rows are gone, and said. */
function replaced(rows: number): void {
  undo.announce(
    `The pasted table replaces the one before it; ${rows} further ${rows === 1 ? 'row is' : 'rows are'} gone. Ctrl Z in the table brings ${rows === 1 ? 'it' : 'them'} back.`,
  );
}
function takeTable(pasted: SheetTable): void {
  const { sheet, problems: bad } = readSheetTable(pasted, draft.value.title ?? '', settings.system);
  draft.value.setup = {
    ...draft.value.setup,
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

const { bench, day, offered } = useSheetSource(() => props.sources, draft);

// A new sheet owes nothing while its first row is not typed.
const owed = computed(() => (read.value.rows.length > 0 ? owedOfSheet(standing.value) : []));
const page = useTemplateRef<HTMLFormElement>('page');
const toOwed = (o: Owed) => toField(o.field!, page.value ?? document);
const excuse = (key: string, reason: string) => form.set('excused', excusedFor(draft.value.excused, key, reason));
const oweAgain = (key: string) => form.set('excused', owedAgain(draft.value.excused, key));

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
const countAgain = () =>
  change.make([replacement('sheet', { ...props.sheet!, setAside: '' })], `${props.sheet!.title} counts again.`);
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
          :reads="draft.setup.reads"
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
      <SheetDoubts :questions="questions" @settled="settle" />
      <SwirlCells
        :model-value="draft.swirl ?? []"
        :lifts="read.rows.map((r) => r.lift)"
        @update:model-value="draft.swirl = $event"
        @typing="form.typing"
      />
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
      <SheetFiles
        v-if="sheet"
        :whole="whole"
        :stage="stage"
        :sheet="sheet"
        :sources="sources"
        :title="draft.title ?? ''"
      />
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
      <SetupFields v-model="draft.setup" :problems="problems" :bench="bench" :day="day" @typing="form.typing" />
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
