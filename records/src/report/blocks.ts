/** What a report is made of, before anything draws it: the page and the PDF are written from the same blocks. */

export type Block =
  | { readonly kind: 'text'; readonly text: string; readonly tone?: 'lead' | 'note' | 'caution' }
  | { readonly kind: 'list'; readonly items: readonly string[] }
  | {
      readonly kind: 'table';
      readonly head: readonly string[];
      readonly rows: readonly (readonly string[])[];
      /** Columns set flush right. */
      readonly numeric: readonly number[];
      /** Columns that take what room is left; the others are as wide as they need. */
      readonly wide: readonly number[];
    }
  | { readonly kind: 'picture'; readonly svg: string; readonly title: string };

export interface ReportSection {
  readonly title: string;
  readonly blocks: readonly Block[];
  /** Begins a page. */
  readonly page?: boolean;
}

export interface ReportDocument {
  readonly title: string;
  readonly under: string;
  /** The day it is of, 2026-05-31. */
  readonly date: string;
  /** The same as it is printed. */
  readonly day: string;
  readonly sections: readonly ReportSection[];
  /** Wanted on one sheet of paper. */
  readonly oneSheet?: boolean;
}

export const text = (words: string, tone?: 'lead' | 'note' | 'caution'): Block => ({
  kind: 'text',
  text: words,
  ...(tone ? { tone } : {}),
});
export const list = (items: readonly string[]): Block[] => (items.length > 0 ? [{ kind: 'list', items }] : []);
export const table = (
  head: readonly string[],
  rows: readonly (readonly string[])[],
  { numeric = [], wide = [0] }: { readonly numeric?: readonly number[]; readonly wide?: readonly number[] } = {},
): Block[] => (rows.length > 0 ? [{ kind: 'table', head, rows, numeric, wide }] : []);

/** Every word of a report, in order: what a reader of the text alone must find. */
export function wordsOfReport({ title, under, sections }: ReportDocument): string[] {
  const of = (b: Block): string[] => {
    switch (b.kind) {
      case 'text':
        return [b.text];
      case 'list':
        return [...b.items];
      case 'table':
        return [...b.head, ...b.rows.flat()];
      case 'picture':
        return [b.title];
    }
  };
  return [title, under, ...sections.flatMap((s) => [s.title, ...s.blocks.flatMap(of)])].filter((w) => w !== '');
}
