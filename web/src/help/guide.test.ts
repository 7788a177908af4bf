import { describe, expect, it } from 'vitest';
import { STEPS } from '../app/router.js';
import { CHAPTERS, chaptersOf, htmlOf } from './guide.js';

describe('the guide', () => {
  it('is cut at its chapters', () => {
    expect(chaptersOf('# All\n\nBefore.\n\n## One\n\nText.\n\n### Under\n\nMore.\n\n## The second\nEnd.')).toEqual([
      { id: 'one', title: 'One', text: 'Text.\n\n### Under\n\nMore.' },
      { id: 'the-second', title: 'The second', text: 'End.' },
    ]);
  });
  it('has a chapter for every step of the work', () => {
    const ids = CHAPTERS.map((c) => c.id);
    for (const { name } of STEPS) expect(ids).toContain(name);
  });
  it('is shown as text that leads nowhere but within', () => {
    const html = htmlOf({ id: 'x', title: 'X', text: 'See [methods](methods.md) and [care](#care).\n\n- **one**' });
    expect(html).toContain('See methods and <a href="#care">care</a>');
    expect(html).toContain('<strong>one</strong>');
    for (const chapter of CHAPTERS) expect(htmlOf(chapter)).not.toMatch(/<script|href="[^#]/);
  });
});
