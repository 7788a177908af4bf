import { spawn, spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { readdir, rm, truncate } from 'node:fs/promises';
import { join } from 'node:path';
import { test as plain } from '@playwright/test';
import { copyOf, root, startServer } from '../server.js';
import { twoServers } from '../hard/twoServers.js';
import { expect, test } from '../test.js';

const at = { viewport: { width: 1280, height: 800 } };

/** Runs a command of the server to its end. */
const command = async (data: string, ...args: string[]) => {
  const child = spawn(process.execPath, [join(root, 'server', 'dist', 'main.js'), ...args], {
    env: { ...process.env, ALLUVIUM_DATA: data },
  });
  let said = '';
  child.stdout.on('data', (chunk: Buffer) => (said += chunk.toString()));
  child.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()));
  const code = await new Promise((done) => child.on('exit', done));
  return { code, said };
};

plain('a backup is made by hand, and put back in place of what went wrong', async ({ browser }) => {
  plain.setTimeout(120_000);
  const folder = await copyOf('demo');
  const server = await startServer(folder, { env: { ALLUVIUM_BACKUPS: join(folder, 'backups') } });
  const page = await (await browser.newContext({ ...at, baseURL: server.url })).newPage();
  await page.goto('/heads');
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Backups' }).click();
  await page.getByRole('button', { name: 'Make a backup now' }).click();
  await expect(page.getByText(/The library is kept as it was at/)).toBeVisible();
  const rows = page.getByRole('row').filter({ hasText: 'Save the records' });
  await expect(rows.first()).toContainText('12');
  await page.request.delete('/api/head/corrow-417');
  await page.getByRole('button', { name: 'Check everything' }).click();
  await expect(page.getByText(/was read at .*: all sound\./)).toBeVisible({ timeout: 30_000 });
  await rows.last().getByRole('button', { name: 'Restore' }).click();
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByText(/The library is what it was at/)).toBeVisible({ timeout: 30_000 });
  // What was here before is kept as well: by the one made at the start, where nothing changed since, or by its own.
  await expect.poll(() => rows.count()).toBeGreaterThanOrEqual(2);
  await expect(rows.filter({ hasText: /^(?!.*by hand)/ }).filter({ hasText: '11' })).not.toHaveCount(0);
  await page.goto('/heads/corrow-417');
  await expect(page.getByRole('heading', { level: 1 }).or(page.getByLabel('Name')).first()).toBeVisible();
  expect((await page.request.get('/api/head/corrow-417')).status()).toBe(200);
  await page.close();
  await server.stop();
  await rm(folder, { recursive: true });
});

plain('a library that lost a table is not served; a backup is put in its place', async ({ browser }) => {
  plain.setTimeout(120_000);
  const folder = await copyOf('demo');
  const env = { ALLUVIUM_BACKUPS: join(folder, 'backups') };
  const sound = await startServer(folder, { env });
  const made = await fetch(`${sound.url}/api/backup`, { method: 'POST' });
  expect(made.status).toBe(201);
  await sound.stop();
  // The file of the table of heads: the smallest that has the name of one; the log of changes has it as well.
  const base = join(folder, 'database', 'base', '5');
  const files = (await readdir(base)).filter((f) => /^\d+$/.test(f) && Number(f) >= 16_384);
  const withHeads = files
    .map((f) => ({ path: join(base, f), content: readFileSync(join(base, f)) }))
    .filter(({ content }) => content.includes('Longreach 212'))
    .sort((a, b) => a.content.length - b.content.length);
  await truncate(withHeads[0]!.path, 0);
  const server = await startServer(folder, { env });
  const page = await (await browser.newContext({ ...at, baseURL: server.url })).newPage();
  await page.goto('/heads');
  await expect(page.getByRole('heading', { name: 'The library is damaged' })).toBeVisible();
  await expect(page.getByText(/should be here|cannot be read/).first()).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Restore it' }).first().click();
  await expect(page.getByText('417 early').first()).toBeVisible({ timeout: 60_000 });
  expect((await readdir(folder)).some((f) => f.startsWith('database.damaged-'))).toBe(true);
  expect(await (await page.request.get('/api/health')).json()).toEqual({ status: 'ok' });
  await page.close();
  await server.stop();
  await rm(folder, { recursive: true });
});

