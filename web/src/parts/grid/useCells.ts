import { nextTick, toRaw, watch, type Ref } from 'vue';
import { rowsOf, type Edges } from './block.js';
import type { Edit, GridColumn } from './grid.js';
import { useHistory } from './history.js';

// grid.columns[]!, next[]!, rows.value[]!: a cell lies in a row and a column.

interface Grid<K extends string, Row> {
  readonly columns: readonly GridColumn<K>[];
  readonly blank?: (() => Row) | undefined;
  readonly completes?: ((rows: Row[], row: number, key: K) => void) | undefined;
  readonly shut?: ((cells: Row, key: K) => boolean) | undefined;
}

/** The texts of a grid and every change of them, with the way back; `edges`: of the cells that are chosen. */
export function useCells<K extends string, Row extends Record<K, string>>(
  grid: Grid<K, Row>,
  rows: Ref<Row[]>,
  edges: Readonly<Ref<Edges>>,
) {
  /** What the grid itself put last: anything else came from outside, and what was typed before that is not gone back to. */
  let own: Row[] | undefined;
  const hold = (held: Row[]) => (rows.value = own = held);
  const history = useHistory<Row[]>(() => toRaw(rows.value), hold);
  const isBlank = (row: Row) => grid.columns.every((c) => (row[c.key] ?? '').trim() === '');
  /** A pasted block is being taken by whoever has the grid: that is one act, and can be undone like any other. */
  let taking = false;
  /** One spare row at the end, where rows may be added. */
  function withSpare(held: Row[]): Row[] {
    const last = held.at(-1);
    return grid.blank && (!last || !isBlank(last)) ? [...held, grid.blank()] : held;
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

  const textAt = (row: number, column: number): string => rows.value[row]?.[grid.columns[column]!.key] ?? '';
  function put(edits: readonly Edit<K>[], act = ''): void {
    if (edits.length === 0) return;
    history.before(act);
    const next = rows.value.slice();
    const copied = new Set<number>();
    for (const { row, key, text } of edits) {
      while (grid.blank && next.length <= row) next.push(grid.blank());
      if (!next[row] || grid.shut?.(next[row], key)) continue;
      if (!copied.has(row)) next[row] = { ...next[row] };
      copied.add(row);
      next[row]![key] = text as Row[K];
      grid.completes?.(next, row, key);
    }
    hold(withSpare(next));
  }
  const keys = (left: number, right: number) => grid.columns.slice(left, right + 1).map((c) => c.key);

  return {
    history,
    textAt,
    put,
    /** What is typed into one cell is one act until the cursor leaves it. */
    type: (row: number, column: number, text: string) =>
      put([{ row, key: grid.columns[column]!.key, text }], `${row}|${column}`),
    clear(): void {
      const { left, right } = edges.value;
      put(rowsOf(edges.value).flatMap((row) => keys(left, right).map((key) => ({ row, key, text: '' }))));
    },
    /** The upper row of the range goes into those below it; of one cell, what stands above it. */
    fillDown(): void {
      const { top, bottom, left, right } = edges.value;
      const from = top === bottom ? top - 1 : top;
      if (from < 0) return;
      const below = rowsOf({ top: from + 1, bottom, left, right });
      put(below.flatMap((row) => keys(left, right).map((key) => ({ row, key, text: rows.value[from]![key] }))));
    },
    insertRow(): void {
      if (!grid.blank) return;
      history.before();
      hold(rows.value.toSpliced(edges.value.top, 0, grid.blank()));
    },
    removeRows(): void {
      if (!grid.blank) return;
      const { top, bottom } = edges.value;
      history.before();
      hold(withSpare(rows.value.toSpliced(top, bottom - top + 1)));
    },
    /** A pasted block that whoever has the grid takes now: what changes until the next tick is that one act. */
    takenOtherwise(): void {
      history.before();
      taking = true;
      void nextTick(() => (taking = false));
    },
  };
}
