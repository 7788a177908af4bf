import { addition, removal } from '@alluvium/records';
import { flushPromises } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { defineComponent } from 'vue';
import { mounted } from '../test/mounted.js';
import { useChange, type Acts } from './useChange.js';
import { useUndo } from './undo.js';

let acts: Acts;
let page: ReturnType<typeof mounted>;
let answers: (() => Response | Promise<Response>)[] = [];
const sent: { steps: { do: string }[] }[] = [];
const open = (tell?: 'here') =>
  (page = mounted(
    defineComponent({
      setup() {
        acts = useChange(tell);
        return () => null;
      },
    }),
  ));
beforeEach(() => {
  sent.length = 0;
  answers = [];
  vi.stubGlobal('fetch', async (_: string, init: RequestInit) => {
    sent.push(JSON.parse(init.body as string));
    return answers.shift()!();
  });
});
afterEach(() => {
  page.unmount();
  vi.unstubAllGlobals();
});
const ok = (batch: number) => () => new Response(JSON.stringify({ records: [null], batch, touched: [] }));
const refused = (status: number) => () => new Response(JSON.stringify({ detail: 'No.' }), { status });

describe('a change', () => {
  it('is sent once, said with its way back, and double presses are one', async () => {
    open();
    let answer = (_: Response) => {};
    answers.push(() => new Promise((done) => (answer = done)), ok(2));
    const first = acts.make([removal('finding', 'f')], 'Finding removed.');
    const second = acts.make([removal('finding', 'f')], 'Finding removed.');
    expect(acts.busy.value).toBe(true);
    await flushPromises();
    answer(ok(1)());
    expect(await second).toBeUndefined();
    expect((await first)!.batch).toBe(1);
    expect(sent).toHaveLength(1);
    expect(useUndo().done.map((d) => d.what)).toEqual(['Finding removed.']);
    expect(acts.busy.value).toBe(false);
  });

  it('another one waits its turn, so that none is lost', async () => {
    open();
    answers.push(ok(1), ok(2));
    const both = [acts.make([removal('seat', 'a')], 'A.'), acts.make([removal('seat', 'b')], 'B.')];
    expect((await Promise.all(both)).map((a) => a!.batch)).toEqual([1, 2]);
  });

  it.each([
    ['the server refuses', refused(400), 'No.'],
    ['the server is away', () => Promise.reject(new TypeError('refused')), 'The server does not answer.'],
    ['somebody changed it', refused(409), 'No.'],
  ])('when %s says so and gives undefined', async (_, answer, sentence) => {
    open();
    answers.push(answer as () => Response);
    expect(await acts.make([addition('head', { name: 'x' })], 'Added.')).toBeUndefined();
    expect(useUndo().message).toContain(sentence);
    expect(useUndo().failed).toBe(true);
    expect(useUndo().done).toEqual([]);
    page.unmount();
    open('here');
    answers.push(answer as () => Response);
    await acts.make([addition('head', { name: 'x' })], 'Added.');
    expect(acts.refusal.value).toContain(sentence);
  });
});
