/**
 * The server of the journeys: the product's application over one database, put back as it was before each of them. Sent
 * anything, it closes the application, puts the data back, begins a new application and answers with its address.
 */
import { cp, readFile, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { FastifyInstance } from 'fastify';
import { createApp } from '../app.js';
import { readMigrations } from '../db/migrate.js';
import { openLibrary } from '../library.js';
import { allowedHosts } from '../security.js';
import { keptOf } from './put-back.js';

const root = join(dirname(fileURLToPath(import.meta.url)), '..', '..', '..');
const folder = process.argv[2]!;
const dist = join(root, 'web', 'dist');

const opened = await openLibrary(folder, await readMigrations(join(root, 'server', 'migrations')), undefined);
if (!('library' in opened)) throw new Error(opened.damaged.damage.join(' '));
const { db, pictures, room } = opened.library;
const putBack = await keptOf(db);
const photos = join(folder, 'pictures');
const keptPhotos = join(folder, 'pictures.kept');
await cp(photos, keptPhotos, { recursive: true });
const web = join(dist, (await readFile(join(dist, 'current'), 'utf8')).trim());

let app: FastifyInstance | undefined;
async function begin(): Promise<string> {
  await app?.close();
  await putBack();
  await rm(photos, { recursive: true });
  await cp(keptPhotos, photos, { recursive: true });
  let port = 0;
  app = await createApp({ db, pictures, room, web, hosts: () => allowedHosts('127.0.0.1', port, [], 80) });
  await app.listen({ host: '127.0.0.1', port });
  port = (app.server.address() as { port: number }).port;
  return `http://127.0.0.1:${port}`;
}

process.on('message', () => void begin().then((url) => process.send!({ url })));
process.on('disconnect', () => process.exit(0));
process.send!({ ready: true });
