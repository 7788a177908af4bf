import { NOUNS, fingerprint, type Noun, type RecordOf } from '@alluvium/records';
import { useQueryClient } from '@tanstack/vue-query';
import { computed, ref, shallowRef, watch, type Ref } from 'vue';
import { ApiProblem, add, save as put } from '../api/client.js';
import { useUndo } from '../state/undo.js';

/** A record while it is typed: required fields may still be empty. */
export type Draft<N extends Noun> = { [K in keyof RecordOf<N>]: RecordOf<N>[K] | null };

const storageKey = (noun: Noun, id: string) => `alluvium.draft.${noun}.${id}`;
const copy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

export interface RecordForm<N extends Noun> {
  readonly draft: Ref<Draft<N>>;
  /** Sentences by field path; the empty path is the form as a whole. */
  readonly problems: Ref<Record<string, string>>;
  readonly dirty: Ref<boolean>;
  readonly saving: Ref<boolean>;
  /** The draft was kept from an earlier visit. */
  readonly restored: Ref<boolean>;
  /** The stored record that somebody saved meanwhile. */
  readonly conflict: Ref<RecordOf<N> | undefined>;
  readonly save: () => Promise<RecordOf<N> | undefined>;
  readonly discard: () => void;
  /** Puts one field of the draft. */
  readonly set: (name: string, value: unknown) => void;
  /** Fields whose text cannot be read yet, reported by the fields themselves. */
  readonly typing: (path: string, problem: string) => void;
  readonly keepMine: () => Promise<RecordOf<N> | undefined>;
  readonly takeTheirs: () => void;
  /** Leaves the choice between both versions for later. */
  readonly decideLater: () => void;
}

/**
 * A form over one stored record, or a new one when `stored` gives none. What is typed is kept in this browser until it
 * is saved or discarded, and checked with the same schema the server uses. `scope` keeps the drafts of new records of
 * different places apart.
 */
export function useRecordForm<N extends Noun>(
  noun: N,
  stored: () => RecordOf<N> | undefined,
  blank: () => Draft<N>,
  what: (record: RecordOf<N>) => string,
  scope = '',
): RecordForm<N> {
  const client = useQueryClient();
  const undo = useUndo();
  const draft = ref(copy(blank())) as Ref<Draft<N>>;
  const base = ref('');
  const problems = ref<Record<string, string>>({});
  const unreadable = ref<Record<string, string>>({});
  const saving = ref(false);
  const restored = ref(false);
  const conflict = shallowRef<RecordOf<N>>();
  const key = () => storageKey(noun, stored()?.id ?? `new${scope}`);

  function load(fresh: boolean): void {
    const source = copy((stored() ?? blank()) as Draft<N>);
    base.value = fingerprint(source);
    const kept = fresh ? null : localStorage.getItem(key());
    restored.value = kept !== null && fingerprint(JSON.parse(kept)) !== base.value;
    draft.value = restored.value ? (JSON.parse(kept!) as Draft<N>) : source;
    problems.value = {};
    unreadable.value = {};
  }
  const dirty = computed(() => fingerprint(draft.value) !== base.value || Object.keys(unreadable.value).length > 0);

  let loadedKey = '';
  watch(
    stored,
    (now) => {
      if (loadedKey !== key() && now?.id === draft.value.id) {
        // A new record was just saved here: what was typed since goes on under its own name.
        localStorage.removeItem(loadedKey);
        loadedKey = key();
        if (dirty.value) localStorage.setItem(loadedKey, JSON.stringify(draft.value));
      }
      if (loadedKey === key() && (dirty.value || fingerprint(now) === base.value)) return;
      loadedKey = key();
      load(false);
    },
    { immediate: true },
  );
  watch(
    draft,
    () => {
      if (fingerprint(draft.value) === base.value) localStorage.removeItem(key());
      else localStorage.setItem(key(), JSON.stringify(draft.value));
    },
    { deep: true },
  );

  function typing(path: string, problem: string): void {
    if (problem) unreadable.value[path] = problem;
    else delete unreadable.value[path];
    delete problems.value[path];
  }

  async function save(): Promise<RecordOf<N> | undefined> {
    const firstUnreadable = Object.values(unreadable.value)[0];
    if (firstUnreadable) {
      problems.value = { '': firstUnreadable };
      return undefined;
    }
    const current = stored();
    const parsed = NOUNS[noun].safeParse({ ...draft.value, id: current?.id ?? 'new' });
    if (!parsed.success) {
      const found: Record<string, string> = {};
      for (const issue of parsed.error.issues) {
        const path = issue.path.join('.');
        // A field that holds nothing is simply missing, whatever the schema says of nothing.
        const missing =
          path !== '' &&
          path.split('.').reduce<unknown>((v, k) => (v as Record<string, unknown> | null)?.[k], draft.value) == null;
        found[path] ??= missing ? 'This is needed.' : issue.message;
      }
      problems.value = found;
      return undefined;
    }
    saving.value = true;
    try {
      const body: object = parsed.data;
      const answer = current
        ? await put(noun, { ...body, id: current.id, version: draft.value.version } as RecordOf<N>)
        : await add<N>(noun, Object.fromEntries(Object.entries(body).filter(([k]) => k !== 'id')));
      localStorage.removeItem(key());
      base.value = fingerprint(answer.record);
      draft.value = copy(answer.record) as Draft<N>;
      problems.value = {};
      restored.value = false;
      conflict.value = undefined;
      undo.did(what(answer.record), answer.batch);
      await client.invalidateQueries();
      return answer.record;
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      if (error.status === 409 && error.current) conflict.value = error.current as RecordOf<N>;
      problems.value = { '': error.message, ...Object.fromEntries(error.fields.map((f) => [f.field, f.message])) };
      return undefined;
    } finally {
      saving.value = false;
    }
  }

  function discard(): void {
    localStorage.removeItem(key());
    load(true);
  }
  async function keepMine(): Promise<RecordOf<N> | undefined> {
    draft.value.version = conflict.value!.version as never;
    conflict.value = undefined;
    return save();
  }
  function takeTheirs(): void {
    const theirs = conflict.value!;
    conflict.value = undefined;
    localStorage.removeItem(key());
    base.value = fingerprint(theirs);
    draft.value = copy(theirs) as Draft<N>;
    problems.value = {};
    void client.invalidateQueries();
  }
  return {
    draft,
    problems,
    dirty,
    saving,
    restored,
    conflict,
    save,
    discard,
    typing,
    set: (name, value) => void Object.assign(draft.value, { [name]: value }),
    keepMine,
    takeTheirs,
    decideLater: () => (conflict.value = undefined),
  };
}
