import { createReadStream } from 'node:fs';
import { join } from 'node:path';
import type { Care } from '@alluvium/records';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import type { Backups } from '../backup/backups.js';
import { recordsFile } from '../backup/manifest.js';
import { findBackup } from '../backup/read.js';
import type { Housekeeping } from '../housekeeping.js';
import { Problem } from '../problems.js';
import { progress, type OnProgress } from './progress.js';

const params = z.object({ name: z.string().regex(/^alluvium-[\w-]{1,80}$/, 'This is no name of a backup.') });

const failed = (error: Error) => `It failed: ${error.message}.`;
/** A backup that is put back: lines on the way, and how many photos were lost. */
export const putBack = (work: (onProgress: OnProgress) => Promise<readonly string[]>, log: (error: unknown) => void) =>
  progress(async (onProgress) => ({ lost: (await work(onProgress)).length }), log, failed).lines;

/** What keeps the library safe, seen and done by hand: backups, and a look at everything. */
export function careRoutes(
  app: FastifyInstance,
  house: Housekeeping,
  backups: Backups | undefined,
  free: () => number | null,
  passphrase: boolean,
): void {
  const tags = ['care'];
  const needed = (): Backups => {
    if (!backups) throw new Problem('refused', 'Backups are switched off (ALLUVIUM_BACKUPS=none).');
    return backups;
  };
  app.get(
    '/api/care',
    { schema: { tags, summary: 'The backups there are, the last check, the room on the disk' } },
    async (): Promise<Care> => ({
      folder: backups?.folder ?? null,
      backups: ((await backups?.list()) ?? []).map(({ name, made, reason, counts, bytes, pictures, missing }) => ({
        name,
        made,
        reason,
        records: Object.values(counts).reduce((sum, n) => sum + n, 0),
        heads: counts.head ?? 0,
        bytes,
        photos: pictures.length - missing.length,
        missing: missing.map((m) => m.name),
      })),
      check: house.lastCheck() ?? null,
      free: free(),
      passphrase,
      clock: (await backups?.clock()) ?? null,
    }),
  );
  app.post(
    '/api/clock',
    { schema: { tags, summary: 'The clock of this machine is right: what is past its time is removed again' } },
    async (_, reply) => {
      await needed().trustClock();
      return reply.code(204).send();
    },
  );
  app.post(
    '/api/backup',
    { schema: { tags, summary: 'Makes a backup now, and reads it again' }, config: { noTurn: true } },
    async (_, reply) => {
      const made = await needed().make('by hand');
      if (!made) throw new Problem('refused', 'There is nothing to keep yet: the library is empty.');
      return reply.code(201).send({ name: made.name, made: made.made, missing: made.missing.map((m) => m.name) });
    },
  );
  app.post(
    '/api/check',
    {
      schema: { tags, summary: 'Reads everything there is, mends what can be, and says what is damaged' },
      config: { noTurn: true },
    },
    async () => house.check(),
  );
  app.post(
    '/api/backup/:name/restore',
    {
      config: { noTurn: true },
      schema: {
        tags,
        summary: 'Puts a backup in place of what is here, which is kept as a backup first; progress lines (NDJSON)',
        params,
      },
    },
    async (request, reply) => {
      const { name } = request.params as z.infer<typeof params>;
      const from = needed();
      await findBackup(from.folder, name);
      const lines = putBack(
        async (onProgress) => (await from.restore(name, onProgress)).lost,
        (error) => request.log.error(error),
      );
      return reply.header('content-type', 'application/x-ndjson').send(lines);
    },
  );
  app.get(
    '/api/backup/:name/file',
    { schema: { tags, summary: 'The records of a backup as a bundle, packed with gzip', params } },
    async (request, reply) => {
      const { name } = request.params as z.infer<typeof params>;
      const from = needed();
      await findBackup(from.folder, name);
      return reply
        .header('content-type', 'application/gzip')
        .header('content-disposition', `attachment; filename="${recordsFile(name)}"`)
        .send(createReadStream(join(from.folder, recordsFile(name))));
    },
  );
}
