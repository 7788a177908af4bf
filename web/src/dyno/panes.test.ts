import { readFileSync } from 'node:fs';
import { evaluateTarget } from '@alluvium/core';
import { claimantsOf, pullFactors, readBundle, toCoreBuild, wholesOf } from '@alluvium/records';
import { flushPromises } from '@vue/test-utils';
import { beforeEach, describe, expect, it } from 'vitest';
import { usePane } from '../test/pane.js';
import DynoNote from './DynoNote.vue';
import FactorPane from './FactorPane.vue';
import OrderPane from './OrderPane.vue';
import PullForm from './PullForm.vue';
import TrustPane from './TrustPane.vue';
import WhyPane from './WhyPane.vue';
import { usePullCurve } from './usePullCurve.js';
import { useDyno, type PullRead } from './useDyno.js';
import { h } from 'vue';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const wholes = wholesOf(bundle);
const build = bundle.builds.find((b) => b.id === 'slate-six')!;
const core = toCoreBuild(build);
const active = { build, core, target: evaluateTarget(core) };
const stages = [['417-received', 'A 417 early, as received'] as const];

let answers: Record<string, unknown> = {};
beforeEach(() => {
  answers = {
    '/api/build': bundle.builds,
    '/api/pull': bundle.pulls,
    '/api/source': bundle.sources,
    '/api/powerforecast': bundle.powerForecasts,
    '/api/build/slate-six/pulled': { pulls: bundle.pulls, wholes, sources: bundle.sources },
    '/api/pulls/factors': pullFactors(bundle.pulls, bundle.builds, wholes, { sources: bundle.sources }),
  };
  localStorage.setItem('alluvium.build', 'slate-six');
});
const on = usePane((address) => answers[address]);

/** The pulls of the build, as the page reads them. */
async function reads(): Promise<readonly PullRead[]> {
  let found: readonly PullRead[] = [];
  await on.show({
    setup() {
      const { pulls } = useDyno();
      return () => {
        found = pulls.value;
        return h('p', String(pulls.value.length));
      };
    },
  });
  await flushPromises();
  return found;
}
/** A pane that needs the simulation, which no test page has. */
const withSim = (pane: object, props: Record<string, unknown>, read: PullRead) => ({
  setup() {
    const sim = usePullCurve(
      () => active,
      () => read.pull,
      () => read.whole,
    );
    return () => h(pane, { ...props, read, sim });
  },
});

describe('the form of a pull', () => {
  const props = { pull: undefined, build, stages, first: '417-received' };
  const paste = 'Paste the table: rpm with power, torque or both';
  it('a file larger than any dyno sheet is not read, and says so', async () => {
    await on.show(PullForm, props);
    const file = new File(['rpm,hp'], 'huge.csv');
    Object.defineProperty(file, 'size', { value: 100 * 1024 * 1024 });
    const input = on.page.find<HTMLInputElement>('input[type=file]');
    Object.defineProperty(input.element, 'files', { value: [file] });
    await input.trigger('change');
    await flushPromises();
    expect(on.text()).toContain('huge.csv is larger than 16 MB and was not read.');
  });
  it('lays columns down by hand where no heading is known, and keeps that for the next file', async () => {
    await on.show(PullForm, props);
    await on.field(paste).setValue('Kanal 1;Kanal 2\n4000;164,05\n5000;201,34\n');
    expect(on.text()).toContain('lay the columns down by hand');
    await on.pick('Column 1 is', 'speed');
    await on.pick('Column 2 is', 'power');
    await on.pick('Unit of column 2', 'kW');
    expect(on.text()).toContain('2 rows, 4000 rpm to 5000 rpm');
    await on.press('Read files with these headings this way');
    expect(on.sent[0]!.body).toMatchObject({
      headings: ['Kanal 1', 'Kanal 2'],
      columns: [
        { column: 'speed', unit: 'rpm' },
        { column: 'power', unit: 'kW' },
      ],
    });
  });
  it('saves every pull of a file that holds several', async () => {
    await on.show(PullForm, props);
    await on.field('Name of the pull').setValue('Friday');
    await on.field(paste).setValue('run,rpm,hp\nA,4000,220\nA,5000,270\nB,4000,230\nB,5000,281\n');
    expect(on.text()).toContain('This file holds 2 pulls.');
    await on.press('Save all 2 pulls of this file');
    expect(on.sent.map((s) => (s.body as { title: string }).title)).toEqual(['Friday A', 'Friday B']);
    expect((on.sent[1]!.body as { rows: { power: { typed: string } }[] }).rows[1]!.power.typed).toBe('281 hp');
  });
  it('notes what was on the engine; a size that is none is refused at its field', async () => {
    await on.show(PullForm, props);
    await on.field('Name of the pull').setValue('Friday');
    await on.field(paste).setValue('rpm,hp\n4000,220\n');
    const compression = on.field('Compression as built');
    await compression.setValue('95');
    await compression.trigger('blur');
    await on.submit();
    expect(on.text()).toContain('Compression must lie between 4:1 and 30:1.');
    await compression.setValue('9.5:1');
    await compression.trigger('blur');
    await on.field('Exhaust').setValue('long headers');
    await on.submit();
    expect((on.sent.at(-1)!.body as { setup: object }).setup).toMatchObject({
      exhaust: 'long headers',
      compression: { si: 9.5 },
    });
  });
});

