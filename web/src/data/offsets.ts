import type { Gain, OffsetResult, Side } from '@alluvium/core';
import { onScopeDispose, ref, shallowRef, watch } from 'vue';
import type { NetOutline, OffsetAnswer, OffsetQuestion } from './offsets.worker.js';
import { onBack } from './reach.js';

export interface NetAsk {
  readonly side: Side;
  readonly from?: number;
  readonly to?: number | undefined;
  /** One head left out. */
  readonly without?: string;
  /** Which state of the library it is of: another one is another net. */
  readonly version: number;
  readonly weigh: boolean;
}
const addressOf = ({ side, from = 0, to, without }: NetAsk): string =>
  `/api/claims/net?${new URLSearchParams({
    side,
    from: String(from),
    ...(to === undefined ? {} : { to: String(to) }),
    ...(without ? { without } : {}),
  })}`;

/** The net of sources, fetched and solved beside the page, and its candidates weighed; a new one stops the one before it. */
export function useOffsets(wanted: () => NetAsk | undefined) {
  const net = shallowRef<NetOutline>();
  const result = shallowRef<OffsetResult>();
  const gains = shallowRef<readonly Gain[]>([]);
  const progress = ref(0);
  const problem = ref('');
  let worker: Worker | undefined;
  let begun = '';
  const stop = () => {
    worker?.terminate();
    worker = undefined;
  };
  function begin(now: NetAsk): void {
    stop();
    progress.value = 0;
    problem.value = '';
    worker = new Worker(new URL('./offsets.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<OffsetAnswer>) => {
      if ('progress' in data) progress.value = data.progress;
      else if ('problem' in data) {
        problem.value = data.problem;
        begun = '';
        stop();
      } else if ('result' in data) {
        net.value = data.net;
        result.value = data.result;
      } else {
        gains.value = data.gains;
        stop();
      }
    };
    worker.postMessage({ url: addressOf(now), weigh: now.weigh } satisfies OffsetQuestion);
  }
  watch(
    wanted,
    (now) => {
      const key = JSON.stringify(now ?? null);
      if (key === begun) return;
      begun = key;
      if (now) return begin(now);
      stop();
      net.value = undefined;
      result.value = undefined;
      gains.value = [];
    },
    { immediate: true },
  );
  onScopeDispose(
    onBack(() => {
      const now = wanted();
      if (problem.value && now) begin(now);
    }),
  );
  onScopeDispose(stop);
  return { net, result, gains, progress, problem };
}
