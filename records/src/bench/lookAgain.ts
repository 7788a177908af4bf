/** What a reading is held against before it is believed: the call, the stage before, the other ports of the run. */
import { WITHIN, farFrom, type Expected, type FarOff, type Say, type Side } from '@alluvium/core';
import { evaluateSheetOf, type FlowedHead } from '../evaluateHead.js';
import type { Call } from '../nouns/bench.js';
import type { Sheet } from '../nouns/sheet.js';
import { lineage, pickSheet, portName, sisterSheets } from '../select.js';
import { sameLift } from './session.js';

/** What one side of a sheet is expected to flow at a lift, by all that is known of it. */
function expectedAt(whole: FlowedHead, sheet: Sheet, side: Side, calls: readonly Call[]) {
  const curveOf = (s: Sheet) => evaluateSheetOf(whole, s)[side].curve;
  const ports = sisterSheets(whole.sheets, sheet).map((s) => ({
    what: portName(whole.ports, side === 'intake' ? s.intakePortId : s.exhaustPortId) ?? s.title,
    curve: curveOf(s),
    within: WITHIN.port,
  }));
  const stage = lineage(whole.stages, sheet.stageId)
    .slice(1)
    .find((s) => pickSheet(whole.sheets, s.id));
  const before = stage && pickSheet(whole.sheets, stage.id);
  const curves = [
    ...ports,
    ...(before ? [{ what: `“${stage.name}”`, curve: curveOf(before), within: WITHIN.baseline }] : []),
  ];
  const own = calls.filter((c) => c.stageId === sheet.stageId && c.side === side && c.lift && c.flow);
  return (lift: number): Expected[] => [
    ...curves.flatMap(({ what, curve, within }) => {
      const flow = curve?.at(lift);
      return flow === undefined ? [] : [{ what, flow, within }];
    }),
    ...own
      .filter((c) => sameLift(c.lift!.si, lift))
      .map((c) => ({ what: `the call${c.who ? ` of ${c.who}` : ''}`, flow: c.flow!.si, within: WITHIN.call })),
  ];
}

export interface SecondLook {
  readonly side: Side;
  readonly lift: number;
  readonly flow: number;
  readonly far: FarOff;
  /** At how many lifts something is far off. */
  readonly lifts: number;
}

/** Of each side the reading that lies furthest from what it is held against; nothing where all may be believed. */
export function secondLooks(whole: FlowedHead, sheet: Sheet, calls: readonly Call[] = []): SecondLook[] {
  return (['intake', 'exhaust'] as const).flatMap((side) => {
    const at = expectedAt(whole, sheet, side, calls);
    // A call of a session is of the best there is: only what passes it is far from it while the run goes on.
    const best = calls.flatMap((c) => (c.sessionId !== null && c[`${side}Peak`] ? [c[`${side}Peak`]!.si] : []));
    const passed = (flow: number): FarOff[] =>
      farFrom(
        flow,
        best.map((q) => ({ what: 'the call', flow: q, within: WITHIN.call })),
      ).filter((f) => f.off > 0);
    const looks = evaluateSheetOf(whole, sheet)[side].points.flatMap((p) => {
      const [far] = [...farFrom(p.flow.value, at(p.lift)), ...passed(p.flow.value)];
      return far ? [{ side, lift: p.lift, flow: p.flow.value, far }] : [];
    });
    if (looks.length === 0) return [];
    const worst = looks.reduce((a, b) => (Math.abs(b.far.off) > Math.abs(a.far.off) ? b : a));
    return [{ ...worst, lifts: looks.length }];
  });
}

/** `At .400 the intake reads 220 cfm, 14 % under port 3 …` */
export function secondLookWords({ side, lift, flow, far, lifts }: SecondLook, say: Say): string {
  const apart = `${say.of(Math.abs(far.off), 'percent', { digits: 0 })} ${far.off > 0 ? 'above' : 'under'} ${far.what}`;
  const more = lifts > 1 ? `, and ${lifts - 1} more ${lifts === 2 ? 'row is' : 'rows are'} far off` : '';
  return `At ${say.of(lift, 'lift')} the ${side} reads ${say.of(flow, 'flow', { digits: 0 })}, ${apart}${more}. Look at the range, at leaks and at the plate before it is believed.`;
}
