import { cpSync } from 'node:fs';
import { chmod, mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { refused, root, startServer, templateFolder } from '../server.js';

const fresh = async () => {
  const folder = await mkdtemp(join(tmpdir(), 'alluvium-start-'));
  cpSync(templateFolder('demo'), folder, { recursive: true });
  return folder;
};

test('a start that cannot go on says one clear sentence and touches nothing', async () => {
  const folder = await fresh();
  const server = await startServer(folder);
  const port = new URL(server.url).port;

  const busy = await refused({ PORT: port, ALLUVIUM_DATA: join(folder, 'other') });
  expect(busy.code).toBe(1);
  expect(busy.err).toBe(
    `Port ${port} is in use: is Alluvium running already? Stop it, or choose another with PORT=4871.`,
  );
  expect(await readdir(folder)).not.toContain('other');

  const locked = await refused({ PORT: '0', ALLUVIUM_DATA: folder });
  expect(locked.code).toBe(1);
  expect(locked.err).toMatch(/is open in another Alluvium \(process \d+ on .*\)\. Stop that one first/);

  const pem = (name: string) => join(root, 'server', 'src', 'test', 'tls', name);
  const swapped = await refused({ ALLUVIUM_TLS_CERT: pem('key.pem'), ALLUVIUM_TLS_KEY: pem('cert.pem') });
  expect([swapped.code, swapped.err]).toEqual([1, expect.stringContaining('the wrong way round?')]);

  const nonsense = await refused({ PORT: 'many', ALLUVIUM_DATA: folder });
  expect(nonsense.err).toBe('PORT must be a whole number from 0 to 65535, not “many”.');

  const file = join(folder, 'a-file');
  await writeFile(file, '');
  await chmod(file, 0o444);
  const unwritable = await refused({ PORT: '0', ALLUVIUM_DATA: join(file, 'below') });
  expect(unwritable.code).toBe(1);
  expect(unwritable.err).toContain('cannot be written. Choose another with ALLUVIUM_DATA.');

  expect(await server.stop('SIGTERM')).toBe(0);
  await rm(folder, { recursive: true });
});

test('SIGINT and SIGTERM close cleanly, and nothing written is lost', async () => {
  const folder = await fresh();
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    const server = await startServer(folder);
    const answer = await fetch(`${server.url}/api/head`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ id: `kept-${signal}`, name: signal }),
    });
    expect(answer.status).toBe(201);
    expect(await server.stop(signal)).toBe(0);
  }
  const server = await startServer(folder);
  for (const signal of ['SIGINT', 'SIGTERM'])
    expect((await fetch(`${server.url}/api/head/kept-${signal}`)).status).toBe(200);
  await server.stop();
  await rm(folder, { recursive: true });
});

test('a killed server loses no acknowledged record', async () => {
  const folder = await fresh();
  let server = await startServer(folder);
  for (let i = 0; i < 5; i++) {
    await fetch(`${server.url}/api/head`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ id: `h${i}`, name: `H ${i}` }),
    });
  }
  await server.stop('SIGKILL');
  // What a dead process locked is free at once.
  server = await startServer(folder);
  for (let i = 0; i < 5; i++) expect((await fetch(`${server.url}/api/head/h${i}`)).status).toBe(200);
  await server.stop();
  await rm(folder, { recursive: true });
});
