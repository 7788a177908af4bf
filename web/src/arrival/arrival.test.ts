import { readFileSync } from 'node:fs';
import { readBundle, standingFindings, wholesOf, type Inspection } from '@alluvium/records';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { nextTick } from 'vue';
import { changed, sentIn } from '../test/changes.js';
import { mounted } from '../test/mounted.js';
import CheckLines from './CheckLines.vue';
import HeadPlan from './HeadPlan.vue';
import InspectionDetail from './InspectionDetail.vue';
import PhotoStrip from './PhotoStrip.vue';
import PlaceCell from '../parts/PlaceCell.vue';
import { useTicks } from '../data/ticks.js';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const whole = (id: string) => wholesOf(bundle).find((w) => w.head.id === id)!;

let page: ReturnType<typeof mounted> | undefined;
afterEach(() => {
  page?.unmount();
  page = undefined;
  vi.unstubAllGlobals();
});

describe('the checklist', () => {
  const head = whole('corrow-522');
  const show = (chosen = head.inspections[1]!.id) =>
    (page = mounted(CheckLines, {
      props: { inspections: head.inspections, standing: standingFindings(head, '522-received'), chosen },
    }));
  const press = (key: string) => page!.find('[role=listbox]').trigger('keydown', { key });
  const chosen = () => (page!.emitted('choose') ?? []).map(([id]) => id);

  it('marks every line with a sign and says it in words', () => {
    show();
    const names = page!.findAll('[role=option]').map((o) => o.attributes('aria-label'));
    expect(names).toContain('Casting marks, unsure');
    expect(names).toContain('Porting or repair by others, something found');
    expect(names.filter((n) => n!.endsWith(', fine'))).toHaveLength(3);
  });
  it('moves by arrows and stops at both ends', async () => {
    show();
    await press('ArrowDown');
    await press('ArrowUp');
    await press('End');
    await press('Home');
    const ids = head.inspections.map((i) => i.id);
    expect(chosen()).toEqual([ids[2], ids[0], ids.at(-1), ids[0]]);
    show(ids.at(-1));
    await press('ArrowDown');
    expect(chosen()).toEqual([ids.at(-1)]);
  });
  it('ticks a line fine and goes on to the next open one', async () => {
    const at = head.inspections.findIndex((i) => i.title === 'Both heads of a pair alike');
    show(head.inspections[at]!.id);
    await press('f');
    expect(page!.emitted('tick')![0]).toEqual([head.inspections[at], 'fine']);
    const next = head.inspections.find((i, k) => k > at && i.state === 'open')!;
    expect(chosen()).toEqual([next.id]);
  });
  it('leaves keys with Ctrl to the page', async () => {
    show();
    await page!.find('[role=listbox]').trigger('keydown', { key: 'f', ctrlKey: true });
    expect(page!.emitted('tick')).toBeUndefined();
  });
  it('hands over what needs a word more', async () => {
    show();
    for (const key of ['u', 'o', 's', 'x', 'Enter']) await press(key);
    expect(page!.emitted('tick')!.map(([, s]) => s)).toEqual(['unsure', 'open']);
    expect(['skip', 'found', 'enter'].map((e) => page!.emitted(e)!.length)).toEqual([1, 1, 1]);
  });
});

describe('one line of it', () => {
  const head = whole('corrow-522');
  const stage = head.stages[0]!;
  const line = (title: string) => head.inspections.find((i) => i.title === title)!;
  const show = (inspection: Inspection) =>
    (page = mounted(InspectionDetail, { props: { whole: head, stage, inspection } }));

  it('shows its caution where the act is', () => {
    show(line('Valves out, kept in order'));
    expect(page!.text()).toContain('Eye protection when valve locks are knocked');
  });
  it('is not skipped without a reason, and takes the note as one', async () => {
    show(line('Which variant'));
    (page!.vm as unknown as { skip: () => void }).skip();
    await nextTick();
    const field = page!.find('textarea');
    await field.trigger('keydown', { key: 'Enter' });
    expect(page!.find('[role=alert]').text()).toBe('Say why this is skipped.');
    await field.setValue('No parts list.');
    await field.trigger('keydown', { key: 'Enter' });
    expect(page!.emitted('tick')![0]!.slice(1)).toEqual([
      { state: 'skipped', note: 'No parts list.' },
      'Skipped: Which variant.',
    ]);
    expect(page!.emitted('back')).toHaveLength(1);
  });
  it('keeps the reason of a skipped one', async () => {
    show({ ...line('Which variant'), state: 'skipped', note: 'No list.' });
    await page!.find('textarea').setValue('');
    await page!.find('textarea').trigger('blur');
    expect(page!.find('[role=alert]').text()).toContain('A skipped line keeps its reason');
    expect(page!.emitted('tick')).toBeUndefined();
  });
  it('lists what was found here, with its place', () => {
    show(line('Porting or repair by others'));
    expect(page!.find('.found').text()).toContain('cylinder 6, intake port');
  });
});

