import { evaluateTarget, inches, work, bowlRatio } from '@alluvium/core';
import { Build } from '@alluvium/records';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { lines } from '../data/client.js';
import { isTyping } from '../app/keys.js';
import { GLOSSARY, termIn } from '../app/glossary.js';
import { STEPS } from '../app/router.js';
import { useLooked } from '../data/looked.js';
import { TOURS } from '../help/tours.js';
import { mounted } from '../test/mounted.js';
import { withTarget } from '../data/build.js';
import { useHidden } from '../data/comparison.js';
import { useUndo } from '../data/undo.js';
import { useWorking } from './working.js';
import WorkingPanel from '../parts/WorkingPanel.vue';
import { nextTick } from 'vue';

const build = (more: object = {}) =>
  Build.parse({
    id: 'k',
    name: 'K',
    bore: '3.5 in',
    stroke: '3.25 in',
    cylinders: 4,
    power: '160 hp',
    speed: '6000 rpm',
    ...more,
  });

beforeEach(() => setActivePinia(createPinia()));
afterEach(() => vi.unstubAllGlobals());

describe('the build at hand', () => {
  it('carries what follows from it', () => {
    const { core, target } = withTarget(build());
    expect(target!.demand!.value).toBe(evaluateTarget(core).demand!.value);
  });
  it('keeps its sentence when its cam fits no lift curve', () => {
    const { target, problem } = withTarget(
      build({ cam: { intakeLift: '.070 in', intakeDuration: '224°', rockerRatio: '1.5' } }),
    );
    expect(target).toBeUndefined();
    expect(problem).toContain('never lifts to its checking height');
  });
});

describe('hidden heads', () => {
  it('are toggled one by one', () => {
    const hidden = useHidden();
    hidden.set(['A', 'C']);
    hidden.toggle('A');
    hidden.toggle('B');
    expect([...hidden.letters].sort()).toEqual(['B', 'C']);
  });
});

describe('undo', () => {
  const Host = { setup: () => () => null };
  it('goes back and forth through the batches, and says what it did', async () => {
    const page = mounted(Host);
    const calls: string[] = [];
    let batch = 100;
    vi.stubGlobal('fetch', async (url: string) => {
      calls.push(url);
      return new Response(JSON.stringify({ batch: batch++, touched: [] }));
    });
    const undo = page.vm.$.appContext.app.runWithContext(() => useUndo());
    undo.did('Head saved.', 7);
    undo.did('Nothing changed.', null);
    await undo.undo();
    expect(undo.message).toBe('Undone: Head saved.');
    await undo.redo();
    await undo.undo();
    expect(calls).toEqual(['/api/change/7/undo', '/api/change/100/undo', '/api/change/101/undo']);
    await undo.undo();
    expect(undo.message).toBe('There is nothing to undo.');
    page.unmount();
  });
  it('tells why something cannot be taken back', async () => {
    const page = mounted(Host);
    vi.stubGlobal(
      'fetch',
      async () => new Response(JSON.stringify({ detail: 'Changed again since.' }), { status: 409 }),
    );
    const undo = page.vm.$.appContext.app.runWithContext(() => useUndo());
    undo.did('Head saved.', 7);
    await undo.undo();
    expect(undo.message).toBe('Changed again since.');
    page.unmount();
  });
});

describe('the working', () => {
  it('shows formula, inputs, source and the steps below, and gives focus back', async () => {
    const page = mounted(WorkingPanel);
    const opener = document.createElement('button');
    document.body.append(opener);
    opener.focus();
    const panel = useWorking();
    panel.show(work(bowlRatio, { bowl: { value: inches(1.81), note: 'measured' }, valve: inches(1.85) }));
    await nextTick();
    await nextTick();
    expect(page.text()).toContain('Bowl as a share of the valve');
    expect(page.text()).toContain('97.8');
    expect(page.text()).toContain('measured');
    expect(page.text()).toContain('Common practice, no source');
    await page.find('aside').trigger('keydown', { key: 'Escape' });
    expect(panel.open).toBe(false);
    expect(document.activeElement).toBe(opener);
    page.unmount();
  });
});

describe('a stream of lines', () => {
  it('is read line by line, however it is cut', async () => {
    const parts = ['{"done":1,', '"of":2}\n{"do', 'ne":2,"of":2}\n', '{"finished":true}'];
    vi.stubGlobal('fetch', async () => {
      const body = new ReadableStream({
        start(c) {
          for (const part of parts) c.enqueue(new TextEncoder().encode(part));
          c.close();
        },
      });
      return new Response(body);
    });
    const found: unknown[] = [];
    for await (const line of lines('POST', '/api/bundle', '{}')) found.push(line);
    expect(found).toEqual([{ done: 1, of: 2 }, { done: 2, of: 2 }, { finished: true }]);
  });
});

describe('keys', () => {
  it('belong to a field while one is typed in', () => {
    const input = document.createElement('input');
    const div = document.createElement('div');
    document.body.append(input, div);
    const on = (element: HTMLElement) => {
      let result = false;
      element.addEventListener('keydown', (e) => (result = isTyping(e)), { once: true });
      element.dispatchEvent(new KeyboardEvent('keydown', { key: 'g' }));
      return result;
    };
    expect(on(input)).toBe(true);
    expect(on(div)).toBe(false);
  });
});

describe('the glossary', () => {
  it('knows the word a heading is about: the longest that stands in it, in the plural too', () => {
    expect(termIn('C min')).toBe('C min');
    expect(termIn('Seats, seen from the deck')).toBe('Deck');
    expect(termIn('seats')).toBe('Seat');
    expect(termIn('mean inlet Mach index at the target')).toBe('Mean inlet Mach index');
    expect(termIn('what it says')).toBeUndefined();
    expect(termIn('')).toBeUndefined();
    // A paragraph is no heading.
    expect(termIn(`choke ${'and so on '.repeat(10)}`)).toBeUndefined();
  });
  it('is in order and says each word once', () => {
    const terms = GLOSSARY.map(([t]) => t.toLowerCase());
    expect(terms).toEqual([...new Set(terms)].sort((a, b) => a.localeCompare(b)));
  });
});

describe('tours', () => {
  it('are six, each of a page there is, short, and say something at every stop', () => {
    expect(TOURS).toHaveLength(6);
    const pages = ['shop', 'head', ...STEPS.map((s) => s.name)];
    for (const tour of TOURS) {
      expect(pages).toContain(tour.page);
      expect(tour.stops.length).toBeGreaterThan(1);
      expect(tour.stops.length).toBeLessThan(7);
      for (const stop of tour.stops)
        expect([stop.says.length > 20, stop.says.length < 180], stop.title).toEqual([true, true]);
    }
  });
});

describe('heads looked at', () => {
  it('are listed newest first, the pinned ones by themselves, and not at all once they are gone', () => {
    const looked = useLooked();
    for (const [id, name] of [
      ['a', 'First'],
      ['b', 'Second'],
      ['c', 'Third'],
    ] as const)
      looked.look(id, name);
    looked.pin('a');
    expect(looked.recent.map((h) => h.name)).toEqual(['Third', 'Second']);
    expect(looked.pinned).toEqual([{ id: 'a', name: 'First' }]);
    looked.look('b', 'Second, renamed');
    expect(looked.recent.map((h) => h.name)).toEqual(['Second, renamed', 'Third']);
    looked.forget('c');
    looked.pin('a');
    expect(looked.recent.map((h) => h.id)).toEqual(['b', 'a']);
  });
});
