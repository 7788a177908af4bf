import { chmodSync, existsSync, lstatSync, readdirSync } from 'node:fs';
import { join } from 'node:path';

/** What this process makes is for its own user alone. To be called before anything is written. */
export const keepPrivate = (): void => void process.umask(0o077);

const GROUP_AND_OTHERS = 0o077;

/** Takes from other users of the machine what an earlier version let them read; returns how many files and folders. */
export function makePrivate(path: string): number {
  if (process.platform === 'win32' || !existsSync(path)) return 0;
  const found = lstatSync(path);
  if (found.isSymbolicLink()) return 0;
  let changed = 0;
  if (found.mode & GROUP_AND_OTHERS) {
    chmodSync(path, found.mode & 0o700);
    changed++;
  }
  if (found.isDirectory()) for (const name of readdirSync(path)) changed += makePrivate(join(path, name));
  return changed;
}
