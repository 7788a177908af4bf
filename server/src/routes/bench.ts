import { randomUUID } from 'node:crypto';
import {
  BenchSetup,
  Id,
  ReadingWrite,
  checksOf,
  factorOf,
  fingerprint,
  portOf,
  samePoint,
  sheetSetup,
  unanswered,
  withReadings,
  type Calibration,
  type Call,
  type Port,
  RawReading,
  type Recorded,
  type Session,
  type Sheet,
  type VelocityMap,
  type WetFlow,
  type WholeSession,
  NO_VALVE_OUT,
  SHEET_BESIDE,
} from '@alluvium/records';
import { depressionVerdict } from '@alluvium/core';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { Hub } from '../bench/hub.js';
import { webSocketLink } from '../bench/link.js';
import type { Database, Queries } from '../db/database.js';
import { Problem } from '../problems.js';
import { done, find, insertAll, replace, rowsOf, toRecord } from '../store.js';
import { checked } from '../checked.js';

// session.setups[]!, open[]!: the set-up named by the order; one question is open.
// used!, sheet!: one row comes back, whatever is there.

const params = z.object({ id: Id });
const Client = z.object({ client: z.string().max(64).default('') });
const SetupWrite = Client.extend({ setup: BenchSetup });
const NoiseWrite = Client.extend({ noisy: z.boolean() });

async function sessionOf(tx: Queries, id: string): Promise<Session> {
  const session = await find(tx, 'session', id);
  if (!session) throw new Problem('not-found', 'There is no such bench session.');
  return session;
}

const readingsOf = (tx: Queries, sessionId: string): Promise<RawReading[]> =>
  rowsOf(tx, 'select * from reading where session_id = $1 order by at, id', [sessionId]);

/** Everything of one session. */
async function wholeSession(db: Queries, id: string): Promise<WholeSession> {
  const session = await sessionOf(db, id);
  const of = <T>(sql: string) => rowsOf<T>(db, sql, [id]);
  return {
    session,
    readings: await readingsOf(db, id),
    calls: await of<Call>('select * from call where session_id = $1 order by id'),
    sheets: await of<Sheet>(
      'select * from sheet where id in (select sheet_id from reading where session_id = $1) order by title, id',
    ),
    velocityMaps: await of<VelocityMap>('select * from velocitymap where session_id = $1 order by id'),
    wetFlows: await of<WetFlow>('select * from wetflow where session_id = $1 order by id'),
  };
}

/** The sheet of one port under one set-up: found by its readings, else made. */
async function sheetFor(tx: Queries, session: Session, setup: number, number: number): Promise<Sheet> {
  const [known] = await tx.query<{ sheet_id: string }>(
    'select sheet_id from reading where session_id = $1 and setup = $2 and number = $3 and sheet_id is not null limit 1',
    [session.id, setup, number],
  );
  const found = known && (await find(tx, 'sheet', known.sheet_id));
  if (found) return found;
  const answers = session.setups[setup]!;
  const ports = await rowsOf<Port>(tx, 'select * from port where head_id = $1', [session.headId]);
  const checks = await rowsOf<Calibration>(tx, 'select * from calibration');
  const check = checksOf(checks, session.sourceId).find((c) => c.id === answers.calibration);
  const sheet: Sheet = {
    id: randomUUID(),
    version: 1,
    stageId: session.stageId,
    sourceId: session.sourceId,
    title: `${session.title}, port ${number}${setup > 0 ? `, set-up ${setup + 1}` : ''}`.slice(0, 120),
    kind: 'measured',
    date: session.date,
    intakePortId: portOf(ports, 'intake', number)?.id ?? null,
    exhaustPortId: portOf(ports, 'exhaust', number)?.id ?? null,
    setup: sheetSetup(answers, check && factorOf(check)?.value),
    rows: [],
    swirl: [],
    valveOut: NO_VALVE_OUT,
    ...SHEET_BESIDE,
    stopped: '',
    note: '',
  };
  await insertAll(tx, 'sheet', [sheet]);
  return sheet;
}

