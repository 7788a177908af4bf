<script setup lang="ts">
import { formatNumber, parseQuantity, withPoint, type System } from '@alluvium/core';
import {
  columnsFor,
  emptyCells,
  readTable,
  splitTable,
  type CellProblem,
  type Cells,
  type Column,
  type Setup,
  type SheetTable,
} from '@alluvium/records';
import { useDebouncedRefHistory } from '@vueuse/core';
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import CellInput from '../parts/CellInput.vue';

/** The sheet as cells: typed, moved about and pasted into as in a spreadsheet. */
const props = defineProps<{
  reads: Setup['reads'];
  problems: readonly CellProblem[];
  system: System;
  dimBeyond?: number;
  watch: readonly number[];
}>();
const emit = defineEmits<{
  table: [SheetTable];
  /** A whole table was pasted over one with more rows: how many stood below it and are gone. */
  replaced: [number];
}>();
const cells = defineModel<Cells[]>({ required: true });
const table = useTemplateRef<HTMLTableElement>('table');
const history = useDebouncedRefHistory(cells, { deep: true, debounce: 250, capacity: 100 });

/** Comments on rows are shown where there are some, or once they are asked for. */
const commenting = ref(false);
const comments = computed(() => commenting.value || cells.value.some((c) => c.comment !== ''));
const columns = computed(() => columnsFor(props.reads, comments.value));
const unit = computed(() =>
  props.reads === 'percent' || props.reads === 'differential' ? '%' : props.system === 'inch' ? 'cfm' : 'L/s',
);
const TITLES: Record<Column, string> = {
  lift: 'lift',
  intakeRange: 'range',
  intake: 'intake',
  exhaustRange: 'range',
  exhaust: 'exhaust',
  missing: 'not read, because',
  comment: 'comment',
};
const NAMES: Record<Column, string> = {
  ...TITLES,
  intakeRange: 'intake range',
  exhaustRange: 'exhaust range',
  missing: 'why a side was not read',
};

const liftAt = (row: number): number | undefined => {
  const parsed = parseQuantity(cells.value[row]?.lift ?? '', 'lift', props.system);
  return parsed.ok ? parsed.quantity.si : undefined;
};
/** The lift that comes next by the last step. */
function nextLift(row: number): string {
  const last = liftAt(row - 1);
  const before = liftAt(row - 2) ?? 0;
  return last === undefined || last <= before ? '' : formatNumber(last + (last - before), 'lift', props.system);
}
const problemsOf = (row: number) => props.problems.filter((p) => p.row === row);
const isWrong = (row: number, column: Column) => props.problems.some((p) => p.row === row && p.column === column);
const dim = (row: number) => props.dimBeyond !== undefined && (liftAt(row) ?? 0) > props.dimBeyond + 1e-6;
const watched = (row: number) => {
  const lift = liftAt(row);
  return lift !== undefined && props.watch.some((w) => Math.abs(w - lift) < 1e-6);
};

function keepSpare(): void {
  const last = cells.value.at(-1);
  if (!last || Object.values(last).some((t) => t.trim() !== '')) cells.value.push(emptyCells());
}
function type(row: number, column: Column, text: string): void {
  const cell = cells.value[row]!;
  cell[column] = text;
  if (column !== 'lift' && text.trim() !== '' && cell.lift.trim() === '') cell.lift = nextLift(row);
  keepSpare();
}

