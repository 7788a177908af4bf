/** What a head owes at a stage before it can be judged without a guess. */
import type { Side } from '@alluvium/core';
import type { WholeHead } from '../api.js';
import type { MeasureItem } from '../nouns/measureItems.js';
import { measuresOf } from '../toCore.js';
import { measuresAt, speaks, surveyAt } from '../select.js';
import { owing, type Owed } from './owed.js';
import { owedOfSheet } from './sheet.js';

/** Sizes the judgement of a head rests on, most wanted first. */
const WANTED: readonly (readonly [MeasureItem, Side | null])[] = [
  ['valve diameter', 'intake'],
  ['valve diameter', 'exhaust'],
  ['throat', 'intake'],
  ['throat', 'exhaust'],
  ['seat angle', 'intake'],
  ['stem diameter', 'intake'],
  ['pinch', 'intake'],
  ['port volume', 'intake'],
  ['port length', 'intake'],
  ['chamber volume', null],
];

type OwingHead = Pick<WholeHead, 'head' | 'stages' | 'ports' | 'sheets' | 'measures' | 'surveys' | 'inspections'>;

/** Everything a head owes at one of its stages. A size handed down from an earlier stage is one that was taken. */
export function owedOfHead(whole: OwingHead, stageId: string): Owed[] {
  const { head } = whole;
  const { owed, owe } = owing(head.excused);
  const measures = measuresAt(whole, stageId);
  const surveyed = surveyAt(whole, stageId, 'intake') !== undefined;
  if (head.cylinders === null) owe('cylinders', 'How many cylinders it covers is not said.', 'cylinders');
  if (head.material === 'unknown') owe('material', 'Iron or aluminium is not said.', 'material');
  if (whole.inspections.length === 0) owe('arrival', 'It was not inspected on arrival.', 'arrival');
  for (const [item, side] of WANTED) {
    const found = measuresOf(measures, item, side).some((m) => m.sourceId === null);
    const drawn = surveyed && (item === 'pinch' || item === 'port length' || item === 'port volume');
    if (!found && !drawn)
      owe(
        `size ${item} ${side ?? ''}`.trim(),
        `${side ? `${side} ${item}` : item} is not measured.`,
        `size:${item}:${side ?? ''}`,
      );
  }
  const sheets = whole.sheets.filter((s) => s.stageId === stageId && s.kind === 'measured' && speaks(s));
  for (const side of ['intake', 'exhaust'] as const)
    if (!sheets.some((s) => s.rows.some((r) => r[side])))
      owe(`flow ${side} ${stageId}`, `The ${side} was not flowed at this stage.`, 'sheet:new');
  for (const s of sheets) {
    const own = owedOfSheet(s).filter((o) => o.excuse === undefined);
    if (own.length > 0)
      owe(
        `sheet ${s.id}`,
        `“${s.title}” owes ${own.length} ${own.length === 1 ? 'thing' : 'things'}.`,
        `sheet:${s.id}`,
      );
  }
  return owed;
}
