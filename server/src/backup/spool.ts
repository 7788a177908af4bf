import { open } from 'node:fs/promises';

/** Where a text lies in a spool. */
export interface Place {
  readonly at: number;
  readonly bytes: number;
}

/** Texts put aside in a file, so that memory stays flat whatever the size of the library. */
export interface Spool {
  readonly add: (texts: readonly string[]) => Promise<Place[]>;
  readonly read: (places: readonly Place[]) => Promise<string[]>;
  readonly close: () => Promise<void>;
}

/** Opens an empty one at a path; whoever opened it removes the file. */
export async function openSpool(path: string): Promise<Spool> {
  const file = await open(path, 'w+');
  let end = 0;
  return {
    add: async (texts) => {
      const parts = texts.map((t) => Buffer.from(t));
      await file.writev(parts, end);
      return parts.map((p) => {
        const place = { at: end, bytes: p.length };
        end += p.length;
        return place;
      });
    },
    read: async (places) => {
      const texts: string[] = [];
      for (const { at, bytes } of places) {
        const text = Buffer.alloc(bytes);
        await file.read(text, 0, bytes, at);
        texts.push(text.toString('utf8'));
      }
      return texts;
    },
    close: () => file.close(),
  };
}
