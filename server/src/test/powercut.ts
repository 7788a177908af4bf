/**
 * A disk that may lose power: what was written since the last sync of its file is kept, dropped or torn, sector by sector,
 * in any order, as a disk with a write cache does.
 */
import { closeSync, cpSync, existsSync, fstatSync, openSync, readSync, writeSync } from 'node:fs';
import { join, relative } from 'node:path';
import type { NodeLayer } from '../db/durable.js';

const SECTOR = 512;

interface Written {
  readonly at: number;
  /** What stood there before. */
  readonly before: Buffer;
}
interface Stream {
  readonly nfd?: number;
  readonly node: unknown;
  readonly position: number;
}
type Write = (stream: Stream, buffer: Uint8Array, offset: number, length: number, position: number) => number;

export interface PowerCut {
  /** Stands between the database and its folder. */
  readonly layer: (nodefs: NodeLayer) => void;
  /** The folder as it may be found after the power failed now. */
  readonly cut: (folder: string, to: string, random: () => number) => void;
  readonly syncs: () => number;
}

export function powerCut(): PowerCut {
  const unsynced = new Map<string, Written[]>();
  let syncs = 0;
  return {
    syncs: () => syncs,
    layer: (nodefs) => {
      const ops = nodefs.stream_ops as unknown as { write: Write; fsync?: (stream: Stream) => number };
      const { write, fsync } = ops;
      ops.write = (stream, buffer, offset, length, position) => {
        const path = nodefs.realPath(stream.node);
        const size = fstatSync(stream.nfd!).size;
        const list = unsynced.get(path) ?? [];
        for (let done = 0; done < length;) {
          const at = position + done;
          const part = Math.min(length - done, SECTOR - (at % SECTOR));
          const before = Buffer.alloc(part);
          const reader = openSync(path, 'r');
          if (at < size) readSync(reader, before, 0, part, at);
          closeSync(reader);
          list.push({ at, before });
          done += part;
        }
        unsynced.set(path, list);
        return write(stream, buffer, offset, length, position);
      };
      if (fsync)
        ops.fsync = (stream) => {
          syncs++;
          unsynced.delete(nodefs.realPath(stream.node));
          return fsync(stream);
        };
    },
    cut: (folder, to, random) => {
      cpSync(folder, to, { recursive: true });
      for (const [path, list] of unsynced) {
        const copy = join(to, relative(folder, path));
        // A file that is gone, or goes by another name since, cannot be torn.
        if (!existsSync(copy)) continue;
        const file = openSync(copy, 'r+');
        // Latest first: a sector that is lost shows what stood there before, whichever write that was.
        for (const { at, before } of [...list].reverse())
          if (random() < 0.5) writeSync(file, before, 0, Math.ceil(before.length * random()), at);
        closeSync(file);
      }
    },
  };
}

/** Numbers that look random and are the same for the same seed (mulberry32). */
export function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = a;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}
