/** Records named in a form that are not there yet: held as “+name” until they are made with what names them, in one change. */
import { addition, type Source, type Step } from '@alluvium/records';
import { newId } from '../data/ids.js';

export const NEW = '+';
export const isNew = (id: string | null): id is string => id?.startsWith(NEW) ?? false;
/** What was typed of one that is new. */
export const newName = (id: string): string => id.slice(NEW.length).trim();

/** Ids of what will be made: the same when the change is sent again. */
export function idsToMake(): (what: string) => string {
  const made = new Map<string, string>();
  return (what) => {
    const id = made.get(what) ?? newId();
    made.set(what, id);
    return id;
  };
}

/** The id a source field stands for, and the step that makes a source that is new; one named with nothing is none. */
export function sourceOf(
  id: string | null,
  idToMake: (what: string) => string,
  kind: Source['kind'],
): { readonly id: string | null; readonly first: Step[] } {
  if (!isNew(id)) return { id, first: [] };
  const name = newName(id);
  if (!name) return { id: null, first: [] };
  const made = idToMake(`source ${name}`);
  return { id: made, first: [addition('source', { id: made, name, kind })] };
}

/** For a form with a source: the source that is new is made with the record, in the same change. */
export function withSource<T extends { sourceId: string | null }>(kind: Source['kind']) {
  const idToMake = idsToMake();
  return (draft: T): { draft: T; first: Step[] } => {
    const { id, first } = sourceOf(draft.sourceId, idToMake, kind);
    return { draft: { ...draft, sourceId: id }, first };
  };
}
