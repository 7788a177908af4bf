import { useEventListener } from '@vueuse/core';

/** What a key of the run does. */
export interface RunActions {
  readonly record: () => unknown;
  readonly retake: () => unknown;
  readonly noise: () => unknown;
  readonly askReason: () => unknown;
  readonly undo: () => unknown;
  readonly auto: () => unknown;
  readonly move: (by: number) => unknown;
  readonly shiftRange: (by: number) => unknown;
  /** Enter in a field: records, or skips with the reason typed. */
  readonly enter: () => unknown;
  /** Esc: closes what is open, or leaves. */
  readonly escape: (typing: boolean) => unknown;
}

/** The keys of the run, in the order a stranger needs them. */
export const RUN_KEYS: readonly (readonly [key: string, does: string])[] = [
  ['space', 'record'],
  ['R', 'take again'],
  ['N', 'noisy'],
  ['S', 'skip, say why'],
  ['U', 'set aside'],
  ['← →', 'other lift'],
  ['A', 'runs itself'],
];

/**
 * The run owns the keyboard while it is open. In the big field of a typed figure letters and space are commands only
 * before the figure is begun (`begun` says so).
 */
export function useRunKeys(does: RunActions, begun: () => boolean): void {
  const actions: Readonly<Record<string, () => unknown>> = {
    ' ': does.record,
    enter: does.record,
    r: does.retake,
    n: does.noise,
    s: does.askReason,
    u: does.undo,
    a: does.auto,
    arrowleft: () => does.move(-1),
    arrowdown: () => does.move(-1),
    arrowright: () => does.move(1),
    arrowup: () => does.move(1),
    pageup: () => does.shiftRange(1),
    pagedown: () => does.shiftRange(-1),
  };

  /** The command of a key, or undefined when the key belongs to what has the focus. */
  function commandOf(event: KeyboardEvent, target: HTMLElement): (() => unknown) | undefined {
    const typing = ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName);
    if (event.key === 'Escape') return () => does.escape(typing);
    if (typing && event.key === 'Enter') return does.enter;
    const key = event.key.toLowerCase();
    if (typing) {
      const big = target.closest('.by-hand') !== null;
      const command = key.startsWith('page') || (!begun() && ' rnsua'.includes(key));
      if (!big || !command) return undefined;
    }
    if (target.tagName === 'BUTTON' && (event.key === 'Enter' || event.key === ' ')) return undefined;
    return actions[key];
  }

  useEventListener(
    'keydown',
    (event) => {
      const target = event.target as HTMLElement;
      if (target.closest('.el-overlay, .working') || event.ctrlKey || event.metaKey || event.altKey) return;
      const command = commandOf(event, target);
      if (!command) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      void command();
    },
    { capture: true },
  );
}
