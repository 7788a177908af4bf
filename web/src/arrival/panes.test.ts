import { readFileSync } from 'node:fs';
import { readBundle, wholesOf, type WholeHead } from '@alluvium/records';
import { beforeEach, describe, expect, it } from 'vitest';
import { flushPromises } from '@vue/test-utils';
import { nextTick } from 'vue';
import { usePane } from '../test/pane.js';
import ArrivalNote from './ArrivalNote.vue';
import FindingForm from './FindingForm.vue';
import FindingsPane from './FindingsPane.vue';
import NewChecklist from './NewChecklist.vue';
import PhotoStrip from './PhotoStrip.vue';
import PlaceGrid from './PlaceGrid.vue';
import SeatForm from './SeatForm.vue';
import StatedTable from './StatedTable.vue';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const whole = (id: string) => wholesOf(bundle).find((w) => w.head.id === id)!;
const plain = (text: string) => text.replaceAll('\u00a0', ' ');

let answers: Record<string, unknown> = {};
beforeEach(() => {
  answers = { '/api/build': bundle.builds, '/api/checklist': [], '/api/tolerance': [] };
});
const on = usePane((address) => answers[address]);
const { show, field } = on;

describe('a head without a checklist', () => {
  it('offers the list its kind most likely wants, and says how long it is', async () => {
    await show(NewChecklist, { whole: whole('ottermoor-230') });
    expect(on.offered('What came in')[1]).toBe('aftermarket new');
    expect(on.page.text()).toMatch(/\d\d lines: identity, strip and clean/);
    expect(field('Cylinders it covers').element.value).toBe('6');
  });
  it('asks for a sensible number of cylinders before it sends anything', async () => {
    await show(NewChecklist, { whole: whole('ottermoor-230') });
    for (const bad of ['', 'six', '0', '30', '2.5']) {
      await field('Cylinders it covers').setValue(bad);
      await on.page.find('form').trigger('submit');
      expect(on.page.find('[role=alert]').text()).toContain('a whole number from 1 to 24');
    }
    expect(on.sent).toEqual([]);
    await field('Cylinders it covers').setValue('6');
    await on.page.find('form').trigger('submit');
    await flushPromises();
    expect(on.sent[0]).toMatchObject({
      url: '/api/head/ottermoor-230/checklist',
      body: { kind: 'aftermarket new', cylinders: 6 },
    });
  });
  it('shows what the server says against it', async () => {
    answers['POST /api/head/ottermoor-230/checklist'] = { status: 409, detail: 'This head has its checklist already.' };
    await show(NewChecklist, { whole: whole('ottermoor-230') });
    await on.page.find('form').trigger('submit');
    await flushPromises();
    expect(on.page.find('[role=alert]').text()).toBe('This head has its checklist already.');
  });
  it('names the shop’s own lists and counts their lines', async () => {
    answers['/api/checklist'] = [
      { id: 'own', name: 'Sixes', lines: [{ group: 'look', title: 'A', hint: '', sizes: [] }] },
    ];
    await show(NewChecklist, { whole: whole('ottermoor-230') });
    await on.pick('What came in', 'our own: Sixes');
    expect(on.page.text()).toContain('1 lines: look.');
  });
});

describe('a finding', () => {
  const props = { whole: whole('corrow-522'), stageId: '522-received', inspectionId: null };
  it('needs its words, and what else was typed stays', async () => {
    await show(FindingForm, props);
    await field('Cost to mend').setValue('120');
    await on.page.find('form').trigger('submit');
    expect(on.page.text()).toContain('Say what is wrong.');
    expect(field('Cost to mend').element.value).toBe('120');
    expect(on.sent).toEqual([]);
  });
  it('is sent with its place, and the draft is let go', async () => {
    await show(FindingForm, props);
    await field('What is wrong').setValue('Thread torn');
    await on.pick('Cylinder', on.offered('Cylinder')[3]!);
    await on.pick('Side', 'exhaust');
    await on.page.find('form').trigger('submit');
    await flushPromises();
    expect(on.sent[0]).toMatchObject({
      url: '/api/finding',
      body: { headId: 'corrow-522', stageId: '522-received', cylinder: 3, side: 'exhaust', text: 'Thread torn' },
    });
    expect(on.page.emitted('done')).toHaveLength(1);
    expect(Object.keys(localStorage).filter((k) => k.includes('finding'))).toEqual([]);
  });
  it('half typed is kept over a visit elsewhere', async () => {
    await show(FindingForm, props);
    await field('What is wrong').setValue('Crack?');
    await flushPromises();
    on.page.unmount();
    await show(FindingForm, props);
    expect(field('What is wrong').element.value).toBe('Crack?');
    expect(on.page.text()).toContain('Kept from your last visit');
  });
  it('a cost that is no sum is told at its field and not sent', async () => {
    await show(FindingForm, props);
    await field('What is wrong').setValue('Bent');
    await field('Cost to mend').setValue('a lot');
    await on.page.find('form').trigger('submit');
    expect(on.page.text()).toContain('“a lot” is not a sum of money.');
    expect(on.sent).toEqual([]);
  });
});

