import { execFileSync } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readBundle, wholesOf, wordsOfReport, addition, type ReportDocument } from '@alluvium/records';
import { sayIn } from '@alluvium/core';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { FONTS, fontFor, runsOf } from '../report/fonts.js';
import { pdfOf } from '../report/pdf.js';
import { reportFor, type ReportOrder } from '../report/reportFor.js';
import { demoText, fixture, type Fixture } from './fixture.js';

let folder: string;
let order: ReportOrder;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'alluvium-report-'));
  const { bundle } = readBundle(JSON.parse(await demoText()));
  order = {
    build: bundle.builds.find((b) => b.id === 'slate-six')!,
    view: {
      ways: bundle.ways.filter((w) => w.buildId === 'slate-six'),
      wholes: wholesOf(bundle),
      sources: bundle.sources,
    },
    assumptions: bundle.assumptions,
    ownFactors: bundle.ownFactors,
    checked: new Set(bundle.calibrations.map((c) => c.sourceId)),
    decision: bundle.decisions[0],
    letterhead: bundle.letterheads[0],
    options: { pages: 'customer', workings: false, hidden: false },
    style: 'inch',
    date: '2026-05-31',
    torque: new Map(),
  };
});
afterAll(() => rm(folder, { recursive: true }));

/** The pages of a PDF as text, read by another program. */
async function pagesOf(pdf: Uint8Array): Promise<string[]> {
  const file = join(folder, 'report.pdf');
  await writeFile(file, pdf);
  return execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' }).split('\f').slice(0, -1);
}
/** Processor time of what is done, ms: whatever else the machine does. */
async function costOf(work: () => Promise<unknown>): Promise<number> {
  const before = process.cpuUsage();
  await work();
  const { user, system } = process.cpuUsage(before);
  return (user + system) / 1000;
}
/** Words alone: where a line is broken and how wide a space is does not matter. */
const plain = (text: string) => text.replace(/\s+/g, '').replace(/-/g, '');
const print = (o: Partial<ReportOrder> = {}) => {
  const all = { ...order, ...o };
  return pdfOf(reportFor(all), all.letterhead);
};

describe('a word no line holds', () => {
  it('is broken, so that nine thousand letters without a space are printed like any others', async () => {
    const word = 'Ж'.repeat(9_000);
    expect(
      runsOf(word)
        .map((r) => r.text)
        .join('')
        .split(' ')
        .map((w) => w.length),
    ).toEqual(Array(150).fill(60));
    expect(
      runsOf('a short one')
        .map((r) => r.text)
        .join(''),
    ).toBe('a short one');
    const notes = { ...order.decision!, reasons: 'x'.repeat(9_000) };
    const plainCost = await costOf(() => print());
    const longCost = await costOf(() => print({ decision: notes }));
    // Twenty-five seconds where one took a second, before.
    expect(longCost).toBeLessThan(4 * plainCost);
  });
});

describe('the report on paper', () => {
  it.each([
    ['A4', 'customer', 'inch'],
    ['Letter', 'customer', 'metric'],
    ['A4', 'workshop', 'metric'],
    ['Letter', 'workshop', 'inch'],
  ] as const)('%s, %s, %s: every word is there and nothing runs off the page', async (paper, pages, system) => {
    const letterhead = { ...order.letterhead!, paper };
    const asked = { ...order, letterhead, system, options: { pages, workings: pages === 'workshop', hidden: false } };
    const printed = await pagesOf(await print(asked));
    if (pages === 'customer') expect(printed).toHaveLength(1);
    const found = plain(printed.join('\n'));
    // A table's cell may be broken into lines that stand among those of its neighbours: its words are looked for one by one.
    const missing = wordsOfReport(reportFor(asked))
      .flatMap((w) => w.split(/\s+/))
      .filter((w) => !found.includes(plain(w)));
    expect(missing).toEqual([]);
    printed.forEach((page, i) => expect(page).toContain(`page ${i + 1} of ${printed.length}`));
    expect(found).toContain(plain(letterhead.name));
    expect(found).toContain(plain(letterhead.foot));
    const size = execFileSync('pdfinfo', [join(folder, 'report.pdf')], { encoding: 'utf8' });
    expect(size).toMatch(paper === 'A4' ? /595.* x 841/ : /612 x 792/);
  });
  it('is the same bytes twice: its dates are those of the report', async () => {
    const [one, two] = [await print(), await print()];
    expect(Buffer.from(one).equals(Buffer.from(two))).toBe(true);
    expect(Buffer.from(await print({ date: '2026-06-01' })).equals(Buffer.from(one))).toBe(false);
  });
  it('carries the shop’s mark', async () => {
    const png = await sharp({ create: { width: 60, height: 30, channels: 3, background: '#17707c' } })
      .png()
      .toBuffer();
    const logo = `data:image/png;base64,${png.toString('base64')}`;
    await pagesOf(await print({ letterhead: { ...order.letterhead!, logo } }));
    expect(execFileSync('pdfimages', ['-list', join(folder, 'report.pdf')], { encoding: 'utf8' })).toMatch(
      /image\s+60\s+30/,
    );
  });
  it('a table longer than a page goes on with its heading, no row cut', async () => {
    const rows = Array.from({ length: 140 }, (_, i) => [
      `row ${i}`,
      'as long as it needs to be to go over the end of its line twice, because some notes are',
    ]);
    const report: ReportDocument = {
      title: 'Long',
      under: '',
      date: '2026-05-31',
      day: '2026-05-31',
      sections: [{ title: 'Rows', blocks: [{ kind: 'table', head: ['which', 'note'], rows, numeric: [], wide: [1] }] }],
    };
    const printed = await pagesOf(await pdfOf(report, undefined));
    expect(printed.length).toBeGreaterThan(2);
    for (const page of printed) expect(page).toMatch(/which\s+note/);
    const found = printed.join('\n');
    rows.forEach(([name]) => expect(found).toMatch(new RegExp(`${name}\\b`)));
  });
});

