/** What is typed in a sheet's grid: kept in this browser cell by cell, also while it cannot be read yet. */
import type { System } from '@alluvium/core';
import { emptyCells, fingerprint, readCells, respell, writeCells, type Cells, type Sheet } from '@alluvium/records';
import { computed, ref, watch, type ComputedRef, type Ref } from 'vue';
import type { Draft, RecordForm } from '../data/form.js';
import { useSettings } from '../state/settings.js';

type Table = Pick<Draft<'sheet'>, 'rows' | 'valveOut'>;
const tableOf = ({ rows, valveOut }: Table) => fingerprint({ rows, valveOut });

export interface SheetCells {
  readonly cells: Ref<Cells[]>;
  readonly read: ComputedRef<ReturnType<typeof readCells>>;
  /** The rows that can be read. */
  readonly rows: ComputedRef<Sheet['rows']>;
  readonly save: () => Promise<unknown>;
  readonly discard: () => void;
  /** A new sheet was saved: its cells are kept under its own name from now on. */
  readonly settled: () => void;
}

/** Cells with the ranges the same rows of another sheet were read on. */
function onRangesOf(after: Sheet | undefined, cells: Cells[]): Cells[] {
  if (!after) return cells;
  return cells.map((cell, i) => ({
    ...cell,
    intakeRange: cell.intakeRange || (after.rows[i]?.intake?.range ?? ''),
    exhaustRange: cell.exhaustRange || (after.rows[i]?.exhaust?.range ?? ''),
  }));
}

/** The cells are what is typed; the rows of the draft follow from them. `scope` keeps the cells of new sheets apart. */
export function useSheetCells(
  form: RecordForm<'sheet'>,
  stored: () => Sheet | undefined,
  scope: string,
  /** The sheet a new one goes on from: its ranges stand beside the lifts, to be read on again. */
  after?: Sheet,
): SheetCells {
  const settings = useSettings();
  const { draft } = form;
  const key = () => `alluvium.cells.${stored()?.id ?? `new${scope}`}`;
  const cells = ref<Cells[]>([]);
  function load(): void {
    const text = form.restored.value ? localStorage.getItem(key()) : null;
    const kept = text ? (JSON.parse(text) as { system: System; cells: Cells[] }) : null;
    cells.value = [
      ...(kept
        ? respell(kept.cells, draft.value.setup, kept.system, settings.system)
        : onRangesOf(after, writeCells(draft.value.rows ?? [], settings.system, draft.value.valveOut ?? undefined))),
      emptyCells(),
    ];
  }
  load();
  // Bare numbers mean the unit of the system: when it changes, the cells are written anew before anything reads them.
  watch(
    () => settings.system,
    (to, from) => (cells.value = respell(cells.value, draft.value.setup, from, to)),
    { flush: 'sync' },
  );
  const read = computed(() => readCells(cells.value, draft.value.setup, settings.system));
  watch(
    read,
    ({ rows, valveOut, problems: bad }) => {
      if (fingerprint(rows) !== fingerprint(draft.value.rows)) draft.value.rows = rows;
      if (fingerprint(valveOut) !== fingerprint(draft.value.valveOut)) draft.value.valveOut = valveOut;
      form.typing('rows', bad[0]?.message ?? '');
      if (form.dirty.value)
        localStorage.setItem(key(), JSON.stringify({ system: settings.system, cells: cells.value }));
      else localStorage.removeItem(key());
    },
    { deep: true },
  );
  // What was sent to be saved: when it comes back, the cells may already say more and are kept; anything else that changes
  // the draft from outside (their version taken, an undo) is written into the cells.
  let sent = '';
  watch(
    () => [stored()?.version, form.conflict.value] as const,
    () => {
      const stands = tableOf(draft.value);
      if (stands === tableOf(read.value)) return;
      if (stands === sent) Object.assign(draft.value, { rows: read.value.rows, valveOut: read.value.valveOut });
      else load();
    },
    { flush: 'post' },
  );
  function discard(): void {
    const lost = cells.value;
    const place = key();
    form.discard((putBack) => {
      if (putBack) {
        localStorage.setItem(place, JSON.stringify({ system: settings.system, cells: lost }));
        cells.value = [...lost];
      } else {
        localStorage.removeItem(place);
        load();
      }
    });
  }
  return {
    cells,
    read,
    rows: computed(() => read.value.rows.filter((_, i) => !read.value.problems.some((p) => p.row === i))),
    save: () => {
      sent = tableOf(read.value);
      return form.save();
    },
    discard,
    settled: () => localStorage.removeItem(key()),
  };
}
