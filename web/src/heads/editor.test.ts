import { readFileSync } from 'node:fs';
import { readBundle, wholesOf } from '@alluvium/records';
import { flushPromises } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import { usePane } from '../test/pane.js';
import SheetEditor from './SheetEditor.vue';
import SizesTable from './SizesTable.vue';
import { blankSheet } from './blankSheet.js';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const whole = (id: string) => wholesOf(bundle).find((w) => w.head.id === id)!;
const stage = (id: string) => whole(id).stages[0]!;
const on = usePane((address) => ({ '/api/build': bundle.builds, '/api/source': bundle.sources })[address]);
const { showAt, field, press, submit, pick } = on;
const cell = (name: string) => on.page.find<HTMLInputElement>(`[aria-label="${name}"]`);
const editor = (id: string, more: object = {}) =>
  showAt(`/head/${id}`, SheetEditor, { whole: whole(id), stage: stage(id), sources: bundle.sources, ...more });

describe('a new sheet', () => {
  it('takes over the last set-up as a whole; of a claim nothing is known', () => {
    const last = whole('corrow-417').sheets.find((s) => s.id === '417-received-p3')!;
    expect(blankSheet('s', last)).toMatchObject({ setup: last.setup, sourceId: 'bench-1', kind: 'measured' });
    const claim = blankSheet('s', last, 'claim');
    expect(claim).toMatchObject({ kind: 'claim', sourceId: null, date: null, intakePortId: null, chart: null });
    expect(claim.setup).toMatchObject({ depression: null, bore: null, entry: 'unknown', exhaustPipe: 'unknown' });
  });
  it('a claim and a measured sheet begun at one stage keep drafts of their own', async () => {
    await editor('ottermoor-230', { kind: 'claim' });
    await field('Title of the sheet').setValue('A flyer');
    expect(localStorage.getItem('alluvium.draft.sheet.new-claim-om-received')).toContain('A flyer');
    on.page.unmount();
    await editor('ottermoor-230');
    expect(field('Title of the sheet').element.value).toBe('');
  });
  it('makes its title from source and port, its ports and its source where they are new', async () => {
    await editor('ottermoor-230', { kind: 'claim' });
    await pick('Source', 'a new source …');
    await field('Name of the new source').setValue('A magazine');
    await field('Intake port').setValue('47');
    await cell('Row 1, lift').setValue('.300');
    await cell('Row 1, intake').setValue('200');
    await submit();
    expect(on.sent.map((s) => s.url)).toEqual(['/api/source', '/api/port', '/api/sheet']);
    expect(on.sent[0]!.body).toMatchObject({ name: 'A magazine', kind: 'maker' });
    expect(on.sent[2]!.body).toMatchObject({ title: 'A magazine, port 47', kind: 'claim' });
  });
  it('goes on to the next port with its lifts and the ranges they were read on', async () => {
    const percent = whole('corrow-417').sheets.find((s) => s.setup.reads === 'percent' && s.rows[0]!.intake!.range)!;
    await editor('corrow-417', { after: { to: 'port', sheet: percent } });
    expect(cell('Row 1, lift').element.value).not.toBe('');
    expect(cell('Row 1, intake range').element.value).toBe(percent.rows[0]!.intake!.range);
    expect(cell('Row 1, intake').element.value).toBe('');
  });
  it('offers to make a source of a name that is typed and none has', async () => {
    await editor('ottermoor-230', { kind: 'claim' });
    await on.search('Source', 'Backwater Flow');
    await pick('Source', 'make “Backwater Flow” a new source');
    expect(field('Name of the new source').element.value).toBe('Backwater Flow');
  });
  it('takes swirl from a pad, signed, and says at once what is no speed', async () => {
    const sheet = whole('ottermoor-230').sheets.find((s) => s.id === 'om-received-p3')!;
    await editor('ottermoor-230', { sheet });
    expect(cell('Row 1, swirl lift').element.value).toBe(sheet.rows[0]!.lift.typed);
    await cell('Row 2, swirl speed').setValue('fast');
    expect(on.text()).toMatch(/“fast” is not a/);
    await cell('Row 2, swirl speed').setValue('-300 / -320');
    await submit();
    expect(on.sent[0]!.body).toMatchObject({
      swirl: [{ lift: { typed: sheet.rows[1]!.lift.typed }, speed: [{ typed: '-300 rpm' }, { typed: '-320 rpm' }] }],
    });
  });
  it('a port that is none is told and nothing is sent', async () => {
    await editor('ottermoor-230');
    await field('Intake port').setValue('first');
    await submit();
    expect(on.text()).toContain('A port number is 1 to 48.');
    expect(on.sent).toEqual([]);
  });
});

