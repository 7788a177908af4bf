/** The thread in which bundles are read, so that a large or broken file keeps nobody else waiting. */
import { parentPort } from 'node:worker_threads';
import { openBundle, type Opened } from './slices.js';

// parentPort!: this file is a thread.

/** What the server asks of the thread; the answer carries the same number. */
export type Ask = { readonly n: number } & (
  | { readonly ask: 'open'; readonly text: Uint8Array }
  | { readonly ask: 'slice'; readonly index: number }
  | { readonly ask: 'file'; readonly hash: string }
);

let opened: Opened | undefined;
function answer(ask: Ask): unknown {
  if (ask.ask === 'open') return (opened = openBundle(ask.text)).contents;
  if (!opened) throw new Error('No bundle is open.');
  return ask.ask === 'slice' ? opened.slice(ask.index) : opened.file(ask.hash);
}
parentPort!.on('message', (ask: Ask) => parentPort!.postMessage({ n: ask.n, answer: answer(ask) }));
