import { readFileSync } from 'node:fs';
import { readBundle, wholesOf, type Build, type FrozenVerdict } from '@alluvium/records';
import { flushPromises } from '@vue/test-utils';
import { beforeEach, describe, expect, it } from 'vitest';
import MatchPage from '../match/MatchPage.vue';
import TargetPage from '../target/TargetPage.vue';
import { claimsServer } from '../test/claimsServer.js';
import { usePane } from '../test/pane.js';
import CourseLine from './CourseLine.vue';
import GlossaryPanel from './GlossaryPanel.vue';
import LineupBar from './LineupBar.vue';
import TargetStrip from './TargetStrip.vue';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const wholes = wholesOf(bundle);
let builds: Build[] = [];
let lined = true;
beforeEach(() => {
  builds = bundle.builds;
  lined = true;
});
let kept: FrozenVerdict[] = [];
const lineup = (buildId: string) => ({
  sources: bundle.sources,
  entries: bundle.lineups
    .filter((entry) => lined && entry.buildId === buildId)
    .map((entry) => ({ entry, whole: wholes.find((w) => w.stages.some((s) => s.id === entry.stageId)) })),
});
const server = claimsServer(wholes, bundle.sources, bundle.builds);
const on = usePane((address, body) => {
  const said = server(address, body);
  if (said !== undefined) return said;
  const build = /^(?:PUT )?\/api\/build\/(.+)\/lineup$/.exec(address);
  return build
    ? lineup(build[1]!)
    : {
        '/api/build': builds,
        '/api/source': bundle.sources,
        '/api/verdict': kept,
        '/api/assumption': [],
        '/api/calibration': [],
      }[address];
});
const { showAt, field, press, submit, pick } = on;
const SLATE = '?build=slate-six';

describe('the course', () => {
  it('marks what is owed: heads not ready, claims that are doubtful', async () => {
    await showAt(`/compare${SLATE}`, CourseLine);
    expect(on.text()).toMatch(/Arrival 2 heads owe something/);
    expect(on.text()).toMatch(/Claims \d doubtful/);
    expect(on.page.find('[aria-current=page]').text()).toContain('Compare');
  });
  it('an empty lineup is owed heads, and no claim is doubted', async () => {
    lined = false;
    await showAt('/heads', CourseLine);
    expect(on.text()).toContain('lineup is empty');
    expect(on.text()).not.toContain('doubtful');
  });
  it('a build without a cam, or with one that fits no lift curve, is told at the target', async () => {
    const [slate] = bundle.builds;
    builds = [{ ...slate!, cam: null }];
    await showAt('/target', CourseLine);
    expect(on.text()).toContain('no cam yet');
  });
});

describe('the strip', () => {
  it('says the engine in a line and what follows from it; units and theme are one press away', async () => {
    await showAt(`/compare${SLATE}`, TargetStrip);
    expect(on.text()).toMatch(/4\.21 L six · 9\.5:1 · lift \.480 290 hp at 5600/);
    expect(on.text()).toMatch(/must carry 188 cfm at 28 in · choke at least 1\.79 in²/);
    await on.pick('Units', 'metric');
    expect(on.text()).toMatch(/88\.\d L\/s|89 L\/s/);
    await press('Night theme');
    expect(document.documentElement.dataset.theme).toBe('night');
    await press('Light theme');
    await on.pick('Units', 'inches');
  });
  it('another build goes into the address, a new one to its page', async () => {
    const router = await showAt(`/compare${SLATE}`, TargetStrip);
    await on.pick('Build at hand', 'Vennick Five');
    await flushPromises();
    expect(router.currentRoute.value.query.build).toBe('vennick-five');
    expect(on.text()).toContain('five');
    await on.pick('Build at hand', 'a new build …');
    await flushPromises();
    expect(router.currentRoute.value.fullPath).toBe('/target?new=1');
  });
  it('without a build says so', async () => {
    builds = [];
    await showAt('/target', TargetStrip);
    expect(on.text()).toContain('No build yet');
  });
});

