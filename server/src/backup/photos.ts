/**
 * The photos of all backups: each content once, named by its hash, a copy of its own. A photo of the library that is
 * spoilt or gone leaves this copy as it was.
 */
import { constants } from 'node:fs';
import { copyFile, mkdir, open, readFile, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { PICTURE_TYPES, type Attachment } from '@alluvium/records';
import { PART, sha256 } from '../stored.js';
import { PICTURES } from './manifest.js';

/** File of a photo in the store. */
export const photoFile = ({ hash, type }: Pick<Attachment, 'hash' | 'type'>): string =>
  `${hash}.${PICTURE_TYPES[type]}`;
/** The hash a file of the store is named by. */
export const hashOfFile = (file: string): string => file.slice(0, file.indexOf('.'));

/** The content of a photo in the store; undefined where it is missing, or is not what its name says. */
export async function photoOf(folder: string, file: string): Promise<Buffer | undefined> {
  const content = await readFile(join(folder, PICTURES, file)).catch(() => undefined);
  return content && sha256(content) === hashOfFile(file) ? content : undefined;
}

/** Whether a file is shared with another folder: what is written into one place of it changes both. */
const isShared = (path: string): Promise<boolean> =>
  stat(path).then(
    ({ nlink }) => nlink > 1,
    () => false,
  );

/**
 * Makes sure that the store holds a photo, whole and by itself; `from` is the library's file of it. Returns whether it
 * does: where both are spoilt or missing, nothing can be kept.
 */
export async function keepPhoto(folder: string, file: string, from: string): Promise<boolean> {
  const to = join(folder, PICTURES, file);
  const kept = await photoOf(folder, file);
  if (kept && !(await isShared(to))) return true;
  await mkdir(join(folder, PICTURES), { recursive: true });
  const part = to + PART;
  try {
    // Where the file system can share content until one of the two is written, the copy takes no room.
    await copyFile(kept ? to : from, part, constants.COPYFILE_FICLONE);
    if (sha256(await readFile(part)) !== hashOfFile(file)) return false;
    const copy = await open(part, 'r+');
    await copy.sync();
    await copy.close();
    await rename(part, to);
    return true;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return false;
    throw error;
  } finally {
    await rm(part, { force: true });
  }
}
