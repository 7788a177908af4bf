import type { HeadPage, ImportPreview, KnownHere, Source, WholeHead } from '@alluvium/records';
import { ApiProblem, exportAt, get, getAll, request } from './client.js';
import { libraryPath } from './queries.js';

/** The whole library as one file, or why it cannot be had. */
export interface SavedLibrary {
  readonly file?: Blob;
  /** Photos it lacks because their files are lost. */
  readonly missingPhotos: number;
  readonly refusal: string;
  /** The photos are more than one file carries: the way without them is offered. */
  readonly tooLarge: boolean;
}

/** All of it, or some heads with all that is theirs. */
export async function saveLibrary(photos: 'yes' | 'no', heads?: readonly string[]): Promise<SavedLibrary> {
  try {
    return {
      ...(await exportAt(
        `/api/bundle?photos=${photos}${heads ? `&heads=${heads.map(encodeURIComponent).join(',')}` : ''}`,
      )),
      refusal: '',
      tooLarge: false,
    };
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    return { missingPhotos: 0, refusal: error.message, tooLarge: error.status === 413 };
  }
}

/** What the import of a bundle would do; writes nothing. @throws ApiProblem with a sentence to show. */
export const previewBundle = (text: string) => request<ImportPreview>('POST', '/api/bundle/preview', text);

/** What the server said of something it refused; undefined for any other failure. */
export const sentenceOf = (error: unknown): string | undefined =>
  error instanceof ApiProblem ? error.message : undefined;

/** Most heads of one page of the library. */
const PAGE = 200;

/** The heads of these names that are here, whole, and every source. */
export async function knownHere(names: readonly string[]): Promise<KnownHere> {
  const ids = new Set<string>();
  for (const name of names) {
    const wanted = name.trim().toLowerCase();
    for (let page = 1, left = 1; left > 0; page++) {
      const { items, total } = await get<HeadPage>(libraryPath({ search: name, size: PAGE, page }));
      for (const { head } of items) if (head.name.toLowerCase() === wanted) ids.add(head.id);
      left = items.length > 0 ? total - page * PAGE : 0;
    }
  }
  return {
    sources: await getAll<Source>('/api/source'),
    heads: await Promise.all([...ids].map((id) => get<WholeHead>(`/api/head/${id}/whole`))),
  };
}