describe('the lineup', () => {
  const order = () => on.sent.at(-1)!.body.entries.map((e: { id: string }) => e.id);
  const token = (letter: string) => on.page.findAll('.token').find((t) => t.text().startsWith(letter))!;
  it('digits hide and show, letters stay', async () => {
    await showAt(`/compare${SLATE}`, LineupBar);
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: '2', bubbles: true }));
    await flushPromises();
    expect(token('B').classes()).toContain('off');
    await token('B').find('button').trigger('click');
    expect(token('B').classes()).not.toContain('off');
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: '9', bubbles: true }));
    expect(on.sent).toEqual([]);
  });
  it('B makes a head the baseline, Alt and arrows move it, Delete takes it out', async () => {
    await showAt(`/compare${SLATE}`, LineupBar);
    await token('C').trigger('keydown', { key: 'b' });
    await flushPromises();
    expect(on.sent[0]).toMatchObject({ method: 'PUT', url: '/api/build/slate-six/lineup' });
    expect(order().slice(0, 3)).toEqual(['slate-3', 'slate-1', 'slate-2']);
  });
  it('the first cannot go further forward; taken out, the others close up', async () => {
    await showAt(`/compare${SLATE}`, LineupBar);
    await token('A').trigger('keydown', { key: 'ArrowLeft', altKey: true });
    expect(on.sent).toEqual([]);
    await token('A').trigger('keydown', { key: 'Delete' });
    await flushPromises();
    expect(order()).toEqual(['slate-2', 'slate-3', 'slate-4', 'slate-5']);
  });
  it('empty says how to fill it', async () => {
    lined = false;
    await showAt(`/compare${SLATE}`, LineupBar);
    expect(on.text()).toContain('Empty: open a head and add it to the lineup.');
  });
});

describe('the glossary', () => {
  it('finds a word in a term or its meaning, and says when there is none', async () => {
    await showAt('/heads', GlossaryPanel);
    const panel = () => document.querySelector('.el-drawer')!;
    const input = panel().querySelector('input')!;
    const type = async (text: string) => {
      input.value = text;
      input.dispatchEvent(new Event('input'));
      await flushPromises();
    };
    await type('own bench');
    expect([...panel().querySelectorAll('dt')].map((d) => d.textContent)).toContain('Source offset');
    await type('zebra');
    expect(panel().textContent).toContain('No such word here.');
  });
});

describe('match', () => {
  it('names the head that carries the engine, and each with its reasons', async () => {
    await showAt(`/match${SLATE}`, MatchPage);
    expect(on.page.find('.best').text()).toContain('Longreach 212');
    const verdicts = on.page.findAll('.verdict').map((v) => [v.find('.letter').text(), v.find('.word').text()]);
    expect(verdicts).toHaveLength(5);
    expect(verdicts[0]![1]).toBe('falls short, 1 in 100');
    // What would settle it is listed for heads whose verdict is not sure, and for no other.
    const list = on.page.find('[aria-label="What would settle it"]').text();
    expect(list).toContain('B learn the factor from a dyno pull');
    expect(list).not.toContain('D learn');
    expect(on.text()).toContain('The power estimates do not agree');
    expect(on.text()).toContain('Ceilings for the breathing, not forecasts.');
  });
  it('an empty lineup, and no build at all, say what to do first', async () => {
    lined = false;
    await showAt(`/match${SLATE}`, MatchPage);
    expect(on.text()).toContain('No head is in the lineup yet');
    on.page.unmount();
    builds = [];
    await showAt('/match', MatchPage);
    expect(on.text()).toContain('Say first which engine it is for');
  });
});

