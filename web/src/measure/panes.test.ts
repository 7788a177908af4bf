import { readFileSync } from 'node:fs';
import { readBundle, wholesOf } from '@alluvium/records';
import { flushPromises } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import { usePane } from '../test/pane.js';
import ChamberPane from './ChamberPane.vue';
import PourNote from './PourNote.vue';
import RingPane from './RingPane.vue';
import ShroudPane from './ShroudPane.vue';
import SurveyEditor from './SurveyEditor.vue';
import TraceDialog from './TraceDialog.vue';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const whole = (id: string) => wholesOf(bundle).find((w) => w.head.id === id)!;
const build = bundle.builds.find((b) => b.id === 'slate-six')!;
const plain = (text: string) => text.replaceAll('\u00a0', ' ');

const on = usePane((address) => (address === '/api/build' ? [build] : undefined));
const { show, field } = on;
const written = (name: string) => {
  const row = on.page.findAll('tr').find((r) => r.text().startsWith(name));
  return row ? plain(row.text()).slice(name.length).trim() : undefined;
};
/** The figure without how sure it is. */
const figure = (name: string) => written(name)?.split('±')[0]!.trim();

describe('the chamber', () => {
  const pane = () => {
    const head = whole('pellam-p6');
    return show(ChamberPane, { whole: head, stage: head.stages[0] });
  };
  it('gives the compression of all its parts, and what hangs over each bore', async () => {
    await pane();
    // (701.5 + 67.5 + 9 + 4 + 3) / 83.5, by hand.
    expect(figure('compression ratio')).toBe('9.40:1');
    expect(figure('chamber over the edge of a 98.0 mm bore')).toBe('−0.039 in');
    expect(figure('chamber found less claimed')).toBe('+3.5 cc');
  });
  it('plans milling by the face, with the seats sunk first', async () => {
    await pane();
    await field('or chamber wanted').setValue('64 cc');
    await field('face area of the chamber').setValue('5000 mm²');
    expect(figure('to mill off')).toBe('0.028 in');
    // A chamber poured to 1 % is .7 cc, over 5000 mm² .13 mm.
    expect(written('to mill off')).toBe('0.028 in± 0.005 in');
    // 1.6 − 0.7 / tan 30° is .4 mm.
    expect(figure('top cut left, intake')).toBe('0.015 in');
    await field('sink the valves first by').setValue('1 mm');
    expect(figure('to mill off')).not.toBe('0.028 in');
    expect(on.page.text()).toContain('Nothing of the top cut is left');
  });
  it('says when the chamber is too small already', async () => {
    await pane();
    await field('or chamber wanted').setValue('80 cc');
    await field('face area of the chamber').setValue('5000 mm²');
    expect(on.page.text()).toContain('it must be opened, not milled');
  });
  it('refuses a compression no engine has, in words', async () => {
    await pane();
    await field('compression wanted').setValue('1:1');
    expect(on.page.find('[role=alert]').text()).toContain('A compression ratio is above 1.');
  });
});

describe('the ring', () => {
  const pane = (side: 'intake' | 'exhaust' = 'intake') => {
    const head = whole('corrow-417');
    return show(RingPane, { whole: head, stage: head.stages[0], side, portId: null });
  };
  it('tells which of ring, bore and spacing sets the valve', async () => {
    await pane();
    expect(figure('metal left in the ring')).toBe('0.165 in');
    expect(on.page.text()).toContain('It is the ring that sets the limit.');
  });
  it('is drawn anew with each key, before anything is kept', async () => {
    await pane();
    expect(on.page.find('svg').text()).toContain('88.0 %');
    const throat = on.page.findAll('label').find((l) => l.text() === 'throat, intake')!;
    await on.page.find(`[id="${throat.attributes('for')}"]`).setValue('1.665 in');
    expect(on.page.find('svg').text()).toContain('90.0 %');
    expect(on.sent).toEqual([]);
  });
  it('shows what was measured more than once with mean and spread', async () => {
    await pane();
    const row = on.page.findAll('tr').find((r) => r.text().includes('port volume'))!;
    expect(plain(row.text())).toMatch(/mean 121\.5 cc, spread 1\.1 cc/);
  });
  it('sets the opening against the gasket, from the survey when it was not measured by itself', async () => {
    await pane();
    expect(figure('opening of the gasket’s')).toBe('93 %');
  });
  it('says what is missing by a dash', async () => {
    await pane('exhaust');
    expect(figure('metal left in the ring')).toBe('–');
  });
});

