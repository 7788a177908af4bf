import { beforeEach, describe, expect, it } from 'vitest';
import { draftKey, dropDraft, keepDraft, keptDrafts } from './drafts.js';

beforeEach(() => {
  localStorage.clear();
  history.replaceState({}, '', '/heads/h?stage=s');
});

describe('drafts that are not saved', () => {
  it('are kept with their name and the page they were typed on, and let go together', () => {
    const key = draftKey('sheet', 'new:s');
    keepDraft(key, { title: 'Bench 1', rows: [] });
    expect(keptDrafts()).toEqual([{ key, noun: 'sheet', name: 'Bench 1', place: '/heads/h?stage=s' }]);
    dropDraft(key);
    expect(keptDrafts()).toEqual([]);
    expect(localStorage.length).toBe(0);
  });
  it('of before a place was kept are listed without one; what cannot be read is left alone', () => {
    localStorage.setItem('alluvium.draft.head.a', '{"name":""}');
    localStorage.setItem('alluvium.draft.head.b', '{broken');
    expect(keptDrafts()).toEqual([{ key: 'alluvium.draft.head.a', noun: 'head', name: '', place: undefined }]);
    expect(localStorage.getItem('alluvium.draft.head.b')).toBe('{broken');
  });
});
