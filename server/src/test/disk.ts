/**
 * A disk under everything this process writes: what was not synced when the power fails is kept, dropped or torn, and a
 * name that was not synced is there or not, as a file system with a write cache does. powercut.ts has the same for a
 * database alone.
 */
import fs, { cpSync, existsSync, lstatSync, readdirSync, renameSync, rmSync, truncateSync } from 'node:fs';
import fsp from 'node:fs/promises';
import { syncBuiltinESMExports } from 'node:module';
import { dirname, join, relative } from 'node:path';

const SECTOR = 512;

interface Written {
  readonly at: number;
  /** What stood there before; undefined past the file's end. */
  readonly before: Buffer | undefined;
}

export interface Disk {
  /** How many syncs there were so far. */
  readonly syncs: () => number;
  /** Hears each sync, after it is done. */
  readonly onSync: (heard: (n: number) => void) => void;
  /** The folder as it may be found after the power failed now. */
  readonly cut: (to: string, random: () => number) => void;
  readonly remove: () => void;
}

type Write = (fd: number, buffer: Uint8Array, offset?: number, length?: number, position?: number) => number;

const pathOf = (fd: number): string => fs.readlinkSync(`/proc/self/fd/${fd}`);

function filesBelow(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((e) => {
    const path = join(folder, e.name);
    return e.isDirectory() ? filesBelow(path) : [path];
  });
}

/** Puts the disk under one folder; what lies there already is old and safe. */
export function diskUnder(folder: string): Disk {
  const safe = new Set(filesBelow(folder));
  const unsynced = new Map<string, Written[]>();
  /** Renames whose folder was not synced since, the last first. */
  const renames: { readonly from: string; readonly to: string }[] = [];
  let syncs = 0;
  let heard: (n: number) => void = () => {};
  const ours = (path: string) => path.startsWith(folder);
  const original = {
    write: fs.writeSync as Write,
    fsync: fs.fsyncSync,
    fdatasync: fs.fdatasyncSync,
    rename: fsp.rename,
  };

  const synced = (fd: number) => {
    const path = pathOf(fd);
    if (!ours(path)) return;
    if (lstatSync(path).isDirectory()) {
      for (let i = renames.length - 1; i >= 0; i--) if (dirname(renames[i]!.to) === path) renames.splice(i, 1);
    } else {
      unsynced.delete(path);
      safe.add(path);
    }
    heard(++syncs);
  };
  fs.fsyncSync = (fd) => {
    original.fsync(fd);
    synced(fd);
  };
  fs.fdatasyncSync = (fd) => {
    original.fdatasync(fd);
    synced(fd);
  };
  const write: Write = (fd, buffer, offset = 0, length = buffer.length, position) => {
    const path = pathOf(fd);
    if (ours(path) && typeof position === 'number') {
      const { size } = fs.fstatSync(fd);
      const list = unsynced.get(path) ?? [];
      for (let done = 0; done < length;) {
        const at = position + done;
        const part = Math.min(length - done, SECTOR - (at % SECTOR));
        let before: Buffer | undefined;
        if (at < size) {
          before = Buffer.alloc(part);
          const reader = fs.openSync(path, 'r');
          fs.readSync(reader, before, 0, part, at);
          fs.closeSync(reader);
        }
        list.push({ at, before });
        done += part;
      }
      unsynced.set(path, list);
    }
    return original.write(fd, buffer, offset, length, position);
  };
  fs.writeSync = write as typeof fs.writeSync;
  fsp.rename = async (from, to) => {
    await original.rename(from, to);
    const [a, b] = [String(from), String(to)];
    if (!ours(b)) return;
    renames.unshift({ from: a, to: b });
    // What was safe by its old name is by its new one.
    for (const path of [...safe]) if (path.startsWith(`${a}/`) || path === a) safe.add(b + path.slice(a.length));
  };
  syncBuiltinESMExports();

  /** Tears what was written over what stood there. */
  function tear(copy: string, list: readonly Written[], random: () => number): void {
    const file = fs.openSync(copy, 'r+');
    for (const { at, before } of [...list].reverse())
      if (before && random() < 0.5) original.write(file, before, 0, Math.ceil(before.length * random()), at);
    fs.closeSync(file);
  }
  return {
    syncs: () => syncs,
    onSync: (listener) => (heard = listener),
    cut: (to, random) => {
      cpSync(folder, to, { recursive: true });
      const inCopy = (path: string) => join(to, relative(folder, path));
      for (const path of filesBelow(folder)) {
        const copy = inCopy(path);
        if (!existsSync(copy)) continue;
        const list = unsynced.get(path);
        if (safe.has(path)) {
          if (list) tear(copy, list, random);
        } else {
          // Never synced: cut short, and now and then not there at all.
          const { size } = lstatSync(copy);
          if (random() < 0.2) rmSync(copy);
          else if (random() < 0.6) truncateSync(copy, Math.floor(size * random()));
        }
      }
      for (const { from, to: name } of renames)
        if (random() < 0.5 && existsSync(inCopy(name)) && !existsSync(inCopy(from)))
          renameSync(inCopy(name), inCopy(from));
    },
    remove: () => {
      fs.writeSync = original.write as typeof fs.writeSync;
      fs.fsyncSync = original.fsync;
      fs.fdatasyncSync = original.fdatasync;
      fsp.rename = original.rename;
      syncBuiltinESMExports();
    },
  };
}
