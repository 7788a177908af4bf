import { BenchSetup, blankSetup, fingerprint, unanswered, type Session, setupInForce } from '@alluvium/records';
import { useStorage } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import type { SessionPage } from '../data/session.js';
import { useChange } from '../data/useChange.js';

interface Gate {
  readonly page: SessionPage;
  readonly session: Session;
}

/** The answers of a set-up gate while they are typed, and their saving; `done` when nothing is open any more. */
export function useGate(props: Gate, done: () => void) {
  const stored = computed(() => setupInForce(props.session));
  /** What is typed stays in this browser until it is saved. */
  const kept = useStorage<Record<string, BenchSetup>>('alluvium.bench.setup', {});
  const draft = ref<BenchSetup>(kept.value[props.session.id] ?? stored.value);
  const unreadable = ref<Record<string, string>>({});
  const problems = ref<Record<string, string>>({});
  const dirty = computed(() => fingerprint(draft.value) !== fingerprint(stored.value));
  watch(draft, (now) => {
    const { [props.session.id]: _mine, ...others } = kept.value;
    kept.value = dirty.value ? { ...others, [props.session.id]: now } : others;
  });
  watch(stored, (now, before) => {
    // Saved elsewhere while nothing was typed here.
    if (fingerprint(draft.value) === fingerprint(before)) draft.value = now;
  });
  const put = (change: Partial<BenchSetup>) => {
    draft.value = { ...draft.value, ...change };
    for (const k of Object.keys(change)) delete problems.value[k];
  };
  const used = computed(() =>
    (props.page.whole.value?.readings ?? []).some((r) => r.setup === props.session.setups.length - 1),
  );

  const change = useChange('here');
  const saving = change.busy;
  async function save(): Promise<void> {
    const wrong = Object.values(unreadable.value).find(Boolean);
    if (wrong) {
      problems.value = { '': wrong };
      return;
    }
    const parsed = BenchSetup.safeParse(draft.value);
    if (!parsed.success) {
      problems.value = Object.fromEntries(parsed.error.issues.map((i) => [i.path.join('.'), i.message]));
      return;
    }
    problems.value = {};
    const answer = await change.run(
      () => props.page.saveSetup(parsed.data),
      ({ split }) => (split ? 'A new set-up begins here, and with it a new sheet.' : 'The set-up is kept.'),
    );
    if (!answer) {
      problems.value = {
        '': change.refusal.value,
        ...Object.fromEntries(
          (change.problem.value?.fields ?? []).map((f) => [f.field.replace(/^setup\./, ''), f.message]),
        ),
      };
      return;
    }
    const { [props.session.id]: _mine, ...others } = kept.value;
    kept.value = others;
    if (unanswered(parsed.data, props.session.plan.sides).length === 0) done();
  }
  const reset = () => (draft.value = used.value ? stored.value : blankSetup());
  return { draft, unreadable, problems, dirty, put, used, saving, save, reset };
}
