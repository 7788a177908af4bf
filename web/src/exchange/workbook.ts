import type { Workbook } from '@alluvium/records';

/**
 * The writer keeps its texts in a plain object, so a cell that says `toString` or `constructor` spoils its file.
 * A space behind the word keeps it whole; readers trim it off again.
 */
const writable = (text: string) => (text in {} ? `${text} ` : text);

/** A workbook's cells as the writer takes them. */
export const cellsOf = (book: Workbook) =>
  book.rows.map((row) =>
    row.map((value) =>
      typeof value === 'number' ? { type: Number, value } : { type: String, value: writable(value) },
    ),
  );
export const optionsOf = (book: Workbook) => ({
  sheet: book.name,
  columns: book.widths.map((width) => ({ width })),
  stickyRowsCount: book.frozen,
});

/** Saves a workbook as an XLSX file. The writer is loaded when first needed. */
export async function saveWorkbook(name: string, book: Workbook): Promise<void> {
  const { default: write } = await import('write-excel-file/browser');
  await write(cellsOf(book), optionsOf(book)).toFile(`${name}.xlsx`);
}

/** No workbook of flow figures unpacks to more, bytes and files. */
const MOST_UNPACKED = 60_000_000;
const MOST_FILES = 500;
export class TooLarge extends Error {}

/** Adds up what a packed file says it unpacks to, without unpacking it. @throws TooLarge. */
async function refuseBomb(file: File): Promise<void> {
  const { unzipSync } = await import('fflate');
  let bytes = 0;
  let files = 0;
  unzipSync(new Uint8Array(await file.arrayBuffer()), {
    filter: ({ originalSize }) => {
      bytes += originalSize;
      files++;
      return false;
    },
  });
  if (bytes > MOST_UNPACKED || files > MOST_FILES)
    throw new TooLarge(
      `${file.name} unpacks to ${Math.round(bytes / 1e6)} MB in ${files} files: no flow sheet is so large.`,
    );
}

/** Cells of the first sheet of a workbook, as text. The reader is loaded when first needed. */
export async function workbookCells(file: File): Promise<string[][]> {
  await refuseBomb(file);
  const { readSheet } = await import('read-excel-file/browser');
  return textsOf(await readSheet(file));
}

/** A number loses its last noughts in a workbook: a lift in inches is written with three figures, as it is spoken. */
const liftText = (value: number): string =>
  Math.abs(value * 1000 - Math.round(value * 1000)) < 1e-6 ? value.toFixed(3).replace(/^0\./, '.') : String(value);

export function textsOf(rows: readonly (readonly unknown[])[]): string[][] {
  const heading = rows.findIndex((row) => row.some((cell) => cell === 'lift (in)'));
  const lift = rows[heading]?.indexOf('lift (in)') ?? -1;
  return rows.map((row, at) =>
    row.map((cell, column) => {
      if (cell === null || cell === undefined) return '';
      if (cell instanceof Date) return cell.toISOString().slice(0, 10);
      return typeof cell === 'number' && column === lift && at > heading ? liftText(cell) : String(cell);
    }),
  );
}
