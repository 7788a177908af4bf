import { randomUUID } from 'node:crypto';
import {
  ChangeWrite,
  NOUNS,
  NOUN_WORDS,
  type Call,
  type Changed,
  type Noun,
  type PowerForecast,
  type Step,
} from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { Database, Queries } from '../db/database.js';
import { Problem } from '../problems.js';
import { done, find, insertAll, isStored, lastBatch, remove, replace, touchedBy, undo } from '../store.js';
import { checked } from '../checked.js';
import {
  soundForecast,
  soundHead,
  soundLetterhead,
  soundOperation,
  soundPowerForecast,
  soundStage,
  soundTask,
  staysAsSaid,
} from '../sound.js';

// found!, known!: one row comes back, whatever is there.
// there!, find()!: looked for, or written, in front of it.
// steps[]!, records[]!: a change has one step at least, and a record for each.

type AnyRecord = { id: string; version: number };

/** What must hold before a record is added by itself; an import of earlier work is not asked. */
const GUARDS: { readonly [N in Noun]?: (tx: Queries, record: object) => Promise<void> } = {
  call: async (tx, record) => {
    const { sessionId, stageId, side } = record as Call;
    if (sessionId !== null) {
      const [found] = await tx.query<{ any: boolean }>(
        "select exists (select from reading where session_id = $1 and state = 'kept') as any",
        [sessionId],
      );
      if (found!.any) throw new Problem('refused', 'A call is made before the first reading; this session has some.');
      return;
    }
    // A claim is somebody's word; what was measured is known already.
    const [known] = await tx.query<{ any: boolean }>(
      `select exists (select from sheet, jsonb_array_elements(rows) r
         where stage_id = $1 and kind = 'measured' and r -> $2 <> 'null') as any`,
      [stageId, side],
    );
    if (known!.any)
      throw new Problem('refused', 'A call is made before it is measured; this side of this stage was flowed already.');
  },
  powerforecast: async (tx, record) => {
    const { buildId, stageId, made } = record as PowerForecast;
    const [pulled] = await tx.query<{ date: string | null }>(
      `select date::text from pull where build_id = $1 and ($2::text is null or stage_id = $2)
         and (date is null or date <= $3) order by date desc nulls last limit 1`,
      [buildId, stageId, made],
    );
    if (pulled)
      throw new Problem(
        'refused',
        `A forecast is made before the pull; this engine was pulled ${pulled.date ? `on ${pulled.date}` : 'already'}.`,
      );
  },
};

/** What must hold of a record once the whole change is made, whether it was added or replaced. */
const SOUND: { readonly [N in Noun]?: (tx: Queries, record: object) => Promise<void> } = {
  stage: soundStage,
  operation: soundOperation,
  task: soundTask,
  head: soundHead,
  forecast: soundForecast,
  letterhead: soundLetterhead,
  powerforecast: soundPowerForecast,
};

/** What comes in by a door of its own only: a photo with its content, a reading of its session. */
const OWN_DOOR: { readonly [D in Step['do']]: readonly Noun[] } = {
  add: ['attachment', 'reading'],
  save: ['reading'],
  remove: ['reading'],
};

/** Whether a step wrote something, and the record as it stands after it. */
interface Taken {
  readonly record: AnyRecord | null;
  readonly wrote: boolean;
}

type Sent = Readonly<Record<string, unknown>>;
/** A record that is added: with an id where it came without one, at its first version. */
export const added = (sent: Sent): Record<string, unknown> => ({ id: randomUUID(), ...sent, version: 1 });
/** A record that is saved names the version that was opened. @throws Problem `no-version` */
export function saved<S extends Sent>(sent: S): S {
  if (typeof sent.version !== 'number')
    throw new Problem('no-version', 'Say which version was opened, so that nobody’s work is overwritten.');
  return sent;
}

async function take(tx: Queries, step: Step): Promise<Taken> {
  const { noun } = step;
  if (OWN_DOOR[step.do].includes(noun))
    throw new Problem('refused', `${NOUN_WORDS[noun].many} come in by a door of their own.`);
  const schema = NOUNS[noun] as z.ZodType<AnyRecord>;
  if (step.do === 'remove') {
    await remove(tx, noun, step.id);
    return { record: null, wrote: true };
  }
  if (step.do === 'add') {
    const record = checked(schema, added(step.record));
    const there = await find(tx, noun, record.id);
    if (isStored(there, record)) return { record: there!, wrote: false };
    if (there)
      throw new Problem('conflict', 'This was saved already, and differs. Compare both versions, then keep one.', {
        current: there,
      });
    await GUARDS[noun]?.(tx, record);
    await insertAll(tx, noun, [record]);
    return { record: (await find(tx, noun, record.id))!, wrote: true };
  }
  const record = checked(schema, saved(step.record));
  const there = await find(tx, noun, record.id);
  if (there && there.version !== record.version && isStored(there, record)) return { record: there, wrote: false };
  if (there) staysAsSaid(noun, there, record);
  return { record: await replace(tx, noun, record as never), wrote: true };
}

/** Does something for one step, and says which step it was that failed. */
async function atStep(at: number, work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    throw error instanceof Problem ? new Problem(error.id, error.message, { ...error.more, step: at }) : error;
  }
}

/** Takes every step or none. A change that came twice writes nothing the second time and answers as the first did. */
export async function makeChange(db: Database, steps: readonly Step[]): Promise<Changed> {
  return db.transaction(async (tx) => {
    await tx.script('set constraints all deferred');
    const taken: Taken[] = [];
    for (const [at, step] of steps.entries()) {
      await atStep(at, async () => void taken.push(await take(tx, step)));
    }
    await tx.script('set constraints all immediate');
    for (const [at, { record, wrote }] of taken.entries())
      if (record && wrote) await atStep(at, async () => SOUND[steps[at]!.noun]?.(tx, record));
    const records = taken.map((t) => t.record);
    if (taken.some((t) => t.wrote)) return { records, ...(await done(tx)) };
    const batch = await lastBatch(tx, steps[0]!.noun, records[0]!.id);
    return { records, batch, touched: await touchedBy(tx, batch) };
  });
}

/** The one door for changes from the page, and the way back. */
export function changeRoutes(app: FastifyInstance, db: Database): void {
  const tags = ['change'];
  app.post<{ Body: ChangeWrite }>(
    '/api/change',
    {
      schema: {
        tags,
        summary: 'Makes one change of any number of steps, all or nothing; undone as one',
        body: ChangeWrite,
      },
    },
    ({ body: { steps } }) => makeChange(db, steps),
  );

  const params = z.object({ batch: z.coerce.number().int().min(0) });
  app.post<{ Params: { batch: number } }>(
    '/api/change/:batch/undo',
    { schema: { tags, summary: 'Takes one change back; its answer’s batch puts it back', params } },
    ({ params: { batch } }) => undo(db, batch),
  );
}
