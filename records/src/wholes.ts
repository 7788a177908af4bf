import type { WholeHead } from './api.js';
import type { Bundle } from './files/bundle.js';
import type { Head } from './nouns/head.js';
import { OF_HEAD, describedAs } from './nouns/index.js';

// x.stageId!, a.position!, b.position!: nouns that hang on a stage, and those that have an order.

/** The id of the other head of one engine, whichever of the two names it. */
export const pairIdOf = (head: Pick<Head, 'id' | 'pairOf'>, heads: readonly Pick<Head, 'id' | 'pairOf'>[]) =>
  head.pairOf ?? heads.find((h) => h.pairOf === head.id)?.id;

/** A head with what judging it together with the other of its engine reads of that one. */
export const besidePair = (
  whole: WholeHead,
  { head, stages, ports, sheets, measures, operations }: WholeHead,
): WholeHead => ({
  ...whole,
  pair: { head, stages, ports, sheets, measures, operations },
});

/** What of a record says where it belongs. */
interface Placed {
  readonly headId?: string | null;
  readonly stageId?: string;
  readonly position?: number;
}

/** Every head of a bundle with what hangs on it. */
export function wholesOf(bundle: Bundle): WholeHead[] {
  const wholes = alone(bundle);
  return wholes.map((whole) => {
    const id = pairIdOf(whole.head, bundle.heads);
    const pair = id === undefined ? undefined : wholes.find((w) => w.head.id === id);
    if (!pair) return whole;
    return besidePair(whole, pair);
  });
}

function alone(bundle: Bundle): WholeHead[] {
  return bundle.heads.map((head) => {
    const stages = new Set(bundle.stages.filter((s) => s.headId === head.id).map((s) => s.id));
    const lists = OF_HEAD.map((noun) => {
      const { key, of, order } = describedAs(noun);
      const own = (bundle[key as keyof Bundle] as readonly Placed[]).filter((x) =>
        of === 'head' ? x.headId === head.id : stages.has(x.stageId!),
      );
      return [key, order?.startsWith('position') ? own.sort((a, b) => a.position! - b.position!) : own] as const;
    });
    return { head, ...Object.fromEntries(lists) } as unknown as WholeHead;
  });
}
