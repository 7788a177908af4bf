/** The sections of a port as cells of text: what the table on screen holds, and what a block of CSV brings. */
import {
  NEIGHBOURS,
  PLACES,
  SHAPE_KINDS,
  WALL_SIDES,
  formatNumber,
  parseQuantity,
  unitFor,
  type Neighbour,
  type System,
} from '@alluvium/core';
import { Section } from '../nouns/survey.js';
import { sentence, sentenceOfIssue, type CodedSentence } from '../refusal.js';

// match[]!: parts of the pattern that are always met.
// found[]!: there is one.

export const SECTION_COLUMNS = [
  'station',
  'branch',
  'shape',
  'width',
  'height',
  'radius',
  'roof',
  'floor',
  'front',
  'rear',
  'angle',
  'bend',
  'place',
] as const;
export type SectionColumn = (typeof SECTION_COLUMNS)[number];
export type SectionCells = Record<SectionColumn, string> & { outline: [number, number][] };

export const emptySection = (): SectionCells =>
  ({ ...Object.fromEntries(SECTION_COLUMNS.map((c) => [c, ''])), outline: [] }) as unknown as SectionCells;

export interface SectionCellProblem extends CodedSentence {
  readonly row: number;
  readonly column: SectionColumn;
}

const isEmpty = (cells: SectionCells): boolean =>
  SECTION_COLUMNS.every((c) => c === 'shape' || c === 'branch' || cells[c].trim() === '') && cells.outline.length === 0;

