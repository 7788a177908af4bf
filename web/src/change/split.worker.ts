/** Fits valve and port to the stages of a head, beside the page. */
import { splitStages, type Split } from '@alluvium/core';
import type { LossStages } from '@alluvium/records';

export type SplitAnswer = { readonly split: Split } | { readonly problem: string };

self.onmessage = ({ data: { input, lift, assumptions } }: MessageEvent<LossStages>) => {
  try {
    self.postMessage({ split: splitStages(input, lift, assumptions) } satisfies SplitAnswer);
  } catch (error) {
    self.postMessage({ problem: (error as Error).message } satisfies SplitAnswer);
  }
};
