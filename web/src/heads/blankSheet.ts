import { SIDES, type Side } from '@alluvium/core';
import { NO_VALVE_OUT, SHEET_BESIDE, Setup, type Sheet, type WholeHead } from '@alluvium/records';
import type { Draft } from '../data/form.js';
import { today } from '../data/today.js';
import { portIdFor, portNumber } from './useSheetNames.js';

/** A new sheet that goes on from one that was just typed: the same set-up, its rows to be read. */
export interface GoOn {
  readonly to: 'port' | 'bore';
  readonly sheet: Sheet;
}

/** Ways on from a sheet: the next port while the head has one, the same port in another bore. */
export function canGoOn(sheet: Draft<'sheet'>, whole: WholeHead): (readonly [GoOn['to'], string])[] {
  const numbers = SIDES.map((side) => Number(portNumber(whole, sheet[`${side}PortId`]))).filter((n) => n > 0);
  const most = (whole.head.cylinders ?? 24) * (whole.head.intakePorts ?? 1);
  return [
    ...(numbers.length > 0 && Math.max(...numbers) < most ? ([['port', 'Save, then the next port']] as const) : []),
    ...(numbers.length > 0 && sheet.setup?.bore ? ([['bore', 'Save, then another bore']] as const) : []),
  ];
}

/** The lifts of a sheet with nothing read at them. */
const lifts = (sheet: Sheet): Sheet['rows'] =>
  sheet.rows.map((r) => ({ lift: r.lift, intake: null, exhaust: null, missing: '', note: '' }));

/**
 * A new sheet of a stage. A measured one takes over the set-up of the last one there as a whole, so that the pipe is never
 * forgotten; of a claim nothing is known until somebody states it. One that goes on from another keeps its lifts too.
 */
export function blankSheet(
  stageId: string,
  before?: Sheet,
  kind: Sheet['kind'] = 'measured',
  after?: GoOn,
  whole?: WholeHead,
): Draft<'sheet'> {
  const last = after?.sheet ?? (kind === 'claim' ? undefined : before);
  const next = (side: Side): string | null => {
    const id = last?.[`${side}PortId`] ?? null;
    if (!after || !whole || after.to !== 'port' || id === null) return id;
    return portIdFor(whole, side, String(Number(portNumber(whole, id)) + 1));
  };
  const setup = last ? last.setup : Setup.parse(kind === 'claim' ? {} : { depression: '28 inH2O' });
  return {
    id: null,
    version: 1,
    stageId,
    sourceId: last?.sourceId ?? null,
    title: '',
    kind: after?.sheet.kind ?? kind,
    date: after ? after.sheet.date : kind === 'claim' ? null : today(),
    intakePortId: next('intake'),
    exhaustPortId: next('exhaust'),
    setup: after?.to === 'bore' ? { ...setup, bore: null } : setup,
    rows: after ? lifts(after.sheet) : [],
    swirl: [],
    valveOut: NO_VALVE_OUT,
    ...SHEET_BESIDE,
    pageId: after?.sheet.pageId ?? null,
    stopped: '',
    note: '',
  };
}
