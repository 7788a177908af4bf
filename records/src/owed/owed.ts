/** What a record still owes before it is complete: each thing leads to its field, and goes away when it is filled or excused. */

export interface Owed {
  /** Names it for as long as the record lives, so that an excuse stays with it. */
  readonly key: string;
  readonly text: string;
  /** The field that fills it, by its path in the record or by the place it stands at; missing where no single field does. */
  readonly field?: string;
  /** Why it will not be done; undefined while it is owed. */
  readonly excuse?: string;
}

type Excuses = Readonly<Record<string, string>>;
/** The excuses with one more: it will not be done, and why. */
export const excusedFor = (excused: Excuses, key: string, reason: string): Record<string, string> => ({
  ...excused,
  [key]: reason,
});
/** The excuses without one: it is owed again. */
export const owedAgain = (excused: Excuses, key: string): Record<string, string> =>
  Object.fromEntries(Object.entries(excused).filter(([k]) => k !== key));

/** Complete when nothing is owed, or each of it is excused with a reason. */
export const isComplete = (owed: readonly Owed[]): boolean => owed.every((o) => o.excuse !== undefined);

/** A list that is added to thing by thing, each with its excuse where it has one. */
export function owing(excused: Excuses) {
  const owed: Owed[] = [];
  const owe = (key: string, text: string, field?: string) => {
    const excuse = excused[key];
    owed.push({ key, text, ...(field === undefined ? {} : { field }), ...(excuse ? { excuse } : {}) });
  };
  return { owed, owe };
}
