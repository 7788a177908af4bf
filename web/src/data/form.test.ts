import { keptDrafts } from './drafts.js';
import { Build, type RecordOf } from '@alluvium/records';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { defineComponent, nextTick, ref } from 'vue';
import { heard } from './reach.js';
import { useUndo } from './undo.js';
import { blankBuild } from '../target/blank.js';
import { sentIn } from '../test/changes.js';
import { mounted } from '../test/mounted.js';
import { useRecordForm, type Draft, type RecordForm } from './form.js';

const stored = (more: object = {}): RecordOf<'build'> =>
  Build.parse({
    id: 'kestrel',
    version: 3,
    name: 'Kestrel Four',
    bore: '3.5 in',
    stroke: '3.25 in',
    cylinders: 4,
    power: '160 hp',
    speed: '6000 rpm',
    ...more,
  });

const answers: { status: number; body: object }[] = [];
const requests: { method: string; url: string; body: Record<string, unknown> }[] = [];
let page: ReturnType<typeof mounted>;
let form: RecordForm<'build'>;
const record = ref<RecordOf<'build'> | undefined>();

function open(blank: () => Draft<'build'> = blankBuild, autosave = false): void {
  page = mounted(
    defineComponent({
      setup() {
        form = useRecordForm(
          'build',
          () => record.value,
          blank,
          (b) => `${b.name} saved.`,
          { autosave },
        );
        return () => null;
      },
    }),
  );
}
beforeEach(() => {
  localStorage.clear();
  answers.length = requests.length = 0;
  record.value = stored();
  vi.stubGlobal('fetch', async (url: string, init: RequestInit) => {
    requests.push(...sentIn(init.method!, url, JSON.parse((init.body as string) ?? 'null')));
    const { status, body } = answers.shift()!;
    const answer = 'record' in body ? { records: [body.record], touched: [], ...body } : body;
    return new Response(JSON.stringify(answer), { status });
  });
  open();
});
afterEach(() => {
  page.unmount();
  vi.unstubAllGlobals();
});

