/** How a file of ours is named and written. */
import { createHash, randomUUID } from 'node:crypto';
import { open, rename } from 'node:fs/promises';
import { dirname } from 'node:path';
import { syncFolder } from './db/durable.js';

/** Ending of a file on its way; what bears it after a crash is nothing. */
export const PART = '.part';

/** By what content is known. */
export const sha256 = (content: Uint8Array | string): string => createHash('sha256').update(content).digest('hex');

/** A moment as part of a file's name: `20261126T014200Z`. */
export const stamp = (at = new Date()): string => at.toISOString().replace(/[-:]/g, '').replace(/\.\d+/, '');

/** Writes whole or not at all, and on the disk when it returns: to a part beside it, flushed, then renamed. */
export async function writeWhole(path: string, content: Uint8Array | string): Promise<void> {
  const part = `${path}.${randomUUID()}${PART}`;
  const file = await open(part, 'wx');
  try {
    await file.writeFile(content);
    await file.sync();
  } finally {
    await file.close();
  }
  await rename(part, path);
  syncFolder(dirname(path));
}
