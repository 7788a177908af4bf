/**
 * The library of claims, kept current in memory: read once in the background, then head by head as the feed of changes
 * tells. Nothing of it is stored; a head whose content did not change is not summed up again.
 */
import { createHash } from 'node:crypto';
import { sayIn, USUAL_ASSUMPTIONS, type Assumptions } from '@alluvium/core';
import {
  assumptionsOf,
  auditLine,
  claimRows,
  contextOf,
  createClaimLibrary,
  inAuditOrder,
  summaryOf,
  type AuditLine,
  type Build,
  type ClaimLibrary,
  type Extent,
  type NetHead,
  type ShopSpreads,
  type Source,
  type Assumption,
  type JudgingContext,
  type Noun,
  type Tolerance,
} from '@alluvium/records';
import type { Database } from '../db/database.js';
import { rowsOf } from '../store.js';
import { netHeads } from './heads.js';

/** Heads read from the database in one go, and how long they are worked on before others have their turn, ms. */
const READ = 25;
const SLICE = 15;

/** A claim of the audit in few words: what is needed to sort, filter and count. */
export type AuditEntry = Omit<AuditLine, 'words'>;

/** How far the library is read. */
export interface Standing {
  readonly done: number;
  readonly of: number;
  /** Another one whenever the library moved: what was asked before may be answered otherwise. */
  readonly version: number;
}

/** Nouns that all claims are judged with. */
const IN_FACTS: ReadonlySet<Noun> = new Set<Noun>(['source', 'tolerance', 'build', 'assumption', 'calibration']);

/** What all claims are judged with. */
export interface Facts {
  readonly sources: readonly Source[];
  readonly tolerances: readonly Tolerance[];
  readonly builds: readonly Build[];
  /** The shop's own assumptions, what its tests say of set-ups and benches, and which benches were checked. */
  readonly judging: JudgingContext;
  /** The source that is our own bench. */
  readonly own: string | undefined;
}

export interface ClaimKeeper {
  readonly library: ClaimLibrary;
  readonly standing: () => Standing;
  readonly facts: () => Promise<Facts>;
  /** Resolves when the library is read, or so long after the reading began: then what is known so far is used, and said to be so. */
  readonly ready: (within: number) => Promise<void>;
  /** Every claim of the library judged, in the order of the audit; judged anew in the background where the library moved. */
  readonly audit: (within: number) => Promise<{ readonly entries: readonly AuditEntry[]; readonly standing: Standing }>;
  /** Something changed. */
  readonly touched: (extent: Extent) => void;
  readonly close: () => void;
}

/** Something that goes on in the background, and since when, ms. */
interface Work {
  readonly done: Promise<void>;
  readonly since: number;
}
const workOf = (done: Promise<void>): Work => ({ done, since: performance.now() });

/**
 * Resolves when the work is done, or so long after it began. What takes longer holds only the first who asks up: a page
 * that asks five things waits once.
 */
async function within({ done, since }: Work, ms: number): Promise<void> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<void>((now) => (timer = setTimeout(now, Math.max(0, since + ms - performance.now()))));
  await Promise.race([done, late]);
  clearTimeout(timer);
}

const breathe = () => new Promise<void>((done) => setImmediate(done));

