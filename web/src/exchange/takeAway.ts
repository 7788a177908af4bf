import { useUndo } from '../data/undo.js';

/** Name of the file something of this page is saved as. */
export const fileOf = (title: string): string =>
  `${document.title.split(' · ')[0]} ${title}`.replace(/[^\p{L}\p{N} .-]+/gu, ' ').slice(0, 80);

/** Does what a browser may refuse (a picture, the clipboard), and says when it did or could not. */
export function useAttempt() {
  const undo = useUndo();
  return async (act: () => unknown, done = ''): Promise<void> => {
    try {
      await act();
      if (done) undo.announce(done);
    } catch {
      undo.announce('The browser could not do that.');
    }
  };
}
