import { fingerprint, type Changed, type Extent, type Step } from '@alluvium/records';
import { useQueryClient } from '@tanstack/vue-query';
import { readonly, ref, shallowRef, type Ref, type ShallowRef } from 'vue';
import { ApiProblem, sendChange } from './client.js';
import { asOwn } from './feed.js';
import { refresh } from './keys.js';
import { useUndo } from './undo.js';

/** A page is not kept waiting longer than this for the views a change made old, ms. */
const CURRENT_WITHIN = 4_000;
const soon = () => new Promise<void>((done) => setTimeout(done, CURRENT_WITHIN));

/** Any answer to a change. */
interface Answer {
  readonly batch: number | null;
  readonly touched?: Extent;
}
type Said<T> = string | ((answer: T) => string);

export interface Acts {
  /** A change is under way. */
  readonly busy: Readonly<Ref<boolean>>;
  /** Why the last one did not go through, where it is told beside what was done. */
  readonly problem: ShallowRef<ApiProblem | undefined>;
  /** The sentence of it; empty when there is none. */
  readonly refusal: Readonly<Ref<string>>;
  /**
   * Makes one change of any number of steps, says what was done with a way back, and asks anew for what it made old.
   * Undefined when it was refused or the server is away: that is said, and nothing typed is lost.
   */
  readonly make: (
    steps: readonly Step[],
    said: Said<Changed>,
    /** Done at once with the answer, before views are asked for anew. */
    now?: (answer: Changed) => void,
  ) => Promise<Changed | undefined>;
  /** The same for a change with a door of its own: a photo, a lineup, a checklist. */
  readonly run: <T extends Answer>(work: () => Promise<T>, said: Said<T>) => Promise<T | undefined>;
}

/**
 * The one way to change anything on the server: guard, send, undo entry, message, conflict. A refusal is told in the
 * line at the foot, or `here`, by the caller, beside what was done; `quietly` all of it is told by the caller.
 */
export function useChange(tell: 'line' | 'here' | 'quietly' = 'line'): Acts {
  const client = useQueryClient();
  const undo = useUndo();
  const busy = ref(false);
  const problem = shallowRef<ApiProblem>();
  const refusal = ref('');
  let under: string[] = [];
  let last: Promise<unknown> = Promise.resolve();

  async function send<T extends Answer>(work: () => Promise<T>, said: Said<T>): Promise<T | undefined> {
    problem.value = undefined;
    refusal.value = '';
    try {
      const answer = await asOwn(work);
      (tell === 'quietly' ? undo.didQuietly : undo.did)(typeof said === 'string' ? said : said(answer), answer.batch);
      return answer;
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      problem.value = error;
      refusal.value = error.message;
      if (tell === 'line') undo.refused(error.message);
      // What stands there now is not what was on screen.
      if (error.status === 409 || error.status === 404) void refresh(client, 'all');
      return undefined;
    }
  }

  /** One after the other. What is under way already is not begun a second time: a double press is one. */
  async function inTurn<T extends Answer>(
    key: string | undefined,
    work: () => Promise<T>,
    said: Said<T>,
    now?: (answer: T) => void,
  ): Promise<T | undefined> {
    if (key !== undefined && under.includes(key)) return undefined;
    const mine = key ?? String(Math.random());
    under.push(mine);
    busy.value = true;
    const turn = last.then(() => send(work, said));
    last = turn.catch(() => undefined);
    let answer: T | undefined;
    try {
      answer = await turn;
      if (answer) now?.(answer);
    } finally {
      under = under.filter((k) => k !== mine);
      busy.value = under.length > 0;
    }
    if (answer) await Promise.race([refresh(client, answer.touched ?? 'all'), soon()]);
    return answer;
  }
  const sameAs = (steps: readonly Step[]) =>
    fingerprint(steps.map((s) => (s.do === 'add' ? { ...s, record: { ...s.record, id: '' } } : s)));

  return {
    busy: readonly(busy),
    problem,
    refusal: readonly(refusal),
    run: (work, said) => inTurn(undefined, work, said),
    make: (steps, said, now) => inTurn(sameAs(steps), () => sendChange(steps), said, now),
  };
}
