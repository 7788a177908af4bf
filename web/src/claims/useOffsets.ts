import { sourceOffsets, type OffsetData, type OffsetResult } from '@alluvium/core';
import { onScopeDispose, ref, shallowRef, watch } from 'vue';
import type { OffsetAnswer } from './offsets.worker.js';

/** The net of sources solved beside the page; a new net stops the one before it. */
export function useOffsets(data: () => OffsetData | undefined) {
  const result = shallowRef<OffsetResult>();
  const progress = ref(0);
  let worker: Worker | undefined;
  const stop = () => {
    worker?.terminate();
    worker = undefined;
  };
  watch(
    data,
    (net) => {
      stop();
      result.value = undefined;
      progress.value = 0;
      if (!net) return;
      // Nothing to solve is no work for a worker; one ended while it still loads would leave its request open.
      if (net.point.length === 0) {
        result.value = sourceOffsets(net);
        return;
      }
      worker = new Worker(new URL('./offsets.worker.ts', import.meta.url), { type: 'module' });
      worker.onmessage = (event: MessageEvent<OffsetAnswer>) => {
        if ('progress' in event.data) progress.value = event.data.progress;
        else {
          result.value = event.data.result;
          stop();
        }
      };
      worker.postMessage({
        ...net,
        point: Int32Array.from(net.point),
        source: Int32Array.from(net.source),
        logFlow: Float64Array.from(net.logFlow),
      });
    },
    { immediate: true },
  );
  onScopeDispose(stop);
  return { result, progress };
}
