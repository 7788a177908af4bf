import { flushPromises } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { useUndo } from '../data/undo.js';
import { mounted, type Mounted } from '../test/mounted.js';
import SaidLine from './SaidLine.vue';

describe('the message', () => {
  let line: Mounted;
  let undo: ReturnType<typeof useUndo>;
  beforeEach(() => {
    line = mounted(SaidLine);
    undo = line.vm.$.appContext.app.runWithContext(() => useUndo());
  });
  afterEach(async () => {
    undo.dismiss();
    await flushPromises();
    line.unmount();
  });
  const shown = () => [...document.querySelectorAll('.said [role=status]')];
  const press = async (name: string) => {
    const button = [...document.querySelectorAll<HTMLElement>('.said button')].find(
      (b) => (b.getAttribute('aria-label') ?? b.textContent.trim()) === name,
    );
    expect(button, name).toBeDefined();
    button!.click();
    await flushPromises();
  };

  it('says what was done with its way back, and then what came of that, in one place', async () => {
    let there = false;
    undo.didHere(
      'Head removed.',
      () => (there = true),
      () => (there = false),
    );
    await flushPromises();
    expect(shown()).toHaveLength(1);
    expect(shown()[0]!.textContent).toContain('Head removed.');
    await press('Undo');
    expect(there).toBe(true);
    expect(shown()).toHaveLength(1);
    expect(shown()[0]!.textContent).toContain('Undone: Head removed.');
    expect(shown()[0]!.textContent).not.toMatch(/Undo(?!ne)/);
  });
  it('a refusal is marked, stays, and goes when it was read', async () => {
    undo.refused('The server does not answer.');
    await flushPromises();
    expect(shown()[0]!.classList.contains('failed')).toBe(true);
    await press('Dismiss');
    expect(undo.message).toBe('');
  });
  it('Esc puts it away: what is said is no longer said', async () => {
    undo.announce('Saved.');
    await flushPromises();
    document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', code: 'Escape' }));
    await flushPromises();
    expect(undo.message).toBe('');
  });
});
