<script setup lang="ts" generic="K extends string, Row extends Record<K, string>">
import { nextTick, useTemplateRef } from 'vue';
import CellChoice from '../CellChoice.vue';
import CellInput from '../CellInput.vue';
import { holds, rowsOf, type Place } from './block.js';
import type { Edit, GridColumn } from './grid.js';
import GridActs from './GridActs.vue';
import { gridClipboard } from './gridClipboard.js';
import GridHead from './GridHead.vue';
import { gridKeys } from './gridKeys.js';
import { useCellRange } from './useCellRange.js';
import { useCells } from './useCells.js';

// props.columns[]!: a cell lies in a column.

/**
 * Cells that are typed, chosen, copied, pasted and filled as in a spreadsheet. It holds texts and knows nothing of what
 * they mean: whoever has the grid reads them, and says of a cell what is wrong with it.
 */
const props = withDefaults(
  defineProps<{
    label: string;
    columns: readonly GridColumn<K>[];
    /** A row with nothing in it. Where it is not given the rows are fixed: none is added, none is taken away. */
    blank?: (() => Row) | undefined;
    /** What a cell that was typed brings with it: changes the rows it is given, which are its own. */
    completes?: ((rows: Row[], row: number, key: K) => void) | undefined;
    wrong?: ((row: number, key: K) => boolean) | undefined;
    /** Sentences under a row. */
    says?: ((row: number) => readonly string[]) | undefined;
    placeholder?: ((row: number, key: K) => string) | undefined;
    /** A cell that means nothing in its row. */
    shut?: ((cells: Row, key: K) => boolean) | undefined;
    rowClass?: ((row: number) => Readonly<Record<string, boolean>>) | undefined;
    /** What is made of a pasted block before it is laid over the cells; `undefined`: it was taken otherwise. */
    pasted?: ((block: string[][], at: Place, text: string) => readonly Edit<K>[] | undefined) | undefined;
    /** Where Enter goes. */
    enter?: 'down' | 'across';
  }>(),
  { enter: 'down' },
);
const emit = defineEmits<{
  at: [row: number, column: number];
  left: [row: number, column: number];
  /** A key before the grid looks at it; one that is taken is its own. */
  pressed: [event: KeyboardEvent, row: number, column: number];
  /** Enter in the last cell. */
  end: [];
}>();
const rows = defineModel<Row[]>({ required: true });
const table = useTemplateRef<HTMLTableElement>('table');
const range = useCellRange(() => ({ rows: rows.value.length, columns: props.columns.length }));
const { edges, several } = range;
const cells = useCells(props, rows, edges);
const { history, textAt, put, type, fillDown } = cells;

const cellAt = ({ row, column }: Place) =>
  table.value?.querySelector<HTMLInputElement | HTMLSelectElement>(
    `[data-cell="${row}|${props.columns[column]!.key}"]`,
  );
async function go(row: number, column: number): Promise<void> {
  const place = {
    row: Math.max(0, Math.min(rows.value.length - 1, row)),
    column: Math.max(0, Math.min(props.columns.length - 1, column)),
  };
  await nextTick();
  cellAt(place)?.focus();
}
/** The text of the cell when the cursor came. */
let came = '';
function entered(event: FocusEvent, row: number, column: number): void {
  came = textAt(row, column);
  history.over();
  if (!range.drawing()) range.only(row, column);
  if (event.target instanceof HTMLInputElement) event.target.select();
  emit('at', row, column);
}
/** Rows that come or go: the cursor stays at the upper left of what was chosen. */
function withRows(act: () => void): void {
  const { top, left } = edges.value;
  act();
  void go(top, left);
}
const insertRow = () => withRows(cells.insertRow);
const removeRows = () => withRows(cells.removeRows);

const { onCopy, onPaste } = gridClipboard(props, cells, range);

