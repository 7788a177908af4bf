/** Records named in a form that are not there yet: held as “+name” until they are made with what names them, in one change. */
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
