import { readFileSync } from 'node:fs';
import { readBundle, wholesOf } from '@alluvium/records';
import { flushPromises } from '@vue/test-utils';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useUndo } from '../data/undo.js';
import { usePane } from '../test/pane.js';
import BundleImport from './BundleImport.vue';
import ImportDialog from './ImportDialog.vue';
import { useExchange } from './exchange.js';

const demo = readFileSync('demo/bundle.json', 'utf8');
const { bundle } = readBundle(JSON.parse(demo));
const wholes = wholesOf(bundle);
const preview = { counts: [{ noun: 'head', fresh: 2, same: 1, changed: 1 }], problems: [] };
/** What the server answers to a preview and to the bringing in. */
let answers: Record<string, unknown> = {};
beforeEach(
  () =>
    void (answers = {
      preview,
      stream: '{"done":1,"of":4}\n{"finished":true,"fresh":2,"changed":0,"same":1,"batch":7}\n',
    }),
);

const on = usePane((address) => {
  if (address.startsWith('/api/library')) {
    const name = new URLSearchParams(address.split('?')[1]).get('search')?.toLowerCase();
    const items = wholes
      .filter((w) => !name || w.head.name.toLowerCase().includes(name))
      .map((w) => ({ head: w.head }));
    return { total: items.length, items };
  }
  if (address.endsWith('/whole')) return wholes.find((w) => w.head.id === address.split('/')[3]);
  return { '/api/source': bundle.sources, '/api/build': bundle.builds }[address];
});
/** The two requests that answer otherwise than a stored record. */
function serve(): void {
  const plain = globalThis.fetch;
  vi.stubGlobal('fetch', async (url: string, init: RequestInit = {}) => {
    if (url === '/api/bundle/preview') return new Response(JSON.stringify(answers.preview));
    if (url.startsWith('/api/bundle?')) {
      on.sent.push({ method: 'POST', url, body: JSON.parse(init.body as string) });
      return new Response(answers.stream as string);
    }
    return plain(url, init);
  });
}
const open = async () => {
  serve();
  const router = await on.showAt('/heads', ImportDialog);
  return { exchange: useExchange(), undo: useUndo(), router };
};
const file = (name: string, content: string) => new File([content], name);
const dialog = () => document.querySelector('.el-dialog')!;
const button = (text: string) => [...dialog().querySelectorAll('button')].find((b) => b.textContent!.includes(text))!;

describe('a file that is dropped', () => {
  it('is refused in a sentence when it is too large, no JSON, or nothing this program knows', async () => {
    const { exchange, undo } = await open();
    const large = file('big.json', '');
    Object.defineProperty(large, 'size', { value: 65 * 1024 * 1024 });
    await exchange.take(large);
    expect(undo.message).toBe('big.json is larger than 64 MB and was not read.');
    await exchange.take(file('shop.json', '{"format": '));
    expect(undo.message).toBe('shop.json is not well-formed JSON.');
    await exchange.take(file('book.xlsx', 'not a workbook'));
    expect(undo.message).toContain('book.xlsx cannot be read');
    expect(exchange.pending).toBeUndefined();
  });
  it('a flow sheet is shown as it was read, and put on a new head', async () => {
    const { exchange, undo, router } = await open();
    await exchange.take(
      file('bench.csv', 'depression,28 inH2O\nlift,intake,exhaust\n.100,60,45\n.200,wide,90\n.300,160,120\n'),
    );
    await flushPromises();
    expect(dialog().textContent).toContain('Import bench.csv');
    expect(dialog().textContent).toContain('“wide” is not a flow');
    button('Import').click();
    await vi.waitFor(() => expect(undo.message).toContain('imported'));
    expect(on.sent.map((s) => s.url)).toEqual(['/api/head', '/api/stage', '/api/sheet']);
    expect(on.sent[2]!.body).toMatchObject({ title: 'bench', setup: { depression: { typed: '28 inH2O' } } });
    expect(on.sent[2]!.body.rows).toHaveLength(3);
    expect(router.currentRoute.value.name).toBe('head');
    expect(exchange.pending).toBeUndefined();
  });
});

describe('a bundle', () => {
  it('is counted first; what differs is kept unless said otherwise; then it comes in with its progress', async () => {
    const { exchange, undo } = await open();
    await exchange.take(file('shop.json', demo));
    await flushPromises();
    expect(dialog().textContent!.replace(/\s+/g, ' ')).toMatch(/heads\s*2\s*1\s*1/);
    const box = dialog().querySelector<HTMLInputElement>('input[type=checkbox]')!;
    box.click();
    await flushPromises();
    button('Import').click();
    await vi.waitFor(() => expect(undo.message).toBe('2 records imported.'));
    expect(on.sent[0]!.url).toBe('/api/bundle?changed=replace');
  });
  it('with problems nothing can be brought in; refused in the middle, the sentence stands', async () => {
    const { exchange } = await open();
    answers.preview = {
      ...preview,
      problems: [{ place: 'heads 1 (x), name', code: 'too_small', message: 'Give it a name.' }],
    };
    await exchange.take(file('shop.json', '{}'));
    await flushPromises();
    expect(dialog().textContent).toContain('1 problem; nothing is imported until the file is corrected.');
    expect(button('Import').disabled).toBe(true);
    on.page.unmount();
    answers.stream = '{"problem":{"detail":"The disk is full; nothing was written."}}\n';
    await on.show(BundleImport, { pending: { kind: 'bundle', name: 'shop.json', text: '{}', preview } });
    serve();
    await on.press('Import');
    await vi.waitFor(() => expect(on.text()).toContain('The disk is full'));
  });
  it('nothing new is said', async () => {
    const same = { counts: [{ noun: 'head', fresh: 0, same: 3, changed: 0 }], problems: [] };
    await on.show(BundleImport, { pending: { kind: 'bundle', name: 'shop.json', text: '{}', preview: same } });
    expect(on.text()).toContain('All of it is here already.');
  });
});

describe('a table of claims', () => {
  it('becomes a bundle on the heads that are here; its problems stand first, its questions beneath', async () => {
    const { exchange } = await open();
    await exchange.take(
      file(
        'claims.csv',
        'source,head,lift,intake,exhaust\nOttermoor flyer,om-230,1.300,250,\nOttermoor flyer,om-230,.500,200,220\n,om-230,.1,3,\n',
      ),
    );
    await flushPromises();
    const { pending } = exchange;
    if (pending?.kind !== 'bundle') throw new Error('It is no bundle.');
    const made = JSON.parse(pending.text);
    expect([made.heads, made.sources]).toEqual([[], []]);
    expect(made.sheets[0]).toMatchObject({ stageId: 'om-received', sourceId: 'ottermoor-flyer', kind: 'claim' });
    expect(pending.preview.problems).toEqual([
      { place: 'line 4, source', code: 'claimWithoutSource', message: 'A claim needs its source.' },
    ]);
    expect(pending.questions).toHaveLength(2);
    expect(dialog().textContent).toContain('lies beyond half the valve’s diameter');
  });
});