describe('the drawing of the head', () => {
  const show = (id: string, stageId: string) => {
    const head = whole(id);
    return (page = mounted(HeadPlan, {
      props: { whole: head, stageId, standing: standingFindings(head, stageId), chosen: undefined },
    }));
  };
  it('has a seat for every valve, as it sealed', () => {
    show('longreach-212', 'longreach-received');
    expect(page!.findAll('.seat')).toHaveLength(12);
    expect(page!.findAll('.seat.leaks')).toHaveLength(1);
    expect(page!.find('.seat.leaks').attributes('aria-label')).toBe('exhaust seat, cylinder 4: leaks, held 6 inHg');
  });
  it('draws four valves a cylinder apart from each other', () => {
    const head = { ...whole('longreach-212') };
    head.head = { ...head.head, intakeValves: 2, exhaustValves: 2, cylinders: 1 };
    page = mounted(HeadPlan, {
      props: { whole: head, stageId: 'longreach-received', standing: [], chosen: undefined },
    });
    const rings = page.findAll('.ring').map((r) => ['cx', 'cy', 'r'].map((a) => Number(r.attributes(a))));
    expect(rings).toHaveLength(4);
    rings.forEach(([x, y, r], i) =>
      rings.slice(i + 1).forEach(([u, v, s]) => expect(Math.hypot(x! - u!, y! - v!)).toBeGreaterThan(r! + s!)),
    );
  });
  it('flags the cylinder of a finding', () => {
    show('corrow-522', '522-received');
    expect(page!.find('.flag title').text()).toContain('Somebody blended port 6');
  });
  it('walks by arrows, notes by P and L', async () => {
    show('longreach-212', 'longreach-received');
    const [first] = page!.findAll('.seat');
    for (const key of ['ArrowRight', 'p', 'l', 'q']) await first!.trigger('keydown', { key });
    expect(page!.emitted('choose')![0]![0]).toMatchObject({ side: 'exhaust', cylinder: 1 });
    expect(page!.emitted('note')!.map(([s, r]) => [(s as { side: string }).side, r])).toEqual([
      ['intake', 'seals'],
      ['intake', 'leaks'],
    ]);
  });
});

describe('a photo', () => {
  const drop = async (files: { name: string; type: string; size: number }[]) => {
    page = mounted(PhotoStrip, { props: { headId: 'h', photos: [] } });
    const event = new Event('drop', { bubbles: true, cancelable: true });
    Object.assign(event, { dataTransfer: { files } });
    page.find('.photos').element.dispatchEvent(event);
    await nextTick();
  };
  it.each([
    [{ name: 'list.pdf', type: 'application/pdf', size: 9 }, '“list.pdf” is no picture this program takes'],
    [{ name: 'a.jpg', type: 'image/jpeg', size: 13 * 1048576 }, '“a.jpg” has 13 MB; 12 MB at most.'],
  ])('that cannot be one is not even sent', async (file, sentence) => {
    const sent = vi.fn();
    vi.stubGlobal('fetch', sent);
    await drop([file]);
    expect(page!.find('[role=alert]').text()).toContain(sentence);
    expect(sent).not.toHaveBeenCalled();
  });
});

describe('a size at its place', () => {
  const answers: { method: string; body: { value: { typed: string }; item: string } }[] = [];
  const show = (measure?: object) => {
    answers.length = 0;
    vi.stubGlobal('fetch', async (url: string, init?: RequestInit) => {
      const steps = sentIn(init?.method ?? 'GET', url, init?.body ? JSON.parse(String(init.body)) : undefined);
      answers.push(...steps);
      return new Response(JSON.stringify(changed(steps, 1)));
    });
    page = mounted(PlaceCell, {
      props: { stageId: 's', item: 'throat', side: 'intake', portId: null, valve: null, label: 'throat', measure },
    });
  };
  const typed = async (text: string) => {
    await page!.find('input').setValue(text);
    await page!.find('.field').trigger('focusout');
    await nextTick();
  };
  it('typed is added, retyped is corrected, emptied is removed', async () => {
    show();
    await typed('1.665 in');
    expect(answers[0]).toMatchObject({ method: 'POST', body: { item: 'throat', value: { typed: '1.665 in' } } });
    page!.unmount();
    const measure = { id: 'm', version: 4, item: 'throat', value: { si: 0.04, typed: '40 mm' } };
    show(measure);
    await typed('41 mm');
    expect(answers[0]).toMatchObject({ method: 'PUT', body: { version: 4, value: { typed: '41 mm' } } });
    page!.unmount();
    show(measure);
    await typed('');
    expect(answers[0]!.method).toBe('DELETE');
  });
  it('unreadable or unchanged is not sent', async () => {
    show({ id: 'm', version: 1, item: 'throat', value: { si: 0.04, typed: '40 mm' } });
    await typed('forty');
    expect(answers).toEqual([]);
    await typed('40 mm');
    expect(answers).toEqual([]);
  });
});

describe('ticks', () => {
  it('are shown at once, written in turn, each at the version the last one left', async () => {
    const Host = { setup: () => () => null };
    page = mounted(Host);
    let head = whole('corrow-522');
    const sent: number[] = [];
    vi.stubGlobal('fetch', async (url: string, init: RequestInit) => {
      const steps = sentIn('POST', url, JSON.parse(String(init.body)));
      const body = steps[0]!.body as Inspection;
      if (body.version !== 1 + sent.length) return new Response('{"detail":"Changed."}', { status: 409 });
      sent.push(body.version);
      return new Response(JSON.stringify(changed(steps, sent.length)));
    });
    const hand = {
      whole: {
        get value() {
          return head;
        },
      } as never,
      patch: (change: (w: typeof head) => typeof head) => void (head = change(head)),
    };
    const { tick } = page.vm.$.appContext.app.runWithContext(() => useTicks(hand));
    const line = head.inspections.find((i) => i.state === 'open')!;
    const now = () => head.inspections.find((i) => i.id === line.id)!;
    const first = tick(line, { state: 'fine' }, 'fine');
    expect(now().state).toBe('fine');
    await Promise.all([first, tick(now(), { note: 'clean' }, 'note')]);
    expect(sent).toEqual([1, 2]);
    expect(now()).toMatchObject({ state: 'fine', note: 'clean', version: 3 });
    // One the server refuses is taken back.
    vi.stubGlobal('fetch', async () => new Response('{"detail":"No."}', { status: 400 }));
    await tick(now(), { state: 'unsure' }, 'unsure');
    expect(now().state).toBe('fine');
  });
});
