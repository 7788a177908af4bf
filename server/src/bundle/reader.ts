import type { Worker } from 'node:worker_threads';
import { Problem } from '../problems.js';
import { threadOf } from '../thread.js';
import type { Ask } from './readerThread.js';
import type { Contents, Slice } from './slices.js';

/** Most memory the thread may take for one file, MB. */
const MEMORY = 2_048;
/** A file that takes longer to read is given up, ms. */
const PATIENCE = 120_000;
/** A thread that read a larger file is not kept: it would hold on to it, bytes. */
const KEPT_AFTER = 4 * 1024 * 1024;
/** Files that people bring, read at one time; more wait in a line, and more than the line holds are told to come again. */
const AT_ONCE = 2;
const LINE = 20;

/** One bundle, open in a thread of its own. */
export interface OpenBundle {
  readonly contents: Contents;
  readonly slice: (index: number) => Promise<Slice>;
  /** The content of a photo, base64. */
  readonly file: (hash: string) => Promise<string>;
}

type Request = Ask extends infer A ? (A extends Ask ? Omit<A, 'n'> : never) : never;

const newThread = (): Worker => threadOf('bundle/readerThread', { maxOldGenerationSizeMb: MEMORY });

/** A thread is kept for the next file: to start one from source takes a second. */
let spare: Worker | undefined;
function take(): Worker {
  const kept = spare;
  spare = undefined;
  kept?.ref();
  if (kept) return kept;
  const worker = newThread();
  worker.on('error', () => {});
  worker.on('exit', () => spare === worker && (spare = undefined));
  return worker;
}
function putBack(worker: Worker): void {
  if (spare) return void worker.terminate();
  // A spare thread keeps no process alive.
  worker.unref();
  spare = worker;
}

let running = 0;
const line: (() => void)[] = [];
async function turn(): Promise<() => void> {
  if (running >= AT_ONCE) {
    if (line.length >= LINE) throw new Problem('busy', 'Several files are being read already. Try again in a moment.');
    await new Promise<void>((go) => line.push(go));
  } else running++;
  return () => {
    const next = line.shift();
    if (next) next();
    else running--;
  };
}

/**
 * Reads a bundle in a thread and works with it slice by slice; the thread is let go when the work ends, and ended when
 * `signal` says so. @throws Problem too-large when it takes more memory than there is for it, too-slow.
 */
export async function inThread<T>(
  text: Uint8Array,
  work: (bundle: OpenBundle) => Promise<T>,
  signal?: AbortSignal,
): Promise<T> {
  const worker = take();
  let sound = true;
  let leave = () => {};
  try {
    let fail: (error: Error) => void = () => {};
    const broken = new Promise<never>((_, no) => (fail = no));
    broken.catch(() => {});
    const onError = (error: Error & { code?: string }) => {
      sound = false;
      fail(
        error.code === 'ERR_WORKER_OUT_OF_MEMORY'
          ? new Problem('too-large', 'This file takes more memory to read than there is for it. Bring it in in parts.')
          : error,
      );
    };
    const onExit = () => onError(new Error('The thread that read the file ended.'));
    worker.on('error', onError);
    worker.on('exit', onExit);
    const stop = () => {
      sound = false;
      fail(new Problem('refused', 'The reading of this file was cancelled; nothing was written.'));
    };
    leave = () => {
      worker.off('error', onError);
      worker.off('exit', onExit);
      signal?.removeEventListener('abort', stop);
    };
    if (signal?.aborted) stop();
    signal?.addEventListener('abort', stop);
    let n = 0;
    const ask = <A>(request: Request): Promise<A> => {
      const mine = ++n;
      const answer = new Promise<A>((yes) => {
        const hear = (said: { n: number; answer: A }) => {
          if (said.n !== mine) return;
          worker.off('message', hear);
          yes(said.answer);
        };
        worker.on('message', hear);
        worker.postMessage({ ...request, n: mine });
      });
      return Promise.race([answer, broken]);
    };
    const late = setTimeout(() => {
      sound = false;
      fail(new Problem('too-slow', 'This file takes too long to read. Bring it in in parts.'));
    }, PATIENCE);
    const contents = await ask<Contents>({ ask: 'open', text }).finally(() => clearTimeout(late));
    return await work({
      contents,
      slice: (index) => ask({ ask: 'slice', index }),
      file: (hash) => ask({ ask: 'file', hash }),
    });
  } finally {
    leave();
    if (sound && text.length < KEPT_AFTER) putBack(worker);
    else void worker.terminate();
  }
}

/**
 * The same for a file somebody brings: only so many at a time. The program's own backups never stand in that line, since
 * an import waits for one. @throws Problem busy as well.
 */
export async function withBundle<T>(
  text: Uint8Array,
  work: (bundle: OpenBundle) => Promise<T>,
  signal?: AbortSignal,
): Promise<T> {
  const done = await turn();
  try {
    return await inThread(text, work, signal);
  } finally {
    done();
  }
}
