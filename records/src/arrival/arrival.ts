/** From stored records to the condition of a head: which findings and seats speak at a stage, for a build. */
import { arrivalCondition, OPERATIONS, type ArrivalResult } from '@alluvium/core';
import type { WholeHead } from '../api.js';
import type { Finding, Inspection, Seat } from '../nouns/arrival.js';
import { lineage } from '../select.js';

type ArrivalRecords = Pick<
  WholeHead,
  'head' | 'stages' | 'ports' | 'inspections' | 'findings' | 'seats' | 'operations'
>;

/** `cylinder 4, exhaust seat`; empty when no place was given. */
export function placeOf(finding: Pick<Finding, 'cylinder' | 'side' | 'part'>): string {
  const part = finding.part === 'other' ? '' : finding.part;
  return [
    finding.cylinder === null ? '' : `cylinder ${finding.cylinder}`,
    [finding.side, part].filter(Boolean).join(' '),
  ]
    .filter(Boolean)
    .join(', ');
}

/** `exhaust seat of cylinder 4`, with the valve's number where a side has more than one. */
export function seatName(seat: Pick<Seat, 'side' | 'cylinder' | 'valve'>, head: WholeHead['head']): string {
  const valves = seat.side === 'intake' ? head.intakeValves : head.exhaustValves;
  return `${seat.side} seat ${valves > 1 ? `${seat.valve} ` : ''}of cylinder ${seat.cylinder}`;
}

/** Findings that stand at a stage: found there or before, not mended by then; `buildId` leaves out what matters for other builds only. */
export function standingFindings(whole: ArrivalRecords, stageId: string, buildId?: string): Finding[] {
  const before = new Set(lineage(whole.stages, stageId).map((s) => s.id));
  return whole.findings.filter(
    (f) =>
      before.has(f.stageId) &&
      !(f.mendedStageId && before.has(f.mendedStageId)) &&
      (f.buildId === null || buildId === undefined || f.buildId === buildId),
  );
}

const seatKey = (s: Pick<Seat, 'side' | 'cylinder' | 'valve'>) => `${s.side}|${s.cylinder}|${s.valve}`;

/** A look at a seat as it stands at a stage. */
export interface SeenSeat extends Seat {
  /** What was done to it after the look, at a later stage: what was seen is not there any more, and the result is `untested`. */
  readonly since?: string;
}

type SeatRecords = Pick<WholeHead, 'head' | 'stages' | 'ports' | 'seats' | 'operations'>;

/** Work on a seat at a stage: `valve job`; undefined where none was done there. */
function workedOn({ head, ports, operations }: SeatRecords, stageId: string, seat: Seat): string | undefined {
  return operations.find((o) => {
    if (o.stageId !== stageId || OPERATIONS[o.kind].works !== 'valve' || o.side !== seat.side) return false;
    const port = ports.find((p) => p.id === o.portId);
    const each = seat.side === 'intake' ? (head.intakePorts ?? 1) : 1;
    return !port || Math.ceil(port.number / each) === seat.cylinder;
  })?.kind;
}

/**
 * The newest look at each seat that holds at a stage: the nearest stage first, then the latest date. A seat that was worked
 * on at a later stage was not looked at since.
 */
export function latestSeats(whole: SeatRecords, stageId: string): SeenSeat[] {
  const newest = new Map<string, SeenSeat>();
  const later: string[] = [];
  for (const stage of lineage(whole.stages, stageId)) {
    const here = whole.seats
      .filter((s) => s.stageId === stage.id)
      .sort((a, b) => (b.date ?? '').localeCompare(a.date ?? '') || b.id.localeCompare(a.id));
    for (const seat of here) {
      if (newest.has(seatKey(seat))) continue;
      const since = later.map((id) => workedOn(whole, id, seat)).find((work) => work !== undefined);
      newest.set(seatKey(seat), since ? { ...seat, result: 'untested', since } : seat);
    }
    later.push(stage.id);
  }
  return [...newest.values()];
}

/** All looks at one seat, the newest last, as they came. */
export const looksAt = (whole: Pick<WholeHead, 'seats'>, seat: Pick<Seat, 'side' | 'cylinder' | 'valve'>): Seat[] =>
  whole.seats.filter((s) => seatKey(s) === seatKey(seat));

/** The look whose ring a new one most likely shares: the last at this seat, else the last at any of its side. */
export const likelyLook = (
  whole: Pick<WholeHead, 'seats'>,
  seat: Pick<Seat, 'side' | 'cylinder' | 'valve'>,
): Seat | undefined => looksAt(whole, seat).at(-1) ?? whole.seats.filter((s) => s.side === seat.side).at(-1);

/** What an inspection shows: what was ticked, or that something was found there and still stands. */
export const inspectionMark = (inspection: Inspection, standing: readonly Finding[]): Inspection['state'] | 'found' =>
  standing.some((f) => f.inspectionId === inspection.id) ? 'found' : inspection.state;

/** The condition of a head at a stage, for a build. */
export function arrivalAt(whole: ArrivalRecords, stageId: string, buildId?: string): ArrivalResult {
  const standing = standingFindings(whole, stageId, buildId);
  const everFound = new Set(whole.findings.map((f) => f.inspectionId));
  return arrivalCondition({
    inspections: whole.inspections.map((i) => ({ title: i.title, state: i.state, found: everFound.has(i.id) })),
    findings: standing.map((f) => ({
      text: f.text,
      place: placeOf(f),
      severity: f.severity,
      ...(f.cost ? { cost: f.cost.si } : {}),
    })),
    seats: latestSeats(whole, stageId).map((s) => ({
      place: seatName(s, whole.head),
      result: s.result,
      ...(s.since ? { since: s.since } : {}),
    })),
  });
}
