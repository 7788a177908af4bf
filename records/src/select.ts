/** Which of several records speaks for a stage: sizes handed down the stages, the sheet to compare, its sister runners. */
import type { WholeHead } from './api.js';
import type { Side } from '@alluvium/core';
import type { Operation } from './nouns/change.js';
import type { Port, Stage } from './nouns/head.js';
import type { Measure } from './nouns/measure.js';
import type { Sheet } from './nouns/sheet.js';
import type { Survey } from './nouns/survey.js';

// stage!: followed while there is one.
// m.date!, pour.date!, cut.date!, sheet.date!, o.date!: those that are dated.

/** A stage and the stages it was made from, itself first. */
export function lineage(stages: readonly Stage[], stageId: string): Stage[] {
  const chain: Stage[] = [];
  for (
    let stage = stages.find((s) => s.id === stageId);
    stage && !chain.includes(stage);
    stage = stages.find((s) => s.id === stage!.parentId)
  )
    chain.push(stage);
  return chain;
}

/**
 * Sizes that hold at a stage: each item of each side and port from the nearest stage that measured it. Found sizes come
 * before stated ones: a size with a source other than the shop's own measuring is used only where nothing was found.
 */
export function measuresAt(whole: Pick<WholeHead, 'stages' | 'measures'>, stageId: string): Measure[] {
  const found = new Map<string, Measure[]>();
  const key = (m: Measure) => `${m.item}|${m.side}|${m.portId ?? ''}`;
  for (const own of [true, false]) {
    for (const stage of lineage(whole.stages, stageId)) {
      const here = whole.measures.filter((m) => m.stageId === stage.id && (m.sourceId === null) === own);
      const fresh = new Map<string, Measure[]>();
      for (const m of here) if (!found.has(key(m))) fresh.set(key(m), [...(fresh.get(key(m)) ?? []), m]);
      for (const [k, list] of fresh) found.set(k, list);
    }
  }
  return [...found.values()].flat();
}

/** Ports somebody worked on before the head came: no baseline. */
export const touchedPorts = (ports: readonly Port[]): ReadonlySet<string> =>
  new Set(ports.filter((p) => p.touched !== '').map((p) => p.id));

/** Whether a sheet was taken on a port that is among these. */
export const isOnPort = (sheet: Sheet, ports: ReadonlySet<string>): boolean =>
  [sheet.intakePortId, sheet.exhaustPortId].some((id) => id !== null && ports.has(id));

/** Whether a sheet may speak for its port: it holds flows, and no other is believed in its place. */
export const speaks = (sheet: Pick<Sheet, 'setAside' | 'setup'>): boolean =>
  sheet.setAside === '' && sheet.setup.reads !== 'difference';

/** How a sheet was taken, as far as its sisters are found by it. */
export type Taken = Pick<Sheet, 'id' | 'stageId' | 'sourceId' | 'kind' | 'intakePortId'> & {
  readonly setup: Pick<Sheet['setup'], 'bore'>;
};

/** Sheets of other intake ports of the stage, taken by the same source in the same bore: the other runners of the one chosen. */
export const sisterSheets = (sheets: readonly Sheet[], chosen: Taken): Sheet[] =>
  sheets.filter(
    (s) =>
      s.id !== chosen.id &&
      speaks(s) &&
      s.stageId === chosen.stageId &&
      s.sourceId === chosen.sourceId &&
      s.kind === chosen.kind &&
      (s.setup.bore?.si ?? 0) === (chosen.setup.bore?.si ?? 0) &&
      s.intakePortId !== null &&
      chosen.intakePortId !== null &&
      s.intakePortId !== chosen.intakePortId,
  );

/** `port 3`, or its nickname. */
export const portName = (ports: readonly Port[], id: string | null): string | undefined => {
  const port = ports.find((p) => p.id === id);
  return port && (port.nickname || `port ${port.number}`);
};

/** The survey that speaks for one side at a stage: the nearest stage's, of the port asked for before any other, the newest. */
export function surveyAt(
  whole: Pick<WholeHead, 'stages' | 'surveys'>,
  stageId: string,
  side: Survey['side'],
  portId: string | null = null,
): Survey | undefined {
  for (const stage of lineage(whole.stages, stageId)) {
    const here = whole.surveys
      .filter((s) => s.stageId === stage.id && s.side === side && s.sections.length > 0)
      .sort(
        (a, b) =>
          Number(b.portId === portId) - Number(a.portId === portId) ||
          (b.date ?? '').localeCompare(a.date ?? '') ||
          whole.surveys.indexOf(b) - whole.surveys.indexOf(a),
      );
    const [best] = here;
    if (best) return best;
  }
  return undefined;
}

/** Changes of size that make an older flow sheet one of another head: a new valve, a milled chamber, an opened throat. */
const FLOW_CHANGES: readonly Measure['item'][] = [
  'valve diameter',
  'throat',
  'bowl',
  'pinch',
  'window',
  'chamber volume',
];

/** Pours of a stage that are older than a size cut there since: the volume they say is not there any more. */
export function olderPours(whole: Pick<WholeHead, 'measures'>, stageId: string): string[] {
  const here = whole.measures.filter((m) => m.stageId === stageId && m.sourceId === null && m.date);
  return here.flatMap((pour) => {
    if (pour.item !== 'port volume' && pour.item !== 'chamber volume') return [];
    const cut = here.find(
      (m) => m.date! > pour.date! && m.item !== pour.item && m.side === pour.side && FLOW_CHANGES.includes(m.item),
    );
    const again = here.some((m) => m.item === pour.item && m.side === pour.side && cut && m.date! >= cut.date!);
    return cut && !again
      ? [`${pour.side ? `${pour.side} ` : ''}${pour.item} of ${pour.date} is older than: ${cut.item}, ${cut.date}`]
      : [];
  });
}

/** Work on a sheet's own side and port at its stage, done after the sheet was taken: `valve job, 2026-05-02`. */
const workedOnSince = (operations: readonly Operation[], sheet: Sheet, side: Side | undefined): string[] =>
  operations
    .filter(
      (o) =>
        o.stageId === sheet.stageId &&
        o.date &&
        o.date > sheet.date! &&
        (side === undefined || o.side === null || o.side === side) &&
        (o.portId === null || o.portId === sheet.intakePortId || o.portId === sheet.exhaustPortId),
    )
    .map((o) => `${o.kind}, ${o.date!}`);

/**
 * What was done to a head, or measured anew and found different, at a sheet's own stage after the sheet was taken: `valve
 * diameter, 2026-05-02`. Of one side only where `side` is given.
 */
export function changedSince(whole: Pick<WholeHead, 'measures' | 'operations'>, sheet: Sheet, side?: Side): string[] {
  if (!sheet.date) return [];
  const worked = workedOnSince(whole.operations, sheet, side);
  const measured = FLOW_CHANGES.flatMap((item) => {
    const own = whole.measures.filter(
      (m) => m.stageId === sheet.stageId && m.item === item && m.sourceId === null && m.date,
    );
    return own
      .filter(
        (m) =>
          m.date! > sheet.date! &&
          (side === undefined || m.side === null || m.side === side) &&
          own.some(
            (o) =>
              o.date! <= sheet.date! &&
              o.side === m.side &&
              o.portId === m.portId &&
              Math.abs(o.value.si - m.value.si) > 0.005 * Math.abs(o.value.si),
          ),
      )
      .map((m) => `${item}${m.side ? `, ${m.side}` : ''}, ${m.date}`);
  });
  return [...worked, ...measured];
}
