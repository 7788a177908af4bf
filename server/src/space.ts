import { closeSync, existsSync, fsyncSync, openSync, rmSync, statfsSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { Problem } from './problems.js';

/** Below this much free space nothing is written any more, bytes. */
const RESERVE = 64 * 1024 * 1024;
/** Held on the disk for the database alone: when other programs fill the disk, it is let go, and the database can end what it began. */
const BALLAST = 32 * 1024 * 1024;
const MB = 1024 * 1024;

export interface Room {
  /** Free bytes on the disk of the data folder. */
  readonly free: () => number;
  /** @throws Problem no-room when so many bytes more would leave too little. */
  readonly need: (bytes?: number) => void;
  /** Lets the ballast go when the disk is nearly full, and takes it again when there is room. */
  readonly trim: () => void;
}

/** Watches over the disk a folder is on. A database that cannot write its own files stops for good, so it never comes to that. */
export function watchRoom(folder: string, { reserve = RESERVE, ballast = BALLAST } = {}): Room {
  const file = join(folder, 'ballast');
  const free = () => {
    const { bavail, bsize } = statfsSync(folder);
    return bavail * bsize;
  };

  function hold(): void {
    const handle = openSync(file, 'w');
    try {
      // Written, not only reserved: a file of holes takes no room.
      const part = Buffer.alloc(MB, 0xa5);
      for (let done = 0; done < ballast; done += MB) writeSync(handle, part);
      fsyncSync(handle);
    } finally {
      closeSync(handle);
    }
  }

  function letGo(): void {
    if (free() < reserve / 2) rmSync(file, { force: true });
  }

  function trim(): void {
    try {
      letGo();
      if (!existsSync(file) && free() > reserve + 2 * ballast) hold();
    } catch {
      rmSync(file, { force: true });
    }
  }

  return {
    free,
    trim,
    need: (bytes = 0) => {
      letGo();
      const left = free();
      if (left - bytes >= reserve) return;
      throw new Problem(
        'no-room',
        `The disk of the data folder is full: ${Math.max(0, Math.floor(left / 1e6))} MB are free, and ${Math.ceil((reserve + bytes) / 1e6)} MB are needed to write safely. Nothing was written. Make room, then do this again.`,
      );
    },
  };
}
