/** How sure the figures of a head's sheets are. */
import { joined, sheetBook, withSeat, type Asked, type LeafBook, type ReadSheet, type Side } from '@alluvium/core';
import { assumptionsFor, evaluateSheetOf, valvesOf, type FlowedHead, type JudgingContext } from './evaluateHead.js';
import type { Sheet } from './nouns/sheet.js';
import { changedSince, measuresAt, portName } from './select.js';
import { toSheetFacts } from './toCore.js';

// results[]!: one for each sheet.

export interface SheetBooks {
  /** Flows, peaks and means of both sides. */
  readonly flow: LeafBook;
  /** The same with the side's own valve and seat, for its coefficients. */
  readonly intake: LeafBook;
  readonly exhaust: LeafBook;
}

/** The books of one port's sheets, read as one where there are several (the first names them). */
export function booksOf(
  whole: FlowedHead,
  sheets: readonly [Sheet, ...Sheet[]],
  context: JudgingContext = {},
  asked: Partial<Record<Side, Asked>> = {},
): SheetBooks {
  const [first] = sheets;
  const measures = measuresAt(whole, first.stageId);
  const assumptions = assumptionsFor(whole, context);
  const { say } = context;
  const results = sheets.map((sheet) => evaluateSheetOf(whole, sheet, measures));
  const book = (side: Side) => {
    const read = sheets.map((sheet, i): ReadSheet => {
      const portId = side === 'intake' ? sheet.intakePortId : sheet.exhaustPortId;
      const name = portName(whole.ports, portId) ?? sheet.title;
      return {
        name: sheets.length > 1 ? `${name}, ${sheet.title}` : name,
        points: results[i]![side].points,
        facts: toSheetFacts(sheet, changedSince(whole, sheet, 'intake'), context),
      };
    });
    return sheetBook(read, side, asked[side], assumptions, say && ((lift) => say.of(lift, 'lift')));
  };
  const intake = book('intake');
  const exhaust = book('exhaust');
  const valves = valvesOf(whole, first, measures);
  return {
    flow: joined(intake, exhaust),
    intake: withSeat(intake, valves.intake, assumptions),
    exhaust: withSeat(exhaust, valves.exhaust, assumptions),
  };
}
