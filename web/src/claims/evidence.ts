import {
  sheetName,
  type EVIDENCE_NOUNS,
  type Finding,
  type Measure,
  type NetHead,
  type Question,
  type Report,
  type Session,
  type Sheet,
  type Survey,
  type WholeHead,
} from '@alluvium/records';
import { computed, type ComputedRef } from 'vue';
import type { RouteLocationRaw } from 'vue-router';
import { useRecords } from '../data/queries.js';

type Piece = Question['evidence'][number];
type EvidenceNoun = (typeof EVIDENCE_NOUNS)[number];

/** A piece of evidence in words, and the way to it; no way where it is no longer there. */
export interface Evidence {
  readonly piece: Piece;
  readonly text: string;
  readonly to?: RouteLocationRaw;
}

interface Records {
  sheet: Sheet;
  measure: Measure;
  survey: Survey;
  finding: Finding;
  session: Session;
  report: Report;
}
/** What each kind of record is called as evidence, and on which step it is looked at. */
const DESCRIBE: { readonly [N in EvidenceNoun]: (record: Records[N]) => { text: string; step: string } } = {
  sheet: (s) => ({ text: sheetName(s, [], []), step: 'head' }),
  measure: (m) => ({
    text: `${m.side ? `${m.side} ` : ''}${m.item} ${m.value.typed}${m.sourceId ? ', stated' : ''}`,
    step: 'head',
  }),
  survey: (s) => ({ text: `survey of the ${s.side} port`, step: 'measure' }),
  finding: (f) => ({ text: `finding: ${f.text}`, step: 'arrival' }),
  session: (s) => ({ text: `bench session “${s.title}”`, step: 'session' }),
  report: (r) => ({ text: `${r.power.typed} at ${r.speed.typed}, claimed`, step: 'claims' }),
};

function evidence<N extends EvidenceNoun>(
  noun: N,
  record: Records[N],
  heads: readonly Pick<NetHead, 'head' | 'stages'>[],
) {
  const piece: Piece = { noun, id: record.id };
  const { text, step } = DESCRIBE[noun](record);
  const head = heads.find((h) => h.stages.some((s) => s.id === record.stageId));
  const stage = head?.stages.find((s) => s.id === record.stageId);
  if (!head || !stage) return { piece, text };
  const to: RouteLocationRaw =
    step === 'session'
      ? { name: step, params: { id: record.id } }
      : {
          name: step,
          params: { id: head.head.id },
          query: { stage: stage.id, ...(noun === 'sheet' ? { sheet: record.id } : {}) },
        };
  return { piece, text: `${head.head.name}: ${text}, ${stage.name}`, to };
}

/** Everything of one head a question may lean on. */
export const evidenceAmong = (whole: WholeHead): Evidence[] => {
  const of = <N extends EvidenceNoun>(noun: N, list: readonly Records[N][]) =>
    list.map((record) => evidence(noun, record, [whole]));
  return [
    ...of('sheet', whole.sheets),
    ...of('measure', whole.measures),
    ...of('report', whole.reports),
    ...of('survey', whole.surveys),
    ...of('finding', whole.findings),
    ...of('session', whole.sessions),
  ];
};

/** Pieces of evidence found again wherever they are, in their order, with their head and stage. */
export function useEvidence(pieces: () => readonly Piece[]): ComputedRef<(piece: Piece) => Evidence> {
  const once = (ids: readonly (string | undefined)[]) => [...new Set(ids.filter((id) => id !== undefined))];
  const queries = useRecords(pieces);
  const stages = useRecords(() =>
    once(queries.value.map((q) => (q.data as { stageId?: string } | undefined)?.stageId)).map((id) => ({
      noun: 'stage' as const,
      id,
    })),
  );
  const heads = useRecords(() =>
    once(stages.value.map((q) => q.data?.headId)).map((id) => ({ noun: 'head' as const, id })),
  );
  const places = computed(() =>
    heads.value.flatMap((q) => {
      const head = q.data;
      return head ? [{ head, stages: stages.value.flatMap((s) => (s.data?.headId === head.id ? [s.data] : [])) }] : [];
    }),
  );
  return computed(() => {
    const found = new Map(
      pieces().map((p, i) => [
        p.noun + p.id,
        queries.value[i]?.isError
          ? { piece: p, text: `a ${p.noun} that is no longer there` }
          : queries.value[i]?.data
            ? evidence<EvidenceNoun>(p.noun, queries.value[i].data as Records[EvidenceNoun], places.value)
            : { piece: p, text: '…' },
      ]),
    );
    return (piece) => found.get(piece.noun + piece.id) ?? { piece, text: '…' };
  });
}