/** `3.9 pushrod`, `3.9mm g`: thickness, then what lies behind by its name or its first letters; alone it is water. */
function readWall(text: string): { thickness: string; behind: Neighbour } | CodedSentence {
  const match = /^\s*([-+\d.,/\s]+(?:mm|in|"|thou|cm)?)\s*([a-z ]*)$/i.exec(text);
  if (!match) return sentence('notAWall', text);
  const word = match[2]!.trim().toLowerCase();
  if (word === '') return { thickness: match[1]!.trim(), behind: 'water' };
  const found = NEIGHBOURS.filter((n) => n.startsWith(word));
  if (found.length === 1) return { thickness: match[1]!.trim(), behind: found[0]! };
  return sentence('noneOf', word, NEIGHBOURS);
}

/** Whether a length is written with its unit. */
const hasUnit = (text: string): boolean => /[a-z"”]/i.test(text);

/** The one unit other lengths of a row are written in, where it is not the system's; undefined where they differ or say none. */
function unitBeside(cells: SectionCells, system: System): string | undefined {
  const units = new Set(
    (['station', 'width', 'height', 'radius'] as const).flatMap((c) => {
      const unit = /[a-z"”]+\s*$/i.exec(cells[c].trim())?.[0].toLowerCase();
      return unit === undefined ? [] : [unit];
    }),
  );
  const [only, ...others] = units;
  return others.length === 0 && only !== unitFor('length', system).symbol ? only : undefined;
}

/** Text with the unit of the system when it has none, so that the record keeps what was meant. */
function withUnit(text: string, system: System, kind: 'length' | 'angle'): string {
  const trimmed = text.trim();
  if (kind === 'angle') return /[°a-z]/i.test(trimmed) ? trimmed : `${trimmed}°`;
  return hasUnit(trimmed) ? trimmed : `${trimmed} ${unitFor(kind, system).symbol}`;
}

/**
 * Reads rows of cells. A row that holds nothing is passed over; a length without a unit is in the system's. What cannot be
 * read is told by row and column; its row is left out.
 */
export function readSections(
  rows: readonly SectionCells[],
  system: System,
): { readonly sections: Section[]; readonly problems: SectionCellProblem[] } {
  const sections: Section[] = [];
  const problems: SectionCellProblem[] = [];
  rows.forEach((cells, row) => {
    if (isEmpty(cells)) return;
    const say = (column: SectionColumn, why: CodedSentence) => void problems.push({ row, column, ...why });
    const before = problems.length;
    const raw: Record<string, unknown> = { outline: cells.outline, walls: {} };
    const shape = cells.shape.trim() || 'rectangle';
    const kind = SHAPE_KINDS.find((k) => k.toLowerCase().startsWith(shape.toLowerCase()));
    if (kind) raw.shape = kind;
    else say('shape', sentence('noneOf', shape, SHAPE_KINDS));
    const branch = cells.branch.trim() || '0';
    if (['0', '1', '2'].includes(branch)) raw.branch = Number(branch);
    else say('branch', sentence('branchUnknown'));
    const place = cells.place.trim().toLowerCase();
    const found = PLACES.find((p) => p === place);
    if (place === '' || found) raw.place = found ?? null;
    else say('place', sentence('noneOf', place, PLACES));
    for (const column of ['station', 'width', 'height', 'radius', 'angle', 'bend'] as const) {
      const text = cells[column];
      if (text.trim() === '') continue;
      const quantity = column === 'angle' || column === 'bend' ? 'angle' : 'length';
      const parsed = parseQuantity(withUnit(text, system, quantity), quantity);
      if (parsed.ok) raw[column] = parsed.quantity;
      else say(column, sentence(quantity === 'angle' ? 'notAnAngle' : 'notALength', text));
    }
    if (cells.station.trim() === '') say('station', sentence('noStation'));
    for (const side of WALL_SIDES) {
      if (cells[side].trim() === '') continue;
      const wall = readWall(cells[side]);
      if ('code' in wall) {
        say(side, wall);
        continue;
      }
      // Beside 58.5 mm a bare 7 is hardly seven inches.
      const beside = hasUnit(wall.thickness) ? undefined : unitBeside(cells, system);
      if (beside) {
        say(side, sentence('wallWithoutUnit', wall.thickness, beside, unitFor('length', system).symbol));
        continue;
      }
      const parsed = parseQuantity(withUnit(wall.thickness, system, 'length'), 'length');
      if (parsed.ok) (raw.walls as Record<string, unknown>)[side] = { thickness: parsed.quantity, behind: wall.behind };
      else say(side, sentence('notALength', wall.thickness));
    }
    if (problems.length > before) return;
    const parsed = Section.safeParse(raw);
    if (parsed.success) return void sections.push(parsed.data);
    for (const issue of parsed.error.issues) {
      const [first, second] = issue.path.map(String);
      const column = SECTION_COLUMNS.find((c) => c === first || (first === 'walls' && c === second));
      say(column ?? (first === 'outline' ? 'shape' : 'station'), sentenceOfIssue(issue));
    }
  });
  // The same place twice is told here too, at its own row.
  const seen = new Map<string, number>();
  rows.forEach((cells, row) => {
    if (isEmpty(cells) || problems.some((p) => p.row === row)) return;
    const key = `${cells.branch.trim() || '0'}|${cells.station.trim()}`;
    const twin = seen.get(key);
    if (twin === undefined) seen.set(key, row);
    else problems.push({ row, column: 'station', ...sentence('stationTwice', cells.station, twin + 1) });
  });
  return { sections, problems };
}

/** One section as cells, texts as typed. */
export function writeSection(section: Section): SectionCells {
  const wall = (side: (typeof WALL_SIDES)[number]) => {
    const w = section.walls[side];
    return w ? `${w.thickness.typed}${w.behind === 'water' ? '' : ` ${w.behind}`}` : '';
  };
  return {
    station: section.station.typed,
    branch: section.branch === 0 ? '' : String(section.branch),
    shape: section.shape,
    width: section.width?.typed ?? '',
    height: section.height?.typed ?? '',
    radius: section.radius?.typed ?? '',
    roof: wall('roof'),
    floor: wall('floor'),
    front: wall('front'),
    rear: wall('rear'),
    angle: section.angle?.typed ?? '',
    bend: section.bend?.typed ?? '',
    place: section.place ?? '',
    outline: section.outline.map(([x, y]) => [x, y]),
  };
}

/** The station after the last one, stepped by the last difference; undefined where there is none to go by. */
export function nextStation(rows: readonly SectionCells[], system: System): string | undefined {
  const known = rows.flatMap((r) => {
    const parsed = r.station.trim() === '' ? undefined : parseQuantity(withUnit(r.station, system, 'length'), 'length');
    return parsed?.ok ? [{ si: parsed.quantity.si, text: r.station }] : [];
  });
  const distinct = [...new Map(known.map((k) => [k.si, k])).values()];
  const [a, b] = distinct.slice(-2);
  if (!a || !b) return undefined;
  const unit = /[a-z"”]+\s*$/i.exec(b.text.trim())?.[0].trim();
  const next = 2 * b.si - a.si;
  const metric = unit ? unit === 'mm' : system === 'metric';
  return `${formatNumber(next, 'length', metric ? 'metric' : 'inch').replace(/\.?0+$/, '')}${unit ? ` ${unit}` : ''}`;
}
