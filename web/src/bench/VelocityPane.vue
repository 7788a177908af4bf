<script setup lang="ts">
import {
  cellAreas,
  idealVelocity,
  largestVelocity,
  mapClosure,
  mapFlow,
  mapWords,
  meanVelocity,
  noted,
  readMap,
  REFERENCE_DENSITY,
  REFERENCE_DEPRESSION,
  smallestVelocity,
  uniformityIndex,
  work,
  workIf,
  written,
} from '@alluvium/core';
import {
  MAP_PLACES,
  WALLS,
  evaluateSheetOf,
  liftsOf,
  mapCells,
  mapOutline,
  pickSheet,
  portOf,
  addition,
  removal,
  type VelocityMap,
  type WholeHead,
  type WholeSession,
} from '@alluvium/records';
import { computed, ref, useTemplateRef, watch } from 'vue';
import CellGrid from '../parts/grid/CellGrid.vue';
import { newId } from '../data/ids.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import TextField from '../parts/TextField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { today } from '../data/today.js';
import { useSettings } from '../state/settings.js';
import { useChange } from '../data/useChange.js';
import VelocityDrawing from './VelocityDrawing.vue';
import { useBenchLive } from './live.js';
import { livePitot, readPitot, samplesAt, sayPitot } from './pitotCell.js';

/** Velocity maps of a session: a pitot held on a grid across one place of the port. */
const props = defineProps<{ whole: WholeSession; head: WholeHead }>();
const settings = useSettings();
const live = useBenchLive();
const change = useChange('here');
const maps = computed(() => props.whole.velocityMaps);
const chosen = ref(maps.value[0]?.id ?? '');
const map = computed(() => maps.value.find((m) => m.id === chosen.value) ?? maps.value[0]);
const problem = ref('');

/** Planned maps not made yet. */
const planned = computed(() =>
  props.whole.session.plan.maps.filter(
    (p) => !maps.value.some((m) => m.place === p.place && Math.abs(m.lift.si - p.lift.si) < 1e-6),
  ),
);
const side = computed(() => (props.whole.session.plan.sides.includes('intake') ? 'intake' : 'exhaust'));
async function make(from: (typeof planned.value)[number] | undefined): Promise<void> {
  const { session } = props.whole;
  const { depression } = session.setups.at(-1)!;
  const port = portOf(props.head.ports, side.value, session.plan.ports[0]!.number);
  const id = newId();
  const made = await change.make(
    [
      addition('velocitymap', {
        id,
        stageId: session.stageId,
        sessionId: session.id,
        portId: port?.id ?? null,
        side: side.value,
        lift: written(liftsOf(session.plan).at(-1)!, 'lift', 'mm', 3),
        ...from,
        depression: depression === 'unknown' || depression === null ? '28 inH2O' : depression,
        wall: 'unknown',
        date: today(),
      }),
    ],
    `A velocity map of the ${from?.place ?? 'pinch'} is begun.`,
  );
  problem.value = change.refusal.value;
  if (made) chosen.value = id;
}
const remove = (gone: VelocityMap) =>
  change.make([removal('velocitymap', gone.id)], `The map of the ${gone.place} is removed.`);

const form = useRecordForm(
  'velocitymap',
  () => map.value,
  (): Draft<'velocitymap'> => ({
    id: 'none',
    version: 1,
    stageId: props.whole.session.stageId,
    portId: null,
    sessionId: props.whole.session.id,
    side: 'intake',
    place: 'pinch',
    lift: null,
    rows: 5,
    columns: 5,
    depression: null,
    wall: 'unknown',
    cells: [],
    date: null,
    note: '',
  }),
  (m) => `The map of the ${m.place} is kept.`,
);
const { draft, problems } = form;
const rows = computed(() => Math.max(1, Math.min(20, Number(draft.value.rows) || 1)));
const columns = computed(() => Math.max(1, Math.min(20, Number(draft.value.columns) || 1)));
const cellAt = (r: number, c: number) => (draft.value.cells ?? []).find((x) => x.row === r && x.column === c);

/** Texts that cannot be read yet, by their place. */
const texts = ref<Record<string, string>>({});
watch(
  () => map.value?.id,
  () => (texts.value = {}),
);
const textOf = (r: number, c: number) => texts.value[`${r},${c}`] ?? sayPitot(cellAt(r, c));
function type(r: number, c: number, text: string): void {
  const key = `${r},${c}`;
  texts.value[key] = text;
  const read = readPitot(text, settings.system);
  form.typing(`cells.${key}`, read && 'problem' in read ? read.problem : '');
  if (read && 'problem' in read) return;
  const others = (draft.value.cells ?? []).filter((x) => x.row !== r || x.column !== c);
  form.set('cells', read ? [...others, { row: r, column: c, ...read }] : others);
}
/** What is wrong with a cell as it is typed. */
function faultOf(r: number, c: number): string {
  const text = readPitot(textOf(r, c), settings.system);
  return text && 'problem' in text ? text.problem : '';
}
function leaveCell(r: number, c: number): void {
  if (!faultOf(r, c)) delete texts.value[`${r},${c}`];
}

