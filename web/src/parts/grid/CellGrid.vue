<script setup lang="ts" generic="K extends string, Row extends Record<K, string>">
import { computed, nextTick, ref, toRaw, useTemplateRef, watch } from 'vue';
import CellChoice from '../CellChoice.vue';
import CellInput from '../CellInput.vue';
import {
  blockFrom,
  blockIn,
  edgesOf,
  holds,
  isOne,
  laidOver,
  rowsOf,
  toHtml,
  toTabs,
  type Place,
  type Range,
} from './block.js';
import type { Edit, GridColumn } from './grid.js';
import { useHistory } from './history.js';
import HoverNote from '../HoverNote.vue';

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
/** What the grid itself put last: anything else came from outside, and what was typed before that is not gone back to. */
let own: Row[] | undefined;
const hold = (held: Row[]) => (rows.value = own = held);
const history = useHistory<Row[]>(() => toRaw(rows.value), hold);

const isBlank = (row: Row) => props.columns.every((c) => (row[c.key] ?? '').trim() === '');
/** A pasted block is being taken by whoever has the grid: that is one act, and can be undone like any other. */
let taking = false;
/** One spare row at the end, where rows may be added. */
function withSpare(held: Row[]): Row[] {
  const last = held.at(-1);
  return props.blank && (!last || !isBlank(last)) ? [...held, props.blank()] : held;
}
watch(
  rows,
  (held) => {
    if (toRaw(held) !== own && !taking) history.forget();
    const spare = withSpare(held);
    if (spare !== held) hold(spare);
  },
  { immediate: true },
);

const range = ref<Range>({ from: { row: 0, column: 0 }, to: { row: 0, column: 0 } });
const edges = computed(() => edgesOf(range.value));
/** More than the one cell the cursor is in. */
const several = computed(() => !isOne(edges.value));
const textAt = (row: number, column: number) => rows.value[row]?.[props.columns[column]!.key] ?? '';

function put(edits: readonly Edit<K>[], act = ''): void {
  if (edits.length === 0) return;
  history.before(act);
  const next = rows.value.slice();
  const copied = new Set<number>();
  for (const { row, key, text } of edits) {
    while (props.blank && next.length <= row) next.push(props.blank());
    if (!next[row] || props.shut?.(next[row], key)) continue;
    if (!copied.has(row)) next[row] = { ...next[row] };
    copied.add(row);
    next[row]![key] = text as Row[K];
    props.completes?.(next, row, key);
  }
  hold(withSpare(next));
}
const type = (row: number, column: number, text: string) =>
  put([{ row, key: props.columns[column]!.key, text }], `${row}|${column}`);

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
  if (!drawing) range.value = { from: { row, column }, to: { row, column } };
  if (event.target instanceof HTMLInputElement) event.target.select();
  emit('at', row, column);
}
function stretch(down: number, right: number): void {
  const { from, to } = range.value;
  const row = Math.max(0, Math.min(rows.value.length - 1, to.row + down));
  const column = Math.max(0, Math.min(props.columns.length - 1, to.column + right));
  range.value = { from, to: { row, column } };
}

/** A range is drawn by the mouse from the cell it was pressed in; text that is dragged must not move a figure. */
let drawing = false;
function pressedOn(event: MouseEvent, row: number, column: number): void {
  if (event.button !== 0) return;
  if (event.shiftKey) {
    event.preventDefault();
    range.value = { ...range.value, to: { row, column } };
    return;
  }
  drawing = true;
  range.value = { from: { row, column }, to: { row, column } };
  addEventListener('mouseup', () => (drawing = false), { once: true });
}
function passed(event: MouseEvent, row: number, column: number): void {
  if (!drawing || event.buttons !== 1) return;
  range.value = { ...range.value, to: { row, column } };
  if (several.value) getSelection()?.removeAllRanges();
}

const picked = () =>
  rowsOf(edges.value).flatMap((row) =>
    props.columns.slice(edges.value.left, edges.value.right + 1).map((c) => ({ row, key: c.key })),
  );
