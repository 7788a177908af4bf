import { SIDES } from '@alluvium/core';
import {
  booksOf,
  differencePoints,
  evaluateSheetOf,
  excusedFor,
  isLookedKey,
  expectations,
  sisterSheets,
  type Sheet,
  type Source,
  type WholeHead,
} from '@alluvium/records';
import { computed, ref } from 'vue';
import type { RecordForm } from '../data/form.js';
import { useFamily } from '../data/family.js';
import { useJudging } from '../data/judging.js';
import { useListOf } from '../data/queries.js';
import { useSettings } from '../state/settings.js';
import { sheetQuestions } from './sheetQuestions.js';
import type { useSheetCells } from './useSheetCells.js';

// result.value!, stageId!: a sheet stands at a stage; noise is told of what was evaluated.

/** A sheet as it stands while it is typed: what it comes to, what is drawn of it, and what it is asked. */
export function useStandingSheet(
  props: { readonly whole: WholeHead; readonly sheet?: Sheet; readonly sources: readonly Source[] },
  { draft, set }: Pick<RecordForm<'sheet'>, 'draft' | 'set'>,
  table: Pick<ReturnType<typeof useSheetCells>, 'rows' | 'cells'>,
) {
  const settings = useSettings();
  /** The sheet as it stands, without the rows that cannot be read yet. */
  const standing = computed(
    () => ({ ...draft.value, id: props.sheet?.id ?? 'draft', rows: table.rows.value }) as Sheet,
  );
  const result = computed(() => {
    try {
      return evaluateSheetOf(props.whole, standing.value);
    } catch {
      return undefined;
    }
  });
  const judging = useJudging();
  const books = computed(
    () => result.value && booksOf(props.whole, [standing.value], { ...judging.value, sources: props.sources }),
  );
  const series = computed(() =>
    SIDES.flatMap((side, index) => {
      const curve = result.value?.[side].curve;
      if (!curve) return [];
      const noisy = result.value![side].points.filter((p) => p.noisy).map((p) => p.lift);
      const notes = standing.value.rows.flatMap((r) => (r.note && r[side] ? [{ lift: r.lift.si, text: r.note }] : []));
      return [{ letter: '', name: side, index: index * 2, curve, colour: `var(--${side})`, noisy, notes }];
    }),
  );
  const isDifference = computed(() => draft.value.setup.reads === 'difference');
  const differences = computed(() =>
    SIDES.map((side) => ({ side, points: differencePoints(standing.value, side) })).filter((s) => s.points.length > 0),
  );
  const baseline = computed(
    () => props.whole.sheets.find((s) => s.id === draft.value.baselineId)?.title ?? 'its baseline',
  );

  // What breaks the shape is asked about, never changed by itself.
  const calls = useListOf('call');
  /** It hangs on how the sheet was taken: typing a row reads no other sheet again. */
  const expected = computed(() => {
    const { stageId, sourceId, kind, intakePortId, setup } = draft.value;
    const taken = {
      id: props.sheet?.id ?? 'draft',
      stageId: stageId!,
      sourceId,
      kind,
      intakePortId,
      setup,
    };
    return expectations(props.whole, taken, calls.data.value ?? []);
  });
  const settled = ref(new Set<string>());
  /** A sister runner's curve on each side: of this stage and bench, tested in this bore. */
  const besides = computed(() => {
    const { stageId, sourceId, kind, intakePortId, setup } = draft.value;
    const taken = { id: props.sheet?.id ?? 'draft', stageId: stageId!, sourceId, kind, intakePortId, setup };
    const [sister] = sisterSheets(props.whole.sheets, taken).filter((s) => s.setup.reads !== 'difference');
    const read = sister && evaluateSheetOf(props.whole, sister);
    return read
      ? Object.fromEntries(SIDES.flatMap((side) => (read[side].curve ? [[side, read[side].curve]] : [])))
      : {};
  });
  /** A reading that was looked at stays so, for the verdict too; other questions are put by for this visit. */
  const settle = (key: string): void =>
    isLookedKey(key)
      ? set('excused', excusedFor(draft.value.excused, key, 'looked at again: it is right'))
      : void settled.value.add(key);
  const family = useFamily(
    () => props.whole.head.class,
    () => standing.value,
    () => result.value,
  );
  const questions = computed(() =>
    sheetQuestions(
      {
        sheet: standing.value,
        cells: table.cells.value,
        result: result.value,
        besides: besides.value,
        expected: expected.value,
        family: family.value,
        system: settings.system,
        say: settings.say,
      },
      (now) => (table.cells.value = now),
    ).filter((q) => !settled.value.has(q.key) && !(q.key in (draft.value.excused ?? {}))),
  );
  return { standing, result, books, series, isDifference, differences, baseline, questions, settle };
}
