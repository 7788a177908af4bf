import { Readable } from 'node:stream';
import { Problem, fromDatabase } from '../problems.js';

/** Tells how far something is. */
export type OnProgress = (done: number, of: number) => void;

export interface Progress {
  /** A line of JSON a step, then one that says that it is finished, with what came of it, or what went wrong. */
  readonly lines: Readable;
  /** When the last line is said; never rejects. */
  readonly ended: Promise<void>;
}

/** Runs something long behind a stream of lines (NDJSON). What is no refusal is logged, and told by `failed`. */
export function progress<T extends object>(
  work: (onProgress: OnProgress) => Promise<T>,
  log: (error: unknown) => void,
  failed: (error: Error) => string,
): Progress {
  const lines = new Readable({ read() {}, encoding: 'utf8' });
  const say = (line: object) => lines.push(`${JSON.stringify(line)}\n`);
  let shown = 0;
  const ended = work((done, of) => {
    // A line for every hundredth part is enough.
    if (done < of && done - shown < of / 100) return;
    shown = done;
    say({ done, of });
  })
    .then((result) => say({ finished: true, ...result }))
    .catch((error: unknown) => {
      const problem = error instanceof Problem ? error : fromDatabase(error);
      if (!problem) log(error);
      say({ problem: { detail: problem?.message ?? failed(error as Error) } });
    })
    .then(() => void lines.push(null));
  return { lines, ended };
}
