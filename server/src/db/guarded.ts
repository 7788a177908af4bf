import { statSync } from 'node:fs';
import { join } from 'node:path';
import { Problem } from '../problems.js';
import type { Room } from '../space.js';
import type { Database } from './database.js';

/** Files the database cannot do without, and which it never replaces. */
const marks = (folder: string) => [join(folder, 'PG_VERSION'), join(folder, 'global')];

/** By what a file is known whatever its name: another one in its place has other numbers. */
export const identityOf = (path: string): string => {
  const { dev, ino } = statSync(path, { bigint: true });
  return `${dev}/${ino}`;
};

/** The hold a process has on its data folder; see lock.ts. */
export interface Hold {
  /** Whether it still is: the lock is where it was, and ours. Takes it again where it was removed and nobody else has it. */
  readonly stands: () => boolean;
}

/**
 * The database of a folder, which refuses to write when what it wrote would not last, or would be written beside another
 * process: the folder was moved, removed or replaced, its lock is gone, or its disk is full. Asked when a transaction
 * begins and once more before it is committed, since a process may have slept in between. Reading goes on.
 */
export function guarded(db: Database, folder: string, room: Room, hold?: Hold): Database {
  const here = marks(folder).map(identityOf);
  function check(): void {
    try {
      if (marks(folder).every((m, i) => identityOf(m) === here[i]) && (hold?.stands() ?? true)) return room.need();
    } catch (error) {
      if (error instanceof Problem) throw error;
    }
    throw new Problem(
      'no-library',
      `The data folder ${folder} was moved, removed or replaced while Alluvium ran, or its lock was taken. Nothing was written. Put the folder back: saving goes on by itself then. Otherwise stop Alluvium and start it again.`,
    );
  }
  const guard = (of: Database): Database => ({
    ...of,
    transaction: async (work) => {
      check();
      return of.transaction(async (tx) => {
        const done = await work(tx);
        check();
        return done;
      });
    },
    exclusive: (why, work) => of.exclusive(why, (own) => work(guard(own))),
    trouble: () => {
      try {
        check();
        return undefined;
      } catch (error) {
        return error as Problem;
      }
    },
  });
  return guard(db);
}
