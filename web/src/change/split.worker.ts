/** Fits valve and port to the stages of a head, beside the page. */
import { splitStages, type Split } from '@alluvium/core';
import type { LossStages } from '@alluvium/records';

export type SplitAnswer = { readonly split: Split } | { readonly problem: string };

self.onmessage = ({ data: { loss, lift } }: MessageEvent<{ loss: LossStages; lift: number }>) => {
  try {
    self.postMessage({ split: splitStages(loss.input, lift, loss.assumptions) } satisfies SplitAnswer);
  } catch (error) {
    self.postMessage({ problem: (error as Error).message } satisfies SplitAnswer);
  }
};
