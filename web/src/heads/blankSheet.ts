import { Setup, type Sheet } from '@alluvium/records';
import type { Draft } from '../parts/form.js';
import { today } from '../parts/today.js';

/** A new sheet of a stage; the set-up of the last one there is taken over as a whole, so that the pipe is never forgotten. */
export function blankSheet(stageId: string, last?: Sheet): Draft<'sheet'> {
  return {
    id: null,
    version: 1,
    stageId,
    sourceId: last?.sourceId ?? null,
    title: '',
    kind: 'measured',
    date: today(),
    intakePortId: last?.intakePortId ?? null,
    exhaustPortId: last?.exhaustPortId ?? null,
    setup: last ? last.setup : Setup.parse({ depression: '28 inH2O' }),
    rows: [],
    swirl: [],
    stopped: '',
    note: '',
  };
}
