<script setup lang="ts">
import { MAP_PLACES, WALLS, addition, removal, type Sheet, type VelocityMap, type WholeHead } from '@alluvium/records';
import { computed, ref, useTemplateRef } from 'vue';
import CellGrid from '../parts/grid/CellGrid.vue';
import { newId } from '../data/ids.js';
import ChoiceField from '../parts/ChoiceField.vue';
import FormFoot from '../parts/FormFoot.vue';
import FormQuantity from '../parts/FormQuantity.vue';
import TextField from '../parts/TextField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useRecordForm, type Draft } from '../data/form.js';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import MapFigures from './MapFigures.vue';
import VelocityDrawing from './VelocityDrawing.vue';
import { useMapReading } from './useMapReading.js';
import { usePitotCells } from './usePitotCells.js';
import type { MapBegins, MapPlan } from './mapBegins.js';

/** Velocity maps: a pitot held on a grid across one place of the port, in a session or from a pad. */
const props = defineProps<{
  head: WholeHead;
  maps: readonly VelocityMap[];
  /** Planned maps not made yet. */
  planned?: readonly MapPlan[];
  /** What a new map begins as. */
  begins: MapBegins;
  /** What the map is held against. */
  sheet: Sheet | undefined;
}>();
const change = useChange('here');
const chosen = ref(props.maps[0]?.id ?? '');
const map = computed(() => props.maps.find((m) => m.id === chosen.value) ?? props.maps[0]);
const problem = ref('');

async function make(from: MapPlan | undefined): Promise<void> {
  const id = newId();
  const made = await change.make(
    [addition('velocitymap', { id, ...props.begins, ...from, wall: 'unknown', date: today() })],
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
    stageId: props.begins.stageId,
    portId: null,
    sessionId: props.begins.sessionId,
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

const grid = useTemplateRef<{ go: (row: number, column: number) => void }>('grid');
const { cellTexts, headings, pitot, faultOf, leaveCell, hold, key } = usePitotCells(
  form,
  () => map.value?.id,
  rows,
  columns,
  {
    say: (text) => (problem.value = text),
    go: (row, column) => grid.value?.go(row, column),
  },
);
const { outline, velocities, read, mean, uniform, flow, ideal, closes, says, impossible } = useMapReading(
  props,
  draft,
  rows,
  columns,
);
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
      <el-button link @click="make(undefined)">{{ maps.length ? 'Start another map' : 'Start a map' }}</el-button>
    </p>
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
    <p v-if="!map" class="reading">
      No velocity map yet. Hold the pitot square to the flow, facing it, and go row by row from the roof.
    </p>
    <form v-else class="two" data-own-keys @submit.prevent="form.save()">
      <div>
        <div class="fields">
          <ChoiceField v-model="draft.place" label="Place" :options="MAP_PLACES.map((p) => [p, p] as const)" />
          <FormQuantity :form="form" field="lift" kind="lift" label="at lift" />
          <FormQuantity :form="form" field="depression" kind="depression" label="Depression" />
          <ChoiceField
            v-model="draft.wall"
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
          Pitot pressure of each place, roof at the top; 8-14 when it bounces; a speed with its unit is taken too.
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
        <MapFigures v-if="read" :read="read" :mean="mean" :uniform="uniform" :flow="flow" :closes="closes" />
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
</style>
