import { sourceOffsets, type OffsetData, type OffsetResult } from '@alluvium/core';

export type OffsetAnswer = { readonly progress: number } | { readonly result: OffsetResult };

self.onmessage = (event: MessageEvent<OffsetData>) => {
  const tell = (answer: OffsetAnswer) => self.postMessage(answer);
  tell({ result: sourceOffsets(event.data, { progress: (progress) => tell({ progress }) }) });
};
