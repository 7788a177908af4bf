/** Rounds of practice, and calls with how they came out, as tables of plain figures. */
import { fromSi, unitFor, type Side, type System } from '@alluvium/core';
import type { ScoredCall } from '../bench/session.js';
import type { Call } from '../nouns/bench.js';
import type { Round } from '../nouns/dyno.js';

type Cell = string | number;

/** A call that came out, and of what: its head, and its session or stage. */
export interface CallCameOut extends ScoredCall {
  readonly call: Call;
  readonly side: Side;
  readonly head: string;
  readonly session: string;
}

export function callsTable(scored: readonly CallCameOut[], system: System): Cell[][] {
  const [lift, flow] = [unitFor('lift', system), unitFor('flow', system)];
  const heading = ['date', 'head', 'session or stage', 'who', 'side', `lift (${lift.symbol})`];
  return [
    [...heading, `called (${flow.symbol})`, 'error (%)', 'called on'],
    ...scored.map((s): Cell[] => [
      s.call.date ?? '',
      s.head,
      s.session,
      s.call.who,
      s.side,
      s.call.lift ? Number(fromSi(s.call.lift.si, lift).toPrecision(6)) : 'best of the port',
      Number(fromSi(s.called.si, flow).toPrecision(6)),
      Number((100 * s.error.value).toFixed(2)),
      s.call.on || 'bench',
    ]),
  ];
}

export const roundsTable = (rounds: readonly Round[]): Cell[][] => [
  ['date', 'who', 'kind', 'question', 'answer', 'known'],
  ...rounds.map((r): Cell[] => [r.date, r.who, r.kind, r.question, r.answer, r.right ? 'yes' : 'no']),
];
