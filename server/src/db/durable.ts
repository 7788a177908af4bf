/**
 * A database folder whose writes are on the disk when they are acknowledged. PGlite opens its folder with fsync off, and
 * its file layer syncs nothing; here PostgreSQL asks for its syncs and the file layer carries them out.
 */
import { closeSync, fdatasyncSync, fsyncSync, openSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { NodeFS } from '@electric-sql/pglite/nodefs';

/** What a file of the module's Node file system is, as far as syncing needs it. */
interface Stream {
  /** The file's descriptor; a directory has none. */
  readonly nfd?: number;
  readonly node: unknown;
}
/** The module's file layer over Node, with the operation it leaves out. */
export interface NodeLayer {
  readonly realPath: (node: unknown) => string;
  readonly stream_ops: { fsync?: (stream: Stream) => number } & Record<string, unknown>;
}
interface Module {
  readonly NODEFS: NodeLayer;
}

/** The entries of a directory, a file made or renamed, are synced by syncing the directory. */
export function syncFolder(path: string): void {
  const folder = openSync(path, 'r');
  try {
    fsyncSync(folder);
  } finally {
    closeSync(folder);
  }
}

/** A folder on the disk that is synced when PostgreSQL asks for it. */
export class DurableFS extends NodeFS {
  /** Hears the file layer before the database starts; for tests that stand between it and the disk. */
  constructor(
    folder: string,
    private readonly layer: (nodefs: NodeLayer) => void = () => {},
  ) {
    super(folder);
  }

  override async init(...[pg, options]: Parameters<NodeFS['init']>): ReturnType<NodeFS['init']> {
    const { emscriptenOpts } = await super.init(pg, options);
    const install = (mod: unknown) => {
      const { NODEFS } = mod as Module;
      NODEFS.stream_ops.fsync = (stream) => {
        if (stream.nfd) fdatasyncSync(stream.nfd);
        else syncFolder(NODEFS.realPath(stream.node));
        return 0;
      };
      this.layer(NODEFS);
    };
    const before = (emscriptenOpts.preRun ?? []) as ((mod: unknown) => void)[];
    return { emscriptenOpts: { ...emscriptenOpts, preRun: [...before, install] as never } };
  }
}

/** PGlite's own start, without the switch that turns syncing off, and by the call that its file layer hears. */
export const durableStart = (): string[] => [
  ...(PGlite as unknown as { defaultStartParams: readonly string[] }).defaultStartParams.filter((p) => p !== '-F'),
  '-c',
  'wal_sync_method=fsync',
];

/** Syncs every file and folder below: once, when a new database was laid down. */
export function syncAll(folder: string): void {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) syncAll(path);
    else if (entry.isFile()) {
      const file = openSync(path, 'r');
      try {
        fdatasyncSync(file);
      } finally {
        closeSync(file);
      }
    }
  }
  syncFolder(folder);
}