plain('the commands back up by the running server or by themselves, and put back on an empty machine', async () => {
  plain.setTimeout(120_000);
  const folder = await copyOf('demo');
  const server = await startServer(folder, { env: { ALLUVIUM_BACKUPS: join(folder, 'backups') } });
  const first = await command(folder, 'backup');
  expect([first.code, first.said]).toEqual([0, expect.stringContaining(`by the server at ${server.url}`)]);
  // A library in use is not put back under whoever uses it.
  const refused = await command(folder, 'restore', join(folder, 'backups', 'any.json.gz'));
  expect([refused.code, refused.said]).toEqual([1, expect.stringContaining('is open in another Alluvium')]);
  await server.stop();
  const second = await command(folder, 'backup');
  expect(second.code).toBe(0);
  const file = /Kept in (.*\.json\.gz)/.exec(second.said)![1]!;
  const empty = await copyOf('empty');
  const restored = await command(empty, 'restore', file);
  expect([restored.code, restored.said]).toEqual([0, expect.stringContaining('The library is what it was on')]);
  const there = await startServer(empty);
  expect(await (await fetch(`${there.url}/api/head/corrow-417`)).json()).toMatchObject({ name: '417 early' });
  await there.stop();
  expect(await command(empty, 'restore', '/nowhere/alluvium-x.json.gz')).toEqual({
    code: 1,
    said: expect.stringContaining('There is no backup “alluvium-x”'),
  });
  await rm(folder, { recursive: true });
  await rm(empty, { recursive: true });
});

plain('a damaged library is replaced by the command as well, which needs no healthy one', async () => {
  const folder = await copyOf('demo');
  const env = { ALLUVIUM_BACKUPS: join(folder, 'backups') };
  const server = await startServer(folder, { env });
  const { name } = (await (await fetch(`${server.url}/api/backup`, { method: 'POST' })).json()) as { name: string };
  await server.stop();
  await rm(join(folder, 'database', 'global', 'pg_control'));
  const restored = await command(folder, 'restore', join(folder, 'backups', `${name}.json.gz`));
  expect([restored.code, restored.said]).toEqual([0, expect.stringContaining('The library was damaged')]);
  expect(restored.said).toContain('database.damaged-');
  const again = await startServer(folder, { env });
  expect(await (await fetch(`${again.url}/api/head/corrow-417`)).json()).toMatchObject({ name: '417 early' });
  await again.stop();
  await rm(folder, { recursive: true });
});

plain(
  'a second server is refused while the first is stopped, or its lock was removed, and takes over when it is dead',
  async () => {
    const folder = await copyOf('demo');
    const { wrong, heads } = await twoServers(folder, 1);
    expect(wrong).toEqual([]);
    expect(heads.length).toBeGreaterThanOrEqual(3);
    await rm(folder, { recursive: true });
  },
);

plain('nobody else on the machine reads the data, and no other process is handed the passphrase', async () => {
  const folder = await copyOf('demo');
  // As an earlier version left it.
  spawnSync('chmod', ['-R', 'a+rX', folder]);
  const server = await startServer(folder, {
    env: {
      ALLUVIUM_BACKUPS: join(folder, 'backups'),
      ALLUVIUM_PASSPHRASE: 'a sentence does well',
      ALLUVIUM_INSTRUMENTS: 'simulated',
    },
  });
  const authorization = 'Bearer a sentence does well';
  const kept = await fetch(`${server.url}/api/backup`, { method: 'POST', headers: { authorization } });
  expect(kept.status).toBe(201);
  // The database writes one cache of its own by its C library; the folder it lies in lets nobody in.
  const open = spawnSync('find', [folder, '-perm', '/077', '-not', '-name', 'pg_internal.init'], { encoding: 'utf8' });
  expect(open.stdout).toBe('');
  const children = readFileSync(`/proc/${server.child.pid}/task/${server.child.pid}/children`, 'utf8')
    .trim()
    .split(' ');
  expect(children.length).toBeGreaterThan(0);
  for (const pid of children)
    expect(readFileSync(`/proc/${pid}/environ`, 'utf8')).not.toContain('a sentence does well');
  await server.stop();
  await rm(folder, { recursive: true });
});

