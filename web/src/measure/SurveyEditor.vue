<script setup lang="ts">
import { NEIGHBOURS, USUAL_FLOORS, EXHAUST_EXTRA, evaluateSurvey, sectionBudget } from '@alluvium/core';
import {
  SURVEY_WAYS,
  emptySection,
  floorsOf,
  readSections,
  toCoreSections,
  writeOutlineCsv,
  writeOutlineDxf,
  writeOutlineSvg,
  writeSection,
  removal,
  type NamedOutline,
  type RecordOf,
  type SectionCells,
  type Survey,
  type WholeHead,
} from '@alluvium/records';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import FilePick from '../parts/FilePick.vue';
import { download } from '../charts/save.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { useSettings } from '../state/settings.js';
import { useChange } from '../data/useChange.js';
import { useUndo } from '../data/undo.js';
import SectionDrawing from './SectionDrawing.vue';
import SectionTable from './SectionTable.vue';
import { readOutlineFile } from './outlineFile.js';
import { today } from '../data/today.js';

const TraceDialog = defineAsyncComponent(() => import('./TraceDialog.vue'));

/** A survey while it is typed, traced or brought in from a file; the drawing beside it follows each key. */
const props = defineProps<{
  whole: WholeHead;
  stageId: string;
  side: 'intake' | 'exhaust';
  portId: string | null;
  survey: Survey | undefined;
}>();
const emit = defineEmits<{ saved: [Survey]; removed: [] }>();
const settings = useSettings();
const change = useChange();
const undo = useUndo();
const portName = computed(() => props.whole.ports.find((p) => p.id === props.portId)?.number);
const form = useRecordForm(
  'survey',
  () => props.survey,
  (): Draft<'survey'> => ({
    id: 'new',
    version: 1,
    stageId: props.stageId,
    portId: props.portId,
    side: props.side,
    title: portName.value ? `Port ${portName.value}` : 'Port',
    date: today(),
    instrument: '',
    way: 'calipers',
    sections: [],
    floors: Object.fromEntries(NEIGHBOURS.map((n) => [n, null])) as never,
    note: '',
  }),
  (s: RecordOf<'survey'>) => `${s.title}: ${s.sections.length} sections saved.`,
  { scope: `.${props.stageId}.${props.side}.${props.portId ?? ''}` },
);
const { draft, problems } = form;

const cells = ref<SectionCells[]>([]);
const chosen = ref(0);
const fromDraft = () => (cells.value = (draft.value.sections ?? []).map(writeSection));
fromDraft();
// What was saved, discarded or taken from another tab comes back into the cells; what is typed goes out.
watch(
  () => [draft.value.id, draft.value.version, form.dirty.value] as const,
  ([, , dirty]) => {
    if (!dirty) fromDraft();
  },
);
const reading = computed(() => readSections(cells.value, settings.system));
function typed(rows: SectionCells[]): void {
  cells.value = rows;
  const { sections, problems: found } = reading.value;
  draft.value.sections = sections;
  form.typing('sections', found.length ? `Row ${found[0]!.row + 1}: ${found[0]!.message}` : '');
}

const floors = computed(() => floorsOf(props.side, draft.value.floors));
const current = computed(() => {
  const one = readSections([cells.value[chosen.value] ?? emptySection()], settings.system).sections;
  const [section] = toCoreSections({ sections: one });
  if (!section) return undefined;
  const result = evaluateSurvey([{ ...section, branch: 0 }]).stations[0]!;
  return { section, result, budget: sectionBudget(section, result.area.value, floors.value) };
});
const setFloor = (n: (typeof NEIGHBOURS)[number], q: Survey['floors']['water']) =>
  (draft.value.floors = { ...draft.value.floors!, [n]: q });
const usual = (n: (typeof NEIGHBOURS)[number]) =>
  `${((USUAL_FLOORS[n] + (props.side === 'exhaust' ? EXHAUST_EXTRA : 0)) * 1000).toFixed(1)} mm`;

async function save(): Promise<void> {
  const saved = await form.save();
  if (saved) emit('saved', saved);
}
async function remove(): Promise<void> {
  const { id, title } = props.survey!;
  if (await change.make([removal('survey', id)], `${title} removed.`)) emit('removed');
}