describe('verdicts kept and assumptions', () => {
  it('a verdict is kept with the versions it rested on; later it says what moved', async () => {
    kept = [];
    await showAt(`/match${SLATE}`, MatchPage);
    await press('Save this verdict');
    expect(on.sent.at(-1)).toMatchObject({ method: 'POST', url: '/api/verdict', body: { buildId: 'slate-six' } });
    const { content } = on.sent.at(-1)!.body as { content: FrozenVerdict['content'] };
    expect(content.heads.map((h) => h.degree)).toHaveLength(5);
    expect(content.records).toContainEqual({ noun: 'sheet', id: '417-received-p3', version: 1 });
    on.page.unmount();
    const older = content.records.map((r) => (r.id === '417-received-p3' ? { ...r, version: 7 } : r));
    kept = [
      {
        id: 'v',
        version: 1,
        buildId: 'slate-six',
        made: '2026-06-01',
        note: '',
        content: { ...content, records: older.slice(1) },
      },
    ];
    await showAt(`/match${SLATE}`, MatchPage);
    expect(on.page.find('.kept').text()).toContain('records since: 1 changed, 1 new');
  });
  it('the shop’s own figure is typed in its place, refused where it cannot be, and saved as one change', async () => {
    kept = [];
    await showAt(`/match${SLATE}`, MatchPage);
    await press('Assumptions');
    const row = (label: string) =>
      [...document.querySelectorAll<HTMLTableRowElement>('.el-dialog tr')].find((r) => r.textContent!.includes(label))!;
    const type = async (label: string, text: string) => {
      const input = row(label).querySelector('input')!;
      input.value = text;
      input.dispatchEvent(new Event('input'));
      await flushPromises();
    };
    await type('one set-up against the next', 'about one');
    expect(row('one set-up against the next').textContent).toContain('is not');
    await type('one set-up against the next', '0.6 %');
    await type('power per flow, least', '0.25 hp/cfm');
    document.querySelector<HTMLFormElement>('.el-dialog form')!.dispatchEvent(new Event('submit'));
    await flushPromises();
    expect(on.sent.map((x) => [x.method, x.url, x.body.name])).toEqual([
      ['POST', '/api/assumption', 'setup'],
      ['POST', '/api/assumption', 'leastPowerPerFlow'],
    ]);
  });
});

describe('the target', () => {
  it('works out as it is typed what the head must do, and keeps what cannot be read', async () => {
    await showAt(`/target${SLATE}`, TargetPage);
    const demand = () =>
      on.page
        .findAll('tr')
        .find((r) => r.text().startsWith('flow each port must carry'))!
        .text()
        .replaceAll('\u00a0', ' ');
    expect(demand()).toContain('188 cfm± 6 cfm');
    // 188.07 × 320 / 290.
    await field('Power').setValue('320 hp');
    expect(demand()).toContain('208 cfm± 7 cfm');
    await field('Bore').setValue('about four');
    expect(on.text()).toContain('“about four” is not a length');
    expect(field('Bore').element.value).toBe('about four');
    await submit();
    expect(on.sent).toEqual([]);
    await field('Bore').setValue('98.0 mm');
    await submit();
    expect(on.sent[0]).toMatchObject({
      method: 'PUT',
      url: '/api/build/slate-six',
      body: { power: { typed: '320 hp' }, version: 1 },
    });
  });
  it('a new one needs its figures; a target no engine makes is called so before any head is blamed', async () => {
    await showAt('/target?new=1', TargetPage);
    await submit();
    expect(on.text()).toContain('fields need a look');
    for (const [label, text] of [
      ['Name', 'Kestrel'],
      ['Bore', '3.5 in'],
      ['Stroke', '3.25 in'],
      ['Cylinders', '4'],
      ['Power', '400 hp'],
      ['at', '5000'],
    ] as const)
      await field(label).setValue(text);
    await pick('Fuel', 'petrol');
    expect(on.text()).toMatch(/unbelievable|more than .* make|not believable/i);
    await submit();
    expect(on.sent[0]).toMatchObject({ method: 'POST', url: '/api/build', body: { name: 'Kestrel', cylinders: 4 } });
  });
});
