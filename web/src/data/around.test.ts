import { afterEach, describe, expect, it } from 'vitest';
import { inDemo, layAside, takeUp } from './around.js';

afterEach(() => localStorage.clear());

describe('what a browser keeps of its own shop', () => {
  it('is laid aside in the demo and taken up again, with nothing of the demo left', () => {
    localStorage.setItem('alluvium.theme', 'night');
    localStorage.setItem('alluvium.draft.one', 'mine');
    localStorage.setItem('other', 'untouched');
    layAside();
    expect(localStorage.getItem('alluvium.draft.one')).toBeNull();
    expect(localStorage.getItem('alluvium.theme')).toBe('night');
    localStorage.setItem('alluvium.draft.one', 'slate-six');
    localStorage.setItem('alluvium.draft.two', 'of the demo');
    takeUp();
    expect(localStorage.getItem('alluvium.draft.one')).toBe('mine');
    expect(localStorage.getItem('alluvium.draft.two')).toBeNull();
    expect(localStorage.getItem('other')).toBe('untouched');
    expect(inDemo()).toBe(false);
  });
});
