import { sayIn, USUAL_ASSUMPTIONS } from '@alluvium/core';
import {
  auditLine,
  claimRows,
  contextOf,
  libraryOf,
  type BandAsk,
  type BandPipe,
  type Build,
  type NetHead,
  type Source,
} from '@alluvium/records';
import type { Side } from '@alluvium/core';

/** What the server says of claims for these heads, by the same library it keeps. Undefined for any other address. */
export function claimsServer(
  heads: readonly NetHead[],
  sources: readonly Source[],
  builds: readonly Build[],
  own = 'bench-1',
) {
  const library = libraryOf(heads, own);
  const standing = { done: heads.length, of: heads.length, version: 1 };
  return (address: string, body?: any): unknown => {
    const url = new URL(address.replace(/^(GET|POST) /, ''), 'http://here');
    const q = url.searchParams;
    switch (url.pathname) {
      case '/api/claims/standing':
        return {
          ...standing,
          own,
          pulls: library.pulls(),
          pipe: library.pipe() ?? null,
          shop: library.spreads(USUAL_ASSUMPTIONS),
        };
      case '/api/claims/band':
        return {
          ...standing,
          views: (body?.asks as BandAsk[]).map((a) => library.band(a.side, a.pipe)(a.liftRatio, a.coefficient)),
        };
      case '/api/claims/cloud':
        return library
          .cloud(q.get('side') as Side, q.get('pipe') as BandPipe, 500)
          .map((p) => [p.liftRatio, p.coefficient]);
      case '/api/claims/net':
        return {
          ...standing,
          ...library.net(own, q.get('side') as Side, {
            lifts: { from: Number(q.get('from')), to: q.has('to') ? Number(q.get('to')) : Infinity },
            without: q.get('without') ?? undefined,
          }),
        };
      case '/api/claims/catalogue': {
        const items = library.tables(q.get('source')!, q.get('side') as Side);
        return { total: items.length, items };
      }
      case '/api/claims/audit': {
        const rows = claimRows(heads, sources, contextOf(library, own, sayIn('inch')), { builds });
        const shown = rows.filter((r) => q.get('doubtful') !== 'yes' || r.doubtful);
        const names = [...new Set(rows.map((r) => r.source))];
        return {
          ...standing,
          total: shown.length,
          size: 100,
          sources: names.map((name) => ({
            name,
            total: rows.filter((r) => r.source === name).length,
            doubtful: rows.filter((r) => r.source === name && r.doubtful).length,
          })),
          lines: shown.map(auditLine),
        };
      }
      case '/api/claims/doubtful': {
        const wanted = q.get('heads')!.split(',');
        const rows = claimRows(
          heads.filter((h) => wanted.includes(h.head.id)),
          sources,
          contextOf(library, own, sayIn('inch')),
          { builds },
        );
        return { ...standing, count: rows.filter((r) => r.doubtful).length };
      }
      default:
        return undefined;
    }
  };
}
