import { createHash } from 'node:crypto';
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { COPY_NAME } from '../backup/keep.js';
import { migrate, readMigrations, stepOf, type Migration } from '../db/migrate.js';
import { openPglite } from '../db/pglite.js';
import { openLibrary } from '../library.js';
import { diskUnder } from './disk.js';
import { MIGRATIONS } from './fixture.js';
import { seeded } from './powercut.js';

/** Places in a run of the tests, of the newest step alone; the proof cuts every step at thirty. */
const PLACES = Number(process.env.STEP_CUTS ?? 2);
const EVERY_STEP = process.env.STEP_CUTS !== undefined;
const PATIENCE = 120_000 + PLACES * 60_000;
/** Syncs until a copy has its name, about: one for each of its files. */
const SYNCS = 1_000;
/** Records of the library before the step. */
const HEADS = 40;

let home: string;
let steps: Migration[];
beforeAll(async () => {
  home = await mkdtemp(join(tmpdir(), 'alluvium-copy-'));
  steps = await readMigrations(MIGRATIONS);
});
afterAll(() => rm(home, { recursive: true, force: true }));

/** One name for all that lies in a folder, byte by byte. */
function bytesOf(folder: string): string {
  const hash = createHash('sha256');
  for (const name of (readdirSync(folder, { recursive: true }) as string[]).sort()) {
    const path = join(folder, name);
    hash.update(`${name}\0`);
    if (statSync(path).isFile()) hash.update(readFileSync(path));
  }
  return hash.digest('hex');
}

interface Counted {
  readonly step: number;
  readonly heads: number;
}
/** What a database says once it was opened. The same bytes say the same again: most cuts leave the copy as an earlier one did. */
const opened = new Map<string, Promise<Counted>>();
function countOf(folder: string): Promise<Counted> {
  const bytes = bytesOf(folder);
  const count = opened.get(bytes) ?? open(folder);
  opened.set(bytes, count);
  return count;
}
async function open(folder: string): Promise<Counted> {
  const db = await openPglite(folder);
  try {
    const [row] = await db.query<{ n: number }>('select count(*)::int as n from head');
    return { step: await stepOf(db), heads: row!.n };
  } finally {
    await db.close();
  }
}

/** What is left after a cut: the copy, where it is there by its name, and the library. Sentences of what is wrong. */
async function looked(after: string, from: number): Promise<string[]> {
  const wrong: string[] = [];
  const backups = join(after, 'backups');
  const copies = existsSync(backups) ? readdirSync(backups).filter((n) => COPY_NAME.test(n)) : [];
  for (const name of copies)
    await countOf(join(backups, name)).then(
      ({ step, heads }) => {
        if (step !== from || heads !== HEADS) wrong.push(`the copy is of step ${step} with ${heads} heads`);
      },
      (error: Error) => wrong.push(`the copy does not open: ${error.message}`),
    );
  await countOf(join(after, 'database')).then(
    ({ step, heads }) => {
      if (heads !== HEADS) wrong.push(`the library has ${heads} heads`);
      if (step !== from && copies.length === 0) wrong.push(`the library is of step ${step}, and there is no copy`);
    },
    (error: Error) => wrong.push(`the library does not open: ${error.message}`),
  );
  return wrong;
}

/** A library of a step is opened by the program of today; the power fails at places on its way to the newest step. */
async function cutsOf(index: number): Promise<string[]> {
  const from = steps[index - 1]!.number;
  const before = join(home, `before-${from}`);
  mkdirSync(before);
  const template = await openPglite(join(before, 'database'));
  await migrate(template, steps.slice(0, index));
  await template.transaction(async (tx) => {
    for (let i = 0; i < HEADS; i++)
      await tx.query(
        "insert into head (id, version, name, kind, material, intake_valves, exhaust_valves) values ($1, 1, 'Head', 'production', 'iron', 1, 1)",
        [`h${i}`],
      );
  });
  await template.close();
  const data = join(home, `cut-${from}`);
  const backups = join(data, 'backups');
  cpSync(before, data, { recursive: true });
  const random = seeded(from);
  const cuts: string[] = [];
  const disk = diskUnder(data);
  const cut = (n: number) => {
    const after = join(home, `after-${from}-${n}`);
    disk.cut(after, random);
    cuts.push(after);
  };
  /** Half of the places lie where the copy has its name and the schema moves, the others on the way there. */
  const late = Math.ceil(PLACES / 2);
  let named = 0;
  disk.onSync((n) => {
    const isNamed = existsSync(backups) && readdirSync(backups).some((name) => COPY_NAME.test(name));
    if (isNamed ? named++ < late : random() < (PLACES - late) / SYNCS) cut(n);
  });
  const result = await openLibrary(data, steps, { backups });
  disk.remove();
  cut(disk.syncs() + 1);
  if ('library' in result) await result.library.db.close();
  else throw new Error(result.damaged.damage.join(' '));
  expect(cuts.length).toBeGreaterThan(1);
  const wrong: string[] = [];
  for (const after of cuts) {
    wrong.push(...(await looked(after, from)).map((w) => `${after}: ${w}`));
    await rm(after, { recursive: true });
  }
  for (const done of ['before', 'cut']) await rm(join(home, `${done}-${from}`), { recursive: true });
  return wrong;
}

describe('the power fails while the schema moves on', () => {
  it(
    `the copy is there whole before anything moves, and the library is of the one step or the other (${PLACES} places)`,
    async () => {
      expect(await cutsOf(steps.length - 1)).toEqual([]);
      console.log(`figure: step ${steps.length} cut at ${PLACES} places, the copy before it whole each time`);
    },
    PATIENCE,
  );
  it.runIf(EVERY_STEP)(
    `and so from every earlier step (${PLACES} places each)`,
    async () => {
      for (let index = 1; index < steps.length - 1; index++)
        expect(await cutsOf(index), `step ${index + 1}`).toEqual([]);
      console.log(`figure: libraries of steps 1 to ${steps.length - 2} cut at ${PLACES} places each on their way`);
    },
    PATIENCE * 20,
  );
});
