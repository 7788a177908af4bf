import { flushPromises } from '@vue/test-utils';
import { readFileSync } from 'node:fs';
import { sayIn } from '@alluvium/core';
import {
  contextOf,
  libraryOf,
  judgedSizes,
  publications,
  readBundle,
  wholesOf,
  type Question,
} from '@alluvium/records';
import { describe, expect, it } from 'vitest';
import { computed } from 'vue';
import { claimsServer } from '../test/claimsServer.js';
import { Missing, usePane } from '../test/pane.js';
import AuditPane from './AuditPane.vue';
import ChartPicture from './ChartPicture.vue';
import PublishedTable from './PublishedTable.vue';
import QuestionForm from './QuestionForm.vue';
import ReportForm from './ReportForm.vue';
import SizeClaims from './SizeClaims.vue';
import SourceForm from './SourceForm.vue';
import { emptyChart } from './chartReading.js';
import { evidenceAmong } from './evidence.js';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const heads = wholesOf(bundle);
const whole = (id: string) => heads.find((w) => w.head.id === id)!;
const plain = (text: string) => text.replaceAll('\u00a0', ' ').replace(/\s+/g, ' ');
const context = contextOf(libraryOf(heads, 'bench-1'), 'bench-1', sayIn('inch'));
const server = claimsServer(heads, bundle.sources, bundle.builds);
/** What the pages of claims share, without a server. */
const claims = {
  own: computed(() => 'bench-1'),
  facts: computed(() => context),
  library: computed(() => ({ done: 1, of: 1, version: 1 })),
  sources: computed(() => bundle.sources),
  ready: computed(() => true),
  error: computed(() => ''),
};

let nobody = false;
const none = claimsServer([], [], []);
const on = usePane((address, body) => {
  if (nobody) return none(address, body);
  const said = server(address, body);
  if (said !== undefined) return said;
  const record = /^\/api\/(sheet|measure|stage|head)\/([^/]+)$/.exec(address);
  if (record)
    return (
      [...bundle.sheets, ...bundle.measures, ...bundle.stages, ...bundle.heads].find((r) => r.id === record[2]) ??
      new Missing()
    );
  if (address.endsWith('/whole')) return whole(address.split('/')[3]!);
  return address === '/api/build' ? bundle.builds : undefined;
});
const { show, field, pick, press, submit } = on;

describe('the audit', () => {
  it('stands by source, counts what is doubtful, and shows only that when asked', async () => {
    await show(AuditPane);
    expect(on.text()).toContain('Ottermoor flyer 3 claims, 2 doubtful');
    expect(on.page.findAll('section')).toHaveLength(4);
    await on.page.find('input[type=checkbox]').setValue(true);
    await flushPromises();
    expect(on.page.findAll('section').map((s) => s.find('h2').text())).not.toContain('Ferrule & Dray sheet');
    expect(on.text()).toContain('Not believable');
  });
  it('says what to do while nobody claims anything', async () => {
    nobody = true;
    await show(AuditPane);
    nobody = false;
    expect(on.page.text()).toContain('Nobody claims anything yet');
  });
});

describe('sizes stated and found', () => {
  it('draw what is found in units of the difference that matters', async () => {
    const sizes = judgedSizes(whole('pellam-p6'), [], context);
    await show(SizeClaims, { sizes, named: () => 'Pellam catalogue' });
    const chamber = on.page.findAll('tbody tr').find((r) => r.text().startsWith('chamber volume'))!;
    expect(plain(chamber.text())).toContain('3.5 cc more, beyond the 1.0 cc that matters');
    expect(chamber.find('.grave').exists()).toBe(true);
    const holds = on.page.findAll('tbody tr').find((r) => r.text().startsWith('valve diameter'))!;
    expect(holds.find('.grave').exists()).toBe(false);
  });
});

describe('publications side by side', () => {
  it('name what is left out, and why', async () => {
    const published = publications(whole('longreach-212'), 'longreach-received', 'intake', 'bench-1', bundle.sources);
    await show(PublishedTable, { published });
    expect(on.text()).toContain('Ferrule & Dray sheet, “Maker’s sheet”, is left out. Tested on different bores');
  });
});

