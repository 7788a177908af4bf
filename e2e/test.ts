import { execFileSync } from 'node:child_process';
import { expect, test as base, type Locator, type Page } from '@playwright/test';
import { asPdf } from './paper.js';
import type { RunningServer, Template } from './server.js';
import { SharedServers } from './shared.js';

/**
 * A test on data of its own: `test.use({ data: 'empty' })` has none of the demo. One server a worker serves them all, put
 * back as it was before each; a test that stops its server starts one for itself. Page errors fail it.
 */
export const test = base.extend<
  { data: Template; server: Pick<RunningServer, 'url'>; sound: void },
  { shared: SharedServers }
>({
  shared: [
    async ({}, use) => {
      const shared = new SharedServers();
      await use(shared);
      await shared.stop();
    },
    { scope: 'worker' },
  ],
  data: ['demo', { option: true }],
  server: async ({ data, shared }, use) => use({ url: await shared.fresh(data) }),
  baseURL: async ({ server }, use) => use(server.url),
  sound: [
    async ({ page }, use) => {
      const errors: string[] = [];
      page.on('pageerror', (e) => errors.push(e.message));
      page.on('console', (m) => {
        // A refused or conflicting save is an answer the page shows; the browser also logs it.
        if (m.type() === 'error' && !/status of (4\d\d)/.test(m.text())) errors.push(m.text());
      });
      await use();
      expect(errors).toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

/**
 * Goes to a place of the application as a link there would: by its router where the page runs it, else by loading it. Where
 * it is the loading that is tried, a journey says `page.goto`.
 */
export async function go(page: Page, place: string): Promise<void> {
  const here = page.url();
  const to = here.startsWith('http') ? new URL(place, here) : undefined;
  const led =
    to !== undefined &&
    to.origin === new URL(here).origin &&
    (await page.evaluate(
      async (path) => {
        interface Mounted extends Element {
          __vue_app__?: { config: { globalProperties: { $router: { push: (path: string) => Promise<unknown> } } } };
        }
        const { __vue_app__: app } = document.querySelector<Mounted>('#app') ?? {};
        const refused = await app?.config.globalProperties.$router.push(path);
        // Until it is on the page: what stood there before answers to the same names.
        await new Promise((drawn) => requestAnimationFrame(() => setTimeout(drawn)));
        return app !== undefined && refused === undefined;
      },
      to.pathname + to.search + to.hash,
    ));
  if (!led) await page.goto(place);
}

/** Types into the field that has focus, then moves on. */
export async function typeOn(page: Page, ...texts: string[]): Promise<void> {
  for (const text of texts) {
    if (text) await page.keyboard.insertText(text);
    await page.keyboard.press('Tab');
  }
}

/** Presses Tab until this has the focus: it must be reached by the keyboard alone. */
export async function tabTo(page: Page, what: Locator, most = 120): Promise<void> {
  await what.waitFor();
  for (let i = 0; i < most; i++) {
    if (await what.evaluate((e) => e === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`Not reached by ${most} presses of Tab.`);
}

/** A page's print, as the text of its sheets. */
export const printed = (page: Page, format: 'A4' | 'Letter'): Promise<string[]> =>
  asPdf(page, format, (file) =>
    execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' }).split('\f').slice(0, -1),
  );

/** Chooses from a list that opens: by its label, then by what the option says. */
export async function choose(page: Page, label: string, option: string | RegExp): Promise<void> {
  const field = page.getByRole('combobox', { name: label, exact: true });
  await wrapper(field).click();
  await page.getByRole('option', { name: option }).click();
}

const wrapper = (field: Locator) => field.locator('xpath=ancestor::*[contains(@class, "el-select__wrapper")]');

/** The same by the field itself, searched by typing where the list takes it. */
export async function pick(field: Locator, option: string | { index: number }): Promise<void> {
  await wrapper(field).click();
  const shown = field
    .page()
    .locator(`[id="${await field.getAttribute('aria-controls')}"]`)
    .getByRole('option');
  if (typeof option === 'object') return shown.nth(option.index).click();
  if (await field.isEditable()) await field.fill(option);
  await shown.filter({ has: field.page().getByText(option, { exact: true }) }).click();
}

/** What a list says is chosen. */
export const chosen = (field: Locator) => wrapper(field);

/** The way to a step of the work, at the left. */
export const step = (page: Page, name: string) =>
  page
    .getByRole('navigation', { name: 'Steps of the work' })
    .getByRole('link', { name: new RegExp(`^${name}(\\s|$)`) });

/** Puts a text on the clipboard's path: a paste event as a browser would send it. */
export async function paste(page: Page, text: string): Promise<void> {
  await page.evaluate((t) => {
    const data = new DataTransfer();
    data.setData('text', t);
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  }, text);
}

/** Drops a file on the page, as from a folder. */
export async function dropFile(page: Page, name: string, content: string | Buffer, type = 'text/plain'): Promise<void> {
  await page.evaluate(
    ([n, base64, t]) => {
      const bytes = Uint8Array.from(atob(base64!), (c) => c.charCodeAt(0));
      const data = new DataTransfer();
      data.items.add(new File([bytes], n!, { type: t! }));
      document.body.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));
    },
    [name, Buffer.from(content).toString('base64'), type],
  );
}

/** One of a row of alike things, of which one is chosen: pressed where its word stands. */
export const oneOf = (within: Page | Locator, name: string) =>
  within.getByRole('radio', { name, exact: true }).locator('xpath=ancestor::label');
