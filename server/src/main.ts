import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { constants, existsSync } from 'node:fs';
import { access, mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { createServer } from 'node:net';
import { hostname } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { lock } from 'proper-lockfile';
import { createApp } from './app.js';
import { takeBackUnfinished } from './bundle/arrive.js';
import { NewerData, migrate, readMigrations } from './db/migrate.js';
import { NotADatabase, openPglite } from './db/pglite.js';
import { openPictures } from './pictures.js';
import { allowedHosts } from './security.js';
import { StartProblem, readSettings } from './settings.js';

/** The project's folder: the first one above this file that holds the migrations, run from source or built. */
const here = dirname(fileURLToPath(import.meta.url));
const root = join(here, '..', '..');
const migrations = join(root, 'server', 'migrations');

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

/** Whether the process that wrote this file ran on this machine and is gone: what it locked, a crash left behind. */
async function isDead(owner: string): Promise<boolean> {
  const [host, pid] = (await readFile(owner, 'utf8').catch(() => '')).trim().split(' ');
  if (host !== hostname() || !pid) return false;
  try {
    process.kill(Number(pid), 0);
    return false;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'ESRCH';
  }
}

async function claim(folder: string): Promise<() => Promise<void>> {
  try {
    await mkdir(folder, { recursive: true });
    await access(folder, constants.W_OK);
  } catch {
    throw new StartProblem(`The data folder ${folder} cannot be written. Choose another with ALLUVIUM_DATA.`);
  }
  const lockfilePath = join(folder, 'alluvium.lock');
  const owner = join(folder, 'alluvium.pid');
  const take = async () => {
    const release = await lock(folder, { stale: 10_000, update: 3_000, lockfilePath });
    await writeFile(owner, `${hostname()} ${process.pid}\n`);
    return release;
  };
  try {
    return await take().catch(async (error: unknown) => {
      if (!(await isDead(owner))) throw error;
      await rm(lockfilePath, { recursive: true, force: true });
      return take();
    });
  } catch {
    throw new StartProblem(
      `The data folder ${folder} is open in another Alluvium. Stop that one first; if it crashed on another machine, wait ten seconds.`,
    );
  }
}

async function start(): Promise<void> {
  const demo = process.argv.includes('--demo');
  const settings = readSettings(process.env, join(root, 'data', demo ? 'demo' : 'own'));
  await portIsFree(settings.host, settings.port);
  const release = await claim(settings.data);
  const db = await openPglite(join(settings.data, 'database')).catch((error: unknown) => {
    throw new StartProblem(
      error instanceof NotADatabase
        ? error.message
        : `The data in ${settings.data} cannot be opened: ${(error as Error).message}`,
    );
  });
  try {
    await migrate(db, await readMigrations(migrations));
    await takeBackUnfinished(db);
  } catch (error) {
    await db.close();
    await release();
    throw error instanceof NewerData ? new StartProblem(error.message) : error;
  }
  let port = settings.port;
  const standInsKey = randomBytes(24).toString('base64url');
  const app = await createApp({
    db,
    pictures: await openPictures(join(settings.data, 'pictures')),
    web: await builtWeb(),
    hosts: () => allowedHosts(settings.host, port),
    standInsKey,
    log: true,
  });

  let closing = false;
  const close = async () => {
    if (closing) return;
    closing = true;
    await app.close();
    await db.close();
    await release();
    process.exit(0);
  };
  process.on('SIGINT', () => void close());
  process.on('SIGTERM', () => void close());

  if (demo) await loadDemo(app, db);
  await app.listen({ host: settings.host, port: settings.port });
  port = (app.server.address() as { port: number }).port;
  const name = settings.host.includes(':') ? `[${settings.host}]` : settings.host;
  const url = `http://${name}:${port}`;
  console.log(`Alluvium is at ${url}`);
  if (settings.instruments ?? demo) standIns(url, standInsKey);
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
    env: { ...process.env, ALLUVIUM_STAND_INS_KEY: key },
  });
  child.on('error', (error) => console.error(`The stand-in instruments did not start: ${error.message}`));
  process.on('exit', () => child.kill());
}

/** Brings the demo in by the same door as a user's import, once: into an empty library. */
async function loadDemo(
  app: Awaited<ReturnType<typeof createApp>>,
  db: Awaited<ReturnType<typeof openPglite>>,
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
    headers: { 'content-type': 'application/json', host: `127.0.0.1:${readSettings(process.env, '').port}` },
  });
  if (answer.statusCode !== 200 || !answer.body.includes('"finished":true'))
    throw new Error(`The demo data did not load: ${answer.body.slice(0, 500)}`);
}

start().catch((error: unknown) => {
  console.error(error instanceof StartProblem ? error.message : error);
  process.exit(1);
});
