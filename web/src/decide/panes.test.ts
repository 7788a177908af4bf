import { readFileSync } from 'node:fs';
import { evaluateTarget } from '@alluvium/core';
import { mattersOf, rankOf, readBundle, readWays, toCoreBuild, wholesOf } from '@alluvium/records';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { flushPromises } from '@vue/test-utils';
import { usePane } from '../test/pane.js';
import CostLines from './CostLines.vue';
import DecisionPane from './DecisionPane.vue';
import MattersPane from './MattersPane.vue';
import MoneyForm from './MoneyForm.vue';
import PriceChart from './PriceChart.vue';
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
  answers = { '/api/build': bundle.builds, '/api/decision': bundle.decisions };
});
const on = usePane((address) => answers[address]);

describe('the ways side by side', () => {
  it('say what is over the budget, what stops one, and how often each comes first', async () => {
    await on.show(WayTable, { ways, ranked, build, modelValue: '' });
    expect(on.text()).toContain('over the budget of 3,200');
    expect(on.text()).toContain('stops it: exhaust flange: raised port, the marine riser does not line up');
    expect(on.text()).toMatch(/comes first\s?\d+ %\s?\d+ %\s?\d+ %\s?(would, if it fell by \d+ sov)?\s?\d+ %/);
    await on.press('Rework the 417');
    expect(on.page.emitted('update:modelValue')).toEqual([['slate-rework']]);
  });
  it('are drawn as crosses that can be read aloud', async () => {
    await on.show(PriceChart, { ways, budget: build.budget?.si, wanted: core.power });
    expect(on.page.find('svg').attributes('aria-label')).toMatch(/Rework the 417 2812, 307.hp/);
    expect(on.page.findAll('circle')).toHaveLength(ways.length);
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
    await on.show(CostLines, props);
    await on.press('From “core rework”');
    expect(last().map((l) => l.kind)).toContain('crack check');
    expect(last().find((l) => l.kind === 'porting')!.price).toMatchObject({ si: 55 });
    expect(last().find((l) => l.kind === 'cleaning')!.price).toBeNull();
    await on.press('The head’s price');
    expect(last()).toMatchObject([{ kind: 'head or core', price: { typed: '2,390' } }]);
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
