/** What a typed sheet owes: facts of its test nobody gave, a side without rows, points in doubt. */
import { SIDES, listed, type Side } from '@alluvium/core';
import { fieldsOf, setupAnswer, type SetupFieldName } from '../bench/setupFields.js';
import type { Sheet } from '../nouns/sheet.js';
import { owing, type Owed } from './owed.js';

/** Facts without which a sheet can be held against no other. Of a claim fewer are asked: its source answers or does not. */
const REQUIRED: readonly SetupFieldName[] = [
  'depression',
  'bore',
  'entry',
  'exhaustPipe',
  'pipeDiameter',
  'pipeLength',
  'holesClosed',
  'valve',
  'intakeFlowValve',
  'exhaustFlowValve',
];
const OF_CLAIM: ReadonlySet<SetupFieldName> = new Set<SetupFieldName>(['depression', 'bore', 'exhaustPipe']);

/** Everything a sheet owes, in the order its form has it. */
export function owedOfSheet(sheet: Omit<Sheet, 'id' | 'version'>): Owed[] {
  const { owed, owe } = owing(sheet.excused);
  const claim = sheet.kind === 'claim';
  const sides = SIDES.filter((s) => sheet.rows.some((r) => r[s]));
  if (sheet.sourceId === null)
    owe('source', claim ? 'Who claims it is not said.' : 'Who flowed it is not said.', 'source');
  if (sheet.date === null && !claim) owe('date', 'The day of the test is not said.', 'date');
  for (const side of sides)
    if (!claim && sheet[`${side}PortId`] === null)
      owe(`${side} port`, `Which ${side} port it was is not said.`, `${side}PortId`);
  for (const side of SIDES) if (!sides.includes(side)) owe(`${side} rows`, `No ${side} flow.`, 'rows');
  const facts = fieldsOf(sheet.setup, sides).filter(
    (f) => REQUIRED.includes(f.field) && (!claim || OF_CLAIM.has(f.field)),
  );
  for (const f of facts)
    if (setupAnswer(sheet.setup, f) === undefined) owe(f.field, `${f.ask}: not known.`, `setup.${f.field}`);
  for (const side of sides) {
    const noisy = sheet.rows.filter((r) => r[side]?.noisy);
    if (noisy.length > 0)
      owe(
        `${side} noisy`,
        `${noiseAt(side)} ${listed(noisy.map((r) => r.lift.typed))}: marked as noise, take it again.`,
        'rows',
      );
  }
  if (sheet.setup.reads === 'difference' && sheet.baselineId === null)
    owe('baseline', 'Against what these differences were taken is not said.', 'baselineId');
  return owed;
}
const noiseAt = (side: Side) => `${side === 'intake' ? 'Intake' : 'Exhaust'} at`;
