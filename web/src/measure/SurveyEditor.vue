<script setup lang="ts">
import { NEIGHBOURS, recordOf, unitFor } from '@alluvium/core';
import {
  SURVEY_WAYS,
  readSections,
  toCoreSections,
  writeOutlineCsv,
  writeOutlineDxf,
  writeOutlineSvg,
  writeSection,
  removal,
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
import TextField from '../parts/TextField.vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { useSettings } from '../state/settings.js';
import { useChange } from '../data/useChange.js';
import SectionSeen from './SectionSeen.vue';
import SectionTable from './SectionTable.vue';
import { useOutlines } from './useOutlines.js';
import { today } from '../data/today.js';

// found[]!: there is one.
// props.survey!: only what is there is removed.

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
    floors: recordOf(NEIGHBOURS, () => null),
    note: '',
  }),
  (s: RecordOf<'survey'>) => `${s.title}: ${s.sections.length} sections saved.`,
  { scope: `.${props.stageId}.${props.side}.${props.portId ?? ''}` },
);
const { draft, problems } = form;

const cells = ref<SectionCells[]>([]);
/** What a length without a unit is read in: the user's, but for what stands here unsaved, which keeps the one it was typed in. */
const bareIn = ref(settings.system);
watch(
  () => [settings.system, form.dirty.value] as const,
  ([system, dirty]) => {
    if (!dirty) bareIn.value = system;
  },
);
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
const reading = computed(() => readSections(cells.value, bareIn.value));
function typed(rows: SectionCells[]): void {
  cells.value = rows;
  const { sections, problems: found } = reading.value;
  draft.value.sections = sections;
  form.typing('sections', found.length ? `Row ${found[0]!.row + 1}: ${found[0]!.message}` : '');
}

async function save(): Promise<void> {
  const saved = await form.save();
  if (saved) emit('saved', saved);
}
async function remove(): Promise<void> {
  const { id, title } = props.survey!;
  if (await change.make([removal('survey', id)], `${title} removed.`)) emit('removed');
}

const { fileProblem, bring, traced } = useOutlines(cells, chosen, typed, bareIn);
const tracing = ref(false);
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
      <ChoiceField v-model="draft.way" label="How" :options="SURVEY_WAYS.map((w) => [w, w] as const)" />
      <TextField v-model="draft.date" type="date" label="Date" :problem="problems.date" />
      <TextField v-model="draft.instrument" label="Instrument" :problem="problems.instrument" />
    </div>
    <div class="body">
      <div>
        <SectionTable
          :model-value="cells"
          :problems="reading.problems"
          :chosen="chosen"
          :system="bareIn"
          @update:model-value="typed"
          @choose="chosen = $event"
        />
        <p class="ways">
          <el-button link @click="tracing = true">Trace a photo …</el-button>
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
        <p v-if="bareIn !== settings.system" class="note">
          Sizes typed here without a unit stay in {{ unitFor('length', bareIn).symbol }}, as they were typed, until this
          is saved.
        </p>
        <p v-if="fileProblem" class="loss" role="alert">{{ fileProblem }}</p>
      </div>
      <SectionSeen v-model="draft.floors" :cells="cells[chosen]" :side="side" :system="bareIn" @typing="form.typing" />
    </div>
    <FormFoot :form="form" />
    <el-button v-if="survey" link class="remove" @click="remove">Remove this survey</el-button>
    <TraceDialog v-if="tracing" @done="(points) => ((tracing = false), traced(points))" @close="tracing = false" />
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
.remove {
  margin-top: 8px;
}
</style>
