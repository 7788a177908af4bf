/** Whether a key belongs to a field the user is typing in, or to an open dialog, and not to the page. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  // A choice in a row is pressed, not typed into.
  if (target instanceof HTMLInputElement && target.type === 'radio') return false;
  return (
    target !== null &&
    (target.isContentEditable ||
      ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) ||
      target.closest('.el-overlay, [data-own-keys]') !== null)
  );
}

/** Every key, in the order a stranger needs them. */
export const KEYS: readonly (readonly [keys: string, does: string])[] = [
  ['1 … 9', 'hide or show a head of the lineup'],
  ['B', 'on a head of the lineup: make it the baseline'],
  ['Alt ← →', 'on a head of the lineup: move it'],
  ['Delete', 'on a head of the lineup: remove it'],
  ['[  ]', 'step back, step on'],
  ['U', 'inch or metric'],
  ['I  E', 'in Compare: intake, exhaust'],
  ['F  U  S  X', 'on the checklist of Arrival: fine, unsure, skip, found something'],
  ['P  L', 'on a seat in Arrival: it seals, it leaks'],
  ['F', 'in Compare: full screen, high contrast'],
  ['Space, Enter', 'on the bench: record; a foot pedal sends either'],
  ['R  N  S  U', 'on the bench: take again, mark noisy, skip with a reason, put the last one aside'],
  ['← →  A', 'on the bench: another lift; the test runs itself'],
  ['Page ↑ ↓', 'on the bench: a larger, a smaller range'],
  ['F8', 'in a field: take what the calipers, the scale or the seal tester show'],
  ['Ctrl K', 'find a head, an engine, a page, a word'],
  ['H', 'the guide, at this page'],
  ['G', 'glossary; over a heading, at its word'],
  ['Ctrl S', 'save the form the cursor is in'],
  ['Ctrl Z', 'take the last change back; with Shift, do it again'],
  ['?', 'these keys'],
  ['Esc', 'leave a field, close what is open'],
  ['Enter, arrows, Tab', 'in a grid: move as in a spreadsheet; with Shift choose several cells'],
  ['Ctrl C  X  V', 'in a grid: copy, cut, paste several cells'],
  ['Ctrl D', 'in a grid: fill down'],
  ['Ctrl Insert  Delete', 'in a grid: insert a row, remove rows'],
];