describe('a sheet', () => {
  const claim = () => whole('longreach-212').sheets.find((s) => s.id === 'longreach-maker')!;
  it('of a claim offers what its source states, and takes it over only when pressed', async () => {
    await editor('longreach-212', { sheet: claim() });
    expect(on.text()).toContain('Ferrule & Dray sheet states of its tests: pipe diameter and pipe length.');
    await press('Use it');
    expect(on.text()).not.toContain('states of its tests');
    await submit();
    expect(on.sent[0]!.body.setup).toMatchObject({ pipeDiameter: { typed: '1.750 in' }, bore: { typed: '4.125 in' } });
  });
  it('measured by us is offered nothing', async () => {
    await editor('corrow-417', { sheet: whole('corrow-417').sheets.find((s) => s.id === '417-quayside') });
    expect(on.text()).not.toContain('states of its tests');
  });
  it('asks about lifts of which some have a unit, and about swapped columns; both are mended by a press', async () => {
    await editor('ottermoor-230', { kind: 'claim' });
    for (const [row, [lift, intake, exhaust]] of [
      ['2 mm', '50', '60'],
      ['4', '100', '115'],
      ['6', '140', '160'],
    ].entries()) {
      await cell(`Row ${row + 1}, lift`).setValue(lift);
      await cell(`Row ${row + 1}, intake`).setValue(intake);
      await cell(`Row ${row + 1}, exhaust`).setValue(exhaust);
    }
    expect(on.text()).toContain('Some lifts are in mm; those without a unit are read as in.');
    await press('They are all mm');
    expect(cell('Row 3, lift').element.value).toBe('6 mm');
    expect(on.text()).toContain('Do the two columns stand in each other’s place?');
    await press('Swap them');
    expect([cell('Row 1, intake').element.value, cell('Row 1, exhaust').element.value]).toEqual(['60', '50']);
    expect(on.text()).not.toContain('each other’s place');
  });
  it('a doubt that is right is laid to rest', async () => {
    await editor('ottermoor-230', { sheet: whole('ottermoor-230').sheets.find((s) => s.id === 'om-received-p3') });
    await cell('Row 3, intake').setValue('25');
    expect(on.text()).toContain('breaks its curve');
    await press('It is right');
    expect(on.text()).not.toContain('breaks its curve');
  });
});

describe('the sizes of a stage', () => {
  const table = (id: string) =>
    showAt(`/head/${id}`, SizesTable, { whole: whole(id), stage: stage(id), sources: bundle.sources });
  it('are noted with who says so, and on which port where that is known', async () => {
    await table('corrow-417');
    await pick('Item', 'throat');
    await pick('Who says so', 'Slackwater board');
    await pick('Port', 'port 3');
    await field('Size').setValue('wide');
    await submit();
    expect(on.text()).toContain('“wide” is not a length');
    expect(on.sent).toEqual([]);
    await field('Size').setValue('1.63');
    await submit();
    expect(on.sent[0]).toMatchObject({
      url: '/api/measure',
      body: { item: 'throat', side: 'intake', portId: 'corrow-417-i3', sourceId: 'slackwater-board' },
    });
    // A size of the head as a whole has no port.
    await pick('Item', 'chamber volume');
    await field('Size').setValue('64');
    await submit();
    expect(on.sent[1]!.body).toMatchObject({ side: null, portId: null });
  });
  it('stated ones are told from found ones, and can be removed', async () => {
    await table('pellam-p6');
    expect(on.text()).toMatch(/chamber volume\s*64\.0 cc\s*stated: Pellam catalogue/);
    expect(on.text()).toMatch(/chamber volume\s*67\.5 cc\s*found/);
    await press('Remove chamber volume 64.0 cc');
    await flushPromises();
    expect(on.sent[0]).toMatchObject({ method: 'DELETE', url: '/api/measure/p6-received-both-chamber-volume-stated' });
  });
});
