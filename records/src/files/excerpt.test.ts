import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { NOUN_NAMES, LIST_KEYS } from '../nouns/index.js';
import { readBundle, writeBundle } from './bundle.js';
import { excerptOf, type ByNoun } from './excerpt.js';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const all = Object.fromEntries(NOUN_NAMES.map((noun) => [noun, bundle[LIST_KEYS[noun]]])) as ByNoun;

describe('some heads out of a library', () => {
  it('come with all that is theirs, and nothing of the others', () => {
    const some = excerptOf(all, new Set(['longreach-212', 'corrow-417']));
    expect(some.head?.map((h) => h.id).sort()).toEqual(['corrow-417', 'longreach-212']);
    const stages = new Set(some.stage?.map((s) => s.id));
    for (const noun of ['sheet', 'measure', 'survey'] as const) {
      const theirs = bundle[LIST_KEYS[noun]].filter((r) => stages.has(r.stageId));
      expect(theirs.length).toBeGreaterThan(0);
      expect(some[noun] as unknown).toEqual(theirs);
    }
  });
  it('bring every reading of their bench sessions', () => {
    const session = bundle.sessions.find((s) => bundle.readings.some((r) => r.sessionId === s.id))!;
    const some = excerptOf(all, new Set([session.headId]));
    expect(some.reading?.filter((r) => r.sessionId === session.id)).toEqual(
      bundle.readings.filter((r) => r.sessionId === session.id),
    );
  });
  it('make a file that stands alone, whichever heads they are', () => {
    for (const { id } of bundle.heads) {
      const text = writeBundle(excerptOf(all, new Set([id])));
      const read = readBundle(JSON.parse(text));
      expect(read.problems, id).toEqual([]);
      expect(read.bundle.heads.map((h) => h.id)).toContain(id);
    }
  });
  it('a head that is only named by another comes as itself', () => {
    const [a, b] = bundle.heads;
    const paired = { ...all, head: [{ ...a!, pairOf: b!.id }, ...bundle.heads.slice(1)] };
    const some = excerptOf(paired, new Set([a!.id]));
    expect(some.head?.map((h) => h.id)).toContain(b!.id);
    const others = bundle.stages.filter((s) => s.headId === b!.id).map((s) => s.id);
    expect(some.sheet?.filter((s) => others.includes(s.stageId))).toEqual([]);
  });
  it('nothing comes of a head that is not there', () => {
    const none = excerptOf(all, new Set(['nowhere']));
    expect(NOUN_NAMES.filter((noun) => none[noun]?.length)).toEqual([]);
  });
});
