import { readFileSync } from 'node:fs';
import { readBundle, wholesOf } from '@alluvium/records';
import { flushPromises } from '@vue/test-utils';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { usePane } from '../test/pane.js';
import CallAnywhere from './CallAnywhere.vue';
import RoundsPane from './RoundsPane.vue';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const wholes = wholesOf(bundle).filter((w) => ['corrow-417', 'longreach-212'].includes(w.head.id));
let answers: Record<string, unknown> = {};
beforeEach(() => {
  answers = {
    '/api/build': bundle.builds,
    '/api/source': bundle.sources,
    '/api/practice/heads': wholes,
  };
});
const on = usePane((address) => answers[address]);

describe('a round of practice', () => {
  it('asks, keeps the answer, shows the working, and goes on', async () => {
    await on.show(RoundsPane);
    await vi.waitFor(() => expect(on.text()).toMatch(/\?/));
    const asked = on.page.find('h2').text();
    const choices = on.page.findAll('.choices button');
    if (choices.length > 0) await choices[0]!.trigger('click');
    else {
      await on.submit();
      expect(on.text()).toContain('Type a figure.');
      await on.page.find('form input').setValue('200');
      await on.submit();
    }
    await flushPromises();
    const { body } = on.sent[0]! as { body: { question: string; right: boolean; kind: string } };
    expect(body.kind).toBeTruthy();
    expect(on.text()).toMatch(body.right ? /Right\./ : /No\. It is/);
    await on.press('The next one');
    expect(on.page.find('h2').text()).not.toBe(asked);
  });
  it('says what it is made of where there is nothing yet', async () => {
    answers = { '/api/build': bundle.builds };
    await on.show(RoundsPane);
    await flushPromises();
    expect(on.text()).toMatch(/nothing to ask yet|Loading|Waiting/);
  });
});

describe('a call anywhere', () => {
  it('asks for what is missing before it is locked', async () => {
    await on.show(CallAnywhere);
    await on.submit();
    expect(on.page.find('[role=alert]').text()).toBe('Say which head, and at which stage.');
    expect(on.sent).toEqual([]);
  });
});
