import { defineStore, storeToRefs } from 'pinia';
import {
  evaluateHead,
  sheetDetails,
  type HeadEvaluation,
  type JudgingContext,
  type LineupEntry,
  type LineupView,
  type LineupWrite,
  type WholeHead,
  type Written,
} from '@alluvium/records';
import { useQueryClient } from '@tanstack/vue-query';
import { computed, ref, type ComputedRef } from 'vue';
import { useJudging } from './judging.js';
import { request } from './client.js';
import { newId } from './ids.js';
import { KEYS } from './keys.js';
import { readLineup, standingOf, useLineup } from './queries.js';
import { useActiveBuild, type ActiveBuild } from './build.js';
import { useSimulated } from './simulated.js';

// active.target!: heads are judged only with a target.

/** One head of the lineup, read and ready to be drawn. */
export interface CompareHead extends HeadEvaluation {
  readonly id: string;
  readonly letter: string;
  readonly index: number;
  readonly whole: WholeHead;
  readonly chosenSheetId: string | null;
  readonly name: string;
}

export const letterOf = (index: number): string => String.fromCharCode(65 + index);

/** Which heads are hidden in this browser's view, by letter. */
export const useHidden = defineStore('hidden', () => {
  const letters = ref(new Set<string>());
  function toggle(letter: string): void {
    const next = new Set(letters.value);
    if (!next.delete(letter)) next.add(letter);
    letters.value = next;
  }
  return { letters, toggle, set: (all: Iterable<string>) => (letters.value = new Set(all)) };
});

type Entry = LineupView['entries'][number];
interface Read {
  readonly active: ActiveBuild;
  readonly entry: Entry['entry'];
  readonly whole: WholeHead;
  readonly evaluation: HeadEvaluation;
  readonly context: JudgingContext;
}

/** A head that stands in the lineup more than once is named with what tells its entries apart: stage, else sheet. */
function nameAmong(
  all: readonly Read[],
  whole: WholeHead,
  { stage, sheet }: HeadEvaluation,
  sources: LineupView['sources'],
): string {
  const { head, ports } = whole;
  const own = all.filter((r) => r.whole.head.id === head.id);
  if (own.length === 1) return head.name;
  const alone = own.filter((r) => r.evaluation.stage.id === stage.id).length === 1;
  if (alone || !sheet) return `${head.name}, ${stage.name}`;
  const details = sheetDetails(sheet, ports, sources);
  return `${head.name}, ${[sheet.title, ...details].join(', ')}`;
}

/** Heads as they were last read: one whose data did not change is not evaluated again when another one does. */
export function lineupReader(
  context: () => JudgingContext,
  simulated: ReturnType<typeof useSimulated>,
): (active: ActiveBuild, view: LineupView) => CompareHead[] {
  let before: Read[] = [];
  return (active, view) => {
    if (!active.target) return [];
    const judging = { ...context(), sources: view.sources };
    const now = view.entries.map(({ entry, whole }): Read => {
      const known = before.find(
        (r) =>
          r.active === active &&
          r.whole === whole &&
          r.entry.stageId === entry.stageId &&
          r.entry.sheetId === entry.sheetId &&
          r.context.say === judging.say &&
          r.context.assumptions === judging.assumptions &&
          r.context.checked === judging.checked &&
          r.context.sources === judging.sources,
      );
      const evaluation =
        known?.evaluation ??
        evaluateHead(active.build, active.core, active.target!, whole, entry.stageId, entry.sheetId, judging);
      return { active, entry, whole, evaluation, context: judging };
    });
    before = now;
    const first = now[0];
    return now.map(({ entry, whole, evaluation }, index) => ({
      id: entry.id,
      letter: letterOf(index),
      index,
      whole,
      chosenSheetId: entry.sheetId,
      name: nameAmong(now, whole, evaluation, view.sources),
      ...evaluation,
      verdict: simulated.verdictOf(active, { whole, evaluation }, first, judging),
    }));
  };
}

export interface Comparison {
  readonly active: ComputedRef<ActiveBuild | undefined>;
  readonly view: ComputedRef<LineupView | undefined>;
  /** Every head of the lineup, in order. */
  readonly heads: ComputedRef<CompareHead[]>;
  /** Those not hidden. */
  readonly shown: ComputedRef<CompareHead[]>;
  readonly loading: ComputedRef<boolean>;
  readonly error: ComputedRef<string>;
}

/** The lineup of the build at hand, evaluated once for the whole application: hiding a head computes nothing again. */
const useLineupStore = defineStore('comparison', () => {
  const { active, loading, error } = useActiveBuild();
  const hidden = useHidden();
  const query = useLineup(() => active.value?.build.id ?? '');
  const view = computed(() => query.data.value);
  const judging = useJudging();
  const read = lineupReader(() => judging.value, useSimulated());
  const heads = computed(() => (active.value && view.value ? read(active.value, view.value) : []));
  const standing = standingOf(query);
  return {
    active,
    view,
    heads,
    shown: computed(() => heads.value.filter((h) => !hidden.letters.has(h.letter))),
    loading: computed(() => loading.value || standing.loading.value),
    error: computed(() => error.value || standing.error.value),
  };
});

export function useComparison(): Comparison {
  const store = useLineupStore();
  const { active, view, heads, shown, loading, error } = storeToRefs(store);
  return { active, view, heads, shown, loading, error } as unknown as Comparison;
}

/**
 * Adds heads behind those the lineup has. It is written as a whole: what stands in it is asked first, so that nothing that
 * was not yet here, or that another window put in, is lost.
 */
export function useAddToLineup() {
  const write = useWriteLineup();
  const client = useQueryClient();
  return async (buildId: string, more: readonly Pick<LineupEntry, 'stageId' | 'sheetId'>[]) => {
    const { entries } = await client.fetchQuery({
      queryKey: [...KEYS.lineup(buildId)],
      queryFn: () => readLineup(buildId),
      staleTime: 0,
    });
    return write(buildId, {
      entries: [
        ...entries.map(({ entry: { id, stageId, sheetId } }) => ({ id, stageId, sheetId })),
        ...more.map((entry) => ({ id: newId(), ...entry })),
      ],
    });
  };
}

/** Writes the lineup of a build; the answer replaces the cached one at once. */
export function useWriteLineup() {
  const client = useQueryClient();
  return async (buildId: string, write: LineupWrite): Promise<Written<LineupView>> => {
    const answer = await request<Written<LineupView>>('PUT', `/api/build/${buildId}/lineup`, write);
    client.setQueryData([...KEYS.lineup(buildId)], answer.record);
    return answer;
  };
}
