/** Photos on disk: one file per content, named by its hash, so that nothing is half-kept and nothing kept twice. */
import { mkdir, readFile, readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { PICTURE_LIMIT, PICTURE_TYPES, type PictureType } from '@alluvium/records';
import sharp, { type Sharp } from 'sharp';
import { Problem } from './problems.js';
import { PART, sha256, writeWhole } from './stored.js';

// split()[]!: splitting gives one part at least.

/** Longest edge of a thumbnail, pixels. */
const THUMBNAIL = 320;
/** More pixels than any camera makes; a file that unpacks to more is refused before it is unpacked. */
const PIXEL_LIMIT = 120_000_000;

export interface StoredPicture {
  readonly hash: string;
  readonly type: PictureType;
  readonly width: number;
  readonly height: number;
  readonly bytes: number;
}

const FORMATS: Readonly<Record<string, PictureType>> = { jpeg: 'image/jpeg', png: 'image/png', webp: 'image/webp' };
const tooLarge = () => new Problem('too-large', 'This photo is over 12 MB. Send it at a smaller size, or as JPEG.');
const HOUR = 3_600_000;
const noPicture = () =>
  new Problem('bad-input', 'This is no picture this program can read. It takes JPEG, PNG and WebP.');

/** Reads a request's body up to the limit. @throws Problem too-large. */
export async function readLimited(body: AsyncIterable<Buffer>, declared: number | undefined): Promise<Buffer> {
  if (declared !== undefined && declared > PICTURE_LIMIT) throw tooLarge();
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of body) {
    size += part.length;
    if (size > PICTURE_LIMIT) throw tooLarge();
    parts.push(part);
  }
  return Buffer.concat(parts);
}

export interface Pictures {
  /**
   * Keeps a picture: turned as its camera says, without any metadata (so without its place), with a thumbnail.
   * @throws Problem when it is no picture.
   */
  readonly keep: (content: Buffer) => Promise<StoredPicture>;
  /** Takes back content that was kept before, from a bundle. @throws Problem when it is not what its hash says. */
  readonly restore: (hash: string, content: Buffer) => Promise<void>;
  readonly has: (hash: string) => Promise<boolean>;
  readonly path: (hash: string, type: PictureType) => string;
  readonly thumbnail: (hash: string) => string;
  readonly read: (hash: string, type: PictureType) => Promise<Buffer>;
  /** Removes the files of every content that is not named, older than an hour; returns how many contents went. */
  readonly clear: (named: ReadonlySet<string>) => Promise<number>;
}

/** Opens the folder of photos and clears away what a crash left half-written. */
export async function openPictures(folder: string): Promise<Pictures> {
  await mkdir(folder, { recursive: true });
  for (const name of await readdir(folder)) if (name.endsWith(PART)) await rm(join(folder, name), { force: true });

  const path = (hash: string, type: PictureType) => join(folder, `${hash}.${PICTURE_TYPES[type]}`);
  const thumbnail = (hash: string) => join(folder, `${hash}.thumbnail.webp`);
  const exists = (file: string) =>
    stat(file).then(
      () => true,
      () => false,
    );

  async function look(content: Buffer): Promise<{ type: PictureType; image: Sharp }> {
    if (content.length === 0) throw noPicture();
    const image = sharp(content, { limitInputPixels: PIXEL_LIMIT, failOn: 'error' });
    const { format } = await image.metadata().catch(() => {
      throw noPicture();
    });
    const type = FORMATS[format];
    if (!type) throw noPicture();
    return { type, image };
  }

  async function put(content: Buffer, type: PictureType): Promise<string> {
    const hash = sha256(content);
    // The thumbnail first: a picture that is there always has one.
    const small = await sharp(content, { limitInputPixels: PIXEL_LIMIT })
      .resize(THUMBNAIL, THUMBNAIL, { fit: 'inside', withoutEnlargement: true })
      .webp({ quality: 78 })
      .toBuffer();
    if (!(await exists(thumbnail(hash)))) await writeWhole(thumbnail(hash), small);
    if (!(await exists(path(hash, type)))) await writeWhole(path(hash, type), content);
    return hash;
  }

  return {
    path,
    thumbnail,
    clear: async (named) => {
      const gone = new Set<string>();
      for (const name of await readdir(folder)) {
        const hash = name.split('.')[0]!;
        if (named.has(hash)) continue;
        // A photo is written before its record: one just sent is not cleared away from under it.
        if (Date.now() - (await stat(join(folder, name))).mtimeMs < HOUR) continue;
        await rm(join(folder, name), { force: true });
        gone.add(hash);
      }
      return gone.size;
    },
    read: (hash, type) => readFile(path(hash, type)),
    has: async (hash) =>
      (await Promise.all((Object.keys(PICTURE_TYPES) as PictureType[]).map((t) => exists(path(hash, t))))).some(
        Boolean,
      ),
    keep: async (content) => {
      const { type, image } = await look(content);
      const turned = image.rotate();
      const encoded =
        type === 'image/jpeg'
          ? turned.jpeg({ quality: 90, mozjpeg: false })
          : type === 'image/png'
            ? turned.png()
            : turned.webp({ quality: 90 });
      const { data, info } = await encoded.toBuffer({ resolveWithObject: true }).catch(() => {
        throw noPicture();
      });
      return { hash: await put(data, type), type, width: info.width, height: info.height, bytes: data.length };
    },
    restore: async (hash, content) => {
      if (sha256(content) !== hash)
        throw new Problem('bad-input', `The content of photo ${hash.slice(0, 12)}… is not what its hash says.`);
      const { type, image } = await look(content);
      // What this program kept never has any: a file that does would bring its place along.
      if ((await image.metadata()).exif)
        throw new Problem('bad-input', 'A photo in this bundle carries camera data, perhaps a place: add it by hand.');
      await put(content, type).catch(() => {
        throw noPicture();
      });
    },
  };
}
