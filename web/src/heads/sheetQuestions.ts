/** What a typed sheet is asked: shape, units, columns, ranges, what lies far off. Nothing is changed by itself. */
import {
  SIDES,
  aboveOneWords,
  doubtsOf,
  skippedAtFall,
  USUAL_REPEATABILITY,
  parseQuantity,
  unitFor,
  type Doubt,
  type FlowCurve,
  type Say,
  type SheetResult,
  type Side,
  type System,
} from '@alluvium/core';
import {
  foreignUnit,
  lookedKey,
  looksSwapped,
  rangeDoubtWords,
  rangeDoubts,
  secondLookWords,
  secondLooks,
  type FamilyLookup,
  unitTyped,
  type Cells,
  type Expectations,
  type Sheet,
} from '@alluvium/records';
import type { Question } from './SheetDoubts.vue';

// result!, result[].curve!, curve.points[]!: a doubt is of a point of the curve.
// split()[]!: splitting gives one part at least.

export interface Asked {
  readonly sheet: Sheet;
  readonly cells: readonly Cells[];
  readonly result: SheetResult | undefined;
  /** Curves of another port of the head, tested alike: nearer to this one than the usual shape. */
  readonly besides: Readonly<Partial<Record<Side, FlowCurve>>>;
  readonly expected: Expectations;
  /** What the library's heads have at a lift ratio. */
  readonly family?: FamilyLookup | undefined;
  readonly system: System;
  readonly say: Say;
}

/** The cells with intake and exhaust in each other's place. */
const swapped = (cells: readonly Cells[]): Cells[] =>
  cells.map((c) => ({
    ...c,
    intake: c.exhaust,
    exhaust: c.intake,
    intakeRange: c.exhaustRange,
    exhaustRange: c.intakeRange,
  }));

/** Lifts typed without a unit get this one. */
const inUnit = (cells: readonly Cells[], unit: string): Cells[] =>
  cells.map((c) => (c.lift.trim() !== '' && unitTyped(c.lift) === '' ? { ...c, lift: `${c.lift.trim()} ${unit}` } : c));

/** The row of a lift with one of its figures written anew. */
const withFigure = (cells: readonly Cells[], side: Side, lift: number, text: string, system: System): Cells[] =>
  cells.map((c) => {
    const parsed = parseQuantity(c.lift, 'lift', system);
    return parsed.ok && Math.abs(parsed.quantity.si - lift) < 1e-6 ? { ...c, [side]: text } : c;
  });

function shapeQuestion(asked: Asked, put: (cells: Cells[]) => void, side: Side, doubt: Doubt): Question {
  const { result, say, sheet, cells, system } = asked;
  const point = result![side].curve!.points[doubt.index]!;
  const flow = (q: number) => say.of(q, 'flow', { digits: 0 });
  const at = say.of(point.lift, 'lift');
  const row = sheet.rows.find((r) => Math.abs(r.lift.si - point.lift) < 1e-6);
  const base = {
    key: row ? lookedKey(side, row) : `${side}${at}`,
    text: `At ${at} the ${side} reads ${flow(point.flow)}, which breaks its curve; the rows beside it suggest about ${flow(doubt.expected)}.`,
  };
  // A figure is mended only where it stands on the paper as it is shown: flow, at the depression it is shown at.
  const asTyped = row?.[side]?.pulls[0]?.si;
  const plain = sheet.setup.reads === 'flow' && asTyped !== undefined && Math.abs(asTyped / point.flow - 1) < 1e-6;
  if (doubt.meant === undefined || !plain) return base;
  const meant = flow(doubt.meant).split('\u00a0')[0]!;
  return {
    ...base,
    text: `${base.text} Is it ${meant}?`,
    mend: `Use ${meant}`,
    act: () => put(withFigure(cells, side, point.lift, meant, system)),
  };
}

function rangeQuestions({ sheet }: Asked): Question[] {
  const groups = new Map<string, ReturnType<typeof rangeDoubts>>();
  for (const d of rangeDoubts(sheet)) {
    const key = `range${d.side}${d.what}${d.range}${d.instead}`;
    groups.set(key, [...(groups.get(key) ?? []), d]);
  }
  return [...groups].map(([key, doubts]) => ({ key: `${key}${doubts.length}`, text: rangeDoubtWords(doubts) }));
}

/** Everything to ask; `put` writes the cells anew where an answer mends them. A sheet of differences is asked nothing of flows. */
export function sheetQuestions(asked: Asked, put: (cells: Cells[]) => void): Question[] {
  const { sheet, cells, result, expected, system, say, besides, family } = asked;
  const found: Question[] = [];
  if (sheet.setup.reads !== 'difference' && looksSwapped(sheet.rows))
    found.push({
      key: 'swap',
      text: 'The exhaust flows more than the intake at most lifts. Do the two columns stand in each other’s place?',
      mend: 'Swap them',
      act: () => put(swapped(cells)),
    });
  const foreign = foreignUnit(
    cells.map((c) => c.lift),
    'lift',
    system,
  );
  if (foreign)
    found.push({
      key: `unit${foreign}`,
      text: `Some lifts are in ${foreign}; those without a unit are read as ${unitFor('lift', system).symbol}. Is that what they are?`,
      mend: `They are all ${foreign}`,
      act: () => put(inUnit(cells, foreign)),
    });
  for (const side of SIDES) {
    const { points } = result?.[side] ?? {};
    for (const doubt of points ? doubtsOf(points, besides[side]) : [])
      found.push(shapeQuestion(asked, put, side, doubt));
    const curve = sheet.setup.reads === 'difference' ? undefined : result?.[side].curve;
    const skipped = curve && skippedAtFall(curve, USUAL_REPEATABILITY);
    if (skipped !== undefined)
      found.push({
        key: `${side}skipped${skipped}`,
        text: `The ${side} falls beyond its peak, and ${say.of(skipped, 'lift')} was not read: read it while the head is on the bench, and it says where the port gives up.`,
      });
    const above = (result?.[side].points ?? []).filter((p) => p.aboveOne);
    if (above.length > 0)
      found.push({ key: `${side}above${above.map((p) => p.lift).join()}`, text: aboveOneWords(side, above, say) });
  }
  found.push(...rangeQuestions(asked));
  if (result && sheet.kind === 'measured' && sheet.setup.reads !== 'difference')
    for (const look of secondLooks(expected, result, family))
      found.push({ key: `look${look.side}${look.lift}${look.far.what}`, text: secondLookWords(look, say) });
  return found;
}
