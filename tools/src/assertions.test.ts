import { Linter } from 'eslint';
import ts from 'typescript-eslint';
import { describe, expect, it } from 'vitest';
// @ts-expect-error -- a plain script, as ESLint's own settings are
import assertions, { bare } from './assertions.mjs';

/** What the rule finds unsaid in a piece of TypeScript. */
const unsaid = (code: string, ...options: unknown[]): string[] =>
  new Linter()
    .verify(
      code,
      {
        files: ['**/*.ts'],
        languageOptions: { parser: ts.parser as Linter.Parser },
        plugins: { alluvium: { rules: { assertions } } },
        rules: { 'alluvium/assertions': ['error', ...options] },
      } as Linter.Config,
      'a.ts',
    )
    .map((m) => /`(.*?)`/.exec(m.message)?.[1] ?? m.message);

describe('a value taken for there', () => {
  it('is found where nothing says why', () => {
    expect(unsaid('const a = rows[i]!;')).toEqual(['rows[]']);
    expect(unsaid('const a = sheets.at(-1)!.rows[k]!;')).toEqual(['sheets.at().rows[]', 'sheets.at()']);
    expect(unsaid('// It is there.\nconst a = rows[i]!;')).toEqual(['rows[]']);
  });
  it('has its reason on its line, on the one before, or in front of its function', () => {
    expect(unsaid('const a = rows[i]!; // !: there is one')).toEqual([]);
    expect(unsaid('// !: there is one\nconst a = rows[i]!;')).toEqual([]);
    expect(unsaid('/** First. !: never empty. */\nfunction first() {\n  log();\n  return rows[0]!;\n}')).toEqual([]);
    expect(unsaid('// !: there is one\nlog();\nconst a = rows[i]!;')).toEqual(['rows[]']);
  });
  it('has it for a name in all of its file, by how it ends', () => {
    expect(unsaid('// rows[]!, last()!: never empty.\nlog();\nlast(1)!;\nthis.rows[0]!;')).toEqual([]);
    expect(unsaid('// rows[]!: never empty.\nlog();\narrows[0]!;\nrows[0][1]!;\nrows[0]!;')).toEqual([
      'arrows[]',
      'rows[][]',
    ]);
  });
  it('a name that nothing needs is told', () => {
    expect(unsaid('// rows[]!, last()!: never empty.\nlast(1)!;')).toEqual(['rows[]!']);
  });
  it('a name without a reason counts for nothing', () => {
    expect(unsaid('// rows[]!:\nlog();\nrows[0]!;')).toEqual(['rows[]']);
  });
  it('in arithmetic a place of a list needs none', () => {
    expect(unsaid('a[i + 1]! - a[i]! + a.at(-1)! + a.b!;', { indexes: 'free' })).toEqual(['a.at()', 'a.b']);
  });
  it('goes by what stands outside of brackets', () => {
    expect(bare('heads[i + rows[0]]!.sheet?.rows.find((r) => r.at(0))')).toBe('heads[].sheet.rows.find()');
  });
});