describe('a form over a record', () => {
  it('starts clean, knows when it is dirty, and comes back clean', async () => {
    expect(form.dirty.value).toBe(false);
    form.set('name', 'Other');
    expect(form.dirty.value).toBe(true);
    form.discard();
    await nextTick();
    expect(form.dirty.value).toBe(false);
    expect(form.draft.value.name).toBe('Kestrel Four');
  });

  it('starts clean also where its blank is the record itself', async () => {
    page.unmount();
    open(() => record.value as Draft<'build'>);
    await nextTick();
    expect(form.dirty.value).toBe(false);
    expect(localStorage.length).toBe(0);
  });

  it('keeps what was typed over a reload, and forgets it when discarded', async () => {
    form.set('name', 'Half typed');
    await nextTick();
    page.unmount();
    open();
    expect(form.draft.value.name).toBe('Half typed');
    expect(form.restored.value).toBe(true);
    form.discard();
    await nextTick();
    page.unmount();
    open();
    expect(form.restored.value).toBe(false);
  });

  it('a record that differs only in the order of its keys is the same', async () => {
    record.value = Object.fromEntries(Object.entries(stored()).reverse()) as never;
    await nextTick();
    expect(form.dirty.value).toBe(false);
  });

  it('a newer record is taken over while nothing is typed, and left alone while something is', async () => {
    record.value = stored({ version: 4, name: 'Renamed' });
    await nextTick();
    expect(form.draft.value.name).toBe('Renamed');
    form.set('name', 'Mine');
    record.value = stored({ version: 5, name: 'Renamed again' });
    await nextTick();
    expect(form.draft.value.name).toBe('Mine');
  });

  it('is checked with the server’s schema before anything is sent', async () => {
    form.set('cylinders', 0);
    form.set('bore', null);
    expect(await form.save()).toBeUndefined();
    expect(form.problems.value).toEqual({ bore: 'This is needed.', cylinders: 'An engine has at least one cylinder.' });
    expect(requests).toEqual([]);
  });

  it('does not save while a field cannot be read', async () => {
    form.typing('bore', '“x” is not a length.');
    expect(form.dirty.value).toBe(true);
    expect(await form.save()).toBeUndefined();
    expect(form.problems.value['']).toBe('“x” is not a length.');
    form.typing('bore', '');
    expect(form.dirty.value).toBe(false);
  });

  it('saves with the version it saw and can be undone', async () => {
    form.set('name', 'Saved');
    await nextTick();
    answers.push({ status: 200, body: { record: stored({ name: 'Saved', version: 4 }), batch: 12 } });
    const saved = await form.save();
    expect(saved!.name).toBe('Saved');
    expect(requests[0]).toMatchObject({
      method: 'PUT',
      url: '/api/build/kestrel',
      body: { version: 3, name: 'Saved' },
    });
    expect(form.dirty.value).toBe(false);
    expect(localStorage.length).toBe(0);
    expect(useUndo().message).toBe('Saved saved.');
    expect(useUndo().done.at(-1)).toEqual({ what: 'Saved saved.', batch: 12 });
  });

  it('adds a new record under one id until it is answered, so that sent twice it is one', async () => {
    record.value = undefined;
    page.unmount();
    open();
    Object.assign(form.draft.value, { ...stored({ name: 'New' }), id: null });
    answers.push({ status: 503, body: {} }, { status: 200, body: { record: stored({ name: 'New' }), batch: 1 } });
    await form.save();
    expect(form.draft.value.name).toBe('New');
    await form.save();
    expect(requests.map((r) => r.method)).toEqual(['POST', 'POST']);
    expect(requests[0]!.body.id).toMatch(/^[\w-]{32,36}$/);
    expect(requests[1]!.body).toEqual(requests[0]!.body);
    // The next one is another record.
    form.set('name', 'Newer');
    answers.push({ status: 200, body: { record: stored({ name: 'Newer' }), batch: 2 } });
    await form.save();
    expect(requests[2]!.body.id).not.toBe(requests[0]!.body.id);
  });

  it('shows the field at fault when the server refuses', async () => {
    form.set('name', 'Other');
    answers.push({ status: 400, body: { detail: 'No.', fields: [{ field: 'name', message: 'Taken.' }] } });
    expect(await form.save()).toBeUndefined();
    expect(form.problems.value).toEqual({ '': 'No.', name: 'Taken.' });
    expect(form.draft.value.name).toBe('Other');
  });

  it('loses nothing when the server does not answer', async () => {
    form.set('name', 'Other');
    await nextTick();
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('refused')));
    await form.save();
    expect(form.problems.value['']).toContain('The server does not answer. What you typed is kept here');
    expect(keptDrafts()).toHaveLength(1);
  });

  it('in a conflict both versions are at hand, and one is made of both', async () => {
    const theirs = stored({ version: 7, name: 'Theirs', note: 'bored' });
    form.set('name', 'Mine');
    answers.push({ status: 409, body: { detail: 'Someone saved this.', current: theirs } });
    await form.save();
    expect(form.conflict.value).toMatchObject({ theirs, mine: { name: 'Mine' }, base: { name: 'Kestrel Four' } });
    answers.push({ status: 200, body: { record: stored({ version: 8, name: 'Mine', note: 'bored' }), batch: 2 } });
    await form.keepBoth({ ...theirs, name: 'Mine' });
    expect(requests.at(-1)).toMatchObject({ method: 'PUT', body: { version: 7, name: 'Mine', note: 'bored' } });
    expect(form.dirty.value).toBe(false);

    form.set('name', 'Mine again');
    answers.push({ status: 409, body: { detail: 'Someone saved this.', current: theirs } });
    await form.save();
    form.takeTheirs();
    expect(form.draft.value.name).toBe('Theirs');
    expect(form.dirty.value).toBe(false);
    expect(form.conflict.value).toBeUndefined();
  });

  it('saved meanwhile under its own id, because the first answer was lost, it replaces that', async () => {
    record.value = undefined;
    page.unmount();
    open();
    Object.assign(form.draft.value, { ...stored({ name: 'Second thought' }), id: null });
    const there = stored({ id: 'there', version: 1, name: 'First thought' });
    answers.push({ status: 409, body: { detail: 'Saved already.', current: there } });
    await form.save();
    answers.push({ status: 200, body: { record: stored({ id: 'there', version: 2 }), batch: 3 } });
    await form.keepBoth(form.conflict.value!.mine);
    expect(requests.at(-1)).toMatchObject({
      method: 'PUT',
      url: '/api/build/there',
      body: { version: 1, name: 'Second thought' },
    });
  });

  it('what was discarded comes back by undo, and goes again by redo', async () => {
    form.set('name', 'Half typed');
    await nextTick();
    form.discard();
    expect(form.draft.value.name).toBe('Kestrel Four');
    await useUndo().undo();
    expect(form.draft.value.name).toBe('Half typed');
    expect(form.dirty.value).toBe(true);
    await nextTick();
    expect(keptDrafts()).toHaveLength(1);
    await useUndo().redo();
    expect(form.draft.value.name).toBe('Kestrel Four');
  });
});

