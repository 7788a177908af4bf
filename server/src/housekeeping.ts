import { NOUN_NAMES } from '@alluvium/records';
import type { Backups } from './backup/backups.js';
import { clockJump, stopwatch } from './clock.js';
import { verifyLibrary, type Found } from './damage.js';
import type { Database } from './db/database.js';
import { giveWay } from './giveWay.js';
import type { Pictures } from './pictures.js';
import type { Room } from './space.js';

// size!: one row comes back, whatever is there.

/** Newest changes of a record that are kept whatever their age: as many as its history shows. */
const SHOWN = 200;
/** Older changes are pruned after this many days; at once where the log is larger than its limit. */
const DAYS = 30;
/** What was deleted can be brought back so long, days. */
const DELETED_DAYS = 90;
const LOG_LIMIT = 64 * 1024 * 1024;
/** Nobody asked for anything for so long: heavy work disturbs nobody, ms. */
const IDLE_MS = 2 * 60_000;
const DAY_MS = 86_400_000;
const HOUR_MS = 3_600_000;
const PULSE_MS = 30_000;
/** After the start nothing heavy is done for so long, ms. */
const QUIET_MS = 5_000;
/** Between something that could not be read and the look at everything, ms. */
const SOON_MS = 1_000;
/** Between two such looks, ms. */
const AGAIN_MS = 60_000;

/**
 * Takes out of the change log what no page shows and no undo reaches; whole batches only, since half of one could not be
 * undone. Returns how many changes went.
 */
export async function pruneLog(db: Database, limit = LOG_LIMIT): Promise<number> {
  const [size] = await db.query<{ bytes: number }>(`select pg_total_relation_size('change') as bytes`);
  const after = size!.bytes > limit ? '1 hour' : `${DAYS} days`;
  const gone = await db.transaction((tx) =>
    tx.query(
      `with ranked as (
         select id, batch, at, noun, record,
           row_number() over (partition by noun, record order by id desc) as nth,
           first_value(after is null) over (partition by noun, record order by id desc) as deleted,
           max(at) over (partition by noun, record) as last
         from change),
       kept as (
         select distinct batch from ranked
         where not ((nth > ${SHOWN} and at < now() - interval '${after}')
           or (deleted and last < now() - interval '${DELETED_DAYS} days')))
       delete from change where batch not in (select batch from kept) returning id`,
    ),
  );
  return gone.length;
}

/** Clears the files of photos that no record has and no undo can bring back. */
export async function clearPictures(db: Database, pictures: Pictures): Promise<number> {
  const rows = await db.query<{ hash: string }>(
    `select hash from attachment
     union select before ->> 'hash' from change where noun = 'attachment' and before is not null
     union select after ->> 'hash' from change where noun = 'attachment' and after is not null`,
  );
  return pictures.clear(new Set(rows.map((r) => r.hash)));
}

export interface Check extends Found {
  readonly at: string;
}

export interface Housekeeping {
  /** Somebody asked for something: what is heavy waits. */
  readonly asked: () => void;
  /** What the last check of everything found; undefined before the first. */
  readonly lastCheck: () => Check | undefined;
  readonly check: () => Promise<Check>;
  /** Something could not be read: everything is looked at soon, once for all that is told meanwhile. */
  readonly suspect: () => void;
  /** Prunes, clears and checks now, as it is done by itself when nobody asks for anything. */
  readonly round: () => Promise<void>;
  readonly stop: () => void;
}

/** What a library needs from day to day: room, a backup, a shorter log, a look at everything. */
export function keepHouse(
  db: Database,
  pictures: Pictures,
  backups: Backups | undefined,
  room: Room | undefined,
  complain: (error: unknown) => void,
  now = () => new Date(),
): Housekeeping {
  let sinceAsked = stopwatch();
  let sinceRound: (() => number) | undefined;
  let sinceBackup: (() => number) | undefined;
  /** A backup that failed is tried again sooner, ms. */
  let pause = 0;
  let busy = false;
  let suspected = false;
  let sinceCheck: (() => number) | undefined;
  let last: Check | undefined;

  async function check(): Promise<Check> {
    suspected = false;
    sinceCheck = stopwatch();
    const { damage, repaired } = await verifyLibrary(db, pictures, backups?.photo);
    const ofBackups = (await backups?.check()) ?? [];
    return (last = { at: now().toISOString(), damage: [...damage, ...ofBackups], repaired });
  }
  async function round(): Promise<void> {
    sinceRound = stopwatch();
    if ((await check()).damage.length > 0) return;
    // By a clock that jumped, everything is old.
    if (!(await clockJump(db, now()))) {
      await pruneLog(db);
      await clearPictures(db, pictures);
    }
    for (const table of [...NOUN_NAMES, 'change', 'tally']) {
      await db.script(`vacuum (analyze) ${table}`);
      await giveWay();
    }
  }
  /** A backup reads every record: one that fails, and each that is made, is a reason to look at everything. */
  async function backUp(reason: 'start' | 'daily'): Promise<void> {
    try {
      await backups?.make(reason);
    } finally {
      await check();
    }
  }
  let started = false;
  async function pulse(): Promise<void> {
    room?.trim();
    if (busy) return;
    busy = true;
    try {
      if (suspected) await check();
      if (backups && (!sinceBackup || sinceBackup() > pause)) {
        const reason = started ? 'daily' : 'start';
        started = true;
        // One that fails is tried again in an hour; one of an unchanged library is not looked at all day.
        sinceBackup = stopwatch();
        pause = HOUR_MS;
        await backUp(reason);
        pause = DAY_MS;
      }
      if (sinceAsked() > IDLE_MS && (!sinceRound || sinceRound() > DAY_MS)) await round();
    } catch (error) {
      complain(error);
    } finally {
      busy = false;
    }
  }
  // While the first pages are drawn nothing heavy is done.
  const first = setTimeout(() => void pulse(), QUIET_MS);
  first.unref();
  const timer = setInterval(() => void pulse(), PULSE_MS);
  timer.unref();

  return {
    asked: () => (sinceAsked = stopwatch()),
    lastCheck: () => last,
    check,
    suspect: () => {
      // What was looked at a moment ago is not looked at again for each who meets the same.
      if (suspected || (sinceCheck && sinceCheck() < AGAIN_MS)) return;
      suspected = true;
      setTimeout(() => void pulse(), SOON_MS).unref();
    },
    round,
    stop: () => {
      clearTimeout(first);
      clearInterval(timer);
    },
  };
}
