/** The tables and drawings of a page as it stands, for taking away: what is shown is what is saved, in the units shown. */

export interface PageTable {
  readonly title: string;
  readonly rows: readonly (readonly string[])[];
}

export interface PageDrawing {
  readonly title: string;
  readonly svg: SVGSVGElement;
}

const seen = (element: Element) => element.checkVisibility?.() ?? true;

/** What a thing on the page is called: its own name, else the heading it stands under. */
function titleOf(element: Element, root: ParentNode): string {
  const named =
    element.getAttribute('aria-label') ?? element.querySelector(':scope > caption, :scope > title')?.textContent;
  // A drawing that tells its whole content aloud begins with what it is.
  if (named?.trim()) return named.replace(/[;:].*$/s, '').trim();
  const headings = [...root.querySelectorAll('h1, h2, h3')].filter(
    (h) => h.compareDocumentPosition(element) & Node.DOCUMENT_POSITION_FOLLOWING,
  );
  return headings.at(-1)?.textContent.trim() ?? '';
}

/** Text of a cell with what stands in its fields; words that can be pressed to do something are no part of it. */
function textOf(node: Node): string {
  if (node.nodeType === Node.TEXT_NODE) return node.textContent ?? '';
  if (!(node instanceof Element)) return '';
  if (node instanceof HTMLInputElement || node instanceof HTMLSelectElement || node instanceof HTMLTextAreaElement)
    return node instanceof HTMLInputElement && node.type === 'checkbox' ? (node.checked ? 'yes' : 'no') : node.value;
  if (node.matches('.el-button, svg, [aria-hidden="true"], [role="alert"]') || !seen(node)) return '';
  return [...node.childNodes].map(textOf).join(' ');
}

/** A cell as it is shown, on one line. */
const shownIn = (cell: Element): string =>
  textOf(cell)
    .replace(/[\s\u00a0\u202f]+/g, ' ')
    .replace(/ ([,;:)%°]|\.(?!\d))/g, '$1')
    .trim();

/** A plain figure as a number, also with a sign; anything else as it is written. */
export function valueOf(text: string): string | number {
  const plain = text.replace('−', '-').replace(/^\+/, '');
  return /^-?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : text;
}

function rowsOf(table: HTMLTableElement): string[][] {
  return [...table.rows]
    .filter((row) => seen(row) && !row.classList.contains('says'))
    .map((row) =>
      [...row.cells].flatMap((cell) => [
        shownIn(cell),
        ...Array.from({ length: Math.max(0, cell.colSpan - 1) }, () => ''),
      ]),
    )
    .filter((row) => row.some((value) => value !== ''));
}

/** Names told apart by a number where several are alike. */
function apart<T extends { readonly title: string }>(all: readonly T[], plain: string): T[] {
  const times = new Map<string, number>();
  return all.map((one) => {
    const title = one.title || plain;
    const n = (times.get(title) ?? 0) + 1;
    times.set(title, n);
    return { ...one, title: n === 1 ? title : `${title} (${n})` };
  });
}

/** Tables of more than a line that are shown. */
export const tablesOf = (root: ParentNode): PageTable[] =>
  apart(
    [...root.querySelectorAll('table')]
      .filter((table) => seen(table) && !table.closest('.no-print'))
      .map((table) => ({ title: titleOf(table, root), rows: rowsOf(table) }))
      .filter(({ rows }) => rows.length > 1),
    'Table',
  );

/** Smaller drawings are marks beside words, px. */
const LEAST = 120;
export const drawingsOf = (root: ParentNode): PageDrawing[] =>
  apart(
    [...root.querySelectorAll<SVGSVGElement>('svg')]
      .filter((svg) => seen(svg) && svg.getBoundingClientRect().width >= LEAST && !svg.parentElement?.closest('svg'))
      .map((svg) => ({ title: titleOf(svg, root), svg })),
    'Drawing',
  );