plain('with a passphrase nothing is shown before it is given, nor after signing out', async ({ browser }) => {
  plain.setTimeout(90_000);
  const folder = await copyOf('demo');
  const server = await startServer(folder, {
    env: {
      ALLUVIUM_PASSPHRASE: 'a sentence does well',
      ALLUVIUM_BACKUPS: join(folder, 'backups'),
      ALLUVIUM_LOOK_AROUND: 'no',
    },
  });
  const page = await (await browser.newContext({ ...at, baseURL: server.url })).newPage();
  expect((await page.request.get('/api/head')).status()).toBe(401);
  await page.goto('/heads/corrow-417');
  await expect(page.getByText('417 early')).toHaveCount(0);
  await page.getByLabel('Passphrase').fill('not this one here');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toHaveText('This is not the passphrase.');
  await page.getByLabel('Passphrase').fill('a sentence does well');
  await page.getByRole('button', { name: 'Sign in' }).click();
  // Straight to where it was going.
  await expect(page).toHaveURL(/\/heads\/corrow-417/);
  await expect(page.getByText('417 early').first()).toBeVisible();
  // A second shop is made for nobody, where whoever started the program does not allow it.
  const demo = await page.request.post('/api/look-around', { headers: { origin: server.url } });
  expect([demo.status(), await demo.text()]).toEqual([409, expect.stringContaining('ALLUVIUM_LOOK_AROUND=yes')]);
  const before = await page.context().cookies();
  await page.goto('/backups');
  await page.getByRole('button', { name: 'Sign out of this browser' }).click();
  await expect(page.getByLabel('Passphrase')).toBeVisible();
  expect((await page.request.get('/api/head')).status()).toBe(401);
  // The cookie somebody copied before opens nothing any more.
  await page.context().addCookies(before);
  expect((await page.request.get('/api/head')).status()).toBe(401);
  await page.close();
  await server.stop();
  await rm(folder, { recursive: true });
});

test('an import can be cancelled on the way, and leaves nothing behind', async ({ page, server }) => {
  const heads = Array.from({ length: 1500 }, (_, i) => ({
    id: `c-${i}`,
    name: `Cancelled ${i}`,
    note: 'x'.repeat(3_000),
  }));
  const ports = heads.flatMap(({ id }) =>
    Array.from({ length: 12 }, (_, n) => ({ id: `${id}-${n}`, headId: id, side: 'intake', number: n + 1 })),
  );
  await page.goto('/heads');
  await page.setInputFiles('input[type=file]', {
    name: 'many.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify({ format: 'alluvium-bundle', version: 1, heads, ports })),
  });
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await page.getByRole('button', { name: 'Cancel', exact: true }).click();
  await expect(page.getByText('Cancelled: nothing of it is kept.').first()).toBeVisible();
  await expect
    .poll(
      async () =>
        ((await (await fetch(`${server.url}/api/library?search=cancelled`)).json()) as { total: number }).total,
      {
        timeout: 30_000,
      },
    )
    .toBe(0);
});

test('names that are code stay names, in a saved picture and of an imported file', async ({ page }) => {
  const code = '<img src=x onerror="window.hit=1">"><script>window.hit=1</script>';
  const head = (await (await page.request.get('/api/head/longreach-212')).json()) as object;
  expect((await page.request.put('/api/head/longreach-212', { data: { ...head, name: code } })).status()).toBe(200);
  const build = (await (await page.request.get('/api/build/slate-six')).json()) as object;
  const renamed = { ...build, name: '../../etc/"><svg onload=window.hit=1>' };
  expect((await page.request.put('/api/build/slate-six', { data: renamed })).status()).toBe(200);
  await page.goto('/compare?build=slate-six');
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'SVG', exact: true }).click(),
  ]);
  expect(saved.suggestedFilename()).not.toMatch(/[/\\<>"]/);
  const svg = readFileSync(await saved.path(), 'utf8');
  expect(svg).toContain('&lt;script&gt;');
  // As a program that takes it in reads it: nothing of it acts.
  const active = await page.evaluate((text) => {
    const drawing = new DOMParser().parseFromString(text, 'image/svg+xml');
    const all = [...drawing.querySelectorAll('*')];
    return all.filter(
      (e) =>
        ['script', 'foreignObject', 'iframe', 'image', 'a', 'use'].includes(e.localName) ||
        [...e.attributes].some((a) => /^on/i.test(a.name) || /^(xlink:)?href$/i.test(a.name)),
    ).length;
  }, svg);
  expect(active).toBe(0);
  await page.goto('/heads');
  await page.setInputFiles('input[type=file]', {
    name: '"><img src=x onerror=window.hit=1>.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('lift (in),intake (cfm)\n.100,60\n.200,110\n'),
  });
  await expect(page.getByRole('dialog')).toContainText('onerror=window.hit=1');
  expect(await page.evaluate(() => (window as { hit?: number }).hit)).toBeUndefined();
});