describe('a form that saves itself', () => {
  beforeEach(() => {
    vi.useFakeTimers();
    page.unmount();
    open(blankBuild, true);
  });
  afterEach(() => void vi.useRealTimers());
  const passes = (ms: number) => vi.advanceTimersByTimeAsync(ms);
  const taken = (more: object) => ({ status: 200, body: { record: stored({ version: 4, ...more }), batch: 9 } });

  it('does so once the keys are quiet, without a word, and can be undone', async () => {
    answers.push(taken({ name: 'Kestrel 4' }));
    form.set('name', 'Kestrel');
    await passes(1_000);
    form.set('name', 'Kestrel 4');
    await passes(1_000);
    expect(requests).toEqual([]);
    await passes(1_000);
    expect(requests.map((r) => r.body.name)).toEqual(['Kestrel 4']);
    expect(form.dirty.value).toBe(false);
    expect(form.itself!.at.value).toBeInstanceOf(Date);
    expect(useUndo().message).toBe('');
    expect(useUndo().done).toHaveLength(1);
  });

  it('keeps what is typed while it is being saved', async () => {
    answers.push(taken({ name: 'Kestrel 4' }), taken({ version: 5, name: 'Kestrel 4 B', note: 'late' }));
    form.set('name', 'Kestrel 4');
    const real = globalThis.fetch;
    vi.stubGlobal('fetch', async (...asked: Parameters<typeof fetch>) => {
      form.set('name', 'Kestrel 4 B');
      vi.stubGlobal('fetch', real);
      return real(...asked);
    });
    await passes(2_000);
    expect(form.draft.value).toMatchObject({ name: 'Kestrel 4 B', version: 4 });
    await passes(2_000);
    expect(requests.map((r) => r.body.name)).toEqual(['Kestrel 4', 'Kestrel 4 B']);
  });

  it('leaves alone what cannot be read, what the schema refuses, and what is new', async () => {
    form.typing('bore', 'This is no length.');
    form.set('name', 'Other');
    await passes(3_000);
    form.typing('bore', '');
    form.set('name', '');
    await passes(3_000);
    record.value = undefined;
    await nextTick();
    form.set('name', 'New');
    await passes(3_000);
    expect(requests).toEqual([]);
  });

  it('leaves alone what was kept from an earlier visit, until it is looked at', async () => {
    form.set('name', 'Half typed');
    await nextTick();
    vi.clearAllTimers();
    const kept = localStorage.getItem('alluvium.draft.build.kestrel')!;
    expect(kept).toContain('Half typed');
    answers.push(taken({ name: 'Half typed' }));
    page.unmount();
    await passes(0);
    // Leaving the page saves what was still on its way.
    expect(requests).toHaveLength(1);
    localStorage.setItem('alluvium.draft.build.kestrel', kept);
    open(blankBuild, true);
    expect(form.restored.value).toBe(true);
    await passes(3_000);
    expect(requests).toHaveLength(1);
  });

  it('says so while the server does not answer, and saves when it is back', async () => {
    const real = globalThis.fetch;
    vi.stubGlobal('fetch', async () => Promise.reject(new TypeError('no network')));
    form.set('name', 'Kestrel 4');
    await passes(2_000);
    expect(form.itself!.waits.value).toBe(true);
    expect(form.draft.value.name).toBe('Kestrel 4');
    vi.stubGlobal('fetch', real);
    answers.push(taken({ name: 'Kestrel 4' }));
    heard(true);
    await passes(100);
    expect(form.itself!.waits.value).toBe(false);
    expect(form.dirty.value).toBe(false);
  });
});