const clear = () => put(picked().map((at) => ({ ...at, text: '' })));
/** The upper row of the range goes into those below it; of one cell, what stands above it. */
function fillDown(): void {
  const { top, bottom, left, right } = edges.value;
  const from = top === bottom ? top - 1 : top;
  if (from < 0) return;
  put(
    rowsOf({ top: from + 1, bottom, left, right }).flatMap((row) =>
      props.columns.slice(left, right + 1).map((c) => ({ row, key: c.key, text: rows.value[from]![c.key] })),
    ),
  );
}
function insertRow(): void {
  if (!props.blank) return;
  history.before();
  hold(rows.value.toSpliced(edges.value.top, 0, props.blank()));
  void go(edges.value.top, edges.value.left);
}
function removeRows(): void {
  if (!props.blank) return;
  const { top, bottom, left } = edges.value;
  history.before();
  hold(withSpare(rows.value.toSpliced(top, bottom - top + 1)));
  void go(top, left);
}

function onCopy(event: ClipboardEvent, cut: boolean): void {
  if (!several.value || !event.clipboardData) return;
  event.preventDefault();
  const block = blockIn(edges.value, textAt);
  event.clipboardData.setData('text/plain', toTabs(block));
  event.clipboardData.setData('text/html', toHtml(block));
  if (cut) clear();
}
function onPaste(event: ClipboardEvent, row: number, column: number): void {
  const { block, text } = blockFrom(event.clipboardData);
  const single = block.length === 1 && block[0]!.length === 1;
  if (block.length === 0 || (single && !several.value)) return;
  event.preventDefault();
  if (several.value) ({ row, column } = { row: edges.value.top, column: edges.value.left });
  const over = several.value ? edges.value : { top: row, bottom: row, left: column, right: column };
  const edits = props.pasted
    ? props.pasted(block, { row, column }, text)
    : laidOver(block, over).flatMap(({ row: r, column: c, text: cell }) => {
        const name = props.columns[c];
        return name ? [{ row: r, key: name.key, text: cell.trim() }] : [];
      });
  if (edits) return put(edits);
  history.before();
  taking = true;
  void nextTick(() => (taking = false));
}