describe('order, swaps and what else changed', () => {
  it('say that a swap counts, that another was unfair, and how many pulls a swap takes', async () => {
    const pulls = await reads();
    expect(pulls).toHaveLength(8);
    const swap = pulls.find((p) => p.pull.id === 'slate-swap-4')!;
    await on.show(withSim(OrderPane, { pulls }, swap));
    expect(on.text()).toMatch(/522 late, as received makes \+\d\.\d hp ± \d\.\d hp against 417 early, as received/);
    expect(on.text()).toContain('They alternated, so what drifts is taken off.');
    await on.pick('Against', 'Longreach, same cam');
    expect(on.text()).toContain('This is no test of the heads alone: compression, manifold, exhaust changed too.');
    await on.field('Difference that is expected').setValue('0,4');
    expect(on.text()).toMatch(/A, B, A with \d+ pulls each turn/);
    await on.field('Difference that is expected').setValue('none');
    expect(on.text()).toContain('Type a difference above nothing.');
    await on.field('The parts').setValue('−15 +23');
    await on.field('The sum as stated').setValue('3');
    expect(on.page.find('[role=status]').text()).toBe('They make 8, not 3.');
  });
});

describe('why it fell short', () => {
  it('asks for the run first, and keeps what it was in the end', async () => {
    const read = (await reads()).find((p) => p.pull.id === 'slate-longreach-1')!;
    await on.show(withSim(WhyPane, { active }, read));
    expect(on.text()).toContain('run the head in the engine first');
    await on.pick('What it was', 'a seat leaks');
    await on.field('How it was found').setValue('leak-down, cylinder 4');
    await on.submit();
    expect(on.sent[0]!.body).toMatchObject({ cause: 'leaking seat', causeNote: 'leak-down, cylinder 4' });
  });
  it('is told wherever that head, its article or a source of its claims is looked at next', async () => {
    const [own, other] = ['longreach-212', 'corrow-417'].map((id) => wholes.find((w) => w.head.id === id)!);
    const pull = bundle.pulls.find((p) => p.id === 'slate-longreach-1')!;
    const outcome = (head: object, sourceIds: readonly string[]) => ({
      pull: { ...pull, cause: 'leaking seat', causeNote: 'cylinder 4' },
      head: { ...own!.head, ...head },
      sourceIds,
    });
    answers['/api/pulls/outcomes'] = [outcome({}, [])];
    await on.showAt('/heads', DynoNote, { whole: own });
    expect(on.text()).toContain('On the dyno on 2026-05-13 it fell short: a seat leaks (cylinder 4).');
    answers['/api/pulls/outcomes'] = [outcome({ id: 'another', name: 'The second one', specimenOf: own!.head.id }, [])];
    await on.showAt('/heads', DynoNote, { whole: own });
    expect(on.text()).toContain('The second one, the same article, fell short on the dyno on 2026-05-13');
    const claimed = claimantsOf(other!)[0]!;
    const name = bundle.sources.find((s) => s.id === claimed)!.name;
    answers['/api/pulls/outcomes'] = [outcome({}, [claimed])];
    await on.showAt('/heads', DynoNote, { whole: other });
    expect(on.text()).toContain(`${name} spoke of Longreach 212 too, which fell short on the dyno`);
    answers['/api/pulls/outcomes'] = [outcome({}, ['somebody else'])];
    await on.showAt('/heads', DynoNote, { whole: other });
    expect(on.text()).not.toContain('fell short');
  });
});

describe('forecasts and factors', () => {
  it('scores what was said, asks what is missing, and answers a forecast by a pull', async () => {
    const pulls = await reads();
    await on.show(TrustPane, { active, pulls, stages: [[null, 'whichever it is'], ...stages] });
    expect(on.text()).toMatch(/own word: 2 forecasts: the engine made −\d\.\d % ± /);
    expect(on.text()).toContain('4 of 20');
    await on.submit();
    expect(on.page.find('[role=alert]').text()).toBe('Say what it will make.');
    const power = on.field('It will make');
    await power.setValue('300 hp');
    await power.trigger('blur');
    await on.submit();
    expect(on.page.find('[role=alert]').text()).toContain('Say how far it may be off');
    const off = on.field('Uncertainty (±)');
    await off.setValue('10 hp');
    await off.trigger('blur');
    await on.submit();
    expect(on.sent[0]!.body).toMatchObject({ buildId: 'slate-six', content: { method: 'own word', use: 'marine' } });
  });
  it('takes the shop’s own power per flow for one use and fuel, and gives it back', async () => {
    await on.show(FactorPane);
    expect(on.text()).toMatch(/marine, petrol ?3/);
    await on.press('Use it in every verdict');
    expect(on.sent[0]!.body).toMatchObject({ use: 'marine', fuel: 'petrol', count: 3 });
    answers['/api/ownfactor'] = [{ version: 1, ...(on.sent[0]!.body as object), id: 'own' }];
    await on.show(FactorPane);
    await on.press('Use the usual');
    expect(on.sent.at(-1)).toMatchObject({ method: 'DELETE', url: '/api/ownfactor/own' });
  });
});
