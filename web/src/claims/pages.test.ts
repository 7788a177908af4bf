import { readFileSync } from 'node:fs';
import { sayIn, type Side } from '@alluvium/core';
import { contextOf, libraryOf, readBundle, wholesOf } from '@alluvium/records';
import { flushPromises } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { computed } from 'vue';
import { claimsServer } from '../test/claimsServer.js';
import { usePane } from '../test/pane.js';
import ClaimsPage from './ClaimsPage.vue';
import HeadClaims from './HeadClaims.vue';
import QuestionsPane from './QuestionsPane.vue';
import ReadChart from './ReadChart.vue';
import SamePane from './SamePane.vue';
import SourcesPane from './SourcesPane.vue';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const heads = wholesOf(bundle);
const whole = (id: string) => heads.find((w) => w.head.id === id)!;
const stage = (id: string, name = 'as received') => whole(id).stages.find((s) => s.name === name)!;
const context = contextOf(libraryOf(heads, 'bench-1'), 'bench-1', sayIn('inch'));
const server = claimsServer(heads, bundle.sources, bundle.builds);
const claims = {
  own: computed(() => 'bench-1'),
  facts: computed(() => context),
  library: computed(() => ({ done: 1, of: 1, version: 1 })),
  sources: computed(() => bundle.sources),
  ready: computed(() => true),
  error: computed(() => ''),
};

/** The worker's own script, run beside the page on the next tick. */
class WorkerHere {
  onmessage: ((event: { data: unknown }) => void) | undefined;
  private ended = false;
  postMessage(data: unknown): void {
    setTimeout(async () => {
      await import('../data/offsets.worker.js');
      const answers: unknown[] = [];
      vi.stubGlobal('postMessage', (answer: unknown) => answers.push(answer));
      await (globalThis as unknown as { onmessage: (e: { data: unknown }) => Promise<void> }).onmessage({ data });
      for (const answer of answers) if (!this.ended) this.onmessage?.({ data: answer });
    });
  }
  terminate(): void {
    this.ended = true;
  }
}
const solved = async () => {
  await vi.waitFor(() => {
    if (on.text().includes('Solving')) throw new Error('still solving');
  });
  await new Promise((r) => setTimeout(r, 20));
  await flushPromises();
};

const on = usePane((address, body) => {
  const said = server(address, body);
  if (said !== undefined) return said;
  const record = /^\/api\/(sheet|measure|stage|head)\/([^/]+)$/.exec(address);
  if (record)
    return [...bundle.sheets, ...bundle.measures, ...bundle.stages, ...bundle.heads].find((r) => r.id === record[2]);
  if (address.startsWith('/api/library')) return { total: 12, items: heads.map((w) => ({ head: w.head })) };
  if (address.endsWith('/whole')) return whole(address.split('/')[3]!);
  return {
    '/api/build': bundle.builds,
    '/api/source': bundle.sources,
    '/api/question': bundle.questions,
  }[address];
});
beforeEach(() => void vi.stubGlobal('Worker', WorkerHere));
afterEach(() => vi.unstubAllGlobals());
const { show, showAt, field, pick, press } = on;

describe('what is claimed of a head', () => {
  const here = (id: string, side: Side = 'intake', name?: string) =>
    show(HeadClaims, { claims, whole: whole(id), stage: stage(id, name), side });
  it('is judged, read through its source once the net is solved, and laid beside what others publish', async () => {
    await here('pellam-190');
    expect(on.text()).toContain('Agrees as benches do');
    await vi.waitFor(() => expect(on.text()).toContain('it holds as well'));
    const [, first] = on.page.findAll('table.ruled tr').map((r) => r.text());
    expect(first).toMatch(/holds$/);
    expect(on.page.find('table.ruled thead').text()).toContain('read through its source');
    expect(on.page.findAll('[aria-label^="Coefficients on the minimum area"]')).toHaveLength(1);
    expect(on.text()).toContain('beyond the usual for this pinch');
    expect(on.text()).not.toContain('Side by side');
  });
  it('of the other head of the same source says as much; sizes and power stand below', async () => {
    await here('pellam-p6');
    expect(on.text()).toContain('Side by side, intake');
    expect(on.text()).toContain('3.5 cc more');
    expect(on.text()).toMatch(/295 hp at 5600 rpm, says Pellam catalogue\. A stretch: .*can’t be told/);
    await press('Remove the report of 295');
    expect(on.sent[0]).toMatchObject({ method: 'DELETE', url: '/api/report/p6-catalogue-power' });
  });
  it('where nobody claims anything says how to note it', async () => {
    await here('corrow-522', 'exhaust');
    expect(on.text()).toContain('Nobody claims a flow of this head on the exhaust side');
    await press('A power');
    expect(field('Power claimed').exists()).toBe(true);
    await press('Cancel');
    expect(on.page.find('form').exists()).toBe(false);
  });
});

