import { readFileSync } from 'node:fs';
import { evaluateTarget } from '@alluvium/core';
import { mattersOf, rankOf, readBundle, readWays, toCoreBuild, wholesOf } from '@alluvium/records';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { flushPromises } from '@vue/test-utils';
import { usePane } from '../test/pane.js';
import CostLines from './CostLines.vue';
import DecisionPane from './DecisionPane.vue';
import MattersPane from './MattersPane.vue';
import LetterheadForm from './LetterheadForm.vue';
import MoneyForm from './MoneyForm.vue';
import PriceChart from './PriceChart.vue';
import PriceList from './PriceList.vue';
import ReportBlock from './ReportBlock.vue';
import SpendPane from './SpendPane.vue';
import TurnPane from './TurnPane.vue';
import WayTable from './WayTable.vue';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const wholes = wholesOf(bundle);
const build = bundle.builds.find((b) => b.id === 'slate-six')!;
const core = toCoreBuild(build);
const ways = readWays(
  bundle.ways.filter((w) => w.buildId === build.id),
  build,
  core,
  evaluateTarget(core),
  wholes,
  { sources: bundle.sources },
);
const ranked = rankOf(ways, mattersOf(build));

let answers: Record<string, unknown> = {};
beforeEach(() => {
  answers = {
    '/api/build': bundle.builds,
    '/api/decision': bundle.decisions,
    '/api/listprice': bundle.priceList,
    '/api/cuts?build=slate-six': [],
    '/api/build/slate-six/ways': {
      ways: bundle.ways.filter((w) => w.buildId === build.id),
      wholes,
      sources: bundle.sources,
    },
  };
});
const on = usePane((address) => answers[address]);

describe('the ways side by side', () => {
  it('say what is over the budget, what stops one, and how often each comes first', async () => {
    await on.show(WayTable, { ways, ranked, build, modelValue: '' });
    expect(on.text()).toContain('is probably over the budget: by 23 sov');
    expect(on.text()).toContain('ports against the manifold: said to fit, but largest step to the gasket');
    expect(on.text()).toContain('stops it: exhaust flange: raised port, the marine riser does not line up');
    expect(on.text()).toMatch(/comes first\s?\d+ %\s?\d+ %\s?\d+ %\s?(would, if it fell by \d+ sov)?\s?\d+ %/);
    await on.press('Rework the 417');
    expect(on.page.emitted('update:modelValue')).toEqual([['slate-rework']]);
  });
  it('are drawn as crosses that can be read aloud', async () => {
    await on.show(PriceChart, { ways, budget: build.budget?.si, wanted: core.power });
    expect(on.page.find('svg').attributes('aria-label')).toMatch(/Rework the 417 2812, 307.hp/);
    expect(on.page.findAll('svg g > path[transform]')).toHaveLength(ways.length);
  });
});

