import type { Place } from './block.js';

interface Acts {
  /** Told of every key first; one that is taken there is not the grid's. */
  readonly pressed: (event: KeyboardEvent, at: Place) => void;
  /** By key, with Ctrl. */
  readonly commands: Readonly<Record<string, (shift: boolean) => void>>;
  readonly stretch: (down: number, right: number) => void;
  readonly several: () => boolean;
  readonly clear: () => void;
  readonly go: (row: number, column: number) => unknown;
  readonly enter: (at: Place) => void;
  /** Whether there was something to leave. */
  readonly escape: (at: Place) => boolean;
}

const ARROWS: Readonly<Record<string, readonly [down: number, right: number]>> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** The keys of a grid, as of a spreadsheet: arrows go from cell to cell, but within a text as long as the cursor can. */
export function gridKeys(acts: Acts) {
  return (event: KeyboardEvent, at: Place): void => {
    acts.pressed(event, at);
    if (event.defaultPrevented) return;
    const command = event.ctrlKey || event.metaKey;
    const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
    const list = event.target instanceof HTMLSelectElement;
    const arrow = ARROWS[key];
    /** A part of a text is chosen, not all of it. */
    const input = event.target as HTMLInputElement;
    const whole = input.selectionStart === 0 && input.selectionEnd === input.value.length;
    const inside = !list && input.selectionStart !== input.selectionEnd && !whole;
    const taken = (act: () => unknown) => {
      event.preventDefault();
      act();
    };
    const alone = (act: () => unknown) => {
      event.stopPropagation();
      taken(act);
    };
    if (command) {
      const act = acts.commands[key];
      if (act) return alone(() => act(event.shiftKey));
    } else if (event.shiftKey && arrow && !list && !inside) return alone(() => acts.stretch(...arrow));
    if (event.key === 'Enter') return taken(() => acts.enter(at));
    if (event.key === 'Escape') {
      if (acts.escape(at)) alone(() => undefined);
      return;
    }
    if ((key === 'Delete' || key === 'Backspace') && acts.several()) return taken(acts.clear);
    if (list || !arrow) return;
    const leaves =
      key === 'ArrowLeft'
        ? input.selectionStart === 0 && (input.selectionEnd === 0 || whole)
        : key !== 'ArrowRight' || input.selectionEnd === input.value.length;
    if (leaves) taken(() => acts.go(at.row + arrow[0], at.column + arrow[1]));
  };
}