const tracing = ref<'photo'>();
const fileProblem = ref('');
/** An outline goes into the row at hand when that is free, else into new rows at the end, stepped by 5 mm where no station is told. */
function take(outlines: readonly NamedOutline[]): void {
  const rows = cells.value.filter((r) => r.station.trim() !== '' || r.outline.length > 0);
  let last = Math.max(
    -5,
    ...toCoreSections({ sections: readSections(rows, settings.system).sections }).map((s) => s.station * 1000),
  );
  for (const o of outlines) {
    const station = o.station === undefined ? (last += 5) : (last = o.station * 1000);
    const text = `${Number(station.toFixed(3))} mm`;
    const old = rows.findIndex(
      (r) => r.station.replace(/\s/g, '') === text.replace(/\s/g, '') && r.branch.trim() === '',
    );
    const row: SectionCells = {
      ...(rows[old] ?? emptySection()),
      station: text,
      shape: 'outline',
      width: '',
      height: '',
      radius: '',
      outline: o.points.map(([x, y]) => [x, y]),
    };
    if (old >= 0) rows[old] = row;
    else rows.push(row);
  }
  typed(rows);
  chosen.value = rows.length - 1;
}
async function bring(files: Iterable<File>): Promise<void> {
  fileProblem.value = '';
  for (const file of files) {
    const { outlines, problems: found } = await readOutlineFile(file);
    if (found.length) fileProblem.value = `${file.name}: ${found.slice(0, 3).join(' ')}`;
    if (outlines.length) {
      take(outlines);
      undo.announce(
        `${outlines.length} outline${outlines.length > 1 ? 's' : ''} brought in from ${file.name}; not saved yet.`,
      );
    }
  }
}
function traced(points: [number, number][]): void {
  tracing.value = undefined;
  const row = cells.value[chosen.value];
  if (row && row.station.trim() !== '' && row.outline.length === 0 && row.width.trim() === '') {
    const rows = cells.value.slice();
    rows[chosen.value] = { ...row, shape: 'outline', outline: points };
    typed(rows);
  } else take([{ name: 'traced', points }]);
}
const shapes = computed(() =>
  toCoreSections({ sections: reading.value.sections }).map((s) => ({ station: s.station, shape: s.shape })),
);
const fileName = computed(() => `${props.whole.head.name} ${draft.value.title ?? 'port'}`.replace(/[^\w.-]+/g, '-'));
const EXPORTS = [
  ['CSV', 'csv', writeOutlineCsv],
  ['SVG', 'svg', writeOutlineSvg],
  ['DXF', 'dxf', writeOutlineDxf],
] as const;
</script>

<template>
  <form
    class="editor"
    @submit.prevent="save"
    @dragover.prevent
    @drop.prevent.stop="bring($event.dataTransfer?.files ?? [])"
  >
    <div class="head">
      <TextField v-model="draft.title" label="Survey" required :problem="problems.title" />
      <ChoiceField v-model="draft.way!" label="How" :options="SURVEY_WAYS.map((w) => [w, w] as const)" />
      <TextField v-model="draft.date" type="date" label="Date" :problem="problems.date" />
      <TextField v-model="draft.instrument" label="Instrument" :problem="problems.instrument" />
    </div>
    <div class="body">
      <div>
        <SectionTable
          :model-value="cells"
          :problems="reading.problems"
          :chosen="chosen"
          @update:model-value="typed"
          @choose="chosen = $event"
        />
        <p class="ways">
          <el-button link @click="tracing = 'photo'">Trace a photo …</el-button>
          <FilePick multiple accept=".csv,.svg,.dxf,text/csv,image/svg+xml" @files="bring">
            outlines from CSV, SVG or DXF …
          </FilePick>
          <span v-if="shapes.length" class="save">
            export outlines as
            <el-button
              v-for="[word, ending, write] in EXPORTS"
              :key="word"
              link
              @click="download(`${fileName}.${ending}`, write(shapes))"
            >
              {{ word }}
            </el-button>
          </span>
        </p>
        <p v-if="fileProblem" class="loss" role="alert">{{ fileProblem }}</p>
      </div>
      <div class="seen">
        <template v-if="current">
          <SectionDrawing :section="current.section" :budget="current.budget" />
          <p>
            area
            <WorkedNumber :working="current.result.area" />
            · hydraulic
            <WorkedNumber :working="current.result.sections[0]!.hydraulic" />
          </p>
        </template>
        <p v-else class="note">The section at hand is drawn here, seen from the flange.</p>
        <details>
          <summary>Least metal to leave</summary>
          <div class="floors">
            <QuantityField
              v-for="n in NEIGHBOURS"
              :key="n"
              :model-value="draft.floors?.[n] ?? null"
              kind="length"
              :label="n"
              :placeholder="usual(n)"
              @update:model-value="setFloor(n, $event)"
              @update:problem="form.typing(`floors.${n}`, $event)"
            />
          </div>
        </details>
      </div>
    </div>
    <FormFoot :form="form" />
    <el-button v-if="survey" link class="remove" @click="remove">Remove this survey</el-button>
    <TraceDialog v-if="tracing" @done="traced" @close="tracing = undefined" />
  </form>
</template>

<style scoped>
.head {
  display: grid;
  grid-template-columns: 2fr 1fr 1fr 1.4fr;
  gap: 20px;
  margin-bottom: 8px;
}
@media (width < 760px) {
  .head {
    grid-template-columns: minmax(0, 1fr);
  }
}
.body {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 210px;
  gap: 20px;
}
@media (width < 760px) {
  .body {
    grid-template-columns: minmax(0, 1fr);
  }
}
/* The table takes the whole width of a sheet, the drawing stands under it. */
@media print {
  .body {
    display: block;
  }
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 22px;
  margin: 8px 0 0;
}
.save {
  display: flex;
  gap: 10px;
  margin-left: auto;
}
.floors {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 14px;
}
summary {
  cursor: pointer;
  color: var(--slate);
}
.remove {
  margin-top: 8px;
}
</style>
