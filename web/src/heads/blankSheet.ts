import { NO_VALVE_OUT, Setup, type Sheet } from '@alluvium/records';
import type { Draft } from '../data/form.js';
import { today } from '../data/today.js';

/**
 * A new sheet of a stage. A measured one takes over the set-up of the last one there as a whole, so that the pipe is never
 * forgotten; of a claim nothing is known until somebody states it.
 */
export function blankSheet(stageId: string, before?: Sheet, kind: Sheet['kind'] = 'measured'): Draft<'sheet'> {
  const last = kind === 'claim' ? undefined : before;
  return {
    id: null,
    version: 1,
    stageId,
    sourceId: last?.sourceId ?? null,
    title: '',
    kind,
    date: kind === 'claim' ? null : today(),
    intakePortId: last?.intakePortId ?? null,
    exhaustPortId: last?.exhaustPortId ?? null,
    setup: last ? last.setup : Setup.parse(kind === 'claim' ? {} : { depression: '28 inH2O' }),
    rows: [],
    swirl: [],
    valveOut: NO_VALVE_OUT,
    chart: null,
    stopped: '',
    note: '',
  };
}