/** Sessions on the bench: recording, taking back, set-ups; and the two WebSockets. */
export function benchRoutes(app: FastifyInstance, db: Database, hub: Hub): void {
  const tags = ['bench'];

  app.get('/api/instruments/link', { websocket: true, schema: { hide: true } }, (socket) =>
    hub.addInstrument(webSocketLink(socket)),
  );
  app.get('/api/bench/live', { websocket: true, schema: { hide: true } }, (socket) =>
    hub.addWatcher(webSocketLink(socket)),
  );
  app.get('/api/instruments', { schema: { tags, summary: 'The instruments connected now' } }, async () =>
    hub.instruments(),
  );
  app.post<{ Body: { name: string; near?: number } }>(
    '/api/instruments/read',
    {
      schema: {
        tags,
        summary: 'One value from whichever instrument measures this',
        body: z.object({ name: z.string().max(31), near: z.number().optional() }),
      },
    },
    async ({ body }) => {
      try {
        return await hub.read(body.name, body.near);
      } catch (error) {
        throw new Problem('refused', (error as Error).message);
      }
    },
  );

  app.get<{ Params: { id: string } }>(
    '/api/session/:id/whole',
    { schema: { tags, summary: 'A bench session with its readings, calls, sheets and maps', params } },
    ({ params: { id } }) => wholeSession(db, id),
  );

  app.get(
    '/api/calls/scored',
    {
      schema: {
        tags,
        summary: 'Every call of a finished session, or of a stage, with its sheets, oldest first, at most 500',
      },
    },
    async () => {
      const calls = await db.query<{ call: object; session: string; head: string; sheets: Sheet[] | null }>(
        `select to_jsonb(c) as call, s.title as session, h.name as head,
           (select jsonb_agg(to_jsonb(f)) from sheet f where f.id in (select sheet_id from reading r where r.session_id = s.id)) as sheets
         from call c join session s on s.id = c.session_id join head h on h.id = s.head_id where s.finished
         union all
         select to_jsonb(c), t.name, h.name,
           (select jsonb_agg(to_jsonb(f)) from sheet f where f.stage_id = t.id and f.kind = 'measured' and f.set_aside = '' and f.setup ->> 'reads' <> 'difference' and (f.date is null or f.date >= c.date))
         from call c join stage t on t.id = c.stage_id join head h on h.id = t.head_id
         limit 500`,
      );
      const dated = calls.map((c) => ({
        call: toRecord<Call>(c.call),
        session: c.session,
        head: c.head,
        sheets: (c.sheets ?? []).map((f) => toRecord(f)),
      }));
      return dated.sort(
        (a, b) => (a.call.date ?? '').localeCompare(b.call.date ?? '') || a.call.id.localeCompare(b.call.id),
      );
    },
  );

  const holds = (session: string, client: string) => {
    if (!hub.mayRecord(session, client))
      throw new Problem('refused', 'Another browser records this session. Ask to take over, or look on.');
  };

  app.put<{ Params: { id: string }; Body: z.output<typeof SetupWrite> }>(
    '/api/session/:id/setup',
    {
      schema: {
        tags,
        summary: 'The current set-up; once something was read under it, a change begins a new one and so a new sheet',
        params,
        body: SetupWrite,
      },
    },
    async ({ params: { id }, body: { client, setup } }) => {
      holds(id, client);
      const answer = await db.transaction(async (tx) => {
        const session = await sessionOf(tx, id);
        const last = session.setups.length - 1;
        const [used] = await tx.query<{ any: boolean }>(
          'select exists (select from reading where session_id = $1 and setup = $2) as any',
          [id, last],
        );
        const same = fingerprint(session.setups[last]) === fingerprint(setup);
        if (same) return { record: session, ...(await done(tx)), split: false };
        if (used!.any && session.setups.length >= 50)
          throw new Problem('refused', 'A session has at most 50 set-ups: begin another session.');
        const setups = used!.any ? [...session.setups, setup] : [...session.setups.slice(0, last), setup];
        const record = await replace(tx, 'session', { ...session, setups });
        return { record, ...(await done(tx)), split: used!.any };
      });
      hub.changed(id);
      return answer;
    },
  );

  app.post<{ Params: { id: string }; Body: z.output<typeof ReadingWrite> }>(
    '/api/session/:id/reading',
    {
      schema: {
        tags,
        summary: 'Records one reading, and writes it into its sheet, in one transaction',
        params,
        body: ReadingWrite,
      },
    },
    async ({ params: { id }, body: sent }, reply) => {
      holds(id, sent.client);
      const answer = await db.transaction(async (tx): Promise<Recorded> => {
        // One reading of a session at a time, so that two requests never both take a point as open.
        await tx.query('select 1 from session where id = $1 for update', [id]);
        const session = await sessionOf(tx, id);
        const before = await find(tx, 'reading', sent.id);
        if (before) {
          if (before.sessionId !== id) throw new Problem('refused', 'A reading with this id is here already.');
          const sheet = await find(tx, 'sheet', before.sheetId ?? '');
          return { reading: before, sheet: sheet!, session, ...(await done(tx)) };
        }
        const setup = session.setups.length - 1;
        const answers = session.setups[setup]!;
        const open = unanswered(answers, session.plan.sides);
        if (open.length > 0) throw new Problem('refused', `The set-up is not complete. ${open[0]!.sentence}`);
        refuseUnusable(session, answers, sent);
        const { client: _client, again, ...values } = sent;
        const readings = await readingsOf(tx, id);
        const earlier = readings.filter((r) => r.state === 'kept' && samePoint(r, sent));
        if (earlier.length > 0 && !again)
          throw new Problem('refused', 'This point is recorded already: take it again with R, or go on.');
        const sheet = await sheetFor(tx, session, setup, sent.number);
        for (const r of earlier) await replace(tx, 'reading', { ...r, state: 'retaken' });
        const reading = checked(RawReading, {
          ...values,
          version: 1,
          sessionId: id,
          sheetId: sheet.id,
          setup,
          state: 'kept',
          at: after(readings.at(-1)?.at),
        });
        await insertAll(tx, 'reading', [reading]);
        const written = await rewrite(tx, sheet, sent);
        // What was retaken under an earlier set-up leaves that sheet as well.
        for (const other of new Set(earlier.map((r) => r.sheetId)))
          if (other !== sheet.id) await rewriteById(tx, other, sent);
        return { reading, sheet: written, session, ...(await done(tx)) };
      });
      hub.changed(id);
      return reply.code(201).send(answer);
    },
  );

  app.post<{ Params: { id: string }; Body: z.output<typeof Client> }>(
    '/api/session/:id/takeback',
    {
      schema: {
        tags,
        summary: 'Puts aside the last reading that counts; it stays among the raw ones',
        params,
        body: Client,
      },
    },
    async ({ params: { id }, body: { client } }) => {
      holds(id, client);
      const answer = await db.transaction(async (tx) => {
        const session = await sessionOf(tx, id);
        const last = (await readingsOf(tx, id)).filter((r) => r.state === 'kept').at(-1);
        if (!last) throw new Problem('refused', 'Nothing is recorded that could be taken back.');
        const reading = await replace(tx, 'reading', { ...last, state: 'taken back' });
        const sheet = await rewriteById(tx, last.sheetId, last);
        return { reading, sheet, session, ...(await done(tx)) };
      });
      hub.changed(id);
      return answer;
    },
  );

  app.post<{ Params: { id: string; reading: string }; Body: z.output<typeof NoiseWrite> }>(
    '/api/session/:id/reading/:reading/noise',
    {
      schema: {
        tags,
        summary: 'Marks a reading as noisy, or takes the mark off',
        params: z.object({ id: Id, reading: Id }),
        body: NoiseWrite,
      },
    },
    async ({ params: { id, reading: readingId }, body: { client, noisy } }) => {
      holds(id, client);
      const answer = await db.transaction(async (tx) => {
        const found = await find(tx, 'reading', readingId);
        if (!found || found.sessionId !== id) throw new Problem('not-found', 'There is no such reading here.');
        const reading = await replace(tx, 'reading', { ...found, noisy });
        await rewriteById(tx, found.sheetId, found);
        return { reading, ...(await done(tx)) };
      });
      hub.changed(id);
      return answer;
    },
  );
}

