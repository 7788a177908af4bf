/** Writes of every kind against a server that may die under them; what was acknowledged is remembered. */
import { randomUUID } from 'node:crypto';

import { photo } from './photo.js';

export interface Acknowledged {
  /** Heads whose addition was answered. */
  readonly heads: string[];
  /** Names a head was given by an answered change, the newest. */
  readonly names: Map<string, string>;
  readonly photos: string[];
  /** Imports, by the letters their ids begin with: how many records each has, and whether it was answered. */
  readonly imports: { readonly prefix: string; readonly records: number; answered: boolean }[];
  readonly backups: string[];
}
export const nothing = (): Acknowledged => ({ heads: [], names: new Map(), photos: [], imports: [], backups: [] });

const json = (method: string, body: unknown) => ({
  method,
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
});

async function addHeads(url: string, known: Acknowledged): Promise<void> {
  const id = randomUUID();
  const added = await fetch(`${url}/api/head`, json('POST', { id, name: 'One' }));
  if (!added.ok) return;
  known.heads.push(id);
  known.names.set(id, 'One');
  const { record } = (await added.json()) as { record: object };
  const name = `Two ${Math.random()}`;
  const changed = await fetch(`${url}/api/head/${id}`, json('PUT', { ...record, name }));
  if (changed.ok) known.names.set(id, name);
}

/** A change of many steps, all of it or nothing. */
async function change(url: string, known: Acknowledged): Promise<void> {
  const prefix = `c${randomUUID().slice(0, 8)}`;
  const entry = { prefix, records: 3, answered: false };
  known.imports.push(entry);
  const steps = [
    { do: 'add', noun: 'head', record: { id: `${prefix}-h`, name: prefix } },
    { do: 'add', noun: 'stage', record: { id: `${prefix}-s`, headId: `${prefix}-h`, name: 'as received' } },
    {
      do: 'add',
      noun: 'sheet',
      record: {
        id: `${prefix}-f`,
        stageId: `${prefix}-s`,
        title: prefix,
        kind: 'measured',
        setup: {},
        rows: [{ lift: '.100 in', intake: { pulls: ['60 cfm'] }, exhaust: null }],
      },
    },
  ];
  const made = await fetch(`${url}/api/change`, json('POST', { steps }));
  if (made.ok) entry.answered = true;
}

async function bringIn(url: string, known: Acknowledged): Promise<void> {
  const prefix = `i${randomUUID().slice(0, 8)}`;
  const heads = Array.from({ length: 60 }, (_, i) => ({
    id: `${prefix}-${i}`,
    name: `${prefix} ${i}`,
    note: 'x'.repeat(900),
  }));
  const stages = heads.map(({ id }) => ({ id: `${id}-s`, headId: id, name: 'as received' }));
  const entry = { prefix, records: heads.length + stages.length, answered: false };
  known.imports.push(entry);
  const answer = await fetch(
    `${url}/api/bundle`,
    json('POST', { format: 'alluvium-bundle', version: 1, heads, stages }),
  );
  if ((await answer.text()).includes('"finished":true')) entry.answered = true;
}

async function addPhoto(url: string, known: Acknowledged): Promise<void> {
  const answer = await fetch(`${url}/api/attachment?head=corrow-417&name=p`, {
    method: 'POST',
    headers: { 'content-type': 'image/png' },
    body: new Uint8Array(photo()),
  });
  if (answer.status === 201) known.photos.push(((await answer.json()) as { record: { id: string } }).record.id);
}

async function backUp(url: string, known: Acknowledged): Promise<void> {
  const answer = await fetch(`${url}/api/backup`, { method: 'POST' });
  if (answer.status === 201) known.backups.push(((await answer.json()) as { name: string }).name);
}

/** Every kind of write; and heads alone beside a backup, which ends sooner so. */
export const EVERY_KIND = [addHeads, change, bringIn, addPhoto, backUp] as const;
export const BESIDE_A_BACKUP = [addHeads, backUp] as const;

/** Writes of these kinds at once, until the server is gone. */
export async function writeUntilGone(
  url: string,
  known: Acknowledged,
  kinds: readonly (typeof EVERY_KIND)[number][] = EVERY_KIND,
): Promise<void> {
  const forEver = async (work: () => Promise<void>) => {
    for (;;) {
      try {
        await work();
      } catch {
        return;
      }
    }
  };
  await Promise.all(kinds.map((kind) => forEver(() => kind(url, known))));
}

/** A whole list, page after page as the server gives it. */
async function listed(url: string): Promise<{ id: string }[]> {
  const all: { id: string }[] = [];
  for (let next: string | undefined = url; next;) {
    const answer: Response = await fetch(next);
    all.push(...((await answer.json()) as { id: string }[]));
    const more: string | undefined = /<([^>]+)>; rel="next"/.exec(answer.headers.get('link') ?? '')?.[1];
    next = more && new URL(more, url).href;
  }
  return all;
}

/**
 * What the server holds against what it acknowledged; sentences of what is wrong. `thoroughly` has everything checked as
 * well, which costs most of a round.
 */
export async function whatIsLost(url: string, known: Acknowledged, thoroughly = true): Promise<string[]> {
  const wrong: string[] = [];
  const bundle = (await (await fetch(`${url}/api/bundle?photos=no`)).json()) as Record<
    string,
    { id: string; name?: string; headId?: string; stageId?: string }[]
  >;
  const heads = new Map(bundle.heads!.map((h) => [h.id, h.name]));
  for (const id of known.heads) if (!heads.has(id)) wrong.push(`head ${id} is lost`);
  for (const [id, name] of known.names)
    if (heads.has(id) && name !== 'One' && heads.get(id) !== name) wrong.push(`the name of ${id} is lost`);
  // Counted once: the library grows with every round.
  const byPrefix = new Map<string, number>();
  for (const { id } of ['heads', 'stages', 'sheets'].flatMap((k) => bundle[k]!)) {
    const prefix = id.slice(0, id.indexOf('-'));
    byPrefix.set(prefix, (byPrefix.get(prefix) ?? 0) + 1);
  }
  for (const { prefix, records, answered } of known.imports) {
    const here = byPrefix.get(prefix) ?? 0;
    if (here !== records && (answered || here !== 0))
      wrong.push(`${prefix}: ${here} of ${records} records, ${answered ? '' : 'not '}answered`);
  }
  // That each is there; what each holds is held against its hash by the check below.
  const photos = new Set((await listed(`${url}/api/attachment`)).map((r) => r.id));
  for (const id of known.photos) if (!photos.has(id)) wrong.push(`photo ${id} is lost`);
  // Older ones may have been thrown away since: of one day the newest are kept.
  const newest = known.backups.at(-1);
  if (newest && !(await fetch(`${url}/api/backup/${newest}/file`)).ok) wrong.push(`backup ${newest} is lost`);
  if (!thoroughly) return wrong;
  const check = (await (await fetch(`${url}/api/check`, { method: 'POST' })).json()) as { damage: string[] };
  return [...wrong, ...check.damage];
}
