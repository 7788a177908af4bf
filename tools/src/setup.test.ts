import { mkdirSync, mkdtempSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
// @ts-expect-error -- a plain script, so that it runs before anything is installed
import { sourceHash } from './setup.mjs';

const folder = mkdtempSync(join(tmpdir(), 'alluvium-sources-'));
afterAll(() => rmSync(folder, { recursive: true }));
const put = (name: string, text: string) => writeFileSync(join(folder, name), text);

describe('whether a build is due', () => {
  it('hangs on what the sources say, not on when they were written, nor on what a build or a test writes', () => {
    mkdirSync(join(folder, 'dist'));
    put('main.ts', 'one');
    const before = sourceHash([folder]);
    utimesSync(join(folder, 'main.ts'), new Date(2030, 1, 1), new Date(2030, 1, 1));
    put('components.generated.d.ts', 'written by the build');
    put('dist/main.js', 'built');
    put('main.test.ts', 'tested');
    expect(sourceHash([folder])).toBe(before);
    put('main.ts', 'two');
    const changed = sourceHash([folder]);
    expect(changed).not.toBe(before);
    put('other.ts', '');
    expect(sourceHash([folder])).not.toBe(changed);
  });
});
