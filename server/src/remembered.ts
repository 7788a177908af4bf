import type { Database } from './db/database.js';

export const JSON_TYPE = 'application/json; charset=utf-8';

/** Kept answers at most; an open page asks for a few dozen. */
const MOST = 200;

/**
 * Answers that many ask for again and again, kept until anything is written: twenty open pages cost the database what one
 * does. Who asks while the answer is being found waits for the same one; what fails is not kept.
 */
export function remembering(db: Pick<Database, 'generation'>): <T>(key: string, ask: () => Promise<T>) => Promise<T> {
  let of = db.generation();
  const kept = new Map<string, Promise<unknown>>();
  return <T>(key: string, ask: () => Promise<T>) => {
    // Before it asks: what is written while the answer is found makes it old.
    const now = db.generation();
    if (now !== of || kept.size >= MOST) kept.clear();
    of = now;
    const known = kept.get(key) as Promise<T> | undefined;
    if (known) return known;
    const found = ask();
    kept.set(key, found);
    found.catch(() => kept.get(key) === found && kept.delete(key));
    return found;
  };
}
