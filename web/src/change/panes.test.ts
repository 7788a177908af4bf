import { readFileSync } from 'node:fs';
import { evaluateTarget, splitStages } from '@alluvium/core';
import {
  cutFacts,
  ledgerOf,
  lossStages,
  readBundle,
  singleCuts,
  toCoreBuild,
  wholesOf,
  type WholeHead,
} from '@alluvium/records';
import { flushPromises } from '@vue/test-utils';
import { beforeEach, describe, expect, it } from 'vitest';
import { usePane } from '../test/pane.js';
import CoreSample from './CoreSample.vue';
import ForecastList from './ForecastList.vue';
import LedgerPane from './LedgerPane.vue';
import LossPane from './LossPane.vue';
import MachiningPane from './MachiningPane.vue';
import NextPane from './NextPane.vue';
import OperationForm from './OperationForm.vue';
import OwnForecast from './OwnForecast.vue';
import SpecimensPane from './SpecimensPane.vue';
import WorkPane from './WorkPane.vue';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const wholes = wholesOf(bundle);
const whole = (id: string): WholeHead => wholes.find((w) => w.head.id === id)!;
const build = bundle.builds[0]!;
const core = toCoreBuild(build);
const target = evaluateTarget(core);
const context = { sources: bundle.sources, cams: { intake: target.intakeCam, exhaust: target.exhaustCam } };
const ledger = (id: string, last: string) => ledgerOf(whole(id), last, context, { core, target });

let answers: Record<string, unknown> = {};
beforeEach(() => {
  answers = {
    '/api/build': bundle.builds,
    '/api/source': bundle.sources,
    [`/api/cuts?build=${build.id}`]: wholes.flatMap((w) => singleCuts(w, context)),
  };
});
const on = usePane((address) => answers[address]);

describe('the core sample', () => {
  it('lays the head as received at the bottom, a gain as thick as it is, one without credit dashed and thin', async () => {
    await on.show(CoreSample, { rows: ledger('longreach-212', 'longreach-bowl'), side: 'exhaust', modelValue: '' });
    const layers = on.page.findAll('.layer');
    expect(layers.map((l) => l.find('.name').text())).toEqual(['as received', 'valve job and back-cut', 'bowl blend']);
    expect(layers[1]!.classes()).toContain('refused');
    expect(layers[1]!.text()).toContain('no credit');
    const height = (i: number) => Number.parseFloat(layers[i]!.attributes('style')!.replace(/[^\d.]/g, ''));
    expect(height(2)).toBeGreaterThan(height(1));
    // A little is drawn as little: it does not fill the whole.
    expect(height(2)).toBeLessThan(200);
  });
  it('is walked with the arrow keys, up to the later stage', async () => {
    await on.show(CoreSample, { rows: ledger('corrow-417', '417-pinch'), side: 'intake', modelValue: '417-bowl' });
    const chosen = () => on.page.emitted('update:modelValue') as string[][] | undefined;
    await on.page.findAll('.layer')[2]!.trigger('keydown.up');
    await on.page.findAll('.layer')[2]!.trigger('keydown.down');
    expect(chosen()).toEqual([['417-pinch'], ['417-valve-job']]);
  });
});

describe('what was done', () => {
  it('asks for the side of a cut that has one, and keeps negative hours in their field', async () => {
    await on.show(OperationForm, { whole: whole('corrow-417'), stageId: '417-pinch' });
    await on.pick('What was done', 'bowl blend');
    await on.pick('Side', 'neither');
    await on.field('Hours').setValue('-1 h');
    await on.field('Hours').trigger('blur');
    await on.submit();
    expect(on.sent).toEqual([]);
    expect(on.text()).toContain('Hours must lie between 0 and 2,000.');
    expect(on.field('Hours').element.value).toBe('-1 h');
    await on.pick('Side', 'intake');
    await on.field('Hours').setValue('2.5 h');
    await on.field('Hours').trigger('blur');
    await on.submit();
    expect(on.sent[0]).toMatchObject({ body: { kind: 'bowl blend', side: 'intake', stageId: '417-pinch' } });
  });
});

describe('the ledger', () => {
  it('says what stands together, what has no credit, and what such cuts usually buy', async () => {
    const rows = ledger('longreach-212', 'longreach-bowl');
    await on.show(LedgerPane, { whole: whole('longreach-212'), rows });
    expect(on.text()).toContain('valve job and back-cut were made in one stage: these cannot be told apart.');
    expect(on.text()).toContain('No credit. They cannot be compared: pipe differs.');
    // Two on heads from a maker, so the third, of an iron casting, is left out.
    expect(on.text()).toMatch(/bowl blend\s?intake\s?2\s?\+1\.8 %/);
    expect(on.text()).toContain('Over the whole lift the bench cannot tell that this paid');
  });
});

