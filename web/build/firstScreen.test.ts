import { randomBytes } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { firstScreenBytes, firstScreenUnder, type Chunk } from './firstScreen.js';

const noise = (bytes: number) => randomBytes(bytes).toString('latin1');
const chunk = (code: string, imports: readonly string[] = [], isEntry = false): Chunk => ({ code, imports, isEntry });

describe('what the first screen asks for', () => {
  const chunks = new Map([
    ['index.js', chunk(noise(1000), ['frame.js'], true)],
    ['frame.js', chunk(noise(2000), ['runtime.js', 'index.js'])],
    ['runtime.js', chunk(noise(500))],
    ['page.js', chunk(noise(50_000), ['frame.js'])],
  ]);
  it('is the entry and all it cannot start without, each once; no page fetched later', () => {
    const bytes = firstScreenBytes(chunks);
    // Noise does not shrink: each byte above 127 takes two.
    expect(bytes).toBeGreaterThan(3500);
    expect(bytes).toBeLessThan(7500);
  });
  it('stops a build that asks for more than agreed', () => {
    const { generateBundle } = firstScreenUnder(1000) as unknown as {
      generateBundle: (this: object, _: unknown, bundle: object) => void;
    };
    const said: string[] = [];
    const context = {
      info: (s: string) => said.push(s),
      error: (s: string) => {
        throw new Error(s);
      },
    };
    const bundle = Object.fromEntries([...chunks].map(([file, c]) => [file, { type: 'chunk', ...c }]));
    expect(() => generateBundle.call(context, {}, bundle)).toThrow(/first screen: \d+ kB .*limit 1\)/);
    generateBundle.call(context, {}, { 'a.js': { type: 'chunk', ...chunk('1', [], true) } });
    expect(said).toEqual(['first screen: 0 kB of JavaScript gzipped (limit 1)']);
  });
});
