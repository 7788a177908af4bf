<script setup lang="ts">
import { NEIGHBOURS, PLACES, SHAPE_KINDS } from '@alluvium/core';
import {
  SECTION_COLUMNS,
  emptySection,
  nextStation,
  readSections,
  type SectionCellProblem,
  type SectionCells,
  type SectionColumn,
} from '@alluvium/records';
import { computed, nextTick, useTemplateRef, watch } from 'vue';
import CellChoice from '../parts/CellChoice.vue';
import CellInput from '../parts/CellInput.vue';
import { useSettings } from '../state/settings.js';

/**
 * The sections of a port, one row a station, typed from calipers: Enter goes on in the column, the next station is offered
 * by the last step. A wall is its thickness and, where it is not water, what lies behind: `2.9 pushrod`.
 */
const props = defineProps<{ modelValue: SectionCells[]; problems: readonly SectionCellProblem[]; chosen: number }>();
const emit = defineEmits<{ 'update:modelValue': [SectionCells[]]; choose: [number] }>();
const settings = useSettings();
const table = useTemplateRef<HTMLElement>('table');

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
const offered = computed(() => nextStation(props.modelValue, settings.system));

/** There is always one spare row at the end. */
watch(
  () => props.modelValue,
  (rows) => {
    const last = rows.at(-1);
    if (!last || last.station.trim() !== '' || last.width.trim() !== '')
      emit('update:modelValue', [...rows, emptySection()]);
  },
  { immediate: true },
);
const faults = computed(() => {
  const map = new Map<string, string>();
  for (const p of props.problems) if (!map.has(`${p.row}|${p.column}`)) map.set(`${p.row}|${p.column}`, p.message);
  return map;
});

function put(row: number, column: SectionColumn, text: string): void {
  const rows = props.modelValue.slice();
  const before = rows[row - 1];
  const now = { ...rows[row]!, [column]: text };
  // A new row goes on as the one before: its station by the last step, its shape the same.
  if (column !== 'station' && now.station.trim() === '' && offered.value && row === rows.length - 1)
    now.station = offered.value;
  if (now.shape === '') now.shape = before?.shape && before.shape !== 'outline' ? before.shape : 'rectangle';
  rows[row] = now;
  emit('update:modelValue', rows);
}
function remove(row: number): void {
  emit(
    'update:modelValue',
    props.modelValue.filter((_, i) => i !== row),
  );
}
const cell = (row: number, column: number) =>
  table.value?.querySelector<HTMLInputElement>(`[data-cell="${row}|${SECTION_COLUMNS[column]}"]`);
function focus(row: number, column: number): void {
  void nextTick(() => {
    const input = cell(row, column);
    input?.focus();
    if (input instanceof HTMLInputElement) input.select();
  });
}
function onKey(event: KeyboardEvent, row: number, column: number): void {
  const input = event.target as HTMLInputElement;
  const isSelect = input.tagName === 'SELECT';
  if (event.key === 'Enter') {
    // At the end of a row's sizes Enter goes to the next station's width; its station is offered already.
    focus(Math.min(row + 1, props.modelValue.length - 1), column);
  } else if (event.key === 'ArrowDown' && !isSelect) focus(row + 1, column);
  else if (event.key === 'ArrowUp' && !isSelect) focus(row - 1, column);
  else if (event.key === 'Delete' && event.ctrlKey) remove(row);
  else return;
  event.preventDefault();
}
/** A block from a spreadsheet goes in where it is pasted. */
function onPaste(event: ClipboardEvent, row: number, column: number): void {
  const text = event.clipboardData?.getData('text') ?? '';
  const lines = text
    .replace(/\r/g, '')
    .replace(/\n$/, '')
    .split('\n')
    .map((l) => l.split('\t'));
  if (lines.length === 1 && lines[0]!.length === 1) return;
  event.preventDefault();
  const rows = props.modelValue.slice();
  lines.forEach((cells, i) => {
    const at = row + i;
    const now = { ...(rows[at] ?? emptySection()) };
    cells.forEach((value, k) => {
      const name = SECTION_COLUMNS[column + k];
      if (name) now[name] = value.trim();
    });
    if (now.shape === '') now.shape = 'rectangle';
    rows[at] = now;
  });
  emit('update:modelValue', rows);
}
const sized = (cells: SectionCells, column: SectionColumn) =>
  !(
    (cells.shape === 'outline' && ['width', 'height', 'radius'].includes(column)) ||
    (cells.shape === 'round' && column === 'height') ||
    (cells.shape !== 'rectangle' && cells.shape !== '' && column === 'radius')
  );
