/** Text to table and back: comma, semicolon or tab, whatever stands in the cells. */
import Papa from 'papaparse';

// DELIMITERS[]!: one was met the most.

const DELIMITERS = ['\t', ';', ','] as const;

/** What stands between quotes is not counted: a `;` in a note is no delimiter. */
const outsideQuotes = (text: string): string => text.replace(/"(?:[^"]|"")*"/g, '""');

/** The delimiter that most lines use; undefined when none does, and for a block of figures parted by blanks. */
function delimiterOf(text: string): string | undefined {
  const lines = outsideQuotes(text)
    .split(/\r\n?|\n/)
    .filter((l) => l.trim() !== '');
  const used = DELIMITERS.map((d) => lines.filter((l) => l.includes(d)).length);
  const most = Math.max(...used);
  if (most === 0) return undefined;
  const found = DELIMITERS[used.indexOf(most)]!;
  // `.100 58,2 44,1` is parted by blanks: its commas are decimal.
  const blanks = lines.filter((l) => /^\s*[\d.,]+\s+[\d.,]+/.test(l)).length;
  return found === ',' && blanks >= most ? undefined : found;
}

/** A text that a spreadsheet would run gets a quote before it when it is written, and loses it when it is read. */
const RUNS = /^'*[=@\t\r]|^'*[+-]/;
const NUMBER = /^[+-]?(\d+(\.\d*)?|\.\d+)(e[+-]?\d+)?$/i;
const escaped = (cell: string): string => (RUNS.test(cell) && !NUMBER.test(cell) ? `'${cell}` : cell);
const unescaped = (cell: string): string => (/^'+[=@+\-\t\r]/.test(cell) ? cell.slice(1) : cell);

/** Splits a text into cells: tab, semicolon or comma, whichever it uses; else runs of blanks. */
export function splitTable(text: string): string[][] {
  const clean = text.replace(/^\uFEFF/, '');
  const delimiter = delimiterOf(clean);
  if (delimiter === undefined)
    return clean
      .split(/\r\n?|\n/)
      .filter((l) => l.trim())
      .map((l) => l.trim().split(/\s+/));
  const { data } = Papa.parse<string[]>(clean, { delimiter, skipEmptyLines: 'greedy' });
  return data.map((row) => row.map(unescaped));
}

/**
 * CSV text that reads back equal, and that a spreadsheet opens with every letter right: marked as UTF-8, every cell that
 * holds a delimiter quoted, nothing in it run as a formula.
 */
export const toCsv = (table: readonly (readonly (string | number)[])[]): string =>
  '\uFEFF' +
  Papa.unparse(
    table.map((row) => row.map((cell) => (typeof cell === 'number' ? cell : escaped(cell)))),
    { newline: '\r\n', quotes: (cell: unknown) => typeof cell === 'string' && /[;,\t\r\n"]|^\s|\s$/.test(cell) },
  ) +
  '\r\n';
