import { gzipSync } from 'node:zlib';
import type { Plugin } from 'vite';

/** Of a chunk as the bundler writes it, what is asked here. */
export interface Chunk {
  readonly isEntry: boolean;
  /** Files it cannot start without. */
  readonly imports: readonly string[];
  readonly code: string;
}

/** Bytes of JavaScript, gzipped, that a browser must have before the first screen stands. */
export function firstScreenBytes(chunks: ReadonlyMap<string, Chunk>): number {
  const needed = new Set([...chunks].flatMap(([file, chunk]) => (chunk.isEntry ? [file] : [])));
  for (const file of needed) chunks.get(file)?.imports.forEach((name) => needed.add(name));
  return [...needed].reduce((sum, file) => sum + gzipSync(chunks.get(file)?.code ?? '').length, 0);
}

/** A build whose first screen asks for more than `limit` bytes fails: what only other pages need has crept into the frame. */
export const firstScreenUnder = (limit: number): Plugin => ({
  name: 'first-screen',
  generateBundle(_, bundle) {
    const bytes = firstScreenBytes(
      new Map(Object.entries(bundle).flatMap(([file, out]) => (out.type === 'chunk' ? [[file, out]] : []))),
    );
    const said = `first screen: ${(bytes / 1000).toFixed(0)} kB of JavaScript gzipped (limit ${limit / 1000})`;
    if (bytes > limit) this.error(said);
    this.info(said);
  },
});
