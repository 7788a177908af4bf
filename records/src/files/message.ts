// f!, m[]!: parts of the pattern that are always met.

/** Flow figures as they stand in a message, `300: 149/110, 400: 172/126` or `200/115 320/180`: read into rows, never guessed. */

const FIGURE = String.raw`(?:\d{1,4}(?:[.,]\d+)?|[.,]\d+)`;
/** A lift, then intake and exhaust with a stroke between. */
const TRIPLE = new RegExp(
  String.raw`(?<![\d.,/])(${FIGURE})\s*(?:"|in\b|mm\b)?\s*(?:[:=@–—-]|->|→|\s)\s*(${FIGURE})\s*(?:cfm\b)?\s*/\s*(${FIGURE})(?![\d/]|[.,]\d)`,
  'giu',
);
const PAIR = new RegExp(String.raw`(?<![\d.,/])(${FIGURE})\s*/\s*(${FIGURE})(?![\d/]|[.,]\d)`, 'gu');

export interface MessageRow {
  readonly lift: string;
  readonly intake: string;
  readonly exhaust: string;
}

/** What two figures with a stroke between them can be. */
export const PAIRS = ['lift / flow', 'intake / exhaust'] as const;
export type Pairs = (typeof PAIRS)[number];

export interface Message {
  /** Whether a lift stands before each pair: then there is nothing to ask. */
  readonly sure: boolean;
  readonly rows: (pairs: Pairs) => MessageRow[];
}

const plain = (figure: string) => figure.replace(',', '.');

/** Reads a text that is no table; undefined where it holds fewer than two rows of figures, or figures that are left over. */
export function readMessage(text: string): Message | undefined {
  if (/\t/.test(text)) return undefined;
  const triples = [...text.matchAll(TRIPLE)].map((m) => m.slice(1).map((f) => plain(f!)) as [string, string, string]);
  const rest = text.replace(TRIPLE, ' ');
  if (triples.length >= 2 && !PAIR.test(rest)) {
    const rows = triples.map(([lift, intake, exhaust]) => ({ lift, intake, exhaust }));
    return { sure: true, rows: () => rows };
  }
  const pairs = [...text.matchAll(PAIR)].map((m) => [plain(m[1]!), plain(m[2]!)] as const);
  // A figure outside of the pairs may be anything: then nothing is read.
  if (pairs.length < 2 || /\d/.test(text.replace(PAIR, ' '))) return undefined;
  return {
    sure: false,
    rows: (as) =>
      pairs.map(([a, b]) =>
        as === 'lift / flow' ? { lift: a, intake: b, exhaust: '' } : { lift: '', intake: a, exhaust: b },
      ),
  };
}