describe('shrouding', () => {
  const pane = (id = 'corrow-417') => {
    const head = whole(id);
    return show(ShroudPane, { whole: head, stage: head.stages[0], side: 'intake' });
  };
  const row = (lift: string) =>
    on.page
      .findAll('tbody tr')
      .find((r) => r.text().startsWith(lift))!
      .findAll('td')
      .map((c) => plain(c.text()));
  it('grows with the lift, and stands beside what two fixtures measured', async () => {
    await pane();
    const share = (lift: string) => Number.parseInt(row(lift)[2]!, 10);
    expect(share('.600')).toBeGreaterThan(share('.300'));
    expect(row('.400')[3]).toMatch(/^4\.\d %$/);
    expect(on.page.text()).toContain('Bench 1, 96.5 mm fixture');
  });
  it('a larger bore gives the valve room by half of what it grew', async () => {
    await pane();
    const gap = () => Number.parseFloat(row('.100')[1]!);
    const before = gap();
    on.page.findAllComponents({ name: 'ElSlider' })[0]!.vm.$emit('update:modelValue', 2);
    await flushPromises();
    expect((gap() - before) * 25.4).toBeCloseTo(1, 1);
  });
  it('says which sizes it needs', async () => {
    await pane('corrow-522');
    expect(on.page.text()).toContain('its offsets along and across');
    expect(on.page.find('svg').exists()).toBe(false);
  });
});

describe('a pour', () => {
  it('is noted with valve and plug, and not without its volume', async () => {
    await show(PourNote, { stageId: 's', side: 'intake' });
    await on.page.find('form').trigger('submit');
    expect(on.page.text()).toContain('Type the volume poured.');
    await field('Volume poured').setValue('121.8 cc');
    await on.pick('Valve', 'out');
    await field('Plug and its reach').setValue('in, 19 mm');
    await on.page.find('form').trigger('submit');
    await flushPromises();
    expect(on.sent[0]).toMatchObject({
      url: '/api/measure',
      body: { item: 'port volume', side: 'intake', note: 'valve out; plug in, 19 mm', value: { typed: '121.8 cc' } },
    });
  });
});

describe('the editor of a survey', () => {
  const head = whole('corrow-417');
  const survey = head.surveys[0]!;
  const open = (props: object = {}) =>
    show(SurveyEditor, {
      whole: head,
      stageId: '417-received',
      side: 'intake',
      portId: 'corrow-417-i3',
      survey,
      ...props,
    });
  const cell = (row: number, column: string) => on.page.find<HTMLInputElement>(`[data-cell="${row}|${column}"]`);

  it('shows a stored survey without calling it changed', async () => {
    await open();
    expect(cell(6, 'rear').element.value).toBe('2.9 mm pushrod');
    expect(on.page.find('button[type=submit]').attributes('disabled')).toBeDefined();
  });
  it('draws the section at hand, and saves what was corrected', async () => {
    await open();
    await cell(6, 'width').trigger('focus');
    expect(plain(on.page.find('.seen').text())).toContain('area 1.74 in²');
    await cell(6, 'width').setValue('27.0 mm');
    expect(plain(on.page.find('.seen').text())).toContain('area 1.84 in²');
    await on.page.find('form').trigger('submit');
    await flushPromises();
    const { url, body } = on.sent[0]!;
    expect(url).toBe('/api/survey/417-sawn');
    expect((body.sections as { width: { typed: string } }[])[6]!.width.typed).toBe('27.0 mm');
  });
  it('saves nothing while a cell cannot be read, and says which', async () => {
    await open();
    await cell(3, 'height').setValue('tall');
    await on.page.find('form').trigger('submit');
    expect(on.page.text()).toContain('Row 4: “tall” is not a length.');
    expect(on.sent).toEqual([]);
    await cell(3, 'height').setValue('47.3 mm');
    await on.page.find('form').trigger('submit');
    await flushPromises();
    expect(on.sent).toHaveLength(1);
  });
  it('keeps what was typed of a new one over a visit elsewhere', async () => {
    await open({ survey: undefined, portId: 'corrow-417-i1' });
    await cell(0, 'station').setValue('0 mm');
    await cell(0, 'width').setValue('34 mm');
    await cell(0, 'height').setValue('48 mm');
    await flushPromises();
    on.page.unmount();
    await open({ survey: undefined, portId: 'corrow-417-i1' });
    expect(cell(0, 'width').element.value).toBe('34 mm');
  });
  it('takes the shop’s own floor, and the section grows by it', async () => {
    await open();
    await cell(0, 'width').trigger('focus');
    const grown = () => on.page.find('.grown').attributes('d');
    const before = grown();
    await field('water').setValue('2 mm');
    expect(grown()).not.toBe(before);
  });
  it('is taken out whole', async () => {
    await open();
    await on.page
      .findAll('button')
      .find((b) => b.text() === 'Remove this survey')!
      .trigger('click');
    await flushPromises();
    expect(on.sent[0]).toMatchObject({ method: 'DELETE', url: '/api/survey/417-sawn' });
    expect(on.page.emitted('removed')).toHaveLength(1);
  });
});

describe('tracing', () => {
  it('says what to do first, and refuses what is no photo', async () => {
    await show(TraceDialog);
    const dialog = document.querySelector('.trace')!;
    expect(dialog.textContent).toContain('Choose or drop a photo');
    const event = new Event('drop', { bubbles: true, cancelable: true });
    Object.assign(event, { dataTransfer: { files: [new File(['x'], 'slice.pdf', { type: 'application/pdf' })] } });
    dialog.dispatchEvent(event);
    await flushPromises();
    expect(dialog.textContent).toContain('“slice.pdf” is no picture this program takes');
  });
});
