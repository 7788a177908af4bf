/** The user guide as it is in the docs, cut at its headings. */
import { marked } from 'marked';
import text from '../../../docs/guide.md?raw';

export interface Chapter {
  /** For addresses: the heading in small letters. */
  readonly id: string;
  readonly title: string;
  readonly text: string;
}

const chapterId = (title: string): string => title.toLowerCase().replace(/[^a-z]+/g, '-');

/** Chapters of a text by its second-level headings; what stands before the first is left out. */
export function chaptersOf(markdown: string): Chapter[] {
  return markdown
    .split(/^## /m)
    .slice(1)
    .map((part) => {
      const [title = '', ...rest] = part.split('\n');
      return { id: chapterId(title.trim()), title: title.trim(), text: rest.join('\n').trim() };
    });
}

/** A chapter as HTML; links into other documents are words only, since the page has none but the guide. */
export function htmlOf(chapter: Chapter): string {
  const plain = chapter.text.replace(/\[([^\]]+)\]\((?!#)[^)]*\)/g, '$1').replace(/!\[[^\]]*\]\([^)]*\)/g, '');
  return marked.parse(plain, { async: false });
}

export const CHAPTERS = chaptersOf(text);
