import { sourceOffsets, type Candidate, type Gain, type OffsetData, type OffsetResult } from '@alluvium/core';
import { onScopeDispose, ref, shallowRef, watch } from 'vue';
import type { OffsetAnswer, OffsetQuestion } from './offsets.worker.js';

/** The net of sources solved beside the page, and its candidates weighed; a new net stops the one before it. */
export function useOffsets(net: () => { data: OffsetData; candidates?: readonly Candidate[] } | undefined) {
  const result = shallowRef<OffsetResult>();
  const gains = shallowRef<readonly Gain[]>([]);
  const progress = ref(0);
  let worker: Worker | undefined;
  const stop = () => {
    worker?.terminate();
    worker = undefined;
  };
  watch(
    net,
    (now) => {
      stop();
      result.value = undefined;
      gains.value = [];
      progress.value = 0;
      if (!now) return;
      const { data, candidates = [] } = now;
      // Nothing to solve is no work for a worker; one ended while it still loads would leave its request open.
      if (data.point.length === 0) {
        result.value = sourceOffsets(data);
        return;
      }
      worker = new Worker(new URL('./offsets.worker.ts', import.meta.url), { type: 'module' });
      worker.onmessage = (event: MessageEvent<OffsetAnswer>) => {
        if ('progress' in event.data) progress.value = event.data.progress;
        else if ('result' in event.data) result.value = event.data.result;
        else {
          gains.value = event.data.gains;
          stop();
        }
      };
      const question: OffsetQuestion = {
        data: {
          ...data,
          point: Int32Array.from(data.point),
          source: Int32Array.from(data.source),
          logFlow: Float64Array.from(data.logFlow),
        },
        candidates: candidates.map(({ key, points }) => ({ key, points: [...points] })),
      };
      worker.postMessage(question);
    },
    { immediate: true },
  );
  onScopeDispose(stop);
  return { result, progress, gains };
}
