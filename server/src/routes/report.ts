import {
  Day,
  Id,
  type Assumption,
  type Build,
  type Calibration,
  type Decision,
  type Letterhead,
  type OwnFactor,
  type WaysView,
} from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { Database } from '../db/database.js';
import { Problem } from '../problems.js';
import { find, rowsOf } from '../store.js';
import { threadOf } from '../thread.js';
import type { ReportOrder } from '../report/reportFor.js';
import { waysOf } from './lineup.js';

/** A report that takes longer is given up, ms. */
const PATIENCE = 120_000;
/** Reports made at one time. */
const AT_ONCE = 2;

/** What is asked of a report. */
const ReportWrite = z.object({
  pages: z.enum(['customer', 'workshop']).default('customer'),
  workings: z.boolean().default(false),
  hidden: z.boolean().default(false),
  system: z.enum(['inch', 'metric']).default('inch'),
  /** How numbers and days are written; without it with a point, nothing parted, the year first. */
  figures: z
    .object({
      decimal: z.enum(['.', ',']),
      group: z.enum(['', '.', ',', '\u202f']),
      days: z.enum(['year first', 'day first', 'month first']),
    })
    .optional(),
  date: Day,
  /** Mean torque over the working speeds as the page ran it, N·m, with its standard uncertainty; by way. */
  torque: z.record(Id, z.object({ value: z.number().min(0).max(1e6), u: z.number().min(0).max(1e6) })).default({}),
});

function print(order: ReportOrder): Promise<Uint8Array> {
  const worker = threadOf('report/reportThread');
  const done = new Promise<Uint8Array>((yes, no) => {
    const late = setTimeout(() => no(new Problem('too-slow', 'The report took too long and was given up.')), PATIENCE);
    const fail = (error: Error) => {
      clearTimeout(late);
      no(error);
    };
    worker.on('message', (answer: { pdf?: Uint8Array; problem?: string }) => {
      clearTimeout(late);
      if (answer.pdf) yes(answer.pdf);
      else no(new Error(answer.problem));
    });
    worker.on('error', fail);
    worker.on('exit', () => fail(new Error('The thread that made the report ended.')));
    worker.postMessage(order);
  });
  return done.finally(() => void worker.terminate());
}

/** The report of a build, as PDF. */
export function reportRoutes(app: FastifyInstance, db: Database): void {
  let running = 0;
  app.post<{ Params: { id: string }; Body: z.output<typeof ReportWrite> }>(
    '/api/build/:id/report',
    {
      config: { noTurn: true },
      schema: {
        tags: ['build'],
        summary: 'The report of a build’s ways to go and what was decided, as PDF',
        params: z.object({ id: Id }),
        body: ReportWrite,
      },
    },
    async ({ params: { id }, body: { system, figures, date, torque, ...options } }, reply) => {
      const build = (await find(db, 'build', id)) as Build | undefined;
      if (!build) throw new Problem('not-found', 'There is no such build.');
      if (running >= AT_ONCE) throw new Problem('busy', 'Other reports are being made. Try again in a moment.');
      running++;
      try {
        const view: WaysView = await waysOf(db, id);
        const [decision] = await rowsOf<Decision>(
          db,
          'select * from decision where build_id = $1 order by made desc, id desc limit 1',
          [id],
        );
        const [letterhead] = await rowsOf<Letterhead>(db, 'select * from letterhead order by id limit 1');
        const checks = await rowsOf<Calibration>(db, 'select * from calibration');
        const pdf = await print({
          build,
          view,
          assumptions: await rowsOf<Assumption>(db, 'select * from assumption'),
          ownFactors: await rowsOf<OwnFactor>(db, 'select * from ownfactor'),
          checked: new Set(checks.map((c) => c.sourceId)),
          decision,
          letterhead,
          options,
          style: figures ? { system, ...figures } : system,
          date,
          torque: new Map(Object.entries(torque)),
        });
        return reply
          .type('application/pdf')
          .header('content-disposition', 'attachment; filename="report.pdf"')
          .send(Buffer.from(pdf));
      } finally {
        running--;
      }
    },
  );
}