describe('the sources', () => {
  it('are drawn with their errors; what nothing ties is said, and what to test next', async () => {
    await show(SourcesPane, { claims, side: 'intake' });
    await solved();
    const row = (name: string) => on.page.findAll('tbody tr').find((r) => r.text().startsWith(name))!;
    expect(row('Quayside Flow Room').text().replaceAll('\u00a0', ' ')).toMatch(/\+3\.0 %\s*±.*2\s*2\s*2$/);
    expect(row('Ferrule & Dray sheet').text()).toContain('not tied');
    expect(on.text()).toContain('Nothing ties Ferrule & Dray sheet to the bench.');
    expect(on.text()).toMatch(/Longreach 212 \(as received\), .* would tie Ferrule & Dray sheet to your bench/);
    await pick('Source', 'Quayside Flow Room');
    await field('Its figure').setValue('206');
    // The room reads 3 % high: its whole catalogue comes down by that much.
    expect(row('417 early, as received').text().replaceAll('\u00a0', ' ')).toMatch(/185\.\d cfm.*180\.\d cfm/s);
    expect(on.text()).toMatch(/On our bench that would be about 20[0-1]\.\d\s?cfm/);
    await pick('Lifts', 'up to .300 in');
    await solved();
    expect(row('Quayside Flow Room').text()).toMatch(/\+[23]\.\d/);
  });
  it('on the exhaust, who did not say whether it was piped is to be asked', async () => {
    await show(SourcesPane, { claims, side: 'exhaust' });
    await solved();
    expect(on.text()).toMatch(/Ask .*Ottermoor flyer.* whether the exhaust was bare or piped/);
    await press('Mire Lane Motors');
    expect(field('Depression').element.value).toBe('10 inH2O');
    await press('Close');
    await press('A new source');
    expect(field('Name of the source').element.value).toBe('');
  });
  it('need a zero: our own bench', async () => {
    await show(SourcesPane, { claims: { ...claims, own: computed(() => undefined) }, side: 'intake' });
    expect(on.text()).toContain('Name your own bench as a source first');
  });
});

describe('same or different', () => {
  const at = (query: string, id = 'corrow-417') =>
    showAt(`/claims/${id}?pane=same${query}`, SamePane, { claims, whole: whole(id), stage: stage(id) });
  it('begins with another stage of the same head, and lists what stands furthest apart first', async () => {
    await at('');
    expect(on.text()).toContain('Different');
    const times = on.page.findAll('tbody tr').map((r) => Number.parseFloat(r.findAll('td').at(-1)!.text()));
    expect(times).toEqual([...times].sort((a, b) => b - a));
    expect(on.page.find('thead').text()).toContain('as received');
  });
  it('the other head, its stage and port stand in the address', async () => {
    const router = await at('');
    await pick('the other', '522 late, Corrow');
    await flushPromises();
    expect(router.currentRoute.value.query).toMatchObject({ other: 'corrow-522' });
    expect(on.text()).toMatch(/Different: exhaust valve diameter/);
    await pick('its port', 'port 3');
    expect(router.currentRoute.value.query.port).toBe('3');
    expect(on.page.find('thead').text()).toContain('522 late');
  });
  it('one and the same is told', async () => {
    await at('&otherStage=417-received');
    expect(on.text()).toContain('These are one and the same');
  });
});