async function focus(row: number, column: number): Promise<void> {
  await nextTick();
  const input = table.value?.querySelectorAll<HTMLInputElement>(`tr[data-row="${row}"] input`)[column];
  input?.focus();
  input?.select();
}
function onKey(event: KeyboardEvent, row: number, column: number): void {
  const input = event.target as HTMLInputElement;
  const command = event.ctrlKey || event.metaKey;
  const go = (r: number, c: number) => {
    event.preventDefault();
    void focus(r, c);
  };
  const key = event.key.toLowerCase();
  if (command && (key === 'z' || key === 'y')) {
    event.preventDefault();
    event.stopPropagation();
    if (event.shiftKey || key === 'y') history.redo();
    else history.undo();
  } else if (event.key === 'Enter' || event.key === 'ArrowDown') go(Math.min(row + 1, cells.value.length - 1), column);
  else if (event.key === 'ArrowUp') go(Math.max(0, row - 1), column);
  else if (
    event.key === 'ArrowLeft' &&
    input.selectionStart === 0 &&
    input.selectionEnd === (input.value ? 0 : input.selectionEnd)
  )
    go(row, Math.max(0, column - 1));
  else if (event.key === 'ArrowRight' && input.selectionStart === input.value.length)
    go(row, Math.min(columns.value.length - 1, column + 1));
  else if (command && event.key === 'Delete') {
    cells.value.splice(row, 1);
    keepSpare();
    go(Math.min(row, cells.value.length - 1), column);
  }
}
/** A block pasted from its lifts on is a table: what stood in the rows below it is another table's. */
function onPaste(event: ClipboardEvent, row: number, column: number): void {
  const text = event.clipboardData?.getData('text') ?? '';
  const block = splitTable(text);
  if (block.length === 0 || (block.length === 1 && block[0]!.length === 1)) return;
  event.preventDefault();
  const read = readTable(block);
  const named = block.some((r) => r.some((c) => /^\s*(valve )?lift/i.test(c)));
  if (named || Object.keys(read.setup).length > 0) return emit('table', read);
  // Three columns pasted at the lift are lift, intake and exhaust, also where range columns stand between.
  const wide = Math.max(...block.map((l) => l.length));
  const names =
    column === 0 && wide <= 3 ? columns.value.filter((c) => !c.endsWith('Range')) : columns.value.slice(column);
  const figures = (name: Column) => name === 'lift' || name === 'intake' || name === 'exhaust';
  const next = cells.value.map((c) => ({ ...c }));
  block.forEach((line, r) => {
    while (next.length <= row + r) next.push(emptyCells());
    line.forEach((value, c) => {
      const name = names[c];
      if (!name) return;
      const cell = value.trim();
      next[row + r]![name] = figures(name) && read.style ? withPoint(cell, read.style.sign) : cell;
    });
  });
  const below = next.slice(row + block.length).filter((c) => Object.values(c).some((t) => t.trim() !== ''));
  const whole = column === 0 && row === 0 && below.length > 0;
  cells.value.splice(0, cells.value.length, ...(whole ? next.slice(0, block.length) : next));
  if (whole) emit('replaced', below.length);
  keepSpare();
}
/** Takes back the last change of the cells. */
defineExpose({ undo: () => history.undo() });
keepSpare();
</script>

<template>
  <table ref="table" class="grid" data-own-keys aria-label="Rows of the sheet">
    <thead>
      <tr>
        <th v-for="c in columns" :key="c" scope="col">
          {{ TITLES[c] }}
          <small v-if="c === 'intake' || c === 'exhaust'">{{ unit }}</small>
        </th>
      </tr>
    </thead>
    <tbody>
      <template v-for="(cell, row) in cells" :key="row">
        <tr :data-row="row" :class="{ dim: dim(row), watched: watched(row) }">
          <td v-for="(c, column) in columns" :key="c" :class="[c, { wrong: isWrong(row, c) }]">
            <CellInput
              :value="cell[c]"
              :placeholder="c === 'lift' ? nextLift(row) : ''"
              :aria-label="`Row ${row + 1}, ${NAMES[c]}`"
              :aria-invalid="isWrong(row, c)"
              @input="type(row, c, ($event.target as HTMLInputElement).value)"
              @keydown="onKey($event, row, column)"
              @paste="onPaste($event, row, column)"
              @focus="($event.target as HTMLInputElement).select()"
            />
          </td>
        </tr>
        <tr v-for="p in problemsOf(row)" :key="`${row}-${p.column}`" class="says">
          <td :colspan="columns.length" role="alert">{{ p.message }}</td>
        </tr>
      </template>
    </tbody>
  </table>
  <el-button v-if="!comments" link @click="commenting = true">Comment on rows</el-button>
</template>

<style scoped>
.grid {
  border-collapse: collapse;
  width: 100%;
}
th {
  color: var(--slate);
  font-weight: 400;
  text-align: right;
  border-bottom: 1px solid var(--rule-strong);
  padding: 2px 4px;
}
th:last-child {
  text-align: left;
}
th small {
  margin-left: 4px;
}
td {
  border-bottom: 1px solid var(--rule);
  padding: 0;
}
input {
  width: 100%;
  min-width: 46px;
  border: 0;
  background: transparent;
  font: inherit;
  color: inherit;
  text-align: right;
  padding: 4px 5px;
}
.missing input,
.comment input {
  text-align: left;
  font: italic 15px var(--serif);
  color: var(--slate);
}
td.lift {
  width: 84px;
}
td.intakeRange,
td.exhaustRange {
  width: 52px;
}
.watched {
  background: var(--paper-deep);
  font-weight: 600;
}
.dim input {
  color: var(--slate);
}
.wrong input {
  box-shadow: inset 0 -2px var(--loss);
}
.says td {
  color: var(--loss);
  font-size: 13px;
  padding: 1px 5px;
}
input::placeholder {
  color: var(--faint);
  opacity: 0.8;
}
</style>
