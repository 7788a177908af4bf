/** A rectangle of cells, and the two forms in which a spreadsheet puts one on the clipboard. */
import { splitTable } from '@alluvium/records';

// block[]!: the remainder is a row of the block.

export interface Place {
  readonly row: number;
  readonly column: number;
}

/** From the cell where it was begun to the cell it was drawn to. */
export interface Range {
  readonly from: Place;
  readonly to: Place;
}

export interface Edges {
  readonly top: number;
  readonly bottom: number;
  readonly left: number;
  readonly right: number;
}

export const edgesOf = ({ from, to }: Range): Edges => ({
  top: Math.min(from.row, to.row),
  bottom: Math.max(from.row, to.row),
  left: Math.min(from.column, to.column),
  right: Math.max(from.column, to.column),
});
export const holds = (e: Edges, row: number, column: number): boolean =>
  row >= e.top && row <= e.bottom && column >= e.left && column <= e.right;
export const isOne = (e: Edges): boolean => e.top === e.bottom && e.left === e.right;

const upTo = (first: number, last: number) => Array.from({ length: last - first + 1 }, (_, i) => first + i);
export const rowsOf = (e: Edges): number[] => upTo(e.top, e.bottom);
const columnsOf = (e: Edges): number[] => upTo(e.left, e.right);

/** The cells of a range as rows of text. */
export const blockIn = (e: Edges, text: (row: number, column: number) => string): string[][] =>
  rowsOf(e).map((row) => columnsOf(e).map((column) => text(row, column)));

/** Tabs and line ends, as every spreadsheet takes them. A cell that holds either is quoted. */
export const toTabs = (block: readonly (readonly string[])[]): string =>
  block
    .map((line) => line.map((t) => (/[\t\n\r"]/.test(t) ? `"${t.replaceAll('"', '""')}"` : t)).join('\t'))
    .join('\n');

const escaped = (text: string) => text.replace(/[&<>]/g, (c) => (c === '&' ? '&amp;' : c === '<' ? '&lt;' : '&gt;'));
/** The same as a table of HTML, so that a figure stays in its own cell in a letter or a spreadsheet. */
export const toHtml = (block: readonly (readonly string[])[]): string =>
  `<table>${block.map((line) => `<tr>${line.map((t) => `<td>${escaped(t)}</td>`).join('')}</tr>`).join('')}</table>`;

/** What is on the clipboard as rows of cells: the table of an HTML page where there is one, else its text. */
export function blockFrom(data: Pick<DataTransfer, 'getData'> | null): {
  readonly text: string;
  readonly block: string[][];
} {
  const text = data?.getData('text/plain') || data?.getData('text') || '';
  const html = data?.getData('text/html') ?? '';
  const table = html.includes('<table')
    ? new DOMParser().parseFromString(html, 'text/html').querySelector('table')
    : null;
  if (!table) return { text, block: splitTable(text) };
  const block = [...table.rows].map((row) => [...row.cells].map((cell) => cell.textContent.trim()));
  return { text, block: block.filter((line) => line.some((t) => t !== '')) };
}

/** What goes into each cell when a block is pasted over a range: as it stands, or over and over where the range is a multiple of it. */
export function laidOver(
  block: readonly (readonly string[])[],
  over: Edges,
): { row: number; column: number; text: string }[] {
  const [high, wide] = [over.bottom - over.top + 1, over.right - over.left + 1];
  const widest = Math.max(...block.map((line) => line.length));
  const again = high % block.length === 0 && wide % widest === 0;
  const [rows, columns] = again ? [high, wide] : [block.length, widest];
  return upTo(0, rows - 1).flatMap((r) =>
    upTo(0, columns - 1).flatMap((c) => {
      const text = block[r % block.length]![c % widest];
      return text === undefined ? [] : [{ row: over.top + r, column: over.left + c, text }];
    }),
  );
}