function onKey(event: KeyboardEvent, row: number, column: number): void {
  emit('pressed', event, row, column);
  if (event.defaultPrevented) return;
  const command = event.ctrlKey || event.metaKey;
  const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
  const list = event.target instanceof HTMLSelectElement;
  const act = command ? COMMANDS[key] : event.shiftKey ? STRETCHES[key] : undefined;
  const input = event.target as HTMLInputElement;
  const inside =
    !list &&
    input.selectionStart !== input.selectionEnd &&
    !(input.selectionStart === 0 && input.selectionEnd === input.value.length);
  if (act && !(list && !command) && !(inside && event.shiftKey && !command)) {
    event.preventDefault();
    event.stopPropagation();
    act(event.shiftKey);
  } else if (event.key === 'Enter') {
    event.preventDefault();
    const last = row === rows.value.length - 1 && column === props.columns.length - 1;
    if (props.enter === 'down') void go(row + 1, column);
    else if (last) emit('end');
    else if (column === props.columns.length - 1) void go(row + 1, 0);
    else void go(row, column + 1);
  } else if (event.key === 'Escape' && (several.value || textAt(row, column) !== came)) {
    event.preventDefault();
    event.stopPropagation();
    if (several.value) range.value = { from: { row, column }, to: { row, column } };
    else put([{ row, key: props.columns[column]!.key, text: came }]);
  } else if ((key === 'Delete' || key === 'Backspace') && several.value) {
    event.preventDefault();
    clear();
  } else if (list) return;
  else if (event.key === 'ArrowDown') {
    event.preventDefault();
    void go(row + 1, column);
  } else if (event.key === 'ArrowUp') {
    event.preventDefault();
    void go(row - 1, column);
  } else if (
    event.key === 'ArrowLeft' &&
    input.selectionStart === 0 &&
    (input.selectionEnd === 0 || input.selectionEnd === input.value.length)
  ) {
    event.preventDefault();
    void go(row, column - 1);
  } else if (event.key === 'ArrowRight' && input.selectionEnd === input.value.length) {
    event.preventDefault();
    void go(row, column + 1);
  }
}
const COMMANDS: Record<string, (shift: boolean) => void> = {
  z: (shift) => (shift ? history.redo() : history.undo()),
  y: history.redo,
  d: fillDown,
  Delete: removeRows,
  Insert: insertRow,
};
const STRETCHES: Record<string, () => void> = {
  ArrowDown: () => stretch(1, 0),
  ArrowUp: () => stretch(-1, 0),
  ArrowLeft: () => stretch(0, -1),
  ArrowRight: () => stretch(0, 1),
};
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
        <thead>
          <tr>
            <th v-for="c in columns" :key="c.key" scope="col" :class="c.key">
              <HoverNote :says="c.hint">
                <span>
                  {{ c.title }}
                  <small v-if="c.unit">{{ c.unit }}</small>
                </span>
              </HoverNote>
            </th>
          </tr>
        </thead>
        <tbody>
          <template v-for="(cells, row) in rows" :key="row">
            <tr :data-row="row" :class="rowClass?.(row)">
              <td
                v-for="(c, column) in columns"
                :key="c.key"
                :class="[
                  c.key,
                  { words: c.words, wrong: wrong?.(row, c.key), picked: several && holds(edges, row, column) },
                ]"
                @mousedown="pressedOn($event, row, column)"
                @mouseenter="passed($event, row, column)"
              >
                <CellChoice
                  v-if="c.choices"
                  :data-cell="`${row}|${c.key}`"
                  :value="cells[c.key]"
                  :options="c.choices"
                  :disabled="shut?.(cells, c.key)"
                  :aria-label="`Row ${row + 1}, ${c.name}`"
                  :aria-invalid="wrong?.(row, c.key)"
                  @change="type(row, column, ($event.target as HTMLSelectElement).value)"
                  @focus="entered($event, row, column)"
                  @blur="emit('left', row, column)"
                  @keydown="onKey($event, row, column)"
                />
                <CellInput
                  v-else
                  :data-cell="`${row}|${c.key}`"
                  :value="cells[c.key]"
                  :disabled="shut?.(cells, c.key)"
                  :placeholder="placeholder?.(row, c.key)"
                  :list="c.list"
                  :aria-label="`Row ${row + 1}, ${c.name}`"
                  :aria-invalid="wrong?.(row, c.key)"
                  @input="type(row, column, ($event.target as HTMLInputElement).value)"
                  @focus="entered($event, row, column)"
                  @blur="emit('left', row, column)"
                  @keydown="onKey($event, row, column)"
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
    <p class="acts">
      <template v-if="blank">
        <HoverNote says="Ctrl Insert"><el-button link @click="insertRow">Insert row</el-button></HoverNote>
        <HoverNote says="Ctrl Delete">
          <el-button link @click="removeRows">Remove {{ rowsOf(edges).length > 1 ? 'rows' : 'row' }}</el-button>
        </HoverNote>
      </template>
      <HoverNote says="Ctrl D"><el-button link @click="fillDown">Fill down</el-button></HoverNote>
      <HoverNote says="Ctrl Z">
        <el-button link :disabled="!history.canUndo.value" @click="history.undo">Undo</el-button>
      </HoverNote>
      <HoverNote says="Ctrl Y">
        <el-button link :disabled="!history.canRedo.value" @click="history.redo">Redo</el-button>
      </HoverNote>
      <slot name="acts" />
    </p>
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
th {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--paper);
  color: var(--slate);
  font-weight: 400;
  text-align: right;
  border-bottom: 1px solid var(--rule-strong);
  padding: 2px 4px;
}
th small {
  margin-left: 4px;
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
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  margin: 6px 0 0;
}
.acts :deep(.el-button + .el-button) {
  margin-left: 0;
}
@media print {
  .acts {
    display: none;
  }
}
</style>