export function createClaimKeeper(db: Database): ClaimKeeper {
  const library = createClaimLibrary();
  const hashes = new Map<string, string>();
  /** Heads to be read, in turn. */
  let queue = new Set<string>();
  let total = 0;
  let known: Facts | undefined;
  let closed = false;
  let running: Work | undefined;
  /** The listing of every head; none while it has not begun, or has to be done again. */
  let listing: Promise<void> | undefined;
  /** Grows whenever a head's summary changed: what was judged before it may be judged otherwise. */
  let moved = 0;
  const judged = new Map<string, { readonly moved: number; readonly entries: readonly AuditEntry[] }>();
  let judging: Work | undefined;
  /** Every judged claim in the order of the audit; put in order once, however many pages of it are asked for. */
  let ordered: readonly AuditEntry[] | undefined;

  /** What all tests say of set-ups and benches, worked out once for each state of the library. */
  let spreads: { readonly moved: number; readonly of: Assumptions; readonly shop: ShopSpreads } | undefined;
  function shopSpreads(assumptions: Assumptions): ShopSpreads {
    if (spreads?.moved !== moved || spreads.of !== assumptions)
      spreads = { moved, of: assumptions, shop: library.spreads(assumptions) };
    return spreads.shop;
  }

  async function facts(): Promise<Facts> {
    const stored = await storedFacts();
    const { assumptions = USUAL_ASSUMPTIONS } = stored.judging;
    return { ...stored, judging: { ...stored.judging, shop: shopSpreads(assumptions) } };
  }

  async function storedFacts(): Promise<Facts> {
    if (known) return known;
    const sources = await rowsOf<Source>(db, 'select * from source order by id');
    known = {
      sources,
      tolerances: await rowsOf<Tolerance>(db, 'select * from tolerance order by id'),
      builds: await rowsOf<Build>(db, 'select * from build order by id'),
      judging: {
        assumptions: assumptionsOf(await rowsOf<Assumption>(db, 'select * from assumption')),
        checked: new Set(
          (await db.query<{ id: string }>('select distinct source_id as id from calibration')).map((r) => r.id),
        ),
      },
      own: sources.find((s) => s.kind === 'own bench')?.id,
    };
    return known;
  }

  async function everyHead(): Promise<void> {
    const ids = await db.query<{ id: string }>('select id from head order by id');
    const here = new Set(ids.map((r) => r.id));
    for (const id of hashes.keys()) if (!here.has(id)) forget(id);
    queue = here;
    total = here.size;
  }
  function forget(id: string): void {
    if (!hashes.delete(id)) return;
    library.drop(id);
    judged.delete(id);
    ordered = undefined;
    moved++;
  }

  /** Works through heads in slices, so that requests in between are answered. */
  async function inSlices(ids: readonly string[], work: (head: NetHead) => void): Promise<void> {
    let since = performance.now();
    for (const head of await netHeads(db, ids)) {
      if (closed) return;
      work(head);
      if (performance.now() - since > SLICE) {
        await breathe();
        since = performance.now();
      }
    }
  }

  async function read(): Promise<void> {
    while (queue.size > 0 && !closed) {
      const ids = [...queue].slice(0, READ);
      const { own } = await storedFacts();
      const found = new Set<string>();
      await inSlices(ids, (head) => {
        found.add(head.head.id);
        const hash = createHash('sha1')
          .update(JSON.stringify([own, head]))
          .digest('base64');
        if (hashes.get(head.head.id) === hash) return;
        hashes.set(head.head.id, hash);
        judged.delete(head.head.id);
        ordered = undefined;
        library.put(summaryOf(head, own));
        moved++;
      });
      for (const id of ids) {
        queue.delete(id);
        if (!found.has(id)) forget(id);
      }
      await breathe();
    }
  }
  function go(): Work {
    running ??= workOf(
      (async () => {
        await (listing ??= everyHead().catch((error: unknown) => {
          listing = undefined;
          throw error;
        }));
        await read();
      })().finally(() => (running = undefined)),
    );
    return running;
  }

  const standing = (): Standing => ({ done: Math.max(0, total - queue.size), of: total, version: moved });

  /** Judges every head whose verdicts are not those of the library as it is now. */
  async function judge(): Promise<void> {
    const at = moved;
    const { own, sources, tolerances, builds, judging: means } = await facts();
    const context = contextOf(library, own, sayIn('inch'), { ...means, sources });
    const due = [...hashes.keys()].filter((id) => judged.get(id)?.moved !== at);
    for (let i = 0; i < due.length && !closed && moved === at; i += READ)
      await inSlices(due.slice(i, i + READ), (head) => {
        const rows = claimRows([head], sources, context, { tolerances, builds, judging: means });
        judged.set(head.head.id, {
          moved: at,
          entries: rows.map((row) => {
            const { words: _words, ...entry } = auditLine(row);
            return entry;
          }),
        });
        ordered = undefined;
      });
  }

  /** A shop's few heads are always waited for; only what is left of a big library is not. */
  async function ready(ms: number): Promise<void> {
    const work = go();
    await listing;
    await within(work, ms);
    if (queue.size <= READ) await work.done;
  }

  return {
    library,
    standing,
    facts,
    ready,
    audit: async (ms) => {
      await ready(ms);
      judging ??= workOf(judge().finally(() => (judging = undefined)));
      await within(judging, ms);
      const done = [...judged.values()].filter((j) => j.moved === moved).length;
      ordered ??= [...judged.values()].flatMap((j) => j.entries).sort(inAuditOrder);
      return { entries: ordered, standing: { done, of: Math.max(total, hashes.size), version: moved } };
    },
    touched: (extent) => {
      if (!listing) return;
      if (extent === 'all') {
        known = undefined;
        listing = undefined;
      } else {
        for (const t of extent) {
          if (t.headId !== null) {
            queue.add(t.headId);
            total = Math.max(total, hashes.size, queue.size);
          }
          if (IN_FACTS.has(t.noun)) {
            const before = known?.own;
            known = undefined;
            moved++;
            // Another bench of our own is another zero for everything.
            void storedFacts().then(({ own }) => {
              if (own !== before) {
                listing = undefined;
                void go().done.catch(() => undefined);
              }
            });
          }
        }
      }
      void go().done.catch(() => undefined);
    },
    close: () => (closed = true),
  };
}
