/**
 * What time it is, and whether that can be believed. A clock that was set wrong makes everything look old or not yet
 * made: whatever is removed by its age waits until somebody says which of the two is true.
 */
import type { ClockJump } from '@alluvium/records';
import type { Database, Queries } from './db/database.js';

const DAY_MS = 86_400_000;
/** A library that nobody opened for longer than this is asked about, ms. */
const AHEAD_MS = 35 * DAY_MS;
/** Clocks of one machine differ by less than this when they are put right, ms. */
const BACK_MS = DAY_MS;
/** How often the time that is known is written down, ms. */
const NOTE_MS = 3_600_000;

/** The latest moment the library is known to have been open; undefined in a library without any history. */
async function knownTime(db: Queries): Promise<Date | undefined> {
  const [row] = await db.query<{ known: string | null }>(
    `select coalesce((select value from fact where name = 'clock'),
       (select to_char(max(at) at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') from change)) as known`,
  );
  return row?.known ? new Date(row.known) : undefined;
}

/** Takes this moment for the true time from now on. */
export const trustClock = (db: Database, now: Date): Promise<unknown> =>
  db.transaction((tx) =>
    tx.query(
      `insert into fact (name, value) values ('clock', $1) on conflict (name) do update set value = excluded.value`,
      [now.toISOString()],
    ),
  );

/**
 * How the clock jumped since the library was open last: far ahead, or back. Undefined while it can be believed; then the
 * moment is written down, once an hour.
 */
export async function clockJump(db: Database, now: Date): Promise<ClockJump | undefined> {
  const known = await knownTime(db);
  const moved = known === undefined ? 0 : now.getTime() - known.getTime();
  if (known !== undefined && (moved > AHEAD_MS || moved < -BACK_MS))
    return { now: now.toISOString(), known: known.toISOString() };
  // Where nothing can be written now, it is noted the next time.
  if (known === undefined || moved > NOTE_MS) await trustClock(db, now).catch(() => undefined);
  return undefined;
}

/**
 * Tells how much time has passed since it was made, ms: by the clock on the wall where that went on, so that a sleeping
 * machine counts, and by the machine's own where the other was set back.
 */
export function stopwatch(wall = () => Date.now(), own = () => performance.now()): () => number {
  const [wallThen, ownThen] = [wall(), own()];
  return () => Math.max(wall() - wallThen, own() - ownThen);
}