const onKey = gridKeys({
  pressed: (event, at) => emit('pressed', event, at.row, at.column),
  commands: {
    z: (shift) => (shift ? history.redo() : history.undo()),
    y: history.redo,
    d: fillDown,
    Delete: removeRows,
    Insert: insertRow,
  },
  stretch: range.stretch,
  several: () => several.value,
  clear: cells.clear,
  go,
  enter({ row, column }) {
    const lastColumn = column === props.columns.length - 1;
    if (props.enter === 'down') void go(row + 1, column);
    else if (lastColumn && row === rows.value.length - 1) emit('end');
    else void go(lastColumn ? row + 1 : row, lastColumn ? 0 : column + 1);
  },
  /** Whether there was something to leave: a range, or what was typed since the cursor came. */
  escape({ row, column }) {
    if (several.value) range.only(row, column);
    else if (textAt(row, column) !== came) put([{ row, key: props.columns[column]!.key, text: came }]);
    else return false;
    return true;
  },
});
defineExpose({ undo: history.undo, go, put });
</script>

<template>
  <div class="cells">
    <div class="frame">
      <table
        ref="table"
        data-own-keys
        :aria-label="label"
        @dragstart.prevent
        @copy="onCopy($event, false)"
        @cut="onCopy($event, true)"
      >
        <GridHead :columns="columns" />
        <tbody>
          <template v-for="(held, row) in rows" :key="row">
            <tr :data-row="row" :class="rowClass?.(row)">
              <td
                v-for="(c, column) in columns"
                :key="c.key"
                :class="[
                  c.key,
                  { words: c.words, wrong: wrong?.(row, c.key), picked: several && holds(edges, row, column) },
                ]"
                @mousedown="range.pressed($event, row, column)"
                @mouseenter="range.passed($event, row, column)"
              >
                <CellChoice
                  v-if="c.choices"
                  :data-cell="`${row}|${c.key}`"
                  :value="held[c.key]"
                  :options="c.choices"
                  :disabled="shut?.(held, c.key)"
                  :aria-label="`Row ${row + 1}, ${c.name}`"
                  :aria-invalid="wrong?.(row, c.key)"
                  @change="type(row, column, ($event.target as HTMLSelectElement).value)"
                  @focus="entered($event, row, column)"
                  @blur="emit('left', row, column)"
                  @keydown="onKey($event, { row, column })"
                />
                <CellInput
                  v-else
                  :data-cell="`${row}|${c.key}`"
                  :value="held[c.key]"
                  :disabled="shut?.(held, c.key)"
                  :placeholder="placeholder?.(row, c.key)"
                  :list="c.list"
                  :aria-label="`Row ${row + 1}, ${c.name}`"
                  :aria-invalid="wrong?.(row, c.key)"
                  @input="type(row, column, ($event.target as HTMLInputElement).value)"
                  @focus="entered($event, row, column)"
                  @blur="emit('left', row, column)"
                  @keydown="onKey($event, { row, column })"
                  @paste="onPaste($event, row, column)"
                />
              </td>
            </tr>
            <tr v-for="(sentence, i) in says?.(row) ?? []" :key="`${row}-${i}`" class="says">
              <td :colspan="columns.length" role="alert">{{ sentence }}</td>
            </tr>
          </template>
        </tbody>
      </table>
    </div>
    <GridActs
      :history="history"
      :rows="blank ? rowsOf(edges).length : 0"
      @insert="insertRow"
      @remove="removeRows"
      @fill="fillDown"
    >
      <slot name="acts" />
    </GridActs>
  </div>
</template>

<style scoped>
.frame {
  overflow: auto;
  max-height: var(--grid-height, none);
}
table {
  border-collapse: collapse;
  width: 100%;
}
td {
  border-bottom: 1px solid var(--rule);
  padding: 0;
}
input,
select {
  width: 100%;
  min-width: 40px;
  min-height: 24px;
  border: 0;
  background: transparent;
  font: inherit;
  font-variant-numeric: tabular-nums;
  color: inherit;
  text-align: right;
  padding: 4px 5px;
}
select option {
  background: var(--paper-raised);
  color: var(--ink);
}
input:disabled {
  background: var(--paper-deep);
}
.words input {
  text-align: left;
  font: italic 15px var(--serif);
  color: var(--slate);
}
.picked {
  background: color-mix(in srgb, var(--focus) 18%, transparent);
}
.picked input::selection {
  background: transparent;
}
.wrong input,
.wrong select {
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
