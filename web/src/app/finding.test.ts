import { describe, expect, it } from 'vitest';
import { answering, type Found } from './finding.js';

const found = (text: string, kind: Found['kind'] = 'page', note?: string): Found => ({
  key: text,
  kind,
  text,
  ...(note ? { note } : {}),
  go: () => {},
});
const texts = (list: readonly Found[]) => list.map((f) => f.text);

describe('the search of everything', () => {
  it('what begins with it comes before what has it within, and the shorter before the longer', () => {
    const all = [found('Ferrule compare sheet'), found('Compare'), found('Recompare'), found('Compare heads')];
    expect(texts(answering(all, 'comp'))).toEqual(['Compare', 'Compare heads', 'Ferrule compare sheet', 'Recompare']);
  });
  it('every word must be found, in the text or in what stands beside it', () => {
    const all = [
      found('417 early', 'head', 'Corrow'),
      found('417 second', 'head', 'Corrow'),
      found('Corrow Slate Six', 'engine'),
    ];
    expect(texts(answering(all, 'corrow early'))).toEqual(['417 early']);
    expect(answering(all, 'corrow third')).toEqual([]);
  });
  it('one kind does not crowd out the others', () => {
    const all = [...Array.from({ length: 30 }, (_, i) => found(`Head ${i}`, 'head')), found('Heads')];
    const shown = answering(all, 'head');
    expect(shown.filter((f) => f.kind === 'head')).toHaveLength(8);
    expect(texts(shown)).toContain('Heads');
  });
});