describe('letters', () => {
  it('that the program itself prints all have a font', () => {
    const say = sayIn('inch');
    const own = [
      '≤ ≥ ± − × · ° ² ³ ½ – — … “ ” ‘ ’ → Δ γ π η',
      say.of(-0.0127, 'length'),
      say.of(1, 'powerPerFlow'),
      'ČčŁłÖößÅéñ',
      'Ελλάδα',
      'Нева',
      'Đà Nẵng',
    ];
    for (const text of own) for (const letter of text.replace(/\s/g, '')) expect(fontFor(letter), letter).toBeDefined();
  });
  it('change their font where the first has them not, and are asked about where none has', async () => {
    expect(runsOf('at ≤ 5 Δ')).toEqual([
      { text: 'at ', font: 'Barlow Semi Condensed' },
      { text: '≤ ', font: 'Maths' },
      { text: '5 ', font: 'Barlow Semi Condensed' },
      { text: 'Δ', font: 'Greek' },
    ]);
    expect(runsOf('泥')[0]!.text).toBe('?');
    const report: ReportDocument = {
      title: 'Δ ≤ γ Łódź Нева',
      under: '',
      date: '2026-05-31',
      day: '2026-05-31',
      sections: [],
    };
    expect(plain((await pagesOf(await pdfOf(report, undefined))).join())).toContain(plain('Δ ≤ γ Łódź Нева'));
    expect(Object.keys(FONTS)).toContain('Maths');
  });
});

describe('the report asked of the server', () => {
  let f: Fixture;
  beforeAll(async () => {
    f = await fixture();
    await f.call('POST', '/api/bundle', JSON.parse(await demoText()));
  });
  afterAll(() => f.close());
  const ask = (build: string, asked: object) =>
    f.app.inject({ method: 'POST', url: `/api/build/${build}/report`, payload: asked });
  it('comes as PDF, with what the page has run', async () => {
    const answer = await ask('slate-six', {
      pages: 'customer',
      date: '2026-05-31',
      day: '2026-05-31',
      torque: { 'slate-rework': { value: 310, u: 2 } },
    });
    expect(answer.statusCode).toBe(200);
    expect(answer.headers['content-type']).toBe('application/pdf');
    const [page] = await pagesOf(answer.rawPayload);
    expect(page).toContain('Rework the 417');
    expect(page!.replace(/\s+/g, ' ')).toContain('Run in the engine by simulation it makes 229');
  });
  it('says what is wrong with what was asked', async () => {
    expect((await ask('nobody', { date: '2026-05-31' })).statusCode).toBe(404);
    const bad = await ask('slate-six', { date: 'soon', torque: { 'slate-rework': { value: -1, u: 0 } } });
    expect(bad.statusCode).toBe(400);
    expect(bad.json().fields.map((x: { field: string }) => x.field)).toEqual(['date', 'torque.slate-rework.value']);
    // A build without a way still has a page that says so.
    const none = await ask('tarrow-three', { date: '2026-05-31' });
    expect((await pagesOf(none.rawPayload))[0]).toContain('No way to go is written down yet.');
  });
  it('refuses a mark that is no picture, and one that is too large', async () => {
    const put = (logo: string) =>
      f.call('POST', '/api/change', { steps: [addition('letterhead', { name: 'Shop', logo })] });
    expect((await put('https://somewhere/logo.png')).body.fields[0].message).toContain('PNG or JPEG');
    expect((await put(`data:image/png;base64,${'A'.repeat(300_000)}`)).body.fields[0].message).toContain(
      'under 200 kB',
    );
    // It says that it is a picture, and is none.
    expect(
      (await put(`data:image/png;base64,${Buffer.from('no picture').toString('base64')}`)).body.fields[0].message,
    ).toContain('cannot be read');
  });
});
