import { sayIn } from '@alluvium/core';
import type { Care, Rescue } from '@alluvium/records';
import { flushPromises } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { mounted } from '../test/mounted.js';
import BackupsPage from './BackupsPage.vue';
import RescuePage from './RescuePage.vue';
import { sizeWords } from './words.js';

type Answer = { readonly status?: number; readonly body?: unknown; readonly lines?: readonly object[] };
let answers: Record<string, Answer>;
let asked: string[];
let page: ReturnType<typeof mounted>;
beforeEach(() => {
  asked = [];
  vi.stubGlobal('fetch', async (url: string, init: RequestInit = {}) => {
    const address = `${init.method ?? 'GET'} ${url}`;
    asked.push(init.body ? `${address} ${String(init.body)}` : address);
    const { status = 200, body, lines } = answers[address] ?? { status: 404, body: { detail: 'Not here.' } };
    return new Response(lines ? lines.map((l) => `${JSON.stringify(l)}\n`).join('') : JSON.stringify(body), { status });
  });
});
afterEach(() => {
  page.unmount();
  vi.unstubAllGlobals();
});
async function show(component: object): Promise<void> {
  page = mounted(component as never, {});
  await flushPromises();
}
const press = async (text: string) => {
  const all = page.findAll('button');
  const inside = all.find((b) => b.text() === text);
  if (inside) await inside.trigger('click');
  else
    [...document.querySelectorAll('button')]
      .filter((b) => b.textContent?.trim() === text)
      .at(-1)!
      .click();
  await flushPromises();
  await new Promise((go) => setTimeout(go, 20));
  await flushPromises();
};
const text = () => page.text().replace(/\s+/g, ' ');

const care: Care = {
  folder: '/shop/backups',
  backups: [
    {
      name: 'alluvium-1-daily',
      made: new Date(Date.now() - 9 * 86_400_000).toISOString(),
      reason: 'daily',
      records: 868,
      heads: 12,
      bytes: 307_527,
      photos: 3,
      missing: [],
    },
  ],
  check: null,
  free: 83_700_000_000,
  passphrase: false,
  clock: null,
};

