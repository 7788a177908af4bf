// parts.at()!: there are two at least.

/** `a`, `a and b`, `a, b and c`. */
export const listed = (parts: readonly string[]): string =>
  parts.length < 2 ? parts.join('') : `${parts.slice(0, -1).join(', ')} and ${parts.at(-1)!}`;

/** As it begins a sentence. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
