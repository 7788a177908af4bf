import { createHash } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import { NOUN_NAMES, NOUN_WORDS } from '@alluvium/records';
import { inThread, type OpenBundle } from '../bundle/reader.js';
import { Problem } from '../problems.js';
import { sha256 } from '../stored.js';
import { Manifest, PICTURES, manifestFile, recordsFile } from './manifest.js';

/** The backups of a folder, the newest first; what is no manifest is passed over. */
export async function listBackups(folder: string): Promise<Manifest[]> {
  const names = await readdir(folder).catch(() => []);
  const all = await Promise.all(
    names
      .filter((n) => n.endsWith(manifestFile('')))
      .map(async (n) => {
        try {
          return Manifest.parse(JSON.parse(await readFile(join(folder, n), 'utf8')));
        } catch {
          return undefined;
        }
      }),
  );
  return all
    .filter((m) => m !== undefined)
    .sort((a, b) => (a.made < b.made ? 1 : a.made > b.made ? -1 : b.name.localeCompare(a.name)));
}

/** A backup by its name. @throws Problem not-found. */
export async function findBackup(folder: string, name: string): Promise<Manifest> {
  const found = (await listBackups(folder)).find((m) => m.name === name);
  if (!found) throw new Problem('not-found', `There is no backup “${name}” in ${folder}.`);
  return found;
}

/** The text of its records, unpacked. @throws Problem damaged when it cannot be read, or is not what the manifest says. */
async function recordsOf(folder: string, manifest: Manifest): Promise<Uint8Array> {
  const broken = (why: string) => new Problem('damaged', `The backup ${manifest.name} is damaged: ${why}.`);
  // Of the size the manifest says, so that a packed file that grows without end fills no memory.
  const text = new Uint8Array(manifest.bytes);
  const hash = createHash('sha256');
  let at = 0;
  try {
    const unpacked = createGunzip();
    pipeline(createReadStream(join(folder, recordsFile(manifest.name))), unpacked).catch((e: Error) =>
      unpacked.destroy(e),
    );
    for await (const chunk of unpacked as AsyncIterable<Buffer>) {
      if (at + chunk.length > text.length) throw broken('it is larger than its manifest says');
      hash.update(chunk);
      text.set(chunk, at);
      at += chunk.length;
    }
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw broken((error as Error).message);
  }
  if (at !== text.length || hash.digest('hex') !== manifest.sha256) throw broken('its records are not what they were');
  return text;
}

/** Opens a backup whose records are whole, and works with it. @throws Problem damaged. */
export async function withBackup<T>(
  folder: string,
  manifest: Manifest,
  work: (bundle: OpenBundle) => Promise<T>,
): Promise<T> {
  return inThread(await recordsOf(folder, manifest), async (bundle) => {
    const { problems, outside, counts } = bundle.contents;
    const first = problems[0] ?? outside[0]?.problem;
    if (first)
      throw new Problem('damaged', `The backup ${manifest.name} cannot be read: ${first.place}: ${first.message}`);
    const off = NOUN_NAMES.find((noun) => counts[noun] !== (manifest.counts[noun] ?? 0));
    if (off)
      throw new Problem(
        'damaged',
        `The backup ${manifest.name} should hold ${manifest.counts[off] ?? 0} ${NOUN_WORDS[off].many}, and holds ${counts[off]}.`,
      );
    return work(bundle);
  });
}

/** Reads a backup from end to end. @throws Problem damaged, with what is wrong. */
export async function verifyBackup(folder: string, manifest: Manifest): Promise<void> {
  await withBackup(folder, manifest, async () => {});
  for (const file of manifest.pictures) {
    const path = join(folder, PICTURES, file);
    const sound = existsSync(path) && sha256(await readFile(path)) === file.split('.')[0];
    if (!sound)
      throw new Problem('damaged', `The backup ${manifest.name} lacks a photo, or has another in its place: ${file}.`);
  }
}

/** Whether a backup is whole from end to end. */
export const isSound = (folder: string, manifest: Manifest): Promise<boolean> =>
  verifyBackup(folder, manifest).then(
    () => true,
    () => false,
  );
