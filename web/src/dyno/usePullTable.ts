import { unitFor } from '@alluvium/core';
import {
  PULL_KINDS,
  addition,
  headingsOf,
  mapFor,
  readPullTable,
  replacement,
  splitTable,
  type ColumnMap,
  type Pull,
  type PullColumn,
  type PullTable,
} from '@alluvium/records';
import { computed, ref, shallowRef } from 'vue';
import { newId } from '../data/ids.js';
import { useListOf } from '../data/queries.js';
import { useChange } from '../data/useChange.js';
import { workbookCells } from '../exchange/workbook.js';
import { useSettings } from '../state/settings.js';

// table.value!: columns are named of a table that was pasted.

const LARGEST = 16 * 1024 * 1024;

/**
 * A dyno's table as it was pasted or came from a file: its columns found by their headings, by what was kept for such
 * headings, or laid down by hand. `took` is handed its rows as soon as there are any.
 */
export function usePullTable(took: (rows: readonly Pull['rows'][number][]) => void) {
  const settings = useSettings();
  const change = useChange();
  const maps = useListOf('columnmap');
  const table = ref<PullTable>();
  const text = ref('');
  const cells = shallowRef<string[][]>([]);
  /** Columns as they were laid down by hand; empty while the headings speak. */
  const laid = ref<ColumnMap['columns']>([]);
  function read(): void {
    table.value = readPullTable(
      cells.value,
      settings.system,
      laid.value.length > 0 ? laid.value : (maps.data.value ?? []),
    );
    if (table.value.rows.length > 0) took(table.value.rows);
  }
  function take(next: string[][]): void {
    cells.value = next;
    laid.value = [];
    read();
  }
  function layDown(i: number, column: PullColumn | null, unit?: string): void {
    const now = table.value?.columns ?? [];
    const base: ColumnMap['columns'] =
      laid.value.length > 0 ? laid.value : now.map((c) => (c.column ? { column: c.column, unit: c.unit } : null));
    const usual = column && column !== 'run' ? unitFor(PULL_KINDS[column], settings.system).symbol : '';
    laid.value = base.map((c, k) =>
      k === i ? (column ? { column, unit: unit ?? usual } : null) : c?.column === column ? null : c,
    );
    read();
  }
  /** The columns are kept, so that the next file with these headings is read the same way. */
  async function remember(): Promise<void> {
    const headings = headingsOf(table.value!.columns);
    const stands = mapFor(maps.data.value ?? [], headings);
    const columns = [...laid.value];
    await change.make(
      [
        stands
          ? replacement('columnmap', { ...stands, columns })
          : addition('columnmap', { id: newId(), headings, columns }),
      ],
      'Files with these headings are read this way from now on.',
    );
  }
  const preview = computed(() => cells.value.filter((r) => r.some((c) => /\d/.test(c))).slice(0, 3));
  function typed(value: string): void {
    text.value = value;
    if (value.trim() === '') {
      table.value = undefined;
      cells.value = [];
    } else take(splitTable(value));
  }

  const fileProblem = ref('');
  /** Reads a file of a dyno; whether it could be. */
  async function open(file: File): Promise<boolean> {
    fileProblem.value = '';
    if (file.size > LARGEST) {
      fileProblem.value = `${file.name} is larger than 16 MB and was not read.`;
      return false;
    }
    try {
      take(/\.xlsx$/i.test(file.name) ? await workbookCells(file) : splitTable(await file.text()));
      return true;
    } catch {
      fileProblem.value = `${file.name} cannot be read: it is no CSV or XLSX that this program understands.`;
      return false;
    }
  }
  return { table, text, cells, laid, preview, fileProblem, typed, open, layDown, remember };
}
export type PastedPull = ReturnType<typeof usePullTable>;
