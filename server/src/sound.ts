/** What must hold between records of a head: stages that follow each other, ports that are there, forecasts that stay. */
import {
  NOUN_WORDS,
  fingerprint,
  type Forecast,
  type Head,
  type Letterhead,
  type Noun,
  type Operation,
  type PowerForecast,
  type Stage,
  type Task,
} from '@alluvium/records';
import sharp from 'sharp';
import type { Queries } from './db/database.js';
import { Problem } from './problems.js';

// ()[]!, there!, pull!, pull.date!, first!: one row comes back; what is compared was looked for in front of it.

const refuse = (field: string, message: string): never => {
  throw new Problem('bad-input', message, { fields: [{ field, message }] });
};
const one = async <T>(tx: Queries, sql: string, ...parameters: unknown[]): Promise<T> =>
  (await tx.query<{ found: T }>(`select ${sql} as found`, parameters))[0]!.found;

/** A stage comes from one of its own head that is no younger, and never from itself. */
export async function soundStage(tx: Queries, record: object): Promise<void> {
  const { id, headId, parentId, date } = record as Stage;
  if (parentId !== null) {
    if (!(await one<boolean>(tx, 'exists (select from stage where id = $1 and head_id = $2)', parentId, headId)))
      refuse('parentId', 'A stage comes from a stage of the same head.');
    const ring = await one<boolean>(
      tx,
      `exists (with recursive up(id, parent_id) as (
         select id, parent_id from stage where id = $1
         union select s.id, s.parent_id from stage s join up on s.id = up.parent_id
       ) select from up where parent_id = $2)`,
      parentId,
      id,
    );
    if (ring || parentId === id) refuse('parentId', 'This stage would come from itself.');
    const older = await one<string | null>(tx, '(select date::text from stage where id = $1)', parentId);
    if (date !== null && older !== null && date < older)
      refuse('date', `The stage it comes from is of ${older}: this one cannot be older.`);
  }
  const child = await one<string | null>(tx, '(select min(date)::text from stage where parent_id = $1)', id);
  if (date !== null && child !== null && date > child)
    refuse('date', `A stage that comes from it is of ${child}: this one cannot be younger.`);
}

async function portOfHead(tx: Queries, headId: string, portId: string | null, side: string | null): Promise<void> {
  if (portId === null) return;
  const there = await one<string | null>(tx, '(select side from port where id = $1 and head_id = $2)', portId, headId);
  if (there === null) refuse('portId', 'This head has no such port.');
  if (side !== null && there !== side) refuse('portId', `That port is on the ${there!} side.`);
}

export async function soundOperation(tx: Queries, record: object): Promise<void> {
  const { stageId, portId, side } = record as Operation;
  await portOfHead(tx, await one<string>(tx, '(select head_id from stage where id = $1)', stageId), portId, side);
}
/** A forecast of power is answered by a pull of that engine made no earlier than it. */
export async function soundPowerForecast(tx: Queries, record: object): Promise<void> {
  const { buildId, pullId, made } = record as PowerForecast;
  if (pullId === null) return;
  const [pull] = await tx.query<{ build_id: string; date: string | null }>(
    'select build_id, date::text from pull where id = $1',
    [pullId],
  );
  if (!pull || pull.build_id !== buildId) refuse('pullId', 'It is answered by a pull of the same engine.');
  if (pull!.date === null) refuse('pullId', 'That pull has no date: nobody can tell which came first.');
  if (pull!.date! < made) refuse('pullId', `That pull is of ${pull!.date!}, before the forecast was made.`);
}

/** The mark of a letterhead is a picture that can be drawn. */
export async function soundLetterhead(_: Queries, record: object): Promise<void> {
  const { logo } = record as Letterhead;
  if (logo === null) return;
  const picture = Buffer.from(logo.slice(logo.indexOf(',') + 1), 'base64');
  const size = await sharp(picture, { limitInputPixels: MOST_PIXELS })
    .stats()
    .catch(() => undefined);
  if (!size) refuse('logo', 'This picture cannot be read: take another PNG or JPEG.');
}
const MOST_PIXELS = 4_000_000;

export async function soundTask(tx: Queries, record: object): Promise<void> {
  const { headId, portId, side } = record as Task;
  await portOfHead(tx, headId, portId, side);
}

/** Specimens of one article all name the first one. */
export async function soundHead(tx: Queries, record: object): Promise<void> {
  const { id, specimenOf, pairOf } = record as Head;
  if (pairOf !== null) {
    if (pairOf === id) refuse('pairOf', 'A head is not the other one of its own pair.');
    const taken = await one<string | null>(
      tx,
      `(select name from head where (id not in ($1, $2) and pair_of in ($1, $2)) or (id = $2 and pair_of <> $1) limit 1)`,
      id,
      pairOf,
    );
    if (taken !== null) refuse('pairOf', `One of the two has another head beside it already: see ${taken}.`);
  }
  if (specimenOf === null) return;
  if (specimenOf === id) refuse('specimenOf', 'A head is no other specimen of itself.');
  if (await one<boolean>(tx, 'exists (select from head where id = $1 and specimen_of is not null)', specimenOf))
    refuse('specimenOf', 'That head is another specimen itself: name the first of them.');
  if (await one<boolean>(tx, 'exists (select from head where specimen_of = $1)', id))
    refuse('specimenOf', 'Others name this head as their first specimen.');
}

/** A forecast is of a stage of its head, and is answered by a stage that was flowed after it was made. */
export async function soundForecast(tx: Queries, record: object): Promise<void> {
  const { headId, stageId, outcomeId, made } = record as Forecast;
  const ofHead = (id: string) =>
    one<boolean>(tx, 'exists (select from stage where id = $1 and head_id = $2)', id, headId);
  if (!(await ofHead(stageId))) refuse('stageId', 'This head has no such stage.');
  if (outcomeId === null) return;
  if (!(await ofHead(outcomeId)) || outcomeId === stageId)
    refuse('outcomeId', 'It is answered by a later stage of this head.');
  const first = await one<string | null>(
    tx,
    "(select min(date)::text from sheet where stage_id = $1 and kind = 'measured')",
    outcomeId,
  );
  if (first === null) refuse('outcomeId', 'That stage was not flowed yet.');
  if (first! < made) refuse('outcomeId', `That stage was flowed on ${first!}, before the forecast was made.`);
}

/** Fields of what was said once and stays: words about it, and what answers it, may be added. */
const SAID: { readonly [N in Noun]?: readonly string[] } = {
  forecast: ['headId', 'stageId', 'operation', 'side', 'made', 'by', 'content'],
  decision: ['buildId', 'made', 'by', 'content'],
  powerforecast: ['buildId', 'stageId', 'made', 'by', 'content'],
  call: ['stageId', 'side', 'lift', 'flow'],
  round: ['who', 'kind', 'question', 'answer', 'right', 'date'],
};

/** @throws Problem refused, when a replacement changes what stays as it was said. */
export function staysAsSaid(noun: Noun, before: object, after: object): void {
  const said = (record: object) =>
    fingerprint((SAID[noun] ?? []).map((field) => (record as Record<string, unknown>)[field]));
  if (said(before) !== said(after))
    throw new Problem('refused', `A ${NOUN_WORDS[noun].one} stays as it was made. Make a new one beside it.`);
}
