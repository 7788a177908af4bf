/** A verdict as it is kept: what was said of a lineup, and the versions of the records it rested on. */
import {
  matchWords,
  targetWords,
  type HeadVerdict,
  type MatchResult,
  type Say,
  type TargetResult,
} from '@alluvium/core';
import type { WholeHead } from './api.js';
import type { Build } from './nouns/build.js';
import type { FrozenVerdict } from './nouns/assumption.js';
import type { Stage } from './nouns/head.js';
import type { Sheet } from './nouns/sheet.js';
import { powerWanted } from './toCore.js';

export interface KeptHead {
  readonly letter: string;
  readonly name: string;
  readonly whole: WholeHead;
  readonly stage: Stage;
  readonly sheet?: Sheet;
  readonly match: MatchResult;
  readonly verdict: HeadVerdict;
}

/** Everything the figures of a lineup rest on, each with its version. */
function restedOn(build: Build, heads: readonly KeptHead[]): FrozenVerdict['content']['records'] {
  const found = new Map<string, FrozenVerdict['content']['records'][number]>();
  const put = (noun: string, { id, version }: { id: string; version: number }) =>
    found.set(`${noun} ${id}`, { noun, id, version });
  put('build', build);
  for (const { whole } of heads) {
    put('head', whole.head);
    for (const stage of whole.stages) put('stage', stage);
    for (const port of whole.ports) put('port', port);
    for (const sheet of whole.sheets) put('sheet', sheet);
    for (const measure of whole.measures) put('measure', measure);
  }
  return [...found.values()].slice(0, 5000);
}

export function keptContent(
  build: Build,
  target: TargetResult,
  heads: readonly KeptHead[],
  best: string,
  program: string,
  say: Say,
): FrozenVerdict['content'] {
  const speed = build.speed.si;
  return {
    program,
    target: `${say.of(powerWanted(build), 'power')} at ${say.of(speed, 'rotation')}. ${targetWords(target, say)}`,
    best,
    heads: heads.map((h) => ({
      letter: h.letter,
      name: h.name,
      stage: h.stage.name,
      sheet: h.sheet?.title ?? '',
      degree: h.verdict.degree,
      odds: h.verdict.odds ?? null,
      words: matchWords(h.match, h.verdict, target, speed, build.cam?.lobeSeparation?.si, say).join(' '),
      limits: h.verdict.limits
        .filter((l) => !l.usual)
        .map((l) => ({ runner: l.runner, id: l.id, margin: l.margin, u: l.u, odds: l.odds })),
    })),
    records: restedOn(build, heads),
  };
}

/** Records of a kept verdict that were changed or removed since, in words; empty when it rests on what stands now. */
export function movedSince(
  kept: FrozenVerdict['content'],
  now: FrozenVerdict['content']['records'],
): { readonly changed: number; readonly gone: number; readonly added: number } {
  const key = (r: { noun: string; id: string }) => `${r.noun} ${r.id}`;
  const versions = new Map(now.map((r) => [key(r), r.version]));
  const before = new Set(kept.records.map(key));
  return {
    changed: kept.records.filter((r) => versions.has(key(r)) && versions.get(key(r)) !== r.version).length,
    gone: kept.records.filter((r) => !versions.has(key(r))).length,
    added: now.filter((r) => !before.has(key(r))).length,
  };
}

/** Which program a kept verdict was said by. */
export const PROGRAM = '0.1.0';
