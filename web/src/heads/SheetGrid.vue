<script setup lang="ts">
import { formatNumber, parseQuantity, withPoint, type System } from '@alluvium/core';
import {
  columnsFor,
  emptyCells,
  readMessage,
  readTable,
  type CellProblem,
  type Cells,
  type Column,
  type Message,
  type MessageRow,
  type Setup,
  type SheetTable,
} from '@alluvium/records';
import { computed, defineAsyncComponent, ref, shallowRef, useTemplateRef } from 'vue';
import CellGrid from '../parts/grid/CellGrid.vue';
import type { Place } from '../parts/grid/block.js';
import type { Edit, GridColumn } from '../parts/grid/grid.js';

// rows[]!: a cell lies in a row.
// message.value!: it is followed where it stands.

const MessagePaste = defineAsyncComponent(() => import('./MessagePaste.vue'));

/** The rows of a sheet as cells; what is pasted with headings is a sheet of its own. */
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
const grid = useTemplateRef<{ undo: () => void; put: (edits: readonly Edit<Column>[]) => void }>('grid');
/** A pasted message that waits to be looked at, and the row it was pasted in. */
const message = shallowRef<{ readonly read: Message; readonly row: number }>();

/** Comments on rows are shown where there are some, or once they are asked for. */
const commenting = ref(false);
const comments = computed(() => commenting.value || cells.value.some((c) => c.comment !== ''));
const unit = computed(() =>
  props.reads === 'percent' || props.reads === 'differential' ? '%' : props.system === 'inch' ? 'cfm' : 'L/s',
);
const HEADINGS: Record<Column, Omit<GridColumn<Column>, 'key'>> = {
  lift: { title: 'lift', name: 'lift' },
  intakeRange: { title: 'range', name: 'intake range' },
  intake: { title: 'intake', name: 'intake' },
  exhaustRange: { title: 'range', name: 'exhaust range' },
  exhaust: { title: 'exhaust', name: 'exhaust' },
  missing: { title: 'not read, because', name: 'why a side was not read', words: true },
  comment: { title: 'comment', name: 'comment', words: true },
};
const columns = computed(() =>
  columnsFor(props.reads, comments.value).map((key) => ({
    key,
    ...HEADINGS[key],
    unit: key === 'intake' || key === 'exhaust' ? unit.value : undefined,
  })),
);

const liftIn = (rows: readonly Cells[], row: number): number | undefined => {
  const parsed = parseQuantity(rows[row]?.lift ?? '', 'lift', props.system);
  return parsed.ok ? parsed.quantity.si : undefined;
};
const liftAt = (row: number) => liftIn(cells.value, row);
/** The lift that comes next by the last step. */
function nextLift(row: number, rows: readonly Cells[] = cells.value): string {
  const last = liftIn(rows, row - 1);
  const before = liftIn(rows, row - 2) ?? 0;
  return last === undefined || last <= before ? '' : formatNumber(last + (last - before), 'lift', props.system);
}
function completes(rows: Cells[], row: number, column: Column): void {
  const cell = rows[row]!;
  if (column !== 'lift' && cell[column].trim() !== '' && cell.lift.trim() === '') cell.lift = nextLift(row, rows);
}
const says = (row: number) => props.problems.filter((p) => p.row === row).map((p) => p.message);
const isWrong = (row: number, column: Column) => props.problems.some((p) => p.row === row && p.column === column);
const dim = (row: number) => props.dimBeyond !== undefined && (liftAt(row) ?? 0) > props.dimBeyond + 1e-6;
const watched = (row: number) => {
  const lift = liftAt(row);
  return lift !== undefined && props.watch.some((w) => Math.abs(w - lift) < 1e-6);
};

/** A block pasted from its lifts on is a table: what stood in the rows below it is another table's. */
function pasted(block: string[][], { row, column }: Place, text: string): Edit<Column>[] | undefined {
  const read = column === 0 ? readMessage(text) : undefined;
  if (read) {
    message.value = { read, row };
    return undefined;
  }
  return tabled(block, { row, column });
}
/** Rows of a message, from the row on where it was pasted. */
function takeMessage(rows: readonly MessageRow[]): void {
  const at = message.value!.row;
  message.value = undefined;
  grid.value?.put(
    rows.flatMap((line, i) =>
      (['lift', 'intake', 'exhaust'] as const)
        .filter((key) => line[key] !== '')
        .map((key) => ({ row: at + i, key, text: line[key] })),
    ),
  );
}
function tabled(block: string[][], { row, column }: Place): Edit<Column>[] | undefined {
  const read = readTable(block);
  const named = block.some((r) => r.some((c) => /^\s*(valve )?lift/i.test(c)));
  if (named || Object.keys(read.setup).length > 0) return void emit('table', read);
  // Three columns pasted at the lift are lift, intake and exhaust, also where range columns stand between.
  const wide = Math.max(...block.map((l) => l.length));
  const keys = columns.value.map((c) => c.key);
  const names = column === 0 && wide <= 3 ? keys.filter((c) => !c.endsWith('Range')) : keys.slice(column);
  const figures = (name: Column) => name === 'lift' || name === 'intake' || name === 'exhaust';
  const edits = block.flatMap((line, r) =>
    line.flatMap((value, c) => {
      const key = names[c];
      if (!key) return [];
      const cell = value.trim();
      return [{ row: row + r, key, text: figures(key) && read.style ? withPoint(cell, read.style.sign) : cell }];
    }),
  );
  const below = cells.value
    .map((cell, r) => ({ cell, r }))
    .filter(({ cell, r }) => r >= row + block.length && Object.values(cell).some((t) => t.trim() !== ''));
  if (column !== 0 || row !== 0 || below.length === 0) return edits;
  emit('replaced', below.length);
  return [...edits, ...below.flatMap(({ r }) => keys.map((key) => ({ row: r, key, text: '' })))];
}
/** Takes back the last change of the cells. */
defineExpose({ undo: () => grid.value?.undo() });
</script>

<template>
  <CellGrid
    ref="grid"
    v-model="cells"
    class="sheet-cells"
    label="Rows of the sheet"
    :columns="columns"
    :blank="emptyCells"
    :completes="completes"
    :wrong="isWrong"
    :says="says"
    :placeholder="(row, key) => (key === 'lift' ? nextLift(row) : '')"
    :row-class="(row) => ({ dim: dim(row), watched: watched(row) })"
    :pasted="pasted"
  >
    <template #acts>
      <el-button v-if="!comments" link @click="commenting = true">Comment on rows</el-button>
    </template>
  </CellGrid>
  <MessagePaste v-if="message" :message="message.read" @take="takeMessage" @close="message = undefined" />
</template>

<style scoped>
.sheet-cells :deep(td.lift) {
  width: 84px;
}
.sheet-cells :deep(td:is(.intakeRange, .exhaustRange)) {
  width: 52px;
}
.sheet-cells :deep(.watched) {
  background: var(--paper-deep);
  font-weight: 600;
}
.sheet-cells :deep(.dim input) {
  color: var(--slate);
}
</style>