const rowProblems = (row: number) => props.problems.filter((p) => p.row === row).slice(0, 2);
defineExpose({ readSections, focus });
</script>

<template>
  <div ref="table" class="scroll" data-own-keys>
    <datalist id="places"><option v-for="p in PLACES" :key="p" :value="p" /></datalist>
    <table class="sections">
      <thead>
        <tr>
          <th
            v-for="c in SECTION_COLUMNS"
            :key="c"
            :class="c"
            :title="
              ['roof', 'floor', 'front', 'rear'].includes(c)
                ? `metal left; behind it ${NEIGHBOURS.join(', ')}`
                : undefined
            "
          >
            {{ WORDS[c] }}
          </th>
        </tr>
      </thead>
      <tbody>
        <template v-for="(cells, row) in modelValue" :key="row">
          <tr :class="{ chosen: row === chosen }" @focusin="$emit('choose', row)">
            <td v-for="(c, column) in SECTION_COLUMNS" :key="c" :class="c">
              <CellChoice
                v-if="c === 'shape'"
                :data-cell="`${row}|shape`"
                :value="cells.shape"
                :options="SHAPE_KINDS"
                :aria-label="`Row ${row + 1}, shape`"
                :aria-invalid="faults.has(`${row}|shape`)"
                @change="put(row, 'shape', ($event.target as HTMLSelectElement).value)"
                @keydown="onKey($event, row, column)"
              />
              <CellInput
                v-else
                :data-cell="`${row}|${c}`"
                :value="cells[c]"
                :disabled="!sized(cells, c)"
                :placeholder="c === 'station' && row === modelValue.length - 1 ? (offered ?? '') : ''"
                :list="c === 'place' ? 'places' : undefined"
                :aria-label="`Row ${row + 1}, ${WORDS[c]}`"
                :aria-invalid="faults.has(`${row}|${c}`)"
                @input="put(row, c, ($event.target as HTMLInputElement).value)"
                @keydown="onKey($event, row, column)"
                @paste="onPaste($event, row, column)"
              />
            </td>
          </tr>
          <tr v-if="rowProblems(row).length" class="says">
            <td :colspan="SECTION_COLUMNS.length" role="alert" class="loss">
              {{
                rowProblems(row)
                  .map((p) => p.message)
                  .join(' ')
              }}
            </td>
          </tr>
        </template>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow: auto;
  max-height: 430px;
}
.sections {
  border-collapse: collapse;
  width: 100%;
}
th {
  position: sticky;
  top: 0;
  background: var(--paper);
  font-weight: 400;
  color: var(--slate);
  text-align: left;
  padding: 2px 4px;
  border-bottom: 1px solid var(--rule-strong);
  font-size: 14px;
}
td {
  padding: 0;
  border-bottom: 1px solid var(--rule);
}
input,
select {
  width: 100%;
  min-width: 40px;
  border: 0;
  background: transparent;
  color: inherit;
  font: inherit;
  font-size: 14px;
  padding: 2px 3px;
  font-variant-numeric: tabular-nums;
}
select option {
  background: var(--paper-raised);
  color: var(--ink);
}
input:disabled {
  background: var(--paper-deep);
}
[aria-invalid='true'] {
  box-shadow: inset 0 -2px 0 var(--loss);
}
.branch input {
  min-width: 22px;
}
.station input,
.width input,
.height input,
.radius input {
  min-width: 58px;
}
.place input {
  min-width: 70px;
}
.roof input,
.rear input {
  min-width: 108px;
}
.floor input,
.front input {
  min-width: 84px;
}
.shape select {
  min-width: 84px;
}
.chosen td {
  background: var(--paper-deep);
}
.says td {
  padding: 1px 4px;
  font-size: 14px;
}
</style>