describe('the backups', () => {
  it('say where they lie, how old the newest is, and what each holds', async () => {
    answers = { 'GET /api/care': { body: care } };
    await show(BackupsPage);
    expect(text()).toContain('It is /shop/backups');
    expect(text()).toContain('The newest backup is 9 days old. Make one now.');
    expect(text()).toMatch(/once a day\s*12\s*868\s*3\s*308 kB/);
    expect(text()).toContain('83.7 GB free');
    expect(page.find('a[download]').attributes('href')).toBe('/api/backup/alluvium-1-daily/file');
    expect(text()).not.toContain('Sign out');
  });
  it('are made by hand; why one cannot be made is said', async () => {
    answers = { 'GET /api/care': { body: { ...care, backups: [] } } };
    await show(BackupsPage);
    expect(text()).toContain('There is no backup yet.');
    answers['POST /api/backup'] = {
      status: 409,
      body: { detail: 'There is nothing to keep yet: the library is empty.' },
    };
    await press('Make a backup now');
    expect(page.find('[role=alert]').text()).toBe('There is nothing to keep yet: the library is empty.');
    answers['POST /api/backup'] = {
      status: 201,
      body: { name: 'alluvium-2', made: care.backups[0]!.made, missing: [] },
    };
    await press('Make a backup now');
    expect(page.find('[role=alert]').exists()).toBe(false);
  });
  it('are put back after a question; what the server says against it is said', async () => {
    answers = {
      'GET /api/care': { body: care },
      'POST /api/backup/alluvium-1-daily/restore': {
        lines: [{ done: 1, of: 2 }, { problem: { detail: 'The backup alluvium-1-daily is damaged: cut short.' } }],
      },
    };
    await show(BackupsPage);
    await press('Restore');
    expect(asked.filter((a) => a.startsWith('POST'))).toEqual([]);
    await press('Put it back');
    expect(asked).toContain('POST /api/backup/alluvium-1-daily/restore');
    expect(page.find('[role=alert]').text()).toContain('is damaged: cut short');
  });
  it('the check of everything says what it found', async () => {
    answers = {
      'GET /api/care': { body: care },
      'POST /api/check': { body: { at: '2026-11-26T02:00:00Z', damage: [], repaired: [] } },
    };
    await show(BackupsPage);
    answers['GET /api/care'] = {
      body: {
        ...care,
        check: { at: '2026-11-26T02:00:00Z', damage: ['The photo “deck” (a) is missing.'], repaired: ['The index x.'] },
      },
    };
    await press('Check everything');
    expect(text()).toContain('The photo “deck” (a) is missing.');
    expect(text()).toContain('The index x.');
  });
  it('name the photos one lacks', async () => {
    answers = { 'GET /api/care': { body: { ...care, backups: [{ ...care.backups[0], missing: ['deck', 'bowl'] }] } } };
    await show(BackupsPage);
    expect(text()).toMatch(/3 of 5/);
    expect(page.find('[title="Missing: deck, bowl"]').exists()).toBe(true);
  });
  it('ask about a clock that jumped, until somebody says that it is right', async () => {
    const clock = { now: '2027-11-26T02:00:00Z', known: '2026-11-26T02:00:00Z' };
    answers = { 'GET /api/care': { body: { ...care, clock } }, 'POST /api/clock': { status: 204, body: undefined } };
    await show(BackupsPage);
    expect(text()).toContain('Nothing old is removed until you say which is right.');
    answers['GET /api/care'] = { body: care };
    await press('The clock is right');
    expect(asked).toContain('POST /api/clock');
    expect(text()).not.toContain('Nothing old is removed');
  });
  it('switched off are said to be off; a passphrase can be asked for again', async () => {
    answers = { 'GET /api/care': { body: { ...care, folder: null, backups: [], passphrase: true } } };
    await show(BackupsPage);
    expect(text()).toContain('Backups are switched off');
    expect(text()).toContain('Sign out of this browser');
  });
});

const rescue: Rescue = {
  damage: ['12 heads should be here; 0 are.'],
  backups: [
    { name: 'alluvium-2', made: '2026-11-26T02:00:00Z', reason: 'daily', heads: 12, sound: false, newer: false },
    { name: 'alluvium-1', made: '2026-11-25T02:00:00Z', reason: 'start', heads: 11, sound: true, newer: false },
  ],
  readable: [
    { noun: 'sheet', records: 36 },
    { noun: 'build', records: 1 },
  ],
};

describe('a damaged library', () => {
  it('says what is wrong, what is sound and what can still be read', async () => {
    answers = { 'GET /api/rescue': { body: rescue } };
    await show(RescuePage);
    expect(text()).toContain('12 heads should be here; 0 are.');
    expect(text()).toContain('36 flow sheets, 1 build.');
    const [damaged, sound] = page.findAll('tbody tr');
    expect([damaged!.text(), damaged!.find('button').attributes('disabled')]).toEqual([
      expect.stringContaining('damaged'),
      '',
    ]);
    expect(sound!.find('button').attributes('disabled')).toBeUndefined();
  });
  it('puts the chosen one in place, and says why when it cannot', async () => {
    answers = {
      'GET /api/rescue': { body: rescue },
      'POST /api/rescue/restore': { lines: [{ problem: { detail: 'The disk is full.' } }] },
    };
    await show(RescuePage);
    await page.findAll('tbody tr')[1]!.find('button').trigger('click');
    await flushPromises();
    await new Promise((go) => setTimeout(go, 20));
    expect(asked).toContain('POST /api/rescue/restore {"name":"alluvium-1"}');
    expect(page.find('[role=alert]').text()).toBe('The disk is full.');
  });
});

it.each([
  [0, '0 bytes'],
  [999, '999 bytes'],
  [307_527, '308 kB'],
  [1_500_000, '1.5 MB'],
  [83_700_000_000, '83.7 GB'],
])('%i bytes are %s', (bytes, words) => expect(sizeWords(bytes, sayIn('inch'))).toBe(words));
