import { defineStore } from 'pinia';
import { evaluateHead, type HeadEvaluation, type LineupView, type WholeHead } from '@alluvium/records';
import { computed, ref, type ComputedRef } from 'vue';
import { useLineup } from '../api/queries.js';
import { useActiveBuild, type ActiveBuild } from './build.js';

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

function readLineup(active: ActiveBuild, view: LineupView): CompareHead[] {
  if (!active.target) return [];
  return view.entries.map(({ entry, whole }, index) => ({
    id: entry.id,
    letter: letterOf(index),
    index,
    whole,
    chosenSheetId: entry.sheetId,
    name: whole.head.name,
    ...evaluateHead(active.build, active.core, active.target!, whole, entry.stageId, entry.sheetId),
  }));
}

export interface Comparison {
  readonly active: ComputedRef<ActiveBuild | undefined>;
  readonly view: ComputedRef<LineupView | undefined>;
  /** Every head of the lineup, in order. */
  readonly heads: ComputedRef<CompareHead[]>;
  /** Those not hidden. */
  readonly shown: ComputedRef<CompareHead[]>;
  readonly loading: ComputedRef<boolean>;
}

/** The lineup of the build at hand, computed once per change of data: hiding a head computes nothing again. */
export function useComparison(): Comparison {
  const { active, loading } = useActiveBuild();
  const hidden = useHidden();
  const query = useLineup(() => active.value?.build.id ?? '');
  const view = computed(() => query.data.value);
  const heads = computed(() => (active.value && view.value ? readLineup(active.value, view.value) : []));
  return {
    active,
    view,
    heads,
    shown: computed(() => heads.value.filter((h) => !hidden.letters.has(h.letter))),
    loading: computed(() => loading.value || (active.value !== undefined && query.isPending.value)),
  };
}
