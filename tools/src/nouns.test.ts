/**
 * What adding a noun touches: its descriptor, the register of descriptors and a migration make it a stored, exported,
 * imported, undone, watched record; a pane, a test and the demo use it. Measured on nouns that are nothing but records.
 */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { LIST_KEYS, type Noun } from '@alluvium/records';
import { describe, expect, it } from 'vitest';

const root = join(import.meta.dirname, '..', '..');
/** The machinery all nouns share: everything but panes, tests, and the demo's own tables. */
const MACHINERY = ['records/src', 'server/src', 'web/src/data', 'tools/src', 'demo/src/tables.ts'];
const sources = execFileSync('git', ['ls-files', '-co', '--exclude-standard', ...MACHINERY], {
  cwd: root,
  encoding: 'utf8',
})
  .split('\n')
  .filter((f) => f.endsWith('.ts') && !f.includes('/test/') && !f.endsWith('.test.ts'));
const texts = new Map(sources.map((f) => [f, readFileSync(join(root, f), 'utf8')]));

/** Files of the machinery that name a noun or its list. */
const naming = (noun: Noun): string[] => {
  const named = new RegExp(
    `'(${noun}|${LIST_KEYS[noun]})'|\\.${LIST_KEYS[noun]}\\b|^\\s*(${noun}|${LIST_KEYS[noun]}):`,
    'm',
  );
  return [...texts].filter(([, text]) => named.test(text)).map(([file]) => file);
};

describe('a noun', () => {
  it.each(['template', 'watchset', 'springlimit', 'columnmap'] as const)(
    '%s is said in its own file and in the register, and nowhere else in the machinery',
    (noun) => {
      const files = naming(noun).filter((f) => f !== 'records/src/nouns/index.ts');
      expect(files.filter((f) => !f.startsWith('records/src/nouns/'))).toEqual([]);
      expect(files).toHaveLength(1);
    },
  );
});
