/** What a grid of cells is told of itself. */
export interface GridColumn<K extends string> {
  readonly key: K;
  /** What stands over it. */
  readonly title: string;
  /** What its cells are called, where the heading alone does not say. */
  readonly name: string;
  readonly unit?: string | undefined;
  readonly hint?: string | undefined;
  readonly choices?: readonly string[];
  /** Id of a list of words that are offered while typing. */
  readonly list?: string;
  /** It holds a sentence, not a figure. */
  readonly words?: boolean;
}

export interface Edit<K extends string> {
  readonly row: number;
  readonly key: K;
  readonly text: string;
}
