import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { FastifyInstance } from 'fastify';
import { renderUnicodeCompact } from 'uqr';
import { createApp, type AppOptions } from './app.js';
import { openBackups } from './backup/backups.js';
import { findBackup, refuseNewer, verifyRecords } from './backup/read.js';
import { restoreBackup } from './backup/restore.js';
import { command } from './command.js';
import type { Database } from './db/database.js';
import { NewerData, readMigrations, type Migration } from './db/migrate.js';
import { NotADatabase } from './db/pglite.js';
import { makeKeys } from './door/keys.js';
import { openLibrary, replaceDamaged, type Damaged, type Library } from './library.js';
import { lockFolder } from './lock.js';
import { keepPrivate, makePrivate } from './private.js';
import { Problem } from './problems.js';
import { createRescue } from './rescue.js';
import { allowedHosts, ownNames } from './security.js';
import { StartProblem, isLoopback, readSettings, type Settings } from './settings.js';
import { readTls, tlsWarning } from './tls.js';

// s.backups!: a backup was found there.
// steps.at()!: there are some.
// own[]!, []!: a machine has a name.
// row!: one row comes back, whatever is there.

/** The project's folder: the first one above this file that holds the migrations, run from source or built. */
const here = dirname(fileURLToPath(import.meta.url));
const root = join(here, '..', '..');
const migrations = join(root, 'server', 'migrations');
/** What a new library begins from, where the server was built. */
const first = join(here, 'first');

/** The newest build of the web application: this server gives it out as long as it runs, whatever is built meanwhile. */
async function builtWeb(): Promise<string> {
  const dist = join(root, 'web', 'dist');
  return join(dist, (await readFile(join(dist, 'current'), 'utf8').catch(() => '')).trim());
}

async function portIsFree(host: string, port: number): Promise<void> {
  await new Promise<void>((done, fail) => {
    const probe = createServer();
    probe.once('error', (error: NodeJS.ErrnoException) =>
      fail(
        new StartProblem(
          error.code === 'EADDRINUSE'
            ? `Port ${port} is in use: is Alluvium running already? Stop it, or choose another with PORT=4871.`
            : `Cannot listen on ${host}:${port} (${error.code}). Choose others with HOST and PORT.`,
        ),
      ),
    );
    probe.listen(port, host, () => probe.close(() => done()));
  });
}

const demo = process.argv.includes('--demo');

/** The settings of this start. The passphrase is taken out of what every child and thread would be handed. */
function takeSettings(): Settings {
  const s = readSettings(process.env, join(root, 'data', demo ? 'demo' : 'own'));
  delete process.env.ALLUVIUM_PASSPHRASE;
  return s;
}

async function start(s: Settings): Promise<void> {
  const tls = s.tls && (await readTls(s.tls));
  await portIsFree(s.host, s.port);
  const lock = await lockFolder(s.data);
  for (const folder of [s.data, s.backups]) if (folder !== undefined) makePrivate(folder);
  const steps = await readMigrations(migrations);
  const open = () =>
    openLibrary(s.data, steps, { backups: s.backups, first, lock }).catch((error: unknown) => {
      throw error instanceof NotADatabase || error instanceof NewerData ? new StartProblem(error.message) : error;
    });
  const web = await builtWeb();
  const keys = s.passphrase === undefined ? undefined : await makeKeys(s.passphrase, join(s.data, 'door.salt'));
  const standInsKey = randomBytes(24).toString('base64url');
  const own = isLoopback(s.host) ? [] : ownNames();
  let port = s.port;
  const hosts = () => allowedHosts(s.host, port, own, tls ? 443 : 80);

  let serving: { app: FastifyInstance; db: Database | undefined } | undefined;
  let closing = false;
  const close = async () => {
    if (closing) return;
    closing = true;
    // First: its sockets came in by the door that is closed next, and would be waited for.
    await (await around?.catch(() => undefined))?.leave();
    await serving?.app.close();
    await serving?.db?.close();
    lock.release();
    process.exit(0);
  };
  process.on('SIGINT', () => void close());
  process.on('SIGTERM', () => void close());

  const listen = async (app: FastifyInstance) => {
    await app.listen({ host: s.host, port });
    port = (app.server.address() as { port: number }).port;
  };

  /** The demo to look around in, once somebody asked for it. */
  let around: Promise<{ app: FastifyInstance; leave: () => Promise<void> }> | undefined;
  const look = () =>
    (around ??= openAround(steps, { web, hosts, ...(tls ? { tls } : {}) }).catch((error: unknown) => {
      around = undefined;
      throw error;
    }));

  async function serve({ db, pictures, room }: Library): Promise<void> {
    const backups = s.backups === undefined ? undefined : openBackups(db, pictures, s.backups);
    const app = await createApp({
      db,
      pictures,
      room,
      web,
      hosts,
      standInsKey,
      log: true,
      ...(s.lookAround ? { around: async () => (await look()).app } : {}),
      ...(backups ? { backups } : {}),
      ...(keys ? { keys } : {}),
      ...(tls ? { tls } : {}),
    });
    serving = { app, db };
    if (demo) await loadDemo(app, db, hosts, s.passphrase);
    await listen(app);
  }

  /** Serves nothing of a damaged library; a backup is put in its place, and served from then on. */
  async function rescue({ damage, db }: Damaged): Promise<void> {
    console.error(`The library in ${s.data} is damaged, and is not served: ${damage.join(' ')}`);
    const app = await createRescue({
      damage,
      db,
      backups: s.backups,
      web,
      hosts,
      newest: steps.at(-1)!.number,
      ...(keys ? { keys } : {}),
      ...(tls ? { tls } : {}),
      restore: async (name, onProgress) => {
        const manifest = name === null ? undefined : await findBackup(s.backups ?? '', name);
        if (manifest) {
          refuseNewer(manifest, steps.at(-1)!.number);
          await verifyRecords(s.backups!, manifest);
        }
        // One that is damaged may not close any more.
        await db?.close().catch(() => undefined);
        let lost: readonly string[] = [];
        const fill = async (fresh: Library) => {
          if (manifest) lost = await restoreBackup(fresh.db, fresh.pictures, s.backups!, manifest, onProgress);
        };
        const { library, aside } = await replaceDamaged(s.data, steps, fill, { first, lock });
        if (aside) console.error(`The damaged database lies in ${aside}.`);
        // Once this answer is out, the library is served in place of the rescue.
        setTimeout(() => void app.close().then(() => serve(library)), 200);
        return lost;
      },
    });
    serving = { app, db };
    await listen(app);
  }

  const opened = await open();
  if ('library' in opened) await serve(opened.library);
  else await rescue(opened.damaged);

  const name = s.host.includes(':') ? `[${s.host}]` : s.host;
  const scheme = tls ? 'https' : 'http';
  const url = `${scheme}://${name}:${port}`;
  lock.note(url);
  console.log(`Alluvium is at ${url}`);
  const warning = tls && tlsWarning(tls);
  if (warning) console.error(warning);
  if (!isLoopback(s.host)) await inviteNetwork(scheme, port, own, tls !== undefined);
  if ('library' in opened && (s.instruments ?? demo)) standIns(url, standInsKey);
}