describe('valve or port, and the next cut', () => {
  const loss = lossStages(whole('corrow-417'), '417-received', 'intake', context)!;
  const split = splitStages(loss.input, 0.01143, loss.assumptions);
  it('says what one curve cannot, and that a fit is under way or failed', async () => {
    const props = { whole: whole('corrow-417'), side: 'intake', loss, split, busy: false, problem: '' };
    await on.show(LossPane, props);
    expect(on.text()).toContain('one curve cannot say closer');
    await on.show(LossPane, { ...props, split: undefined, busy: true });
    expect(on.page.find('[role=status]').text()).toContain('Fitting 1 stages');
    await on.show(LossPane, { ...props, split: undefined, problem: 'It stopped.' });
    expect(on.page.find('[role=alert]').text()).toBe('It stopped.');
    await on.show(LossPane, { ...props, loss: undefined });
    expect(on.text()).toContain('has no intake curve with a known valve');
  });
  it('keeps a forecast with what it rests on, half of what it could buy', async () => {
    const facts = cutFacts(whole('corrow-417'), '417-received', 'intake', split, {
      ...context,
      wanted: target.areaNeeded.value,
    });
    const stage = whole('corrow-417').stages[0];
    await on.show(NextPane, { whole: whole('corrow-417'), stage, facts, cuts: [], window: '.480 lift' });
    expect(on.text()).toContain('The choke is 1.74 in²');
    expect(on.text()).toContain('This shop has not flowed a head before and after a pinch opened by itself yet.');
    await on.press('Save this forecast');
    const [sent] = on.sent;
    expect(sent).toMatchObject({
      body: { stageId: '417-received', content: { window: '.480 lift' }, outcomeId: null },
    });
    const { content } = sent!.body as { content: { gain: number; u: number; records: unknown[] } };
    expect(content.u).toBeGreaterThan(0);
    expect(content.records.length).toBeGreaterThan(0);
  });
  it('scores what was answered, and asks how far one’s own word may be off', async () => {
    await on.show(ForecastList, { whole: whole('corrow-417') });
    expect(on.text()).toMatch(/2026-03-10.*less than forecast, within its range/);
    const stage = whole('corrow-417').stages[3];
    await on.show(OwnForecast, { whole: whole('corrow-417'), stage, window: '' });
    await on.submit();
    expect(on.page.find('[role=alert]').text()).toBe('Say what will be cut.');
    expect(on.sent).toEqual([]);
  });
});

describe('the work list, machining and specimens', () => {
  it('says stop before anything else, and ticks a line off', async () => {
    await on.show(WorkPane, { whole: whole('corrow-417') });
    expect(on.page.find('[role=alert]').text()).toContain('measured 3.4 mm, past its limit of 3.5 mm: stop');
    expect(on.text()).toContain('1 of 4 done; 5.5 h of work left.');
    await on.page.findAll('input[type=checkbox]')[2]!.setValue(true);
    await flushPromises();
    expect(on.sent[0]).toMatchObject({ body: { id: '417-task-turn' } });
    expect((on.sent[0]!.body as { done: string }).done).toMatch(/^\d{4}-/);
  });
  it('sinks first, then mills; a cut through the chamber is refused in words', async () => {
    const stage = whole('corrow-417').stages[0];
    await on.showAt('/change/corrow-417', MachiningPane, { whole: whole('corrow-417'), stage });
    const type = async (label: string, value: string) => {
      await on.field(label).setValue(value);
      await on.field(label).trigger('blur');
    };
    await type('Seats sunk by', '.5 mm');
    expect(on.text()).toMatch(/chamber gained by sinking\s?0\.87/);
    await type('Chamber before the last cut', '66.8 cc');
    await type('Chamber after it', '62 cc');
    await type('Taken off by it', '1 mm');
    await type('Then milled off', '20 mm');
    expect(on.text()).toContain('That mills the whole chamber away.');
  });
  it('lays specimens side by side, and says when they are too few', async () => {
    answers['/api/head/corrow-417/specimens'] = [whole('corrow-417'), whole('corrow-417-b')];
    await on.showAt('/change/corrow-417', SpecimensPane, { whole: whole('corrow-417'), side: 'intake' });
    expect(on.text()).toMatch(/second casting\s?Bench 1, port 3\s?174 cfm\s?−6 cfm\s?the others are too few to say/);
    answers['/api/head/corrow-522/specimens'] = [whole('corrow-522')];
    await on.showAt('/change/corrow-522', SpecimensPane, { whole: whole('corrow-522'), side: 'intake' });
    expect(on.text()).toContain('Fewer than two specimens');
  });
});
