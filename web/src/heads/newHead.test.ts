import { flushPromises } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import { usePane } from '../test/pane.js';
import NewHead from './NewHead.vue';

let away = false;
const on = usePane((address) =>
  address === 'POST /api/head' && away ? { status: 503, detail: 'Not now.' } : undefined,
);

describe('a new head', () => {
  it('is one change with its stage and sizes; what is typed is kept until it is added, and sent twice it is one', async () => {
    away = true;
    await on.showAt('/heads', NewHead);
    await on.field('Name').setValue('Iron one');
    await on.field('Intake valve').setValue('1.72');
    await flushPromises();
    expect(localStorage.getItem('alluvium.draft.head.new')).toContain('Iron one');
    await on.submit();
    expect(on.page.find('[role=alert]').exists()).toBe(true);
    const first = [...on.sent];
    expect(first.map((s) => [s.method, s.url])).toEqual([
      ['POST', '/api/head'],
      ['POST', '/api/stage'],
      ['POST', '/api/measure'],
    ]);
    on.page.unmount();
    // Another day: the draft is there, its ids with it.
    away = false;
    on.forget();
    const router = await on.showAt('/heads', NewHead);
    expect(on.field('Name').element.value).toBe('Iron one');
    await on.submit();
    expect(on.sent.map((s) => s.body.id)).toEqual(first.map((s) => s.body.id));
    await flushPromises();
    expect(router.currentRoute.value).toMatchObject({ name: 'head', query: { sheet: 'new' } });
    expect(localStorage.getItem('alluvium.draft.head.new') ?? '').not.toContain('Iron one');
  });
});
