import { gainsOf, sourceOffsets, type Candidate, type Gain, type OffsetData, type OffsetResult } from '@alluvium/core';

export interface OffsetQuestion {
  readonly data: OffsetData;
  /** Heads our bench could test, to be weighed against each other. */
  readonly candidates: readonly Candidate[];
}
export type OffsetAnswer =
  { readonly progress: number } | { readonly result: OffsetResult } | { readonly gains: readonly Gain[] };

/** More than a page can show; the heads with the most points go first. */
const MOST = 200;

self.onmessage = (event: MessageEvent<OffsetQuestion>) => {
  const { data, candidates } = event.data;
  const tell = (answer: OffsetAnswer) => self.postMessage(answer);
  const result = sourceOffsets(data, { progress: (progress) => tell({ progress }) });
  tell({ result });
  const weighed = [...candidates].sort((a, b) => b.points.length - a.points.length).slice(0, MOST);
  tell({ gains: gainsOf(data, weighed, result.sigma) });
};
