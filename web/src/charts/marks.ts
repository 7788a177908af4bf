import {
  symbol,
  symbolCircle,
  symbolCross,
  symbolDiamond,
  symbolSquare,
  symbolStar,
  symbolTriangle,
  symbolWye,
  type SymbolType,
} from 'd3-shape';

// SYMBOLS[]!, DASHES[]!: the remainder is a place of the list.
// symbol()()!: drawn without a canvas, a mark is text.

/** A head is told by letter, marker shape and dash, never by colour alone. */
export interface Mark {
  readonly symbol: SymbolType;
  readonly dash: string;
  readonly width: number;
}

const SYMBOLS = [symbolCircle, symbolSquare, symbolTriangle, symbolDiamond, symbolCross, symbolStar, symbolWye];
const DASHES = ['', '7 4', '1.5 4', '10 3 2 3', '4 2 1 2', '12 4', '3 3'];

export const markOf = (index: number): Mark => ({
  symbol: SYMBOLS[index % SYMBOLS.length]!,
  dash: DASHES[index % DASHES.length]!,
  width: index === 0 ? 2.6 : 1.9,
});

/** SVG path of a marker of an area in px². */
export const markPath = (mark: Mark, area = 46): string => symbol(mark.symbol, area)()!;

/** A claim, wherever it stands beside what was measured. */
export const DIAMOND = 'M0,-6.5l6.5,6.5l-6.5,6.5l-6.5,-6.5z';
export const SQUARE = 'M-5,-5h10v10h-10z';