describe('the lines of a price', () => {
  const props = {
    modelValue: [],
    wayId: 'w',
    build,
    whole: wholes.find((w) => w.head.id === 'longreach-212'),
    rate: 55,
    problems: {},
  };
  const last = () =>
    (on.page.emitted('update:modelValue') as unknown[][]).at(-1)![0] as { kind: string; price: unknown }[];
  it('come from a template, the head’s own price, and what arrival found', async () => {
    answers['/api/listprice'] = [];
    await on.show(CostLines, props);
    await on.press('From “core rework”');
    expect(last().map((l) => l.kind)).toContain('crack check');
    expect(last().find((l) => l.kind === 'porting')!.price).toMatchObject({ si: 55 });
    expect(last().find((l) => l.kind === 'cleaning')!.price).toBeNull();
    await on.press('The head’s price');
    expect(last()).toMatchObject([{ kind: 'head or core', price: { typed: '2,390' } }]);
  });
  it('come from the price list by the set, and go there as one', async () => {
    await on.show(CostLines, props);
    await on.press('Set “core rework”');
    expect(last().map((l) => l.kind)).toEqual(['cleaning', 'crack check', 'guides', 'valve job', 'gaskets']);
    expect(last()[2]).toMatchObject({ quantity: 12, price: { si: 14 } });
    await on.show(CostLines, { ...props, modelValue: last() });
    await on.page.find('input[aria-label="Name of the set"]').setValue('  light rework ');
    await on.press('Save these lines to the price list as a set');
    expect(on.sent).toHaveLength(5);
    expect(on.sent.map((x) => x.url)).toEqual(Array(5).fill('/api/listprice'));
    for (const { body } of on.sent) expect((body as { sets: string[] }).sets).toEqual(['light rework']);
  });
  it('say what is not counted yet', async () => {
    const line = {
      kind: 'freight',
      text: '',
      quantity: 1,
      price: null,
      currency: '',
      tax: 'included',
      guess: null,
      supplier: '',
      date: null,
    };
    await on.show(CostLines, {
      ...props,
      modelValue: [line, { ...line, currency: 'kro', price: { si: 5, typed: '5' } }],
    });
    expect(on.text()).toContain('freight: no price yet.');
    expect(on.text()).toContain('freight: no exchange rate for kro.');
  });
});

describe('what matters, and the decision', () => {
  it('is written once the hand rests, in one change', async () => {
    vi.useFakeTimers();
    try {
      await on.show(MattersPane, { build, ways });
      const slider = on.page.findAllComponents({ name: 'ElSlider' })[0]!;
      for (const weight of [4, 5, 6]) slider.vm.$emit('update:modelValue', weight);
      await vi.advanceTimersByTimeAsync(500);
    } finally {
      vi.useRealTimers();
    }
    await flushPromises();
    expect(on.sent).toHaveLength(1);
    expect((on.sent[0]!.body as { matters: object[] }).matters[0]).toEqual({ name: 'power', weight: 6 });
  });
  it('refuses something that stands here already', async () => {
    await on.show(MattersPane, { build, ways });
    await on.page.find('input[aria-label="Something else that matters"]').setValue('price');
    await on.submit();
    expect(on.page.find('[role=alert]').text()).toBe('That stands here already.');
    expect(on.sent).toEqual([]);
  });
  it('asks which and why, keeps every figure, and says what moved since', async () => {
    await on.show(DecisionPane, { build, ways, ranked, words: ['A word.'] });
    expect(on.text()).toContain('Open: Port 1 is thin at the pinch');
    await on.submit();
    expect(on.page.find('[role=alert]').text()).toBe('Say which way is chosen.');
    await on.pick('The way chosen', 'Rework the 417');
    await on.field('Why').setValue('It keeps the riser.');
    await on.submit();
    const { content, reasons } = on.sent[0]!.body as {
      reasons: string;
      content: { chosen: string; ways: { wins: number }[]; records: object[] };
    };
    expect(reasons).toBe('It keeps the riser.');
    expect(content.chosen).toBe('Rework the 417');
    expect(content.ways.map((w) => w.wins)).toEqual([...ranked.wins]);
    expect(content.records).toContainEqual({ noun: 'way', id: 'slate-rework', version: 1 });
  });
});

describe('for and against, and what turns it', () => {
  const active = { build, core, target: evaluateTarget(core) };
  it('stand with each way, and more lift is tried when asked', async () => {
    await on.show(TurnPane, { active, ways, ranked });
    expect(on.text()).toContain('for it: the cheapest, by 1796 sov');
    expect(on.text()).toMatch(/would come first if its price fell by \d+ sov/);
    await on.press('Would more lift turn it?');
    await vi.waitFor(
      () => expect(on.page.find('[role=status]').text()).toMatch(/any cam up to \.560|would come first/),
      10_000,
    );
  });
  it('money is spent best where it buys most, and what has no price says why', async () => {
    await on.show(SpendPane, { active, ways, first: 'slate-keep' });
    expect(on.text()).toContain('Rework the 417 instead');
    expect(on.text()).toContain('more than 500');
    await on.pick('Starting from', 'Rework the 417');
    expect(on.text()).toContain('springs and rockers of the price list');
    answers['/api/listprice'] = [];
    await on.show(SpendPane, { active, ways, first: 'slate-rework' });
    expect(on.text()).toContain('no springs or rockers stand in the price list');
  });
});

