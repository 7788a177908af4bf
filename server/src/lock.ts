/**
 * One process at a time on a data folder: a lock of the operating system, which is held for as long as the process lives,
 * whether it runs, is stopped or sleeps, and is gone with it whatever ended it.
 */
import { closeSync, constants, fstatSync, ftruncateSync, openSync, readFileSync, statSync, writeSync } from 'node:fs';
import { access, mkdir, readFile, rm } from 'node:fs/promises';
import { hostname } from 'node:os';
import { join } from 'node:path';
import { tryLock } from 'fs-native-extensions';
import { identityOf, type Hold } from './db/guarded.js';
import { StartProblem } from './settings.js';

/** Who has the folder: host, process, and its address once it listens. The lock is on this file. */
const ownerFile = (folder: string) => join(folder, 'alluvium.pid');
/** What earlier versions locked by: a folder they touched every few seconds. */
const formerLock = (folder: string) => join(folder, 'alluvium.lock');
const FORMER_STALE_MS = 15_000;

/** Windows keeps others from reading what is locked: there a place is locked that no file reaches. */
const lockFile = (fd: number): boolean => (process.platform === 'win32' ? tryLock(fd, 2 ** 30, 1) : tryLock(fd));

const identityOfOpen = (fd: number): string => {
  const { dev, ino } = fstatSync(fd, { bigint: true });
  return `${dev}/${ino}`;
};

/** Opens a file and locks it; undefined when another process has it, or when it was replaced meanwhile. */
function takeFile(path: string, create: boolean): number | undefined {
  const fd = openSync(path, constants.O_RDWR | (create ? constants.O_CREAT : 0), 0o600);
  try {
    if (lockFile(fd) && identityOf(path) === identityOfOpen(fd)) return fd;
  } catch (error) {
    closeSync(fd);
    throw error;
  }
  closeSync(fd);
  return undefined;
}

export interface FolderLock extends Hold {
  /**
   * Locks a file of the database as well, one it cannot do without: whoever removes the lock's own file opens the folder
   * to nobody. @throws StartProblem when another process has it.
   */
  readonly hold: (mark: string) => void;
  /** Lets that file go, before another database takes its place. */
  readonly letGo: () => void;
  /** Writes down where the server of this folder answers. */
  readonly note: (url: string) => void;
  readonly release: () => void;
}

const inUse = (folder: string): StartProblem => {
  let owner = '';
  try {
    const [host, pid] = readFileSync(ownerFile(folder), 'utf8').trim().split(' ');
    if (host && pid) owner = ` (process ${pid} on ${host})`;
  } catch {
    // Then it is not said who.
  }
  return new StartProblem(
    `The data folder ${folder} is open in another Alluvium${owner}. Stop that one first; one that is stopped or asleep has it as well.`,
  );
};

/** Whether a version that locks by the folder has it open now. */
const isHeldFormerly = (folder: string): boolean => {
  try {
    return Date.now() - statSync(formerLock(folder)).mtimeMs < FORMER_STALE_MS;
  } catch {
    return false;
  }
};

/** Takes a data folder for this process alone. @throws StartProblem when another has it, or it cannot be written. */
export async function lockFolder(folder: string): Promise<FolderLock> {
  try {
    await mkdir(folder, { recursive: true });
    await access(folder, constants.W_OK);
  } catch {
    throw new StartProblem(`The data folder ${folder} cannot be written. Choose another with ALLUVIUM_DATA.`);
  }
  if (isHeldFormerly(folder)) throw inUse(folder);
  await rm(formerLock(folder), { recursive: true, force: true });
  const path = ownerFile(folder);
  const take = () => {
    try {
      return takeFile(path, true);
    } catch (error) {
      throw new StartProblem(
        `The data folder ${folder} cannot be locked (${(error as Error).message}). Choose one on a disk of this machine with ALLUVIUM_DATA.`,
      );
    }
  };
  const taken = take();
  if (taken === undefined) throw inUse(folder);
  let own = taken;
  let address = '';
  const write = (fd: number) => {
    ftruncateSync(fd);
    writeSync(fd, `${hostname()} ${process.pid} ${address}\n`, 0);
  };
  write(own);
  let mark: number | undefined;

  /** The lock's file is gone or another: it is taken again, unless somebody else has it by now. */
  function retake(): boolean {
    const again = takeFile(path, true);
    if (again === undefined) return false;
    write(again);
    closeSync(own);
    own = again;
    return true;
  }

  return {
    stands: () => {
      try {
        return identityOf(path) === identityOfOpen(own) || retake();
      } catch {
        try {
          return retake();
        } catch {
          return false;
        }
      }
    },
    hold: (file) => {
      if (mark !== undefined) return;
      mark = takeFile(file, false);
      if (mark === undefined) throw inUse(folder);
    },
    letGo: () => {
      if (mark !== undefined) closeSync(mark);
      mark = undefined;
    },
    note: (url) => {
      address = url;
      write(own);
    },
    release: () => {
      if (mark !== undefined) closeSync(mark);
      closeSync(own);
    },
  };
}

/** The address of the server that has this folder; undefined when it noted none. */
export async function addressOf(folder: string): Promise<string | undefined> {
  const text = await readFile(ownerFile(folder), 'utf8').catch(() => '');
  return text.trim().split(' ')[2];
}
