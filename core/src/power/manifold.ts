/** Head and manifold together: by the manifold's own flow where it was flowed, else by what is said to be lost in it. */
import type { FlowPoint } from '../flow/curve.js';
import { COMMON_PRACTICE, noted, numberOf, work, type Given, type Method } from '../method/method.js';
import { seriesFlow } from './schools.js';

/** What is known of a manifold, m³/s at 28 in: its own flow, or what it costs at the head's best. */
export interface Manifold {
  readonly manifoldFlow?: number;
  readonly manifoldLoss?: number;
}

/** No manifold that runs at all loses more of the flow than this share. Common practice, no source. */
const MOST_LOST = 0.6;

export const lessManifold: Method<{ flow: number; loss: number }> = {
  id: 'less-manifold',
  title: 'Flow of the head less what the manifold costs',
  formula: 'Q_{both} = Q - \\Delta Q',
  inputs: {
    flow: { label: 'best flow of the head', symbol: 'Q', kind: 'flow' },
    loss: { label: 'lost in the manifold', symbol: '\\Delta Q', kind: 'flow' },
  },
  result: { label: 'flow of both', symbol: 'Q_{both}', kind: 'flow' },
  source: `${COMMON_PRACTICE} About 25 cfm of a good two-plane manifold.`,
  caution: 'A figure said, not measured: flow head and manifold together.',
  compute: ({ flow, loss }) => flow - Math.min(loss, MOST_LOST * flow),
};

/** Flow of both at the head's own flow, m³/s. */
export const withManifold = (own: number, { manifoldFlow, manifoldLoss }: Manifold): number => {
  if (manifoldFlow !== undefined) return seriesFlow.compute({ flows: [own, manifoldFlow] });
  return manifoldLoss === undefined ? own : lessManifold.compute({ flow: own, loss: manifoldLoss });
};

/** The same with its working; the flow itself where nothing is known of the manifold. */
export function throughManifoldOf(own: Given<number>, { manifoldFlow, manifoldLoss }: Manifold): Given<number> {
  if (manifoldFlow !== undefined) return work(seriesFlow, { flows: [numberOf(own), manifoldFlow] });
  return manifoldLoss === undefined
    ? own
    : work(lessManifold, { flow: own, loss: noted(manifoldLoss, 'as the build says') });
}

/** Flow of the manifold by itself: as known, else such that head and manifold in series lose what is said at this best flow. */
export function ownManifoldFlow(best: number, { manifoldFlow, manifoldLoss }: Manifold): number | undefined {
  if (manifoldFlow !== undefined || manifoldLoss === undefined) return manifoldFlow;
  const both = lessManifold.compute({ flow: best, loss: manifoldLoss });
  return 1 / Math.sqrt(1 / both ** 2 - 1 / best ** 2);
}

/** A manifold that loses flow, as the flow that is left of a port's best (in series). */
export const throughManifold = (points: readonly FlowPoint[], manifold: number): FlowPoint[] =>
  points.map((p) => ({ lift: p.lift, flow: seriesFlow.compute({ flows: [p.flow, manifold] }) }));
