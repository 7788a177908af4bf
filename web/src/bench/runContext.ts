/** What stands around a run: how it is set up, in a line, and the curves it is held against. */
import { evaluateSide, type FlowPoint, type Say, type SheetResult, type Side } from '@alluvium/core';
import {
  evaluateSheetOf,
  expectations,
  kept,
  leastPort,
  sameLift,
  secondLookWords,
  secondLooks,
  type FamilyLookup,
  toCoreRows,
  toCoreSetup,
  type Session,
  type Sheet,
  type WholeHead,
  type WholeSession,
  setupInForce,
} from '@alluvium/records';
import type { CompareHead } from '../data/comparison.js';

// all[]!: the one before, from the second on.

/** A curve drawn behind the one that grows. */
export interface Behind {
  readonly name: string;
  readonly points: readonly FlowPoint[];
}

/** The current set-up of one side in a line. */
export function setupLine(session: Session, whole: WholeHead, side: Side): string {
  const s = setupInForce(session);
  const bore = s.bore === 'unknown' ? 'bore unknown' : s.bore && `${s.bore.typed} bore`;
  const pipe = s.pipeDiameter === 'unknown' ? '' : (s.pipeDiameter?.typed ?? '');
  const exhaust = s.exhaustPipe && (s.exhaustPipe === 'piped' ? `exhaust piped ${pipe}` : `exhaust ${s.exhaustPipe}`);
  return [
    s.portKind,
    whole.stages.find((x) => x.id === session.stageId)?.name,
    side === 'intake' ? s.entry && `${s.entry} entry` : exhaust,
    bore,
    s.holesClosed === 'yes' ? 'plug in' : s.holesClosed === 'no' ? 'plug holes open' : '',
    s.valve === 'other' ? 'flow valves' : '',
    session.setups.length > 1 ? `set-up ${session.setups.length}` : '',
  ]
    .filter(Boolean)
    .join(' · ');
}

/** What is recorded of one port and side so far, at 28 in, over all set-ups of the session. */
export function recordedCurve(session: WholeSession, number: number | undefined, side: Side) {
  const sheets = new Set(kept(session.readings).flatMap((r) => (r.number === number ? [r.sheetId] : [])));
  return session.sheets
    .filter((sheet) => sheets.has(sheet.id))
    .flatMap((sheet) => evaluateSide(toCoreSetup(sheet), toCoreRows(sheet), side).points)
    .map((p) => ({ lift: p.lift, flow: p.flow.value, noisy: p.noisy }))
    .sort((a, b) => a.lift - b.lift)
    .filter((p, i, all) => i === 0 || !sameLift(p.lift, all[i - 1]!.lift));
}

/** The baseline of the lineup, this head as it was tested before, and what is claimed of it. */
export function curvesBehind(
  session: WholeSession,
  whole: WholeHead,
  heads: readonly CompareHead[],
  side: Side,
): Behind[] {
  const of = (name: string, points: readonly FlowPoint[] | undefined): Behind[] =>
    points && points.length > 1 ? [{ name, points }] : [];
  const sheetPoints = (sheet: Sheet) =>
    evaluateSheetOf(whole, sheet)[side].points.map((p) => ({ lift: p.lift, flow: p.flow.value }));
  const base = heads.find((h) => h.whole.head.id !== whole.head.id);
  const fresh = new Set(session.readings.map((r) => r.sheetId));
  const before = leastPort(
    { ...whole, sheets: whole.sheets.filter((s) => !fresh.has(s.id)) },
    session.session.stageId,
    side,
  )?.sheets[0];
  const claim = whole.sheets.find((s) => s.kind === 'claim' && s.setup.reads !== 'difference');
  return [
    ...(base ? of(`${base.letter} ${base.name}`, base.result?.[side].curve?.points) : []),
    ...(before?.kind === 'measured' ? of('this head before', sheetPoints(before)) : []),
    ...(claim ? of('claimed', sheetPoints(claim)) : []),
  ];
}

/** The sheet that is being read of one port, among all of its head. */
function sheetInHand({ sheets, readings }: WholeSession, number: number | undefined): Sheet | undefined {
  const here = new Set(kept(readings).flatMap((r) => (r.number === number ? [r.sheetId] : [])));
  return sheets.findLast((s) => here.has(s.id));
}

/** The same with what it says, for what the library's heads are held against. */
export function resultInHand(
  session: WholeSession,
  head: WholeHead,
  number: number | undefined,
): { readonly sheet: Sheet; readonly result: SheetResult } | undefined {
  const sheet = sheetInHand(session, number);
  return sheet && { sheet, result: evaluateSheetOf(head, sheet) };
}

/** What was read on this port and side lies far from its call, the stage before or the last port: said before the next lift. */
export function secondLookAt(
  session: WholeSession,
  head: WholeHead,
  number: number | undefined,
  side: Side,
  say: Say,
  family?: FamilyLookup,
): string {
  const { sheets, calls } = session;
  const sheet = sheetInHand(session, number);
  if (!sheet) return '';
  const ids = new Set(sheets.map((s) => s.id));
  const all = { ...head, sheets: [...head.sheets.filter((s) => !ids.has(s.id)), ...sheets] };
  const look = secondLooks(expectations(all, sheet, calls), evaluateSheetOf(all, sheet), family).find(
    (l) => l.side === side,
  );
  return look ? secondLookWords(look, say) : '';
}