describe('the findings of a head', () => {
  const pane = (id: string, stage = 0) => {
    const head = whole(id);
    return show(FindingsPane, { whole: head, stage: head.stages[stage] });
  };
  it('says which stand, which were mended, and what they cost', async () => {
    await pane('corrow-417', 2);
    const row = on.page.find('tbody tr');
    expect(row.text()).toContain('ridge under every intake seat');
    expect(row.text()).toContain('mended');
    expect(row.classes()).toContain('gone');
    on.page.unmount();
    await pane('corrow-417', 0);
    expect(on.page.find('tbody tr').text()).toContain('note');
  });
  it('lets a touched port count again', async () => {
    await pane('corrow-522');
    const button = on.page.findAll('button').find((b) => b.text() === 'Count it again')!;
    await button.trigger('click');
    await flushPromises();
    expect(on.sent[0]).toMatchObject({ method: 'PUT', url: '/api/port/corrow-522-i6', body: { touched: '' } });
  });
  it('asks which port and what was done', async () => {
    await pane('corrow-522');
    const form = on.page.find('form.touched');
    await form.trigger('submit');
    expect(on.page.find('[role=alert]').text()).toBe('Say what was done to it.');
    await field('What was done to it').setValue('welded');
    await form.trigger('submit');
    await nextTick();
    expect(on.page.find('[role=alert]').text()).toBe('Choose the port.');
    expect(on.sent).toEqual([]);
  });
});

describe('a seat', () => {
  const longreach = whole('longreach-212');
  const seat = (side: 'intake' | 'exhaust', cylinder: number) =>
    show(SeatForm, { whole: longreach, stageId: 'longreach-received', seat: { side, cylinder, valve: 1 } });
  it('of copper-beryllium shows its caution first, one of an unknown ring is treated alike', async () => {
    await seat('exhaust', 4);
    expect(on.page.find('.beryllium').text()).toContain('the dust can cause lung disease');
    await on.pick('Ring', on.offered('Ring')[0]!);
    expect(on.page.find('.beryllium').exists()).toBe(false);
    expect(on.page.text()).toContain('is treated as copper-beryllium until the maker says otherwise');
  });
  it('starts from what its last look was made with, and shows the share held', async () => {
    await seat('exhaust', 4);
    expect(field('Vacuum drawn').element.value).toBe('20 inHg');
    expect(field('Seconds').element.value).toBe('10');
    await field('Left after the time').setValue('18 inHg');
    expect(plain(on.page.text())).toContain('90 %');
  });
  it('takes a number of seconds and nothing else', async () => {
    await seat('intake', 2);
    await on.pick('Seal test', 'seals');
    await field('Seconds').setValue('soon');
    await on.page.find('form').trigger('submit');
    expect(on.page.text()).toContain('“soon” is not a number of seconds.');
    await field('Seconds').setValue('7,5');
    await on.page.find('form').trigger('submit');
    await flushPromises();
    expect(on.sent[0]).toMatchObject({
      url: '/api/seat',
      body: { side: 'intake', cylinder: 2, result: 'seals', seconds: 7.5 },
    });
  });
});

