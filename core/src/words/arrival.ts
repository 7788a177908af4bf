import type { ArrivalResult } from '../arrival/condition.js';
import { listed } from './listed.js';

const few = (parts: readonly string[]): string =>
  parts.length <= 3 ? parts.join('; ') : `${parts.slice(0, 3).join('; ')}; and ${parts.length - 3} more`;
const sentence = (text: string): string => `${text.replace(/[.\s]+$/, '')}.`;

/** What stands against using a head, one sentence each, for every verdict; none when nothing does. */
export function arrivalObjections(result: ArrivalResult): string[] {
  const sentences: string[] = [];
  if (result.rejectedFor.length > 0) sentences.push(sentence(`Rejected on arrival: ${few(result.rejectedFor)}`));
  if (result.leaking.length > 0) sentences.push(sentence(`Leaks: ${listed(result.leaking)}`));
  if (result.fixFirst.length > 0) sentences.push(sentence(`To mend before use: ${few(result.fixFirst)}`));
  return sentences;
}

/** The condition of a head in words, with what is still to be looked at. */
export function arrivalWords(result: ArrivalResult): string {
  const { condition, open, of, unsure } = result;
  const objections = arrivalObjections(result);
  const left =
    of === 0
      ? 'No checklist yet.'
      : open === of
        ? `Nothing of the ${of} on the checklist was looked at yet.`
        : open > 0
          ? `${open} of ${of} still to be looked at.`
          : '';
  const notSince = result.notSince.length > 0 ? sentence(`Not looked at since: ${few(result.notSince)}`) : '';
  const doubt = unsure.length > 0 ? sentence(`Unsure: ${few(unsure)}`) : '';
  const first = {
    unchecked: 'Not checked.',
    usable: 'Usable: all was looked at and nothing stands against it.',
    'usable after': '',
    rejected: '',
  }[condition];
  return [first, ...objections, notSince, left, doubt].filter(Boolean).join(' ');
}

/** A word or three for a head's token; undefined when nothing stands against it. */
export function arrivalMark(result: ArrivalResult): string | undefined {
  if (result.condition === 'rejected') return 'rejected';
  if (result.leaking.length > 0)
    return result.leaking.length === 1 ? 'a seat leaks' : `${result.leaking.length} seats leak`;
  return result.fixFirst.length > 0 ? 'to mend first' : undefined;
}
