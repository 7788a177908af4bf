/** What a pipe on the exhaust is worth, from the shop's own ports that were tested both ways. */
import { mean, meanLogDifference } from '@alluvium/core';
import { isAlike } from '../repeats.js';
import { speaks } from '../select.js';
import { learnt } from '../setups.js';
import { evaluated } from './evaluated.js';
import type { NetHead } from './judge.js';

/** What a pipe adds to the flow of an exhaust port. */
export interface PipeEffect {
  /** Natural logarithm of piped over bare, the mean of all pairs. */
  readonly by: number;
  /** What it may be on another port: a standard deviation. */
  readonly spread: number;
  /** Ports tested both ways. */
  readonly pairs: number;
}

/** ln(piped ÷ bare) of every exhaust port of a head that one bench tested both ways at one stage, alike but for the pipe. */
export function pipePairs(head: NetHead, own: string | undefined): number[] {
  const tests = head.sheets.filter(
    (s) =>
      s.kind === 'measured' &&
      speaks(s) &&
      (own === undefined || s.sourceId === own) &&
      s.setup.reads !== 'difference' &&
      s.rows.some((r) => r.exhaust),
  );
  const bare = tests.filter((s) => s.setup.exhaustPipe === 'bare');
  const piped = tests.filter((s) => s.setup.exhaustPipe === 'piped');
  const seen = new Set<string>();
  return piped.flatMap((p) => {
    const of = `${p.stageId} ${p.exhaustPortId} ${p.sourceId}`;
    const b = bare.find(
      (s) =>
        s.stageId === p.stageId &&
        s.exhaustPortId === p.exhaustPortId &&
        s.sourceId === p.sourceId &&
        (s.setup.bore?.si ?? 0) === (p.setup.bore?.si ?? 0) &&
        isAlike({ ...s, setup: { ...s.setup, exhaustPipe: 'piped' } }, p, 'exhaust'),
    );
    const off = b && meanLogDifference(evaluated(head, p).exhaust.points, evaluated(head, b).exhaust.points);
    if (off === undefined || seen.has(of)) return [];
    seen.add(of);
    return [off];
  });
}

/** Fewest ports tested both ways that speak for others. */
const FEWEST_PAIRS = 2;
/**
 * What the worth of a pipe differs by from port to port, a standard deviation, and how well that is known before any pair:
 * in degrees of freedom. Common practice, no source: 5 to 10 %.
 */
const PORT_TO_PORT = 0.02;
const FREEDOM = 4;

/** The mean of the pairs, and its spread for another port: the pairs' own scatter over a prior. Undefined with fewer than two. */
export function pipeEffect(pairs: readonly number[]): PipeEffect | undefined {
  if (pairs.length < FEWEST_PAIRS) return undefined;
  const by = mean(pairs);
  const squares = pairs.reduce((s, p) => s + (p - by) ** 2, 0);
  const portToPort = learnt(PORT_TO_PORT, FREEDOM, { squares, freedom: pairs.length - 1 });
  return { by, spread: portToPort * Math.sqrt(1 + 1 / pairs.length), pairs: pairs.length };
}