const pitot = computed(() => live.ofKind('pitot'));
let held = 0;
const middleOf = (r: number, c: number) => ({ x: (c + 0.5) / columns.value, y: (r + 0.5) / rows.value });
/** The probe goes where the cursor is, for a stand-in or a motor. */
function hold(r: number, c: number): void {
  held = live.samples('pitot').at(-1)?.at ?? 0;
  live.order('pitot', { do: 'probe', ...middleOf(r, c) });
}
/** The map as cells, and what was typed into them. */
const cellTexts = computed<Record<string, string>[]>({
  get: () =>
    Array.from({ length: rows.value }, (_, r) =>
      Object.fromEntries(Array.from({ length: columns.value }, (__, c) => [String(c), textOf(r, c)])),
    ),
  set: (next) =>
    next.forEach((row, r) =>
      Object.entries(row).forEach(([c, text]) => {
        if (text !== textOf(r, Number(c))) type(r, Number(c), text);
      }),
    ),
});
const headings = computed(() =>
  Array.from({ length: columns.value }, (_, c) => ({
    key: String(c),
    title: String(c + 1),
    name: `column ${c + 1}`,
  })),
);
const grid = useTemplateRef<{ go: (row: number, column: number) => void }>('grid');
/** Space takes what the pitot shows, and goes on to the next place. */
function key(event: KeyboardEvent, r: number, c: number): void {
  if (event.key !== ' ' || !pitot.value || textOf(r, c) !== '') return;
  event.preventDefault();
  const fresh = samplesAt(live.samples('pitot'), middleOf(r, c), held);
  const taken = livePitot(
    fresh.slice(-40).map((s) => s.value),
    settings.system,
  );
  if (!taken) {
    problem.value = `${pitot.value.name} has said too little yet: hold it a moment.`;
    return;
  }
  problem.value = '';
  type(r, c, sayPitot(taken));
  leaveCell(r, c);
  const next = r * columns.value + c + 1;
  if (next < rows.value * columns.value) grid.value?.go(Math.floor(next / columns.value), next % columns.value);
}

/** The section the map lies on, where one is measured. */
const outline = computed(() => mapOutline(props.head, draft.value as VelocityMap) ?? null);
const areas = computed(() => (outline.value ? cellAreas(outline.value, rows.value, columns.value) : undefined));
const cells = computed(() =>
  mapCells({ cells: draft.value.cells ?? [], rows: rows.value, columns: columns.value } as VelocityMap, outline.value),
);
const read = computed(() => readMap(cells.value));
const velocities = computed(() =>
  Array.from({ length: rows.value }, (_, r) =>
    Array.from({ length: columns.value }, (_, c) => cells.value.find((x) => x.row === r && x.column === c)?.velocity),
  ),
);
const mean = computed(
  () => read.value && work(meanVelocity, { velocities: read.value.velocities, areas: read.value.areas }),
);
const uniform = computed(() => {
  if (!read.value || !mean.value || mean.value.value <= 0) return undefined;
  return work(uniformityIndex, { velocities: read.value.velocities, areas: read.value.areas });
});
const area = computed(() => areas.value?.flat().reduce((s, a) => s + a, 0));
const flow = computed(() => workIf(mapFlow, { velocity: mean.value, area: area.value }));
const ideal = computed(() =>
  workIf(idealVelocity, { depression: draft.value.depression?.si, density: REFERENCE_DENSITY }),
);
/** Flow of the bench at that lift, at the depression of the map. */
const benchFlow = computed(() => {
  const { lift, depression } = draft.value;
  const sheet = props.whole.sheets[0] ?? pickSheet(props.head.sheets, props.whole.session.stageId);
  if (!lift || !depression || !sheet || !draft.value.side) return undefined;
  const q = evaluateSheetOf(props.head, sheet)[draft.value.side].curve?.at(lift.si);
  return q === undefined
    ? undefined
    : noted(
        q * Math.sqrt(depression.si / REFERENCE_DEPRESSION),
        `“${sheet.title}” at ${lift.typed}, brought to ${depression.typed}`,
      );
});
const closes = computed(() => workIf(mapClosure, { map: flow.value, bench: benchFlow.value }));
const says = computed(() =>
  read.value && draft.value.place
    ? mapWords(
        read.value,
        { rows: rows.value, columns: columns.value, wall: draft.value.wall ?? 'unknown', place: draft.value.place },
        settings.say,
      )
    : '',
);
/** Faster than the depression can drive is a slip of the hand. */
const impossible = computed(() => read.value && ideal.value && read.value.fastest.velocity > 1.05 * ideal.value.value);
</script>

