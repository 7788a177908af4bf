<script setup lang="ts">
import { aboveOneWords, listed, parseQuantity, unitFor, type Doubt, type Side, type System } from '@alluvium/core';
import {
  addition,
  booksOf,
  emptyCells,
  evaluateSheetOf,
  fingerprint,
  foreignUnit,
  looksSwapped,
  readCells,
  readSheetTable,
  removal,
  respell,
  sheetNames,
  sheetTable,
  sheetWorkbook,
  toCsv,
  unitTyped,
  withStated,
  writeCells,
  type Cells,
  type RecordOf,
  type Sheet,
  type SheetTable,
  type Source,
  type Stage,
  type Step,
  type WholeHead,
} from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { newId } from '../data/ids.js';
import FlowChart from '../charts/FlowChart.vue';
import { download } from '../charts/save.js';
import { saveWorkbook } from '../exchange/workbook.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import TextField from '../parts/TextField.vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { useActiveBuild } from '../data/build.js';
import { useJudging } from '../data/judging.js';
import { useSettings } from '../state/settings.js';
import { useUndo } from '../data/undo.js';
import { useChange } from '../data/useChange.js';
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
const emit = defineEmits<{ added: [sheet: Sheet] }>();
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
/** A claim and a measured sheet begun at one stage keep drafts of their own. */
const scope = `-${props.kind === 'claim' ? 'claim-' : ''}${props.stage.id}`;
const form = useRecordForm(
  'sheet',
  () => props.sheet,
  () => blankSheet(props.stage.id, last.value, props.kind),
  (s: RecordOf<'sheet'>) => `${s.title} saved.`,
  { scope, resolve, saved },
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
      : writeCells(draft.value.rows ?? [], settings.system, draft.value.valveOut ?? undefined)),
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
  ({ rows, valveOut, problems: bad }) => {
    if (fingerprint(rows) !== fingerprint(draft.value.rows)) draft.value.rows = rows;
    if (fingerprint(valveOut) !== fingerprint(draft.value.valveOut)) draft.value.valveOut = valveOut;
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
const tableOf = ({ rows, valveOut }: Pick<Draft<'sheet'>, 'rows' | 'valveOut'>) => fingerprint({ rows, valveOut });
watch(
  () => [props.sheet?.version, form.conflict.value] as const,
  () => {
    const stands = tableOf(draft.value);
    if (stands === tableOf(read.value)) return;
    if (stands === sent) Object.assign(draft.value, { rows: read.value.rows, valveOut: read.value.valveOut });
    else loadCells();
  },
  { flush: 'post' },
);
function discard(): void {
  const lost = cells.value;
  const place = cellsKey();
  form.discard((putBack) => {
    if (putBack) {
      localStorage.setItem(place, JSON.stringify({ system: settings.system, cells: lost }));
      cells.value = [...lost];
    } else {
      localStorage.removeItem(place);
      loadCells();
    }
  });
}

/** The sheet as it stands, without the rows that cannot be read yet. */
const standing = computed(
  () =>
    ({
      ...draft.value,
      id: props.sheet?.id ?? 'draft',
      rows: read.value.rows.filter((_, i) => !read.value.problems.some((p) => p.row === i)),
    }) as Sheet,
);
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
    const above = (result.value?.[side].points ?? []).filter((p) => p.aboveOne);
    if (above.length > 0)
      found.push({
        key: `${side}above${above.map((p) => p.lift).join()}`,
        text: aboveOneWords(side, above, settings.say),
      });
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

/** A whole table was pasted over another: its further rows are gone, and said. */
function replaced(rows: number): void {
  undo.announce(
    `The pasted table replaces the one before it; ${rows} further ${rows === 1 ? 'row is' : 'rows are'} gone. Ctrl Z in the table brings ${rows === 1 ? 'it' : 'them'} back.`,
  );
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

// Ports are typed as numbers, a source may be named that is not here yet: the draft holds them as “+3” or “+name”, and
// they are made with the sheet, in the same change.
const NEW = '+';
const isNew = (id: string | null): id is string => id?.startsWith(NEW) ?? false;
/** Ids of what will be made: the same when the change is sent again. */
const toMake = new Map<string, string>();
function idToMake(what: string): string {
  const id = toMake.get(what) ?? newId();
  toMake.set(what, id);
  return id;
}
function resolve(typed: Draft<'sheet'>): { draft: Draft<'sheet'>; first: Step[] } {
  const first: Step[] = [];
  const made = { ...typed };
  if (isNew(typed.sourceId)) {
    const name = typed.sourceId.slice(1).trim();
    const id = idToMake(`source ${name}`);
    made.sourceId = name ? id : null;
    if (name) first.push(addition('source', { id, name, kind: typed.kind === 'claim' ? 'maker' : 'own bench' }));
  }
  for (const side of ['intake', 'exhaust'] as const) {
    const portId = typed[`${side}PortId`];
    if (!isNew(portId)) continue;
    const number = Number(portId.slice(1));
    const id = idToMake(`${side} ${number}`);
    made[`${side}PortId`] = id;
    first.push(addition('port', { id, headId: props.whole.head.id, side, number }));
  }
  if (!made.title?.trim()) made.title = titleOf(typed);
  return { draft: made, first };
}
const portText = (side: Side) =>
  computed({
    get: () => {
      const id = draft.value[`${side}PortId`];
      return isNew(id) ? id.slice(1) : String(props.whole.ports.find((p) => p.id === id)?.number ?? '');
    },
    set: (text) => {
      const number = text.trim();
      const known = props.whole.ports.find((p) => p.side === side && String(p.number) === number);
      draft.value[`${side}PortId`] = number === '' ? null : (known?.id ?? `${NEW}${number}`);
      form.typing(`${side}PortId`, portProblem(number));
    },
  });
const intakePort = portText('intake');
const exhaustPort = portText('exhaust');
const portProblem = (text: string) =>
  text.trim() === '' || /^([1-9]|[1-3]\d|4[0-8])$/.test(text.trim()) ? '' : 'A port number is 1 to 48.';
const sourceOptions = computed(() => [
  ['', 'unknown'] as const,
  ...props.sources.map((s) => [s.id, s.name] as const),
  [NEW, 'a new source …'] as const,
]);
const sourceChoice = computed({
  get: () => (isNew(draft.value.sourceId) ? NEW : (draft.value.sourceId ?? '')),
  set: (id) => (draft.value.sourceId = id || null),
});
const newSource = computed({
  get: () => (isNew(draft.value.sourceId) ? draft.value.sourceId.slice(1) : ''),
  set: (name) => (draft.value.sourceId = `${NEW}${name}`),
});
/** A sheet without a title is called after its source and port. */
function titleOf(typed: Draft<'sheet'>): string {
  const source = isNew(typed.sourceId)
    ? typed.sourceId.slice(1).trim()
    : props.sources.find((s) => s.id === typed.sourceId)?.name;
  return [source, intakePort.value ? `port ${intakePort.value}` : ''].filter(Boolean).join(', ') || 'Flow sheet';
}

/** What the source states of all its tests and this sheet does not know: offered, never filled in by itself. */
const offered = computed(() => {
  const source = props.sources.find((s) => s.id === draft.value.sourceId);
  if (!source || draft.value.kind !== 'claim') return undefined;
  const { setup, taken } = withStated(draft.value.setup!, source.stated);
  return taken.length > 0 ? { setup, text: `${source.name} states of its tests: ${listed(taken)}.` } : undefined;
});
function save(): void {
  sent = tableOf(read.value);
  void form.save();
}
/** A new sheet goes on under its own address at once. */
function saved(record: Sheet): void {
  localStorage.removeItem(cellsKey());
  if (props.sheet) return;
  emit('added', record);
  void router.replace({ query: { stage: props.stage.id, sheet: record.id } });
}
async function remove(): Promise<void> {
  const { id, title } = props.sheet!;
  if (await change.make([removal('sheet', id)], `${title} removed.`))
    await router.replace({ query: { stage: props.stage.id } });
}
const fileName = computed(() =>
  `${props.whole.head.name} ${props.stage.name} ${draft.value.title}`.replace(/[^\w.-]+/g, '-'),
);
const names = () => sheetNames(props.sheet!, props.sources, props.whole.ports);
const saveCsv = () => download(`${fileName.value}.csv`, toCsv(sheetTable(props.sheet!, names())), 'text/csv');
const saveXlsx = () => saveWorkbook(fileName.value, sheetWorkbook(props.sheet!, names(), settings.system));
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
        <ChoiceField v-model="sourceChoice" label="Source" :options="sourceOptions" />
        <TextField v-model="intakePort" label="Intake port" :problem="portProblem(intakePort)" placeholder="unknown" />
        <TextField
          v-model="exhaustPort"
          label="Exhaust port"
          :problem="portProblem(exhaustPort)"
          placeholder="unknown"
        />
      </div>
      <TextField v-if="sourceChoice === NEW" v-model="newSource" label="Name of the new source" />
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
      <FormFoot :form="{ ...form, discard }" save-word="Save the sheet" />
      <p v-if="sheet" class="files">
        <button class="worded" type="button" @click="saveCsv">CSV</button>
        <button class="worded" type="button" @click="saveXlsx">XLSX</button>
        <SheetHistory :id="sheet.id" :version="sheet.version" />
        <button class="worded" type="button" @click="remove">Remove</button>
      </p>
    </div>
    <div class="right">
      <FlowChart
        v-if="series.length"
        :series="series"
        side="intake"
        :height="250"
        :cam-lift="camLift"
        :demand="active?.target?.demand?.value"
        label="The sheet as it stands"
      />
      <p v-else class="note">The curve grows here as you type.</p>
      <SheetFigures v-if="result" :result="result" :books="books" />
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