describe('the price list and the letterhead', () => {
  it('a line is added in the build’s currency', async () => {
    await on.show(PriceList, { build });
    await vi.waitFor(() => expect(document.querySelector('.el-dialog')?.textContent).toContain('Add a line'));
    const buttons = [...document.querySelectorAll<HTMLButtonElement>('.el-dialog button')];
    buttons.find((b) => b.textContent?.trim() === 'Add a line')!.click();
    await flushPromises();
    expect(on.sent[0]!.body).toMatchObject({ line: { kind: 'other', currency: 'sov' }, sets: [] });
  });
  it('a mark that is no picture is refused at the field, and the form keeps what was typed', async () => {
    await on.show(LetterheadForm, { letterhead: undefined });
    await on.field('Name of the shop').setValue('Netherholm Heads');
    const input = on.page.find<HTMLInputElement>('input[type=file]');
    Object.defineProperty(input.element, 'files', { value: [new File(['x'], 'mark.gif', { type: 'image/gif' })] });
    await input.trigger('change');
    await flushPromises();
    expect(on.text()).toContain('The mark must be a PNG or JPEG picture.');
    await on.submit();
    expect(on.sent.at(-1)!.body).toMatchObject({ name: 'Netherholm Heads', logo: null, paper: 'A4' });
  });
});

describe('a block of the report', () => {
  it('draws a picture, sets a table with its figures flush right, lists', async () => {
    await on.show(ReportBlock, { block: { kind: 'picture', title: 'Curves', svg: '<svg role="img"></svg>' } });
    expect(on.page.find('figcaption').text()).toBe('Curves');
    expect(on.page.find('svg').exists()).toBe(true);
    await on.show(ReportBlock, {
      block: { kind: 'table', head: ['way', 'price'], rows: [['Keep', '678']], numeric: [1], wide: [0] },
    });
    expect(on.page.find('td.num').text()).toBe('678');
    await on.show(ReportBlock, { block: { kind: 'list', items: ['one', 'two'] } });
    expect(on.page.findAll('li')).toHaveLength(2);
  });
});

describe('the money of a build', () => {
  it('is saved with its rates and their day; a refusal stands at its field and keeps what was typed', async () => {
    await on.show(MoneyForm, { build });
    expect(on.field('Currency of the sums').element.value).toBe('sov');
    await on.press('Add an exchange rate');
    const ofLast = (label: string) =>
      on.page
        .findAll('.rate')
        .at(-1)!
        .findAll('label')
        .find((l) => l.text().startsWith(label))!;
    const input = (label: string) => on.page.find<HTMLInputElement>(`[id="${ofLast(label).attributes('for')}"]`);
    await input('One of').setValue('kro');
    await input('is so many').setValue('0');
    answers['POST /api/change'] = undefined;
    answers[`PUT /api/build/${build.id}`] = {
      status: 400,
      detail: 'An exchange rate must be above zero.',
      fields: [{ field: 'rates.1.rate', message: 'An exchange rate must be above zero.' }],
    };
    await on.submit();
    expect(on.text()).toContain('An exchange rate must be above zero.');
    expect(input('One of').element.value).toBe('kro');
    delete answers[`PUT /api/build/${build.id}`];
    await input('is so many').setValue('2.5');
    await on.submit();
    expect((on.sent.at(-1)!.body as { rates: object[] }).rates.at(-1)).toMatchObject({ currency: 'kro', rate: 2.5 });
  });
});