describe('the questions', () => {
  it('stand open ones first, with their evidence wherever it lies', async () => {
    await show(QuestionsPane, { claims, whole: whole('corrow-522') });
    await vi.waitFor(() => expect(on.text()).toContain('417 early: chamber volume 66.8 cc, as received'));
    expect(on.page.findAll('article').map((a) => a.find('.state').text())).toEqual(['open', 'unproven', 'false']);
    await press('522 late only');
    expect(on.page.findAll('article')).toHaveLength(1);
    await press('Ask a question');
    expect(on.page.find('.question .el-select').text()).toContain('522 late');
  });
});

describe('the page', () => {
  it('shows the pane its address names, with a side only where sides are', async () => {
    await showAt('/claims/corrow-417?pane=library', ClaimsPage, { id: 'corrow-417' });
    await vi.waitFor(() => expect(on.text()).toContain('Export the audit as CSV'));
    expect(on.page.find('[role=radiogroup][aria-label=Side]').exists()).toBe(false);
    await press('questions');
    await flushPromises();
    expect(on.text()).toContain('Ask a question');
    await press('this head');
    await vi.waitFor(() => expect(on.page.find('[role=radiogroup][aria-label=Side]').exists()).toBe(true));
  });
});

describe('a chart', () => {
  const mark = (x: number, y: number, value: string, si: number) => ({ x, y, value: { si, typed: value } });
  const sheet = {
    ...bundle.sheets.find((s) => s.id === '190-catalogue')!,
    chart: {
      attachmentId: 'scan',
      lift: [mark(60, 500, '0 in', 0), mark(560, 500, '.5 in', 0.0127)],
      flow: [mark(60, 500, '0 cfm', 0), mark(60, 180, '200 cfm', 0.09438948864)],
      points: [
        { side: 'intake', x: 260, y: 300 },
        { side: 'intake', x: 460, y: 220 },
      ],
    },
  };
  const scan = { ...bundle.attachments[0], id: 'scan', headId: 'pellam-190', width: 800, height: 560 };
  const open = (attachments: object[] = [scan]) =>
    show(ReadChart, {
      whole: { ...whole('pellam-190'), attachments },
      stage: stage('pellam-190'),
      sources: bundle.sources,
      sheet,
      side: 'intake',
    });
  const dialog = () => document.querySelector('.el-dialog')!;
  const button = (text: string) =>
    [...dialog().querySelectorAll('button')].find((b) => b.textContent!.trim().startsWith(text))!;
  it('read before is opened as it was left, and read anew', async () => {
    await open();
    expect(dialog().querySelectorAll('tbody tr')).toHaveLength(2);
    expect(dialog().textContent).toContain('One pixel is .0010');
    button('Remove').click();
    await flushPromises();
    expect(dialog().textContent).toContain('Click at least two points of the curve.');
    expect(button('Read it again').disabled).toBe(true);
    button('Undo').click();
    await flushPromises();
    button('Read it again').click();
    await flushPromises();
    expect(on.sent[0]).toMatchObject({ method: 'PUT', url: '/api/sheet/190-catalogue' });
    expect(on.sent[0]!.body.rows.map((r: any) => [r.lift.typed, r.intake.pulls[0].typed])).toEqual([
      ['.200 in', '125.0 cfm'],
      ['.400 in', '175.0 cfm'],
    ]);
    expect(localStorage.getItem('alluvium.chart.190-catalogue')).toBeNull();
    expect(on.page.emitted('close')).toHaveLength(1);
  });
  it('whose picture is gone says so; given up, nothing of it stays', async () => {
    await open([]);
    expect(dialog().textContent).toContain('The picture it was read off is no longer there');
    button('Discard the chart').click();
    await flushPromises();
    expect(on.sent).toEqual([]);
    expect(on.page.emitted('close')).toHaveLength(1);
  });
});