<template>
  <div class="velocity">
    <p class="choose">
      <el-button v-for="m in maps" :key="m.id" link :class="{ here: m.id === map?.id }" @click="chosen = m.id">
        {{ m.place }} at {{ m.lift.typed }}
      </el-button>
      <el-button v-for="(p, i) in planned" :key="i" link @click="make(p)">
        begin the {{ p.place }} at {{ p.lift.typed }}
      </el-button>
      <el-button link @click="make(undefined)">Start another map</el-button>
    </p>
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
    <p v-if="!map" class="reading">
      No velocity map yet. Hold the pitot square to the flow, facing it, and go row by row from the roof.
    </p>
    <form v-else class="two" data-own-keys @submit.prevent="form.save()">
      <div>
        <div class="fields">
          <ChoiceField v-model="draft.place!" label="Place" :options="MAP_PLACES.map((p) => [p, p] as const)" />
          <FormQuantity :form="form" field="lift" kind="lift" label="at lift" />
          <FormQuantity :form="form" field="depression" kind="depression" label="Depression" />
          <ChoiceField
            v-model="draft.wall!"
            label="Cylinder wall"
            :options="WALLS.map((w) => [w, w === 'unknown' ? w : `on the ${w}`] as const)"
          />
          <TextField
            :model-value="draft.rows"
            label="Rows"
            :problem="problems.rows"
            @update:model-value="form.set('rows', Number($event))"
          />
          <TextField
            :model-value="draft.columns"
            label="Columns"
            :problem="problems.columns"
            @update:model-value="form.set('columns', Number($event))"
          />
          <TextField v-model="draft.note" label="Note" :problem="problems.note" />
        </div>
        <p class="note">
          Pitot pressure of each place, roof at the top; 8-14 when it bounces.
          {{ pitot ? `Space takes what ${pitot.name} shows.` : '' }}
        </p>
        <CellGrid
          ref="grid"
          :key="map.id"
          v-model="cellTexts"
          class="map-cells"
          label="Pitot pressures"
          enter="across"
          :columns="headings"
          :wrong="(row, c) => faultOf(row, Number(c)) !== ''"
          :says="(row) => headings.map(({ key: c }) => faultOf(row, Number(c))).filter(Boolean)"
          @at="hold"
          @left="leaveCell"
          @pressed="key"
          @end="form.save()"
        />
        <FormFoot :form="form" save-word="Save the map" />
        <p><el-button link @click="remove(map)">Remove this map</el-button></p>
      </div>
      <div>
        <VelocityDrawing
          :rows="rows"
          :columns="columns"
          :velocities="velocities"
          :outline="outline"
          :wall="draft.wall ?? 'unknown'"
        />
        <p v-if="says" class="reading">{{ says }}</p>
        <p v-if="impossible" class="caution">
          The fastest place passes what {{ draft.depression?.typed }} can drive (
          <WorkedNumber :working="ideal" />
          ): look at that reading again.
        </p>
        <dl v-if="read">
          <dt>mean</dt>
          <dd><WorkedNumber :working="mean" /></dd>
          <dt>fastest, slowest</dt>
          <dd>
            <WorkedNumber :working="work(largestVelocity, { values: read.velocities })" />
            ,
            <WorkedNumber :working="work(smallestVelocity, { values: read.velocities })" />
          </dd>
          <dt>uniformity</dt>
          <dd><WorkedNumber :working="uniform" :digits="3" /></dd>
          <template v-if="flow">
            <dt>adds up to</dt>
            <dd><WorkedNumber :working="flow" /></dd>
          </template>
          <template v-if="closes">
            <dt>against the bench</dt>
            <dd><WorkedNumber :working="closes" :digits="1" signed /></dd>
          </template>
        </dl>
        <p v-if="read && !outline" class="note">
          No section of the {{ draft.place }} is measured at this stage: a plain grid is drawn, every place counts the
          same, and the map cannot be held against the bench. Measure the section, and both follow.
        </p>
      </div>
    </form>
  </div>
</template>

<style scoped>
.choose {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 20px;
  margin: 0 0 10px;
}
.here {
  font-weight: 600;
}
.two {
  display: grid;
  grid-template-columns: minmax(480px, 1.15fr) minmax(0, 1fr);
  gap: 30px;
}
@media (width < 760px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(max(120px, 22%), 1fr));
  gap: 8px 18px;
}
.map-cells :deep(td) {
  border: 1px solid var(--rule);
}
.map-cells :deep(:is(th, input)) {
  text-align: center;
  padding: 6px 2px;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 3px 18px;
  margin: 8px 0;
}
dt {
  color: var(--slate);
}
dd {
  margin: 0;
}
</style>
