/** What each kind of cut usually bought in this shop: cuts made by themselves, flowed before and after in one way. */
import { USUAL_ASSUMPTIONS, usualGain, type OperationKind, type Side, type UsualGain } from '@alluvium/core';
import type { WholeHead } from '../api.js';
import type { HEAD_KINDS } from '../nouns/head.js';
import { stageGain, type ChangeContext } from './stageGain.js';

/** One cut that can be told by itself. */
export interface SingleCut {
  readonly headId: string;
  readonly head: string;
  readonly kind: (typeof HEAD_KINDS)[number];
  readonly stage: string;
  readonly operation: OperationKind;
  readonly side: Side;
  readonly gain: number;
  readonly hours?: number;
  readonly cost?: number;
}

/** The cuts of a head that stand alone on their side in their stage and may be credited. */
export function singleCuts(whole: WholeHead, context: ChangeContext = {}): SingleCut[] {
  const { hourRate } = context.assumptions ?? USUAL_ASSUMPTIONS;
  return whole.stages.flatMap((stage) =>
    (['intake', 'exhaust'] as const).flatMap((side): SingleCut[] => {
      const own = whole.operations.filter((o) => o.stageId === stage.id && (o.side === side || o.side === null));
      const [only, ...others] = own;
      if (!only || others.length > 0 || only.side === null) return [];
      const gain = stageGain(whole, stage, side, context);
      if (!gain?.share || gain.together.length > 0) return [];
      const hours = only.time?.si;
      const cost = (only.parts?.si ?? 0) + ((hours ?? 0) / 3600) * hourRate;
      return [
        {
          headId: whole.head.id,
          head: whole.head.name,
          kind: whole.head.kind,
          stage: stage.name,
          operation: only.kind,
          side,
          gain: gain.share.value,
          ...(hours === undefined ? {} : { hours }),
          ...(cost > 0 ? { cost } : {}),
        },
      ];
    }),
  );
}

/** What such cuts bought: on heads of the kind where there are two of them, else on all heads. */
export function usualOf(
  cuts: readonly SingleCut[],
  operation: OperationKind,
  side: Side,
  kind?: SingleCut['kind'],
): { readonly usual: UsualGain | undefined; readonly cuts: readonly SingleCut[] } {
  const alike = cuts.filter((c) => c.operation === operation && c.side === side);
  const ofKind = alike.filter((c) => c.kind === kind);
  const used = ofKind.length > 1 ? ofKind : alike;
  return { usual: usualGain(used), cuts: used };
}