/** Now, or just after what came before where the machine's clock went backwards: the last reading stays the last. */
const after = (before: string | undefined): string =>
  new Date(Math.max(Date.now(), before === undefined ? 0 : Date.parse(before) + 1)).toISOString();

/** A point of a sheet whose readings changed. */
type Touched = Pick<RawReading, 'side' | 'lift'>;

/** Writes one point of a sheet anew from its readings. */
async function rewrite(tx: Queries, sheet: Sheet, touched: Touched): Promise<Sheet> {
  const readings = await rowsOf<RawReading>(tx, 'select * from reading where sheet_id = $1', [sheet.id]);
  return replace(tx, 'sheet', withReadings(sheet, readings, touched));
}

/** The same for the sheet of that id; null when it is gone. */
async function rewriteById(tx: Queries, id: string | null, touched: Touched): Promise<Sheet | null> {
  const sheet = id === null ? undefined : await find(tx, 'sheet', id);
  return sheet ? rewrite(tx, sheet, touched) : null;
}

/** Refuses a reading no sheet could use: a percent of no range, a depression too far off, a side not planned. */
function refuseUnusable(session: Session, answers: BenchSetup, sent: z.output<typeof ReadingWrite>): void {
  if (!session.plan.sides.includes(sent.side))
    throw new Problem('refused', `The ${sent.side} side is not in this session's plan.`);
  if (sent.skipped !== '') return;
  const refuse = (field: string, detail: string, message: string) =>
    new Problem('bad-input', detail, { fields: [{ field, message }] });
  if (sent.flow && answers.reads !== 'flow')
    throw refuse('percent', 'This bench reads percent of a range.', 'Give the percent and the range.');
  if (sent.percent) {
    if (answers.reads === 'flow') throw refuse('flow', 'This bench reads flow.', 'Give the flow.');
    if (!answers.ranges.find((r) => r.name === sent.range)?.[sent.side])
      throw refuse(
        'range',
        `Range ${sent.range ?? '?'} has no full scale in the ${sent.side} direction.`,
        'Name a range of the set-up.',
      );
    if (sent.percent.si > 1)
      throw refuse(
        'percent',
        'The reading is past the end of the range: go to a larger one.',
        'Past the end of the range.',
      );
  }
  const set = answers.depression === 'unknown' ? null : answers.depression;
  if (set && sent.depression && depressionVerdict(set.si, sent.depression.si, session.plan.depression) === 'refused')
    throw refuse(
      'depression',
      `The depression is ${sent.depression.typed} instead of ${set.typed}: too far off to correct.`,
      'Bring the depression up, or set a lower one.',
    );
}
