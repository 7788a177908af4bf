/** What a sheet refers to by name: its ports by number, its source; those that are new are made with the sheet, in the same change. */
import type { Side } from '@alluvium/core';
import { addition, type Source, type Step, type WholeHead } from '@alluvium/records';
import { computed, type Ref } from 'vue';
import type { Draft } from '../data/form.js';
import { NEW, idsToMake, isNew, newName, sourceOf } from '../parts/newNamed.js';

const PORT_NUMBER = /^([1-9]|[1-3]\d|4[0-8])$/;
export const portProblem = (text: string): string =>
  text.trim() === '' || PORT_NUMBER.test(text.trim()) ? '' : 'A port number is 1 to 48.';

interface Named {
  readonly whole: WholeHead;
  readonly sources: readonly Source[];
}

/** The draft with what it names made first; `named` is read anew at each call. */
export function resolver(named: () => Named) {
  const idToMake = idsToMake();
  return (typed: Draft<'sheet'>): { draft: Draft<'sheet'>; first: Step[] } => {
    const { whole, sources } = named();
    const first: Step[] = [];
    const made = { ...typed };
    const source = sourceOf(typed.sourceId, idToMake, typed.kind === 'claim' ? 'maker' : 'own bench');
    made.sourceId = source.id;
    first.push(...source.first);
    for (const side of ['intake', 'exhaust'] as const) {
      const portId = typed[`${side}PortId`];
      if (!isNew(portId)) continue;
      const number = Number(newName(portId));
      const id = idToMake(`${side} ${number}`);
      made[`${side}PortId`] = id;
      first.push(addition('port', { id, headId: whole.head.id, side, number }));
    }
    if (!made.title?.trim()) made.title = titleOf(typed, whole, sources);
    return { draft: made, first };
  };
}

/** The number of the port a sheet names on a side, as typed. */
export function portNumber(whole: WholeHead, id: string | null): string {
  return isNew(id) ? id.slice(NEW.length) : String(whole.ports.find((p) => p.id === id)?.number ?? '');
}

/** The id a typed port number stands for: that of a port that is there, else one to be made. */
export function portIdFor(whole: WholeHead, side: Side, text: string): string | null {
  const number = text.trim();
  if (number === '') return null;
  return whole.ports.find((p) => p.side === side && String(p.number) === number)?.id ?? `${NEW}${number}`;
}

/** A sheet without a title is called after its source and port. */
function titleOf(typed: Draft<'sheet'>, whole: WholeHead, sources: readonly Source[]): string {
  const source = isNew(typed.sourceId) ? newName(typed.sourceId) : sources.find((s) => s.id === typed.sourceId)?.name;
  const port = portNumber(whole, typed.intakePortId);
  return [source, port ? `port ${port}` : ''].filter(Boolean).join(', ') || 'Flow sheet';
}

/** A port's number as a field types it. */
export const usePortText = (
  draft: Ref<Draft<'sheet'>>,
  whole: () => WholeHead,
  side: Side,
  typing: (path: string, problem: string) => void,
) =>
  computed({
    get: () => portNumber(whole(), draft.value[`${side}PortId`]),
    set: (text: string) => {
      draft.value[`${side}PortId`] = portIdFor(whole(), side, text);
      typing(`${side}PortId`, portProblem(text));
    },
  });
