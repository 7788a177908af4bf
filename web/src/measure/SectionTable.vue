<script setup lang="ts">
import { NEIGHBOURS, PLACES, SHAPE_KINDS, type System } from '@alluvium/core';
import {
  SECTION_COLUMNS,
  emptySection,
  nextStation,
  type SectionCellProblem,
  type SectionCells,
  type SectionColumn,
} from '@alluvium/records';
import { computed } from 'vue';
import CellGrid from '../parts/grid/CellGrid.vue';
import type { GridColumn } from '../parts/grid/grid.js';

// rows[]!: a cell lies in a row.

/**
 * The sections of a port, one row a station, typed from calipers: the next station is offered by the last step. A wall is
 * its thickness and, where it is not water, what lies behind: `2.9 pushrod`.
 */
const props = defineProps<{ problems: readonly SectionCellProblem[]; chosen: number; system: System }>();
const emit = defineEmits<{ choose: [number] }>();
const cells = defineModel<SectionCells[]>({ required: true });

const WORDS: Record<SectionColumn, string> = {
  station: 'station',
  branch: 'br.',
  shape: 'shape',
  width: 'width',
  height: 'height',
  radius: 'corner r',
  roof: 'roof',
  floor: 'floor',
  front: 'front',
  rear: 'rear',
  angle: 'cut°',
  bend: 'bend°',
  place: 'place',
};
const WALLS: readonly SectionColumn[] = ['roof', 'floor', 'front', 'rear'];
const columns: readonly GridColumn<SectionColumn>[] = SECTION_COLUMNS.map((key) => ({
  key,
  title: WORDS[key],
  name: WORDS[key],
  hint: WALLS.includes(key) ? `metal left; behind it ${NEIGHBOURS.join(', ')}` : undefined,
  ...(key === 'shape' ? { choices: SHAPE_KINDS } : {}),
  ...(key === 'place' ? { list: 'places' } : {}),
}));
const offered = computed(() => nextStation(cells.value, props.system));

/** A new row goes on as the one before: its station by the last step, its shape the same. */
function completes(rows: SectionCells[], row: number, column: SectionColumn): void {
  const now = rows[row]!;
  const before = rows[row - 1];
  if (column !== 'station' && now.station.trim() === '' && now[column].trim() !== '')
    now.station = nextStation(rows.slice(0, row), props.system) ?? '';
  if (now.shape === '' && column !== 'shape' && now[column].trim() !== '')
    now.shape = before?.shape && before.shape !== 'outline' ? before.shape : 'rectangle';
}
const faults = computed(() => new Set(props.problems.map((p) => `${p.row}|${p.column}`)));
/** Sizes that a shape has not. */
function shut({ shape }: SectionCells, column: SectionColumn): boolean {
  return (
    (shape === 'outline' && ['width', 'height', 'radius'].includes(column)) ||
    (shape === 'round' && column === 'height') ||
    (shape !== 'rectangle' && shape !== '' && column === 'radius')
  );
}
function says(row: number): string[] {
  const found = props.problems.filter((p) => p.row === row).slice(0, 2);
  return found.length ? [found.map((p) => p.message).join(' ')] : [];
}
</script>

<template>
  <div>
    <datalist id="places"><option v-for="p in PLACES" :key="p" :value="p" /></datalist>
    <CellGrid
      v-model="cells"
      class="sections"
      label="Sections of the port"
      :columns="columns"
      :blank="emptySection"
      :completes="completes"
      :wrong="(row, key) => faults.has(`${row}|${key}`)"
      :says="says"
      :placeholder="(row, key) => (key === 'station' && row === cells.length - 1 ? (offered ?? '') : '')"
      :shut="shut"
      :row-class="(row) => ({ chosen: row === chosen })"
      @at="(row) => emit('choose', row)"
    />
  </div>
</template>

<style scoped>
.sections {
  --grid-height: 430px;
}
.sections :deep(:is(th, input, select)) {
  text-align: left;
  font-size: 14px;
}
.sections :deep(:is(input, select)) {
  padding: 2px 3px;
}
.sections :deep(.branch input) {
  min-width: 24px;
}
.sections :deep(:is(.station, .width, .height, .radius) input) {
  min-width: 58px;
}
.sections :deep(.place input) {
  min-width: 70px;
}
.sections :deep(:is(.roof, .rear) input) {
  min-width: 118px;
}
.sections :deep(:is(.floor, .front) input) {
  min-width: 84px;
}
.sections :deep(.shape select) {
  min-width: 84px;
}
.sections :deep(.chosen td) {
  background: var(--paper-deep);
}
@media print {
  .sections :deep(:is(th, input, select)) {
    font-size: 12px;
  }
}
</style>
