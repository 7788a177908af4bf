import type { WholeHead } from './api.js';
import type { Bundle } from './files/bundle.js';
import type { Head } from './nouns/head.js';

/** The id of the other head of one engine, whichever of the two names it. */
export const pairIdOf = (head: Pick<Head, 'id' | 'pairOf'>, heads: readonly Pick<Head, 'id' | 'pairOf'>[]) =>
  head.pairOf ?? heads.find((h) => h.pairOf === head.id)?.id;

/** A head with what judging it together with the other of its engine reads of that one. */
export const besidePair = (whole: WholeHead, { head, stages, ports, sheets, measures }: WholeHead): WholeHead => ({
  ...whole,
  pair: { head, stages, ports, sheets, measures },
});

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
    const stages = bundle.stages.filter((s) => s.headId === head.id).sort((a, b) => a.position - b.position);
    const ids = new Set(stages.map((s) => s.id));
    const ofStage = <T extends { stageId: string }>(list: readonly T[]) => list.filter((x) => ids.has(x.stageId));
    const ofHead = <T extends { headId: string | null }>(list: readonly T[]) =>
      list.filter((x) => x.headId === head.id);
    return {
      head,
      stages,
      ports: ofHead(bundle.ports),
      sheets: ofStage(bundle.sheets),
      operations: ofStage(bundle.operations).sort((a, b) => a.position - b.position),
      measures: ofStage(bundle.measures),
      surveys: ofStage(bundle.surveys),
      inspections: ofHead(bundle.inspections).sort((a, b) => a.position - b.position),
      findings: ofHead(bundle.findings),
      seats: ofStage(bundle.seats),
      attachments: ofHead(bundle.attachments),
      sessions: ofHead(bundle.sessions),
      velocityMaps: ofStage(bundle.velocityMaps),
      wetFlows: ofStage(bundle.wetFlows),
      reports: ofStage(bundle.reports),
      tasks: ofHead(bundle.tasks).sort((a, b) => a.position - b.position),
      forecasts: ofHead(bundle.forecasts),
    };
  });
}
