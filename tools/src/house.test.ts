/** What keeps the house simple to live in, where no linter looks. */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';

const root = join(import.meta.dirname, '..', '..');
const files = execFileSync('git', ['ls-files', '-co', '--exclude-standard'], { cwd: root, encoding: 'utf8' })
  .trim()
  .split('\n');
const read = (file: string) => readFileSync(join(root, file), 'utf8');

describe('the house', () => {
  it('each README names every folder of its package', () => {
    const { workspaces } = JSON.parse(read('package.json')) as { workspaces: string[] };
    const missing = workspaces.flatMap((name) => {
      const own = files.filter((f) => f.startsWith(`${name}/`)).map((f) => f.slice(name.length + 1).split('/'));
      const folders = own.flatMap(([first, second, third]) =>
        first === 'src' ? (third ? [second!] : []) : second ? [first!] : [],
      );
      const text = read(`${name}/README.md`);
      return [...new Set(folders)].filter((f) => !text.includes(`${f}/`)).map((f) => `${name}: ${f}`);
    });
    expect(missing).toEqual([]);
  });

  it('no component is longer than 250 lines', () => {
    const long = files.filter((f) => f.endsWith('.vue') && read(f).trimEnd().split('\n').length > 250);
    expect(long).toEqual([]);
  });
});
