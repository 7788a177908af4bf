import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, readFile, rename, rm, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { guarded } from '../db/guarded.js';
import { openPglite } from '../db/pglite.js';
import { layFirst } from '../db/first.js';
import { addressOf, lockFolder, type FolderLock } from '../lock.js';
import { watchRoom } from '../space.js';
import { first } from './fixture.js';

// A lock belongs to a descriptor, so that two of one process are as much in each other's way as those of two.
let folder: string;
let lock: FolderLock;
const file = () => join(folder, 'alluvium.pid');
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'alluvium-lock-'));
  lock = await lockFolder(folder);
});
afterEach(async () => {
  lock.release();
  await rm(folder, { recursive: true, force: true });
});

describe('a data folder', () => {
  it('is one process’s until that ends; the other is told whose', async () => {
    await expect(lockFolder(folder)).rejects.toThrow(
      new RegExp(
        `is open in another Alluvium \\(process ${process.pid} on .*\\)\\. .* stopped or asleep has it as well`,
      ),
    );
    expect(lock.stands()).toBe(true);
    lock.release();
    lock = await lockFolder(folder);
  });
  it('says where its server answers', async () => {
    expect(await addressOf(folder)).toBeUndefined();
    lock.note('http://127.0.0.1:4870');
    expect(await addressOf(folder)).toBe('http://127.0.0.1:4870');
  });
  it('whose lock was removed is locked again by whoever had it', async () => {
    lock.note('http://127.0.0.1:4870');
    await rm(file());
    expect(lock.stands()).toBe(true);
    expect(await readFile(file(), 'utf8')).toContain(`${process.pid} http://127.0.0.1:4870`);
    await expect(lockFolder(folder)).rejects.toThrow('is open in another Alluvium');
  });
  it('is nobody else’s even then: the database’s own file is locked as well', async () => {
    const mark = join(folder, 'PG_VERSION');
    await writeFile(mark, '18');
    lock.hold(mark);
    await rm(file());
    const other = await lockFolder(folder);
    // Who has the folder now writes nothing while the other looks.
    expect(lock.stands()).toBe(false);
    expect(() => other.hold(mark)).toThrow('is open in another Alluvium');
    other.release();
    expect(lock.stands()).toBe(true);
    lock.letGo();
    await rm(file());
    const after = await lockFolder(folder);
    after.hold(mark);
    after.release();
  });
  it('that a version has open which locks by a folder of its own is refused; what that left behind is cleared', async () => {
    lock.release();
    const former = join(folder, 'alluvium.lock');
    await mkdir(former);
    await expect(lockFolder(folder)).rejects.toThrow('is open in another Alluvium');
    await utimes(former, new Date(0), new Date(0));
    lock = await lockFolder(folder);
    expect(existsSync(former)).toBe(false);
  });
  it('that cannot be written is said', async () => {
    await writeFile(join(folder, 'a-file'), '');
    await expect(lockFolder(join(folder, 'a-file'))).rejects.toThrow('cannot be written');
  });
});

describe('a database whose lock is gone', () => {
  const note = (db: ReturnType<typeof guarded>, id: string) =>
    db.transaction((tx) => tx.query("insert into source (id, version, name, kind) values ($1, 1, 'S', 'forum')", [id]));
  it('writes nothing, not even what was begun before, and goes on when the lock is its own again', async () => {
    const database = join(folder, 'database');
    await layFirst(first(), database);
    const plain = await openPglite(database);
    lock.hold(join(database, 'PG_VERSION'));
    const db = guarded(plain, database, watchRoom(folder), lock);
    await note(db, 'a');
    let other: FolderLock | undefined;
    // It began while all was well, and slept before it was committed.
    await expect(
      db.transaction(async (tx) => {
        await tx.query("insert into source (id, version, name, kind) values ('b', 1, 'S', 'forum')");
        await rm(file());
        other = await lockFolder(folder);
      }),
    ).rejects.toThrow('its lock was taken. Nothing was written');
    await expect(note(db, 'c')).rejects.toThrow('Put the folder back');
    expect(db.trouble!()!.id).toBe('no-library');
    other!.release();
    await note(db, 'd');
    // Moved away and put back.
    await rename(database, `${database}.away`);
    await expect(note(db, 'e')).rejects.toThrow('was moved');
    await rename(`${database}.away`, database);
    await note(db, 'f');
    expect((await db.query<{ id: string }>('select id from source order by id')).map((r) => r.id)).toEqual([
      'a',
      'd',
      'f',
    ]);
    await db.close();
  });
});
