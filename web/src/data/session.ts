import {
  samePoint,
  type BenchSetup,
  type Done,
  type ReadingWrite,
  type Recorded,
  type Session,
  type WholeSession,
} from '@alluvium/records';
import { useQueryClient } from '@tanstack/vue-query';
import { useStorage } from '@vueuse/core';
import { computed, onScopeDispose, ref, watch, type ComputedRef, type Ref } from 'vue';
import { pageId, useBenchLive } from '../bench/live.js';
import { ApiProblem, request } from './client.js';
import { asOwn } from './feed.js';
import { KEYS, isTouched, refresh } from './keys.js';
import { standingOf, useWholeSession } from './queries.js';

/** Answer to a set-up: the session now, and whether a new set-up and so a new sheet began. */
export interface SetupSaved extends Done {
  readonly record: Session;
  readonly split: boolean;
}

export interface SessionPage {
  readonly whole: ComputedRef<WholeSession | undefined>;
  readonly error: ComputedRef<string>;
  readonly loading: ComputedRef<boolean>;
  /** A reading the server has not acknowledged: sent again until it is. */
  readonly pending: ComputedRef<ReadingWrite | undefined>;
  /** What stands in the way of the pending one. */
  readonly trouble: Ref<string>;
  /** Records one reading. Undefined while the server cannot be reached: the reading is kept and sent again. @throws ApiProblem when it is refused. */
  readonly record: (reading: ReadingWrite) => Promise<Recorded | undefined>;
  readonly takeBack: () => Promise<Recorded>;
  readonly noise: (id: string, noisy: boolean) => Promise<void>;
  readonly saveSetup: (setup: BenchSetup) => Promise<SetupSaved>;
}

const RETRY_MS = 1_500;

/** One bench session: read once, kept current by what is recorded here and told from elsewhere. */
export function useSession(id: () => string): SessionPage {
  const client = useQueryClient();
  const live = useBenchLive();
  const query = useWholeSession(id);
  const standing = standingOf(query);
  const whole = computed(() => query.data.value);
  const key = () => [...KEYS.session(id())];
  const patch = (change: (now: WholeSession) => WholeSession) =>
    client.setQueryData<WholeSession>(key(), (now) => now && change(now));

  /** Survives a reload and a server that is away: the reading is not lost before it is stored. */
  const waiting = useStorage<Record<string, ReadingWrite>>('alluvium.bench.waiting', {});
  const pending = computed(() => waiting.value[id()]);
  const trouble = ref('');
  let timer: ReturnType<typeof setTimeout> | undefined;

  const put = (answer: Recorded) =>
    patch((now) => {
      const others = now.readings
        .filter((r) => r.id !== answer.reading.id)
        .map((r) =>
          answer.reading.state === 'kept' && r.state === 'kept' && samePoint(r, answer.reading)
            ? { ...r, state: 'retaken' as const }
            : r,
        );
      const sheets = now.sheets.filter((s) => s.id !== answer.sheet?.id);
      return {
        ...now,
        session: answer.session,
        readings: [...others, answer.reading].sort((a, b) => a.at.localeCompare(b.at)),
        sheets: answer.sheet ? [...sheets, answer.sheet] : sheets,
      };
    });

  /** The session itself is patched from each answer; what else a reading made old is asked for anew. */
  const elsewhere = ({ touched }: Done) =>
    void (touched === 'all'
      ? client.invalidateQueries()
      : client.invalidateQueries({
          predicate: (q) => q.queryKey[0] !== 'session' && touched.some((t) => isTouched(q, t)),
        }));

  async function send(reading: ReadingWrite): Promise<Recorded | undefined> {
    clearTimeout(timer);
    try {
      const answer = await asOwn(() =>
        request<Recorded>('POST', `/api/session/${id()}/reading`, { ...reading, client: pageId() }),
      );
      forget();
      put(answer);
      elsewhere(answer);
      return answer;
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      if (error.status > 0 && error.status < 500) {
        forget();
        throw error;
      }
      trouble.value = 'The server does not answer. The reading is kept here and sent again.';
      timer = setTimeout(() => void resend(), RETRY_MS);
      return undefined;
    }
  }
  function forget(): void {
    const { [id()]: _sent, ...others } = waiting.value;
    waiting.value = others;
    trouble.value = '';
  }
  async function resend(): Promise<void> {
    const reading = pending.value;
    if (!reading) return;
    try {
      await send(reading);
    } catch (error) {
      trouble.value = (error as Error).message;
    }
  }
  watch(id, () => void resend(), { immediate: true });
  onScopeDispose(() => clearTimeout(timer));

  // Somebody else recorded, or the line came back after a gap.
  watch(
    () => [live.changes, live.connected],
    () => {
      if (live.connected) void client.invalidateQueries({ queryKey: key() });
    },
  );

  return {
    whole,
    error: standing.error,
    loading: standing.loading,
    pending,
    trouble,
    record: (reading) => {
      waiting.value = { ...waiting.value, [id()]: reading };
      return send(reading);
    },
    takeBack: async () => {
      const answer = await asOwn(() =>
        request<Recorded>('POST', `/api/session/${id()}/takeback`, { client: pageId() }),
      );
      put(answer);
      elsewhere(answer);
      return answer;
    },
    noise: async (readingId, noisy) => {
      const { touched } = await asOwn(() =>
        request<Done>('POST', `/api/session/${id()}/reading/${readingId}/noise`, { client: pageId(), noisy }),
      );
      await refresh(client, touched);
    },
    saveSetup: async (setup) => {
      const answer = await request<SetupSaved>('PUT', `/api/session/${id()}/setup`, { client: pageId(), setup });
      patch((now) => ({ ...now, session: answer.record }));
      return answer;
    },
  };
}
