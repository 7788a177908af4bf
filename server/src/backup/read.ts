import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import { NOUN_NAMES, NOUN_WORDS } from '@alluvium/records';
import { inThread, type OpenBundle } from '../bundle/reader.js';
import type { Damage } from '../damage.js';
import { Problem } from '../problems.js';
import { Manifest, manifestFile, recordsFile } from './manifest.js';
import { photoOf } from './photos.js';

interface Listing {
  /** The newest first. */
  readonly backups: readonly Manifest[];
  /** Files that should be manifests and cannot be read. */
  readonly spoilt: readonly string[];
}

/** The backups of a folder, and what should be one and cannot be read. */
export async function lookInto(folder: string): Promise<Listing> {
  const names = (await readdir(folder).catch(() => [])).filter((n) => n.endsWith(manifestFile('')));
  const spoilt: string[] = [];
  const read = async (n: string): Promise<Manifest[]> => {
    try {
      return [Manifest.parse(JSON.parse(await readFile(join(folder, n), 'utf8')))];
    } catch {
      spoilt.push(n);
      return [];
    }
  };
  const backups = (await Promise.all(names.map(read))).flat();
  return {
    backups: backups.sort((a, b) => (a.made < b.made ? 1 : a.made > b.made ? -1 : b.name.localeCompare(a.name))),
    spoilt,
  };
}

/** The backups of a folder, the newest first; what is no manifest is passed over. */
export const listBackups = async (folder: string): Promise<readonly Manifest[]> => (await lookInto(folder)).backups;

/** A backup by its name. @throws Problem not-found. */
export async function findBackup(folder: string, name: string): Promise<Manifest> {
  const found = (await listBackups(folder)).find((m) => m.name === name);
  if (!found) throw new Problem('not-found', `There is no backup “${name}” in ${folder}.`);
  return found;
}

/** @throws Problem refused, when a newer program wrote it: fields this one does not know would be lost. */
export function refuseNewer({ name, schema, program }: Manifest, newest: number): void {
  if (schema > newest)
    throw new Problem(
      'refused',
      `The backup ${name} was written by a newer Alluvium${program ? ` (${program})` : ''}: its records are of schema ${schema}, and this program knows them up to ${newest}. Nothing was touched. Update the program, then put it back.`,
    );
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

/** Reads the records of a backup from end to end. @throws Problem damaged, with what is wrong. */
export const verifyRecords = (folder: string, manifest: Manifest): Promise<void> =>
  withBackup(folder, manifest, async () => {});

/** Whether the records of a backup are whole from end to end. */
export const isSound = (folder: string, manifest: Manifest): Promise<boolean> =>
  verifyRecords(folder, manifest).then(
    () => true,
    () => false,
  );

/** Hashes the packed records of a backup: whether they are those the manifest was written for. */
const isUnchanged = (folder: string, manifest: Manifest): Promise<boolean> =>
  recordsOf(folder, manifest).then(
    () => true,
    () => false,
  );

/** Letters by which a hash is told from others in a sentence. */
const SHORT = 8;

/** Looks through every backup of a folder: records, photos and manifests. What is wrong, as sentences. */
export async function damagedBackups(folder: string): Promise<Damage[]> {
  const { backups, spoilt } = await lookInto(folder);
  const damage = spoilt.map(
    (n) => `The backup ${n.slice(0, -manifestFile('').length)} cannot be used: its manifest is spoilt.`,
  );
  const lost = new Map<string, string>();
  for (const manifest of backups) {
    if (!(await isUnchanged(folder, manifest)))
      damage.push(`The backup ${manifest.name} is damaged: its records are not what they were.`);
    // Named once, by the newest backup that has it: all share the file.
    const known = new Set(manifest.missing.map((m) => m.file));
    for (const file of manifest.pictures) if (!known.has(file) && !lost.has(file)) lost.set(file, manifest.name);
  }
  for (const [file, name] of lost)
    if (!(await photoOf(folder, file)))
      damage.push(`The backup ${name} lacks a photo it had (${file.slice(0, SHORT)}…), which is spoilt or gone.`);
  return damage;
}
