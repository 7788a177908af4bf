/** The fonts of a printed report, and which of them has which letter: none may vanish from paper. */
import { createRequire } from 'node:module';
import { openSync, type Font } from 'fontkit';

// letter.codePointAt()!: a letter is not empty.

const resolve = createRequire(import.meta.url).resolve;
const barlow = (part: string, weight: number) =>
  resolve(`@fontsource/barlow-semi-condensed/files/barlow-semi-condensed-${part}-${weight}-normal.woff`);
const serif = (part: string) => resolve(`@fontsource/source-serif-4/files/source-serif-4-${part}-400-normal.woff`);
const maths = resolve('katex/dist/fonts/KaTeX_Main-Regular.ttf');
const same = (file: string) => ({ normal: file, bold: file, italics: file, bolditalics: file });
const both = (part: string) => {
  const [normal, bold] = [barlow(part, 400), barlow(part, 600)];
  return { normal, bold, italics: normal, bolditalics: bold };
};

/** In the order in which a letter is looked for. */
export const FONTS = {
  'Barlow Semi Condensed': both('latin'),
  'Barlow extended': both('latin-ext'),
  Vietnamese: both('vietnamese'),
  Greek: same(serif('greek')),
  Cyrillic: same(serif('cyrillic')),
  'Cyrillic extended': same(serif('cyrillic-ext')),
  Maths: same(maths),
} as const;
export type FontName = keyof typeof FONTS;
export const MAIN: FontName = 'Barlow Semi Condensed';
const NAMES = Object.keys(FONTS) as FontName[];

const opened = new Map<FontName, Font>();
function fontOf(name: FontName): Font {
  const known = opened.get(name);
  if (known) return known;
  const font = openSync(FONTS[name].normal) as Font;
  opened.set(name, font);
  return font;
}

/** The first font that has a letter; undefined where none has. */
export const fontFor = (letter: string): FontName | undefined =>
  NAMES.find((name) => fontOf(name).hasGlyphForCodePoint(letter.codePointAt(0)!));

export interface Run {
  readonly text: string;
  readonly font: FontName;
}

/** What stands where no font has the letter. */
const MISSING = '?';

/** A word of more letters than this is broken: no line holds it, and the time to find its breaks grows by its square. */
const LONGEST_WORD = 60;
const broken = (text: string): string => text.replace(new RegExp(`\\S{${LONGEST_WORD}}(?=\\S)`, 'gu'), '$& ');

/** A text in runs of one font each. A letter no font has is shown as a question mark, never left out. */
export function runsOf(text: string): Run[] {
  const runs: { text: string; font: FontName }[] = [];
  for (const letter of broken(text)) {
    const blank = /\s/.test(letter);
    const font = blank ? (runs.at(-1)?.font ?? MAIN) : fontFor(letter);
    const shown = blank && letter !== '\u00a0' && letter !== '\n' ? ' ' : font ? letter : MISSING;
    const last = runs.at(-1);
    if (last && last.font === (font ?? MAIN)) last.text += shown;
    else runs.push({ text: shown, font: font ?? MAIN });
  }
  return runs;
}
