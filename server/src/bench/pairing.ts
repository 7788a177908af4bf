import { randomBytes, randomInt, timingSafeEqual } from 'node:crypto';
import type { Hello, Instrument } from '@alluvium/records';
import type { Database } from '../db/database.js';
import { sha256 } from '../stored.js';

/** How long a code is good for, ms. */
const CODE_MS = 5 * 60_000;
/** Wrong codes after which the one shown is void: six figures are not to be guessed. */
const WRONG = 5;

/** In the same time whatever is asked: hashes are of one length. */
const same = (a: string, b: string) => timingSafeEqual(Buffer.from(sha256(a)), Buffer.from(sha256(b)));

export interface Code {
  readonly text: string;
  /** Milliseconds since 1970. */
  readonly until: number;
}

export interface Pairings {
  /** A code to type into the program of one instrument; the one before it is void. */
  readonly newCode: () => Code;
  /** How a hello stands; a right code pairs it, and gives the key to be kept. */
  readonly admit: (hello: Hello) => { readonly standing: Instrument['standing']; readonly key?: string };
  /** The ids that are paired, connected or not. */
  readonly paired: () => readonly string[];
  readonly forget: (id: string) => void;
}

/**
 * Which instruments may send readings. Pairings live in memory and are written through to the database, where one is
 * given; `own` is the key of the stand-ins this process starts itself.
 */
export async function openPairings(db?: Database, own?: string): Promise<Pairings> {
  const rows = db ? await db.query<{ id: string; key_hash: string }>('select id, key_hash from instrument') : [];
  const known = new Map(rows.map((r) => [r.id, r.key_hash]));
  let code: Code | undefined;
  let wrong = 0;
  // A pairing that could not be written holds until the next start; then the instrument asks for a code again.
  const write = (sql: string, values: unknown[]) =>
    void db?.transaction((tx) => tx.query(sql, values)).catch(() => undefined);

  return {
    newCode: () => {
      wrong = 0;
      code = { text: String(randomInt(0, 1_000_000)).padStart(6, '0'), until: Date.now() + CODE_MS };
      return code;
    },
    admit: ({ id, name, kind, simulated, key, code: typed }) => {
      const trusted = simulated ? 'simulated' : 'paired';
      if (own !== undefined && key !== undefined && same(key, own)) return { standing: trusted };
      const hash = known.get(id);
      if (key !== undefined && hash !== undefined && same(sha256(key), hash)) return { standing: trusted };
      if (typed === undefined || !code || Date.now() > code.until) return { standing: 'unknown' };
      if (!same(typed, code.text)) {
        if (++wrong >= WRONG) code = undefined;
        return { standing: 'unknown' };
      }
      code = undefined;
      const made = randomBytes(24).toString('base64url');
      known.set(id, sha256(made));
      write(
        `insert into instrument (id, name, kind, key_hash) values ($1, $2, $3, $4)
         on conflict (id) do update set name = excluded.name, kind = excluded.kind, key_hash = excluded.key_hash, since = now()`,
        [id, name, kind, sha256(made)],
      );
      return { standing: trusted, key: made };
    },
    paired: () => [...known.keys()],
    forget: (id) => {
      known.delete(id);
      write('delete from instrument where id = $1', [id]);
    },
  };
}
