import { statSync } from 'node:fs';
import { join } from 'node:path';
import { Problem } from '../problems.js';
import type { Room } from '../space.js';
import type { Database } from './database.js';

/** Files the database cannot do without, and which it never replaces. */
const marks = (folder: string) => [join(folder, 'PG_VERSION'), join(folder, 'global')];

/**
 * The database of a folder, which refuses to write when what it wrote would not last: the folder was moved, removed or
 * replaced, or its disk is full. Reading goes on.
 */
export function guarded(db: Database, folder: string, room: Room): Database {
  const inode = (path: string) => statSync(path).ino;
  const here = marks(folder).map(inode);
  function check(): void {
    try {
      if (marks(folder).every((m, i) => inode(m) === here[i])) return room.need();
    } catch (error) {
      if (error instanceof Problem) throw error;
    }
    throw new Problem(
      'no-library',
      `The data folder ${folder} was moved, removed or replaced while Alluvium ran. Nothing was written. Stop Alluvium, put the folder back, and start again.`,
    );
  }
  return {
    ...db,
    transaction: async (work) => {
      check();
      return db.transaction(work);
    },
    trouble: () => {
      try {
        check();
        return undefined;
      } catch (error) {
        return error as Problem;
      }
    },
  };
}
