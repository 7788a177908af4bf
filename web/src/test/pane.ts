import { flushPromises } from '@vue/test-utils';
import { afterEach, beforeEach, vi } from 'vitest';
import { createMemoryHistory, createRouter } from 'vue-router';
import { mounted } from './mounted.js';

/** Pages a component may name. */
const STEPS = ['target', 'heads', 'head', 'arrival', 'measure', 'bench', 'session', 'compare', 'claims', 'match'];

export interface Sent {
  readonly method: string;
  readonly url: string;
  readonly body: any;
}

/**
 * One component on a page whose server is made up: `answer` says what is read from an address (undefined: an empty list),
 * what a change by `POST /api/…` is answered with, refused where it has a status. What is sent is kept, and else answered
 * as stored.
 */
export function usePane(answer: (address: string) => unknown = () => undefined) {
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
      sent.push({ method, url, body });
      const said = answer(`${method} ${url}`) as { status?: number } | undefined;
      if (said?.status) return new Response(JSON.stringify(said), { status: said.status });
      const record = said ?? { ...body, id: body.id ?? 'new', version: 2 };
      return new Response(JSON.stringify({ record, batch: sent.length }));
    });
  });
  afterEach(async () => {
    // A text box measures itself a tick after it changed: let it, before it goes.
    await flushPromises();
    page?.unmount();
    page = undefined;
    vi.unstubAllGlobals();
  });
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
      page = mounted(component as never, { props }, router);
      await flushPromises();
      return router;
    },
    field,
    /** Chooses an option by what it says. */
    pick: async (label: string, text: string) => {
      const select = field(label);
      const option = found(
        select.findAll('option').find((o) => o.text() === text),
        `“${text}” in ${label}`,
      );
      await select.setValue(option.attributes('value'));
      await flushPromises();
    },
    press: async (text: string) => {
      const button = found(
        page!.findAll('button').find((b) => b.text().startsWith(text) || b.attributes('aria-label')?.startsWith(text)),
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
