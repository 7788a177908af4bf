/** A column's heading such as `intake (cfm)`: its word and its unit. Looked for from the ends, so that no text of brackets takes long. */

/** The word before any bracket. */
export const headingWord = (cell: string): string => {
  const at = cell.search(/[([]/);
  return (at < 0 ? cell : cell.slice(0, at)).trim();
};

/** What stands in the bracket at the end; empty where there is none. */
export function headingUnit(cell: string): string {
  const text = cell.trim();
  if (!text.endsWith(')') && !text.endsWith(']')) return '';
  const open = Math.max(text.lastIndexOf('('), text.lastIndexOf('['));
  return open < 0 ? '' : text.slice(open + 1, -1).trim();
}
