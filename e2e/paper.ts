/** What a page loses between the screen and the paper: printed for real, and read back word by word. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';

/** Words the page shows under its print style: text, and what stands in its fields. Runs in the page. */
function wordsShown(): string[] {
  const texts: string[] = [];
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT | NodeFilter.SHOW_ELEMENT);
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const element = node instanceof Element ? node : node.parentElement!;
    if (['SCRIPT', 'STYLE', 'TITLE', 'ANNOTATION'].includes(element.tagName.toUpperCase())) continue;
    if (element.closest('.katex-mathml, .unseen, [aria-hidden="true"], option')) continue;
    if (!element.checkVisibility({ opacityProperty: true, visibilityProperty: true })) continue;
    const box = element.getBoundingClientRect();
    if (box.width < 2 || box.height < 2 || box.right < 0 || box.bottom < 0) continue;
    if (node instanceof Text) texts.push(node.data);
    else if (node instanceof HTMLInputElement && !['checkbox', 'radio', 'file', 'range'].includes(node.type))
      texts.push(node.value);
  }
  return [...new Set(texts.flatMap((t) => t.split(/\s+/)))].filter((w) => /[\p{L}\p{N}]{2}/u.test(w));
}

interface Word {
  readonly text: string;
  readonly sheet: number;
  readonly box: readonly [left: number, top: number, right: number, bottom: number];
}
interface Sheet {
  readonly width: number;
  readonly height: number;
}

const entities: Readonly<Record<string, string>> = {
  '&amp;': '&',
  '&lt;': '<',
  '&gt;': '>',
  '&quot;': '"',
  '&#39;': "'",
  '&apos;': "'",
};

function readPdf(file: string): { sheets: Sheet[]; words: Word[] } {
  const html = execFileSync('pdftotext', ['-bbox', file, '-'], { encoding: 'utf8', maxBuffer: 64 * 1024 * 1024 });
  const sheets: Sheet[] = [];
  const words: Word[] = [];
  for (const [, tag, attributes, text] of html.matchAll(/<(page|word) ([^>]*)>(?:([^<]*)<\/word>)?/g)) {
    const value = (name: string) => Number(new RegExp(`${name}="([^"]*)"`).exec(attributes!)?.[1]);
    if (tag === 'page') sheets.push({ width: value('width'), height: value('height') });
    else
      words.push({
        text: text!.replace(/&[a-z#0-9]+;/g, (e) => entities[e] ?? e),
        sheet: sheets.length - 1,
        box: [value('xMin'), value('yMin'), value('xMax'), value('yMax')],
      });
  }
  return { sheets, words };
}

/** Letters as a reader sees them: ligatures taken apart, signs of one look alike. */
const plain = (text: string) => text.normalize('NFKC').replace(/[\u00ad\u200b\s]/g, '');

/** Prints a page into a file that is there while it is read. */
export async function asPdf<T>(
  page: Page,
  format: 'A4' | 'Letter',
  read: (file: string) => T | Promise<T>,
): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), 'print-'));
  try {
    const file = join(folder, 'page.pdf');
    await page.pdf({ path: file, format });
    return await read(file);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** Sheets of the printed page, and what is wrong with them in sentences: words lost, words past the edge of the sheet. */
export async function printedFaults(page: Page, format: 'A4' | 'Letter'): Promise<string[]> {
  await page.emulateMedia({ media: 'print' });
  const shown = await page.evaluate(wordsShown);
  try {
    const { sheets, words } = await asPdf(page, format, readPdf);
    // What a page was still working out may have changed meanwhile.
    const after = new Set(await page.evaluate(wordsShown));
    const text = plain(words.map((w) => w.text).join(''));
    const lost = shown.filter((w) => after.has(w) && !text.includes(plain(w)));
    const cut = words.filter(({ sheet, box: [left, top, right, bottom] }) => {
      const { width, height } = sheets[sheet]!;
      return left < -1 || top < -1 || right > width + 1 || bottom > height + 1;
    });
    return [
      ...(lost.length > 0 ? [`${format}: not on paper: ${lost.slice(0, 12).join(' ')}`] : []),
      ...(cut.length > 0
        ? [
            `${format}: past the edge: ${cut
              .slice(0, 12)
              .map((w) => w.text)
              .join(' ')}`,
          ]
        : []),
    ];
  } finally {
    await page.emulateMedia({ media: null });
  }
}
