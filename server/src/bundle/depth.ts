// text[]!: a place of the text.

/** A bundle is six levels deep; nothing we read is deeper than this. */
const MOST_DEPTH = 40;

/** Whether JSON text is nested deeper than that: found before it is parsed, since parsing deep nesting costs far more. */
export function isTooDeep(text: Uint8Array, most = MOST_DEPTH): boolean {
  let depth = 0;
  let inText = false;
  for (let i = 0; i < text.length; i++) {
    const c = text[i]!;
    if (inText) {
      if (c === 0x5c) i++;
      else if (c === 0x22) inText = false;
    } else if (c === 0x22) inText = true;
    else if (c === 0x5b || c === 0x7b) {
      if (++depth > most) return true;
    } else if (c === 0x5d || c === 0x7d) depth--;
  }
  return false;
}
