import { readFileSync } from 'node:fs';
import { readBundle, wholesOf } from '@alluvium/records';
import { h } from 'vue';
import { useLineup } from '../data/queries.js';
import { beforeEach, describe, expect, it } from 'vitest';
import { Missing, usePane } from '../test/pane.js';
import SeveralHeads from './SeveralHeads.vue';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const wholes = wholesOf(bundle);
const slate = bundle.builds.find((b) => b.id === 'slate-six')!;
const view = (count: number) => ({
  sources: [],
  entries: bundle.lineups
    .filter((l) => l.buildId === slate.id)
    .slice(0, count)
    .map((entry) => ({ entry, whole: wholes.find((w) => w.stages.some((s) => s.id === entry.stageId)) })),
});
let answers: unknown[] = [];
const on = usePane((address) =>
  address === '/api/build'
    ? [slate]
    : address.endsWith('/lineup') && !address.startsWith('PUT')
      ? answers.length > 1
        ? answers.shift()
        : answers[0]
      : undefined,
);
const chosen = wholes.at(-1)!;
const heads = [{ head: chosen.head, latestStage: chosen.stages.at(-1) }];
/** Beside the lineup as it was read when the page opened. */
const onScreen = {
  setup() {
    useLineup(slate.id);
    return () => h(SeveralHeads, { heads } as never);
  },
};
const written = () => on.sent.filter((s) => s.url.endsWith('/lineup')).map((s) => (s.body as any).entries.length);

beforeEach(() => {
  answers = [];
});

describe('adding to the lineup, which is written as a whole', () => {
  it('keeps what another window put in since it was read', async () => {
    answers = [view(1), view(2)];
    await on.show(onScreen);
    await on.press('Add to the lineup');
    expect(written()).toEqual([3]);
  });
  it('writes nothing while it is not known what stands in it, and says why', async () => {
    answers = [new Missing()];
    await on.show(SeveralHeads, { heads });
    await on.press('Add to the lineup');
    expect(written()).toEqual([]);
    expect(on.page.find('[role="alert"]').text()).not.toBe('');
  });
});
