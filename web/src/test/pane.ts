import { flushPromises } from '@vue/test-utils';
import { afterEach, beforeEach, vi } from 'vitest';
import { createMemoryHistory, createRouter } from 'vue-router';
import { changed, sentIn, type Sent } from './changes.js';
import { mounted } from './mounted.js';

/** Pages a component may name. */
const STEPS = [
  'target',
  'heads',
  'head',
  'arrival',
  'measure',
  'bench',
  'session',
  'compare',
  'claims',
  'match',
  'simulate',
  'change',
  'decide',
  'report',
  'practice',
  'backups',
];

/**
 * One component on a page whose server is made up: `answer` says what is read from an address (undefined: an empty list),
 * what a change by `POST /api/…` is answered with, refused where it has a status. What is sent is kept, and else answered
 * as stored.
 */
export function usePane(answer: (address: string, body?: any) => unknown = () => undefined) {
  let sent: Sent[] = [];
  let page: ReturnType<typeof mounted> | undefined;
  beforeEach(() => {
    sent = [];
    localStorage.clear();
    vi.stubGlobal('fetch', async (url: string, init: RequestInit = {}) => {
      const method = init.method ?? 'GET';
      if (method === 'GET') {
        const body = answer(url) ?? (url.endsWith('/lineup') ? { entries: [], sources: [] } : []);
        return new Response(JSON.stringify(body), { status: body instanceof Missing ? 404 : 200 });
      }
      const body = typeof init.body === 'string' ? (JSON.parse(init.body) as Record<string, unknown>) : {};
      // Asked in a body because it is long: nothing is changed by it.
      if (url === '/api/claims/band' || url === '/api/claims/family')
        return new Response(JSON.stringify(answer(url, body) ?? { views: [] }));
      const steps = sentIn(method, url, body);
      sent.push(...steps);
      const said = steps.map((s) => answer(`${s.method} ${s.url}`) as { status?: number } | undefined);
      const refused = said.findIndex((s) => s?.status);
      if (refused >= 0)
        return new Response(JSON.stringify({ step: refused, ...said[refused] }), { status: said[refused]!.status! });
      const answered = changed(steps, sent.length);
      const records = answered.records.map((r, i) => said[i] ?? r);
      return new Response(
        JSON.stringify(url === '/api/change' ? { ...answered, records } : { ...answered, record: records[0] }),
      );
    });
  });
  afterEach(async () => {
    // A text box measures itself a tick after it changed: let it, before it goes.
    await flushPromises();
    leave();
    vi.unstubAllGlobals();
  });
  /** No page is left behind: it would go on listening in the next test. */
  const leave = () => {
    if (page?.element.isConnected) page.unmount();
    page = undefined;
  };
  const found = <T>(what: T | undefined, name: string): T => {
    if (what === undefined) throw new Error(`No ${name}.`);
    return what;
  };
  const field = (label: string) => {
    const all = page!.findAll('label');
    const own = found(
      all.find((l) => l.text() === label) ?? all.find((l) => l.text().startsWith(label)),
      `field “${label}”`,
    );
    return page!.find<HTMLInputElement>(`[id="${own.attributes('for')}"]`);
  };
  /** A list by its label or its name: only what is in view of it is in the page, and only once it was opened. */
  const choices = (label: string) => {
    const lists = page!.findAllComponents({ name: 'ElSelectV2' });
    const named = lists.find((c) => c.props('ariaLabel') === label);
    if (named) return named;
    const { id } = field(label).attributes();
    return lists.find((c) => c.props('id') === id);
  };
  return {
    get sent() {
      return sent;
    },
    /** Forgets what was sent so far. */
    forget: () => {
      sent = [];
    },
    get page() {
      return page!;
    },
    show: async (component: object, props: Record<string, unknown> = {}) => {
      leave();
      page = mounted(component as never, { props });
      await flushPromises();
      return page;
    },
    /** Shows a component at an address of its page. */
    showAt: async (address: string, component: object, props: Record<string, unknown> = {}) => {
      const router = createRouter({
        history: createMemoryHistory(),
        routes: STEPS.map((name) => ({ path: `/${name}/:id?`, name, component: { render: () => null } })),
      });
      await router.push(address);
      leave();
      page = mounted(component as never, { props }, router);
      await flushPromises();
      return router;
    },
    field,
    /** Chooses an option by what it says. */
    pick: async (label: string, text: string) => {
      const list = choices(label);
      if (list) {
        const option = found(
          list.props('options').find((o: { label: string }) => o.label === text),
          `“${text}” in ${label}`,
        );
        list.vm.$emit('update:modelValue', option.value);
        return flushPromises();
      }
      await field(label).trigger('click');
      await flushPromises();
      const shown = [...document.querySelectorAll<HTMLElement>('.el-select-dropdown__item')];
      found(
        shown.find((o) => o.textContent?.trim() === text),
        `“${text}” in ${label}`,
      ).click();
      await flushPromises();
    },
    /** Types into a list that is searched. */
    search: async (label: string, text: string) => {
      await field(label).trigger('click');
      await field(label).setValue(text);
      await flushPromises();
    },
    /** What a list offers, in its order. */
    offered: (label: string): string[] =>
      found(choices(label), label)
        .props('options')
        .map((o: { label: string }) => o.label),
    press: async (text: string) => {
      const button = found(
        page!
          .findAll('button, [role=tab], .el-radio-button')
          .find((b) => b.text().startsWith(text) || b.attributes('aria-label')?.startsWith(text)),
        `button “${text}”`,
      );
      await button.trigger('click');
      await flushPromises();
    },
    submit: async () => {
      await page!.find('form').trigger('submit');
      await flushPromises();
    },
    /** What the page says, blanks made plain. */
    text: () => page!.text().replaceAll('\u00a0', ' ').replace(/\s+/g, ' '),
  };
}

/** An answer of “there is no such record”. */
export class Missing {
  readonly detail = 'There is nothing at this address.';
}