/** Where a phone finds this machine, and what it lacks there without a certificate. */
async function inviteNetwork(scheme: string, port: number, own: readonly string[], safe: boolean): Promise<void> {
  const address = own.find((n) => /^\d+(\.\d+){3}$/.test(n) && !n.startsWith('127.')) ?? own[0]!;
  const url = `${scheme}://${address}:${port}`;
  console.log(`On the network it is at ${url} and asks for the passphrase.\n\n${renderUnicodeCompact(url)}\n`);
  if (!safe)
    console.log(
      'Without a certificate (ALLUVIUM_TLS_CERT, ALLUVIUM_TLS_KEY) everybody on this network can read what is sent, the passphrase among it: use it only where you trust everyone. The browser’s cookie is then sent without protection as well; everything on the pages works all the same.',
    );
}

/** The stand-ins for instruments, in a process of their own that ends with this one. */
function standIns(url: string, key: string): void {
  const built = join(root, 'instruments', 'dist', 'main.js');
  const fromSource = import.meta.url.endsWith('.ts') || !existsSync(built);
  const program = fromSource ? ['--import', 'tsx', join(root, 'instruments', 'src', 'main.ts')] : [built];
  const child = spawn(process.execPath, [...program, '--server', url], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    // Not on the command line, where every user of the machine can read it.
    // They speak to the process that begins them, whatever name its certificate is for.
    env: {
      ...process.env,
      ALLUVIUM_STAND_INS_KEY: key,
      ...(url.startsWith('https') ? { NODE_TLS_REJECT_UNAUTHORIZED: '0' } : {}),
    },
  });
  child.on('error', (error) => console.error(`The stand-in instruments did not start: ${error.message}`));
  process.on('exit', () => child.kill());
}

/** A shop of its own with the demo in it, in a folder that goes with the process. */
async function openAround(
  steps: readonly Migration[],
  options: Pick<AppOptions, 'web' | 'tls'> & { readonly hosts: () => Set<string> },
): Promise<{ app: FastifyInstance; leave: () => Promise<void> }> {
  const folder = await mkdtemp(join(tmpdir(), 'alluvium-demo-'));
  const opened = await openLibrary(folder, steps, { first });
  if (!('library' in opened)) throw new Error('The demo could not be opened.');
  const { library } = opened;
  // Who comes here has passed the shop's own door.
  const app = await createApp({ ...library, ...options, isDemo: true, log: true });
  await app.ready();
  await loadDemo(app, library.db, options.hosts);
  const leave = async () => {
    await app.close();
    await library.db.close();
    await rm(folder, { recursive: true, force: true });
  };
  return { app, leave };
}

/** Brings the demo in by the same door as a user's import, once: into an empty library. */
async function loadDemo(
  app: FastifyInstance,
  db: Database,
  hosts: () => Set<string>,
  passphrase?: string,
): Promise<void> {
  const [row] = await db.query<{ empty: boolean }>(
    'select not exists (select from build) and not exists (select from head) as empty',
  );
  if (!row!.empty) return;
  const bundle = await readFile(join(root, 'demo', 'bundle.json'), 'utf8');
  const answer = await app.inject({
    method: 'POST',
    url: '/api/bundle',
    payload: bundle,
    headers: {
      'content-type': 'application/json',
      host: [...hosts()][0]!,
      ...(passphrase === undefined ? {} : { authorization: `Bearer ${passphrase}` }),
    },
  });
  if (answer.statusCode !== 200 || !answer.body.includes('"finished":true'))
    throw new Error(`The demo data did not load: ${answer.body.slice(0, 500)}`);
}

const [, , asked, file] = process.argv;
const run =
  asked === 'backup' || asked === 'restore'
    ? async () => command(asked, file, takeSettings(), await readMigrations(migrations), first)
    : async () => start(takeSettings());
keepPrivate();
run().catch((error: unknown) => {
  console.error(error instanceof StartProblem || error instanceof Problem ? error.message : error);
  process.exit(1);
});
