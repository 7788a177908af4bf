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
  /** The content; undefined where the file is missing, or is not what its name says. */
  readonly read: (hash: string, type: PictureType) => Promise<Buffer | undefined>;
  /** The small picture, made again where its own file is spoilt; undefined where the photo cannot be read. */
  readonly thumbnail: (hash: string, type: PictureType) => Promise<Buffer | undefined>;
  /** Removes the files of every content that is not named, older than an hour; returns how many contents went. */
  readonly clear: (named: ReadonlySet<string>) => Promise<number>;
}

/** `PHOTO.thumbnail.OWN.webp`: a small picture tells by its name what it has to be as well. */
const THUMBNAIL_NAME = /^([0-9a-f]{64})\.thumbnail\.([0-9a-f]{64})\.webp$/;

/** Small pictures of earlier versions, which nothing tells to be whole: made again when one is asked for. */
const UNTOLD = /^[0-9a-f]{64}\.thumbnail\.webp$/;

/** The content of a file that is what its hash says. */
const soundFile = async (path: string, hash: string): Promise<Buffer | undefined> => {
  const content = await readFile(path).catch(() => undefined);
  return content && sha256(content) === hash ? content : undefined;
};

/** Opens the folder of photos and clears away what a crash left half-written. */
export async function openPictures(folder: string): Promise<Pictures> {
  await mkdir(folder, { recursive: true });
  /** Hash of each small picture, by its photo's. */
  const small = new Map<string, string>();
  for (const name of await readdir(folder)) {
    if (name.endsWith(PART) || UNTOLD.test(name)) await rm(join(folder, name), { force: true });
    const [, photo, own] = THUMBNAIL_NAME.exec(name) ?? [];
    if (photo && own) small.set(photo, own);
  }

  const path = (hash: string, type: PictureType) => join(folder, `${hash}.${PICTURE_TYPES[type]}`);
  const thumbnailPath = (photo: string, own: string) => join(folder, `${photo}.thumbnail.${own}.webp`);
  const exists = (file: string) =>
    stat(file).then(
      () => true,
      () => false,
    );
  const read = (hash: string, type: PictureType) => soundFile(path(hash, type), hash);

  async function makeThumbnail(photo: string, content: Buffer): Promise<Buffer> {
    const made = await sharp(content, { limitInputPixels: PIXEL_LIMIT })
      .resize(THUMBNAIL, THUMBNAIL, { fit: 'inside', withoutEnlargement: true })
      .webp({ quality: 78 })
      .toBuffer();
    const own = sha256(made);
    await writeWhole(thumbnailPath(photo, own), made);
    small.set(photo, own);
    return made;
  }
  const keptThumbnail = async (photo: string): Promise<Buffer | undefined> => {
    const own = small.get(photo);
    return own === undefined ? undefined : soundFile(thumbnailPath(photo, own), own);
  };

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
    // The thumbnail first: what cannot be shown is no picture.
    if (!(await keptThumbnail(hash))) await makeThumbnail(hash, content);
    if (!(await read(hash, type))) await writeWhole(path(hash, type), content);
    return hash;
  }

  return {
    path,
    read,
    thumbnail: async (hash, type) => {
      const kept = await keptThumbnail(hash);
      if (kept) return kept;
      const content = await read(hash, type);
      return content && makeThumbnail(hash, content);
    },
    clear: async (named) => {
      const gone = new Set<string>();
      for (const name of await readdir(folder)) {
        const hash = name.split('.')[0]!;
        if (named.has(hash)) continue;
        // A photo is written before its record: one just sent is not cleared away from under it.
        if (Date.now() - (await stat(join(folder, name))).mtimeMs < HOUR) continue;
        await rm(join(folder, name), { force: true });
        small.delete(hash);
        gone.add(hash);
      }
      return gone.size;
    },
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