describe('a question', () => {
  const open = bundle.questions.find((q) => q.state === 'open') as Question;
  it('is put with the head in hand, and kept while it is typed', async () => {
    await show(QuestionForm, { claims, whole: whole('pellam-p6') });
    await field('The claim or rumour, in one line').setValue('It bolts on.');
    expect(localStorage.getItem('alluvium.draft.question.new')).toContain('It bolts on.');
    await submit();
    expect(on.sent[0]).toMatchObject({
      method: 'POST',
      url: '/api/question',
      body: { text: 'It bolts on.', headId: 'pellam-p6', state: 'open', closed: null },
    });
  });
  it('is closed with the day, its reasons and what shows it; evidence can be taken out again', async () => {
    await show(QuestionForm, { claims, whole: whole('ottermoor-230'), question: open });
    await pick('How it stands', 'it is false');
    await submit();
    expect(on.page.text()).toContain('Say why it is closed like this.');
    await field('Why').setValue('Flowed here.');
    await pick('Add as evidence', 'OM-230: Bench 1, port 3 · 98.0 mm bore · 2026-03-12, as received');
    await pick('Add as evidence', 'OM-230: chamber volume 65.0 cc, as received');
    expect(on.page.findAll('li')).toHaveLength(2);
    await on.page.find('[aria-label="Remove OM-230: chamber volume 65.0 cc, as received"]').trigger('click');
    await submit();
    expect(on.sent[0]!.body).toMatchObject({
      state: 'false',
      evidence: [{ noun: 'sheet', id: 'om-received-p3' }],
      closed: expect.stringMatching(/^\d{4}-\d\d-\d\d$/),
    });
  });
  it('may lean on everything a head has', () => {
    const offered = evidenceAmong(whole('corrow-417'));
    expect(new Set(offered.map((e) => e.piece.noun))).toEqual(
      new Set(
        ['sheet', 'measure', 'survey', 'finding', 'session'].filter((n) => offered.some((e) => e.piece.noun === n)),
      ),
    );
    expect(offered.find((e) => e.piece.id === '417-received-p3')!.to).toMatchObject({
      name: 'head',
      query: { stage: '417-received', sheet: '417-received-p3' },
    });
  });
});

describe('a power claimed', () => {
  it('asks for the engine where no build is named', async () => {
    const head = whole('pellam-p6');
    await show(ReportForm, { whole: head, stage: head.stages[0], sources: bundle.sources });
    await field('Power claimed').setValue('300 hp');
    await field('at').setValue('5600');
    await pick('Of which engine', 'another engine');
    await submit();
    expect(on.page.text()).toMatch(/This is needed|give the engine’s displacement/);
    expect(on.sent).toEqual([]);
    await field('Displacement').setValue('4.2 L');
    await pick('Cylinders', '6');
    await submit();
    expect(on.sent[0]!.body).toMatchObject({ buildId: null, cylinders: 6, power: { typed: '300 hp' } });
  });
});

describe('a source', () => {
  it('is added with what it states; the pipe’s sizes are asked where there is one', async () => {
    await show(SourceForm, { source: undefined });
    await field('Name of the source').setValue('A magazine');
    await pick('What it is', 'a magazine');
    expect(on.page.text()).not.toContain('Pipe diameter');
    await pick('Exhaust', 'piped');
    await field('Pipe diameter').setValue('1.75 in');
    await field('Which runner').setValue('the best');
    await submit();
    expect(on.sent[0]!.body).toMatchObject({
      name: 'A magazine',
      kind: 'magazine',
      stated: { exhaustPipe: 'piped', pipeDiameter: { typed: '1.75 in' }, port: 'the best', depression: null },
    });
  });
  it('needs a name, and can be removed', async () => {
    const source = bundle.sources.find((s) => s.id === 'quayside')!;
    await show(SourceForm, { source });
    await field('Name of the source').setValue('');
    await submit();
    expect(on.page.text()).toContain('Give it a name.');
    await press('Remove the source');
    expect(on.sent[0]).toMatchObject({ method: 'DELETE', url: '/api/source/quayside' });
    expect(on.page.emitted('done')).toHaveLength(1);
  });
});

describe('the picture of a chart', () => {
  const picture = { id: 'x', width: 800, height: 400 };
  const key = (name: string, more: object = {}) => on.page.find('svg').trigger('keydown', { key: name, ...more });
  it('by keyboard: arrows move a cross, Space sets, within the picture', async () => {
    await show(ChartPicture, { picture, state: emptyChart, chosen: -1 });
    await key(' ');
    expect(on.page.emitted('place')).toBeUndefined();
    await key('ArrowRight');
    await key('ArrowDown', { shiftKey: true });
    await key(' ');
    expect(on.page.emitted('place')).toEqual([[[408, 200 + 1]]].map(([p]) => [p]));
    for (let i = 0; i < 80; i++) await key('ArrowLeft');
    await key('Enter');
    expect(on.page.emitted('place')![1]).toEqual([[0, 201]]);
  });
  it('arrows nudge the point that is chosen, Delete takes it out, Ctrl Z goes back', async () => {
    const state = { ...emptyChart, points: [{ side: 'intake', dot: [10, 20] }] };
    await show(ChartPicture, { picture, state, chosen: 0 });
    await key('ArrowUp');
    await key('ArrowRight', { shiftKey: true });
    expect(on.page.emitted('move')).toEqual([
      [0, [10, 19], true],
      [0, [20, 20], true],
    ]);
    await key('Delete');
    await key('z', { ctrlKey: true });
    await key('Escape');
    expect([on.page.emitted('out'), on.page.emitted('back'), on.page.emitted('choose')]).toEqual([[[0]], [[]], [[-1]]]);
  });
});
