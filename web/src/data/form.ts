import {
  NOUNS,
  addition,
  fingerprint,
  replacement,
  type Noun,
  type Quantity,
  type RecordOf,
  type Step,
} from '@alluvium/records';
import { computed, onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue';
import type { ApiProblem } from './client.js';
import { draftKey, dropDraft, keepDraft } from './drafts.js';
import { newId } from './ids.js';
import { onBack } from './reach.js';
import { lacking } from './required.js';
import { useChange, type Acts } from './useChange.js';
import { useUndo } from './undo.js';

// kept!: what was restored was kept.
// conflict.value!: settled only where there is one.

/** Null where it must be typed or picked and nobody did yet; a choice, a list or a group of fields starts as what is usual. */
type Typed<T> = Quantity extends T ? T | null : number extends T ? T | null : string extends T ? T | null : T;
/** Choices that start as none, since none is usual. */
interface StartsOpen {
  readonly operation: 'kind';
}
type OpenOf<N extends Noun> = N extends keyof StartsOpen ? StartsOpen[N] : never;
/** A record while it is typed: required fields may still be empty. */
export type Draft<N extends Noun> = {
  [K in keyof RecordOf<N>]: K extends OpenOf<N> ? RecordOf<N>[K] | null : Typed<RecordOf<N>[K]>;
};

const copy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** What somebody saved meanwhile: as it stood when this form was opened, as it is typed here, as it stands now. */
export interface Conflict<N extends Noun> {
  readonly base: object;
  readonly mine: Draft<N>;
  readonly theirs: RecordOf<N>;
}

export interface RecordForm<N extends Noun> {
  readonly noun: N;
  readonly draft: Ref<Draft<N>>;
  /** Sentences by field path; the empty path is the form as a whole. */
  readonly problems: Ref<Record<string, string>>;
  readonly dirty: Ref<boolean>;
  readonly saving: Readonly<Ref<boolean>>;
  /** Set where the form saves itself: when it last did, and whether the server did not take it yet. */
  readonly itself: { readonly at: Readonly<Ref<Date | undefined>>; readonly waits: Readonly<Ref<boolean>> } | undefined;
  /** It is over a record that is on the server already. */
  readonly stands: Readonly<Ref<boolean>>;
  /** The draft was kept from an earlier visit. */
  readonly restored: Ref<boolean>;
  readonly conflict: Ref<Conflict<N> | undefined>;
  readonly save: () => Promise<RecordOf<N> | undefined>;
  /** What the schema wants and nobody gave yet, by the words of its fields. */
  readonly lacks: Readonly<Ref<readonly string[]>>;
  /** Throws away what is not saved; it can be undone. `and` is told of both, whether what was lost is put back. */
  readonly discard: (and?: (putBack: boolean) => void) => void;
  /** Puts one field of the draft. */
  readonly set: (name: string, value: unknown) => void;
  /** Fields whose text cannot be read yet, reported by the fields themselves. */
  readonly typing: (path: string, problem: string) => void;
  /** Saves what came of both versions. */
  readonly keepBoth: (merged: Draft<N>) => Promise<RecordOf<N> | undefined>;
  readonly takeTheirs: () => void;
  /** Leaves the choice between both versions for later. */
  readonly decideLater: () => void;
}

export interface FormOptions<N extends Noun> {
  /** Keeps the drafts of new records of different places apart. */
  readonly scope?: string;
  /** What is saved with it in the same change, before it, and the draft that refers to it: a port or a source that is new. */
  readonly resolve?: (draft: Draft<N>) => { readonly draft: Draft<N>; readonly first: readonly Step[] };
  /**
   * A stored record saves itself a moment after the last key, wherever all of it can be read: for records that are forms.
   * What was measured is saved by hand.
   */
  readonly autosave?: boolean;
  /** Told of the record at once when it is saved, before views are asked for anew. */
  readonly saved?: (record: RecordOf<N>) => void;
}

/** Quiet for so long, and a form that saves itself does, ms. */
const SETTLED_MS = 1_500;

/**
 * A form over one stored record, or a new one when `stored` gives none. What is typed is kept in this browser until it
 * is saved or discarded, and checked with the same schema the server uses.
 */
export function useRecordForm<N extends Noun>(
  noun: N,
  stored: () => RecordOf<N> | undefined,
  blank: () => Draft<N>,
  what: (record: RecordOf<N>) => string,
  { scope = '', resolve = (draft) => ({ draft, first: [] }), saved = () => {}, autosave = false }: FormOptions<N> = {},
): RecordForm<N> {
  const change = useChange('here');
  const quietly = useChange('quietly');
  const undo = useUndo();
  const draft = ref(copy(blank())) as Ref<Draft<N>>;
  const base = ref('');
  const problems = ref<Record<string, string>>({});
  const unreadable = ref<Record<string, string>>({});
  const restored = ref(false);
  const conflict = shallowRef<Conflict<N>>();
  const key = () => draftKey(noun, stored()?.id ?? `new${scope}`);
  /** The id a new record will have: the same when it is sent again because the answer did not come. */
  let idOfNew = newId();

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
      if (loadedKey !== '' && loadedKey !== key() && now?.id === draft.value.id) {
        // A new record was just saved here: what was typed since goes on under its own name.
        dropDraft(loadedKey);
        loadedKey = key();
        if (dirty.value) keepDraft(loadedKey, draft.value);
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
      if (fingerprint(draft.value) === base.value) dropDraft(key());
      else keepDraft(key(), draft.value);
      settle();
    },
    { deep: true },
  );

  function typing(path: string, problem: string): void {
    if (problem) unreadable.value[path] = problem;
    else delete unreadable.value[path];
    delete problems.value[path];
  }

  /** Sentences by field of what the schema refuses. */
  function refused(issues: readonly { readonly path: PropertyKey[]; readonly message: string }[]) {
    const found: Record<string, string> = {};
    for (const issue of issues) {
      const path = issue.path.join('.');
      // A field that holds nothing is simply missing, whatever the schema says of nothing.
      const missing =
        path !== '' &&
        path.split('.').reduce<unknown>((v, k) => (v as Record<string, unknown> | null)?.[k], draft.value) == null;
      found[path] ??= missing ? 'This is needed.' : issue.message;
    }
    return found;
  }

  /** The record as it stands in the draft with what goes before it, or what the schema refuses of it. */
  function prepared(id: string) {
    const resolved = resolve(draft.value);
    const parsed = NOUNS[noun].safeParse({ ...resolved.draft, id });
    if (!parsed.success) return { success: false, issues: parsed.error.issues } as const;
    return {
      success: true,
      record: parsed.data as RecordOf<N>,
      first: resolved.first,
      sent: copy(draft.value),
    } as const;
  }
  const send = (
    by: Acts,
    { record, first, sent }: Extract<ReturnType<typeof prepared>, { success: true }>,
    current: RecordOf<N> | undefined,
  ) =>
    by.make(
      [
        ...first,
        current ? replacement(noun, { ...record, version: draft.value.version as number }) : addition(noun, record),
      ],
      ({ records }) => what(records.at(-1) as RecordOf<N>),
      ({ records }) => void take(records.at(-1) as RecordOf<N>, sent),
    );
  /** Lays both versions before the user where somebody saved meanwhile. */
  function clashes(problem: ApiProblem | undefined): boolean {
    if (problem?.status !== 409 || !problem.current) return false;
    conflict.value = {
      base: JSON.parse(base.value) as object,
      mine: copy(draft.value),
      theirs: problem.current as RecordOf<N>,
    };
    return true;
  }

  const savedAt = ref<Date>();
  const waits = ref(false);
  let quiet: ReturnType<typeof setTimeout> | undefined;
  let underway: Promise<unknown> = Promise.resolve();
  function settle(): void {
    clearTimeout(quiet);
    if (autosave && dirty.value && !restored.value) quiet = setTimeout(() => (underway = saveItself()), SETTLED_MS);
  }
  /** Saves what can be read; what stands in the way is left to the next key, or to the button, which says it. */
  async function saveItself(): Promise<void> {
    clearTimeout(quiet);
    const current = stored();
    if (
      current?.id !== draft.value.id ||
      !dirty.value ||
      restored.value ||
      conflict.value ||
      change.busy.value ||
      quietly.busy.value
    )
      return;
    if (Object.keys(unreadable.value).length > 0) return;
    const ready = prepared(current.id);
    if (!ready.success) return;
    const answered = await send(quietly, ready, current);
    if (answered) savedAt.value = new Date();
    waits.value = !answered && (quietly.problem.value?.unanswered ?? false);
    // Somebody else saved meanwhile: the choice is offered at once, as by the button.
    if (!answered && clashes(quietly.problem.value)) problems.value = { '': quietly.refusal.value };
  }
  if (autosave) {
    onScopeDispose(
      onBack(() => {
        if (waits.value) underway = saveItself();
      }),
    );
    onScopeDispose(() => void saveItself());
  }

  async function save(): Promise<RecordOf<N> | undefined> {
    clearTimeout(quiet);
    await underway;
    const stands = stored();
    if (autosave && stands && !dirty.value) {
      undo.announce(what(stands));
      return stands;
    }
    const firstUnreadable = Object.values(unreadable.value)[0];
    if (firstUnreadable) {
      problems.value = { '': firstUnreadable };
      return undefined;
    }
    const current = stored();
    const ready = prepared(current?.id ?? idOfNew);
    if (!ready.success) {
      problems.value = refused(ready.issues);
      return undefined;
    }
    const answered = await send(change, ready, current);
    if (!answered) {
      const problem = change.problem.value;
      clashes(problem);
      problems.value = {
        '': change.refusal.value,
        ...(problem?.step === ready.first.length
          ? Object.fromEntries(problem.fields.map((f) => [f.field, f.message]))
          : {}),
      };
      return undefined;
    }
    return answered.records.at(-1) as RecordOf<N>;
  }

  /** The record as it stands now becomes what the form is over; what was typed since it was sent stays. */
  function take(record: RecordOf<N>, sent = draft.value): RecordOf<N> {
    const now = copy(record) as Draft<N>;
    for (const name of Object.keys(sent) as (keyof Draft<N>)[])
      if (fingerprint(draft.value[name]) !== fingerprint(sent[name])) now[name] = draft.value[name];
    dropDraft(key());
    base.value = fingerprint(record);
    draft.value = now;
    problems.value = {};
    restored.value = false;
    conflict.value = undefined;
    idOfNew = newId();
    saved(record);
    return record;
  }

  function discard(and: (putBack: boolean) => void = () => {}): void {
    const lost = copy(draft.value);
    const place = key();
    const act = () => {
      dropDraft(place);
      if (place === key()) load(true);
      and(false);
    };
    const back = () => {
      keepDraft(place, lost);
      // The form may be over another record by now: then the draft waits where it belongs.
      if (place === key()) draft.value = copy(lost);
      and(true);
    };
    act();
    undo.didHere('What was not saved is discarded.', back, act);
  }
  async function keepBoth(merged: Draft<N>): Promise<RecordOf<N> | undefined> {
    const { theirs } = conflict.value!;
    draft.value = { ...copy(merged), version: theirs.version } as Draft<N>;
    conflict.value = undefined;
    if (stored()) return save();
    // It was saved already under the id it was to have: what is typed now replaces that.
    const answered = await change.make(
      [replacement(noun, { ...draft.value, id: theirs.id } as RecordOf<N>)],
      ({ records }) => what(records[0] as RecordOf<N>),
      ({ records }) => void take(records[0] as RecordOf<N>),
    );
    if (answered) return answered.records[0] as RecordOf<N>;
    problems.value = { '': change.refusal.value };
    return undefined;
  }
  return {
    noun,
    draft,
    problems,
    dirty,
    saving: change.busy,
    restored,
    stands: computed(() => stored() !== undefined),
    itself: autosave ? { at: savedAt, waits } : undefined,
    conflict,
    lacks: computed(() => lacking(noun, resolve(draft.value).draft)),
    save,
    discard,
    typing,
    set: (name, value) => void Object.assign(draft.value, { [name]: value }),
    keepBoth,
    takeTheirs: () => void take(conflict.value!.theirs),
    decideLater: () => (conflict.value = undefined),
  };
}
