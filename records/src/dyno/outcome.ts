/** What was found of heads on the dyno, where the next claim of the same article or source starts from. */
import type { Head } from '../nouns/head.js';
import type { Pull } from '../nouns/dyno.js';
import type { WholeHead } from '../api.js';

type Named = Pick<Head, 'id' | 'name' | 'maker' | 'catalogueNumber' | 'specimenOf'>;

/** A pull that fell short and was found out: of which head, and who had claimed something of that head. */
export interface Outcome {
  readonly pull: Pull;
  readonly head: Named;
  readonly sourceIds: readonly string[];
}

const plain = (text: string): string => text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
/** Whether two heads are one article: specimens of one another, or of one maker under one catalogue number. */
export const sameArticle = (a: Named, b: Named): boolean =>
  (a.specimenOf ?? a.id) === (b.specimenOf ?? b.id) ||
  (plain(a.catalogueNumber) !== '' &&
    plain(a.catalogueNumber) === plain(b.catalogueNumber) &&
    plain(a.maker) === plain(b.maker));

export interface OutcomesOf {
  /** Of this very head. */
  readonly own: readonly Outcome[];
  /** Of other heads of its article. */
  readonly article: readonly Outcome[];
  /** Of other articles that a source of this head's claims had spoken of too. */
  readonly source: readonly (Outcome & { readonly sourceId: string })[];
}

/** Who claimed something of a head: by tables and by reports of power. */
export const claimantsOf = ({ sheets, reports }: Pick<WholeHead, 'sheets' | 'reports'>): string[] => [
  ...new Set([...sheets.filter((s) => s.kind === 'claim'), ...reports].flatMap((c) => c.sourceId ?? [])),
];

/** What of these outcomes bears on a head, the nearest relation only. */
export function outcomesFor(
  whole: Pick<WholeHead, 'head' | 'sheets' | 'reports'>,
  outcomes: readonly Outcome[],
): OutcomesOf {
  const { head } = whole;
  const own = outcomes.filter((o) => o.head.id === head.id);
  const others = outcomes.filter((o) => o.head.id !== head.id);
  const article = others.filter((o) => sameArticle(o.head, head));
  const claimants = claimantsOf(whole);
  const source = others
    .filter((o) => !article.includes(o))
    .flatMap((o) => {
      const sourceId = claimants.find((id) => o.sourceIds.includes(id));
      return sourceId === undefined ? [] : [{ ...o, sourceId }];
    });
  return { own, article, source };
}