describe('stated against found', () => {
  const pellam = whole('pellam-p6');
  const table = () => show(StatedTable, { whole: pellam, stage: pellam.stages[0] });
  const row = (name: string) => on.page.findAll('tr').find((r) => r.text().startsWith(name))!;
  it('puts both side by side and says where it matters', async () => {
    await table();
    expect(plain(row('chamber volume').text())).toContain('+3.5 cc');
    expect(row('chamber volume').text()).toContain('it matters');
    expect(row('spring coil-bind height').text()).toContain('agrees');
  });
  it('the spring stands twice: by the maker, and as it is', async () => {
    await table();
    expect(plain(row('force, valve shut').text())).toMatch(/140\.0 lb\s*150\.0 lb/);
    expect(plain(row('force, valve open').text())).toMatch(/265\.8 lb\s*275\.8 lb/);
    expect(plain(row('clearance to coil bind').text())).toMatch(/0\.170 in\s*0\.130 in/);
  });
  it('keeps the shop’s own limit, corrects it, and goes back to the usual when emptied', async () => {
    await table();
    const limit = row('chamber volume').find('input');
    await limit.setValue('2 cc');
    await row('chamber volume').find('.field').trigger('focusout');
    await flushPromises();
    expect(on.sent[0]).toMatchObject({ method: 'POST', url: '/api/tolerance', body: { item: 'chamber volume' } });
    on.page.unmount();
    on.forget();
    answers['/api/tolerance'] = [{ id: 't', version: 3, item: 'chamber volume', value: { si: 5e-6, typed: '5 cc' } }];
    await table();
    expect(row('chamber volume').text()).toContain('agrees');
    await row('chamber volume').find('input').setValue('');
    await row('chamber volume').find('.field').trigger('focusout');
    await flushPromises();
    expect(on.sent[0]).toMatchObject({ method: 'DELETE', url: '/api/tolerance/t' });
  });
});

describe('sizes by place', () => {
  const grid = (head: WholeHead, sizes: string[]) => show(PlaceGrid, { whole: head, stage: head.stages[0], sizes });
  it('make a core shift at each port, and a tilt from end to end', async () => {
    const head = whole('corrow-417-b');
    await grid(head, ['gasket step, roof', 'gasket step, floor', 'gasket step, front', 'gasket step, rear']);
    expect(plain(on.page.findAll('tbody tr')[0]!.text())).toContain('0.100 in');
    on.page.unmount();
    await grid(head, ['short turn height']);
    expect(plain(on.page.text())).toContain('−0.067 in');
  });
  it('of four valves have a column a valve', async () => {
    const head = { ...whole('corrow-522') };
    head.head = { ...head.head, intakeValves: 2, exhaustValves: 2 };
    await grid(head, ['guide clearance']);
    expect(on.page.findAll('th').map((t) => t.text())).toEqual(['cyl.', 'guide clearance 1', 'guide clearance 2']);
    const [first] = on.page.findAll('.field input');
    await first!.setValue('.002 in');
    await on.page.find('.field').trigger('focusout');
    await flushPromises();
    expect(on.sent[0]!.body).toMatchObject({
      item: 'guide clearance',
      side: 'intake',
      valve: 1,
      portId: 'corrow-522-i1',
    });
  });
  it('that belong to no side are one field', async () => {
    await grid(whole('corrow-522'), ['deck flatness']);
    expect(on.page.findAll('input')).toHaveLength(1);
  });
});

describe('photos', () => {
  const photo = { id: 'a1', name: 'ridge.jpg', note: '' };
  it('are shown small, opened large, and removed', async () => {
    await show(PhotoStrip, { headId: 'h', findingId: 'f', photos: [photo] });
    expect(on.page.find('img').attributes('src')).toBe('/api/attachment/a1/thumbnail');
    await on.page.find('button[aria-label="Remove photo ridge.jpg"]').trigger('click');
    await flushPromises();
    expect(on.sent[0]).toMatchObject({ method: 'DELETE', url: '/api/attachment/a1' });
  });
  it('go to where they belong', async () => {
    await show(PhotoStrip, { headId: 'h', findingId: 'f', photos: [] });
    const event = new Event('drop', { bubbles: true, cancelable: true });
    Object.assign(event, { dataTransfer: { files: [new File(['x'], 'crack.png', { type: 'image/png' })] } });
    on.page.find('.photos').element.dispatchEvent(event);
    await flushPromises();
    expect(on.sent[0]!.url).toBe('/api/attachment?name=crack.png&head=h&finding=f');
  });
});

describe('what arrival says beside a verdict', () => {
  it('is nothing for a head nothing stands against, and names ports left out', async () => {
    const head = {
      letter: 'B',
      whole: whole('corrow-522'),
      stage: whole('corrow-522').stages[0],
      arrival: { condition: 'unchecked', rejectedFor: [], fixFirst: [], leaking: [] },
      leftOut: [],
    };
    await show(ArrivalNote, { head, named: true });
    expect(on.page.text()).toBe('');
    on.page.unmount();
    await show(ArrivalNote, {
      head: {
        ...head,
        leftOut: [{ port: 'intake port 6', reason: 'blended' }],
        arrival: { ...head.arrival, leaking: ['intake seat of cylinder 2'] },
      },
      named: true,
    });
    expect(on.page.text()).toContain('B Leaks: intake seat of cylinder 2. Intake port 6 is left out: blended.');
  });
});
