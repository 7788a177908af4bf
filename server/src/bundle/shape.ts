// text[]!: a place of the text.

/** A bundle is six levels deep; nothing we read is deeper than this. */
const MOST_DEPTH = 40;
/**
 * Objects and lists of one file. The largest file taken (64 MB), filled with nothing but rows of flow sheets, has four
 * million; as many bytes of empty objects are twenty million, and take gigabytes to parse.
 */
const MOST_PARTS = 6_000_000;

/**
 * What is wrong with the shape of a JSON text: nested deeper, or of more objects and lists than anything we read. Found
 * before it is parsed, since parsing either costs far more than looking through it.
 */
export function wrongShape(text: Uint8Array): 'nestedTooDeep' | 'tooManyParts' | undefined {
  let depth = 0;
  let parts = 0;
  let inText = false;
  for (let i = 0; i < text.length; i++) {
    const c = text[i]!;
    if (inText) {
      if (c === 0x5c) i++;
      else if (c === 0x22) inText = false;
    } else if (c === 0x22) inText = true;
    else if (c === 0x5b || c === 0x7b) {
      if (++depth > MOST_DEPTH) return 'nestedTooDeep';
      if (++parts > MOST_PARTS) return 'tooManyParts';
    } else if (c === 0x5d || c === 0x7d) depth--;
  }
  return undefined;
}
