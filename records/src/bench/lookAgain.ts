/** What a reading is held against before it is believed: the call, the stage before, the other ports of the run. */
import {
  SIDES,
  WITHIN,
  farFrom,
  type BandView,
  type Expected,
  type FarOff,
  type PointResult,
  type Say,
  type SheetResult,
  type Side,
} from '@alluvium/core';
import { evaluateSheetOf, type FlowedHead } from '../evaluateHead.js';
import type { Call } from '../nouns/bench.js';
import type { Sheet } from '../nouns/sheet.js';
import { lineage, portName, sisterSheets, type Taken } from '../select.js';
import { pickSheet } from '../evidence.js';
import { sameLift } from './session.js';

// results.get()!: every sheet was evaluated.
// c.lift!, c.flow!, []!: calls that have them.

/** What each side is expected to flow at a lift. It hangs on how a sheet was taken, not on its rows: typing reads nothing again. */
export type Expectations = Readonly<Record<Side, (lift: number) => readonly Expected[]>> & {
  /** Best flows called of a session, m³/s. */
  readonly best: Readonly<Record<Side, readonly number[]>>;
};

/** All that is known of what a sheet should flow. */
export function expectations(whole: FlowedHead, sheet: Taken, calls: readonly Call[] = []): Expectations {
  const sisters = sisterSheets(whole.sheets, sheet);
  const stage = lineage(whole.stages, sheet.stageId)
    .slice(1)
    .find((s) => pickSheet(whole, s.id));
  const before = stage && pickSheet(whole, stage.id);
  const results = new Map([...sisters, ...(before ? [before] : [])].map((s) => [s.id, evaluateSheetOf(whole, s)]));
  const of = (side: Side) => {
    const curveOf = (s: Sheet) => results.get(s.id)![side].curve;
    const curves = [
      ...sisters.map((s) => ({
        what: portName(whole.ports, side === 'intake' ? s.intakePortId : s.exhaustPortId) ?? s.title,
        curve: curveOf(s),
        within: WITHIN.port,
      })),
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
  };
  const best = (side: Side) =>
    calls.flatMap((c) => (c.sessionId !== null && c[`${side}Peak`] ? [c[`${side}Peak`]!.si] : []));
  return {
    intake: of('intake'),
    exhaust: of('exhaust'),
    best: { intake: best('intake'), exhaust: best('exhaust') },
  };
}

export interface SecondLook {
  readonly side: Side;
  readonly lift: number;
  readonly flow: number;
  readonly far: FarOff;
  /** At how many lifts something is far off. */
  readonly lifts: number;
}

/** What the library's heads have at a lift ratio, on one side: undefined where too few of them were measured there. */
export type FamilyLookup = (side: Side, liftRatio: number) => BandView | undefined;

/** Standard deviations of what heads differ by beyond which a reading is unlike them. */
const UNLIKE = 3;

/** What a point would be with the coefficient of the heads like it. */
function expectedOfFamily(p: PointResult, side: Side, family: FamilyLookup | undefined): Expected[] {
  const curtain = p.coefficients.curtain?.value;
  const view = p.liftRatio === undefined ? undefined : family?.(side, p.liftRatio);
  if (!curtain || view?.middle === undefined || view.spread === undefined) return [];
  return [
    {
      what: `the middle of ${view.heads} heads at that lift of their valves`,
      flow: (p.flow.value * view.middle) / curtain,
      within: Math.expm1(UNLIKE * view.spread),
    },
  ];
}

/** Of each side the reading that lies furthest from what it is held against; nothing where all may be believed. */
export function secondLooks(expected: Expectations, result: SheetResult, family?: FamilyLookup): SecondLook[] {
  return SIDES.flatMap((side) => {
    // A call of a session is of the best there is: only what passes it is far from it while the run goes on.
    const called = expected.best[side].map((flow) => ({ what: 'the call', flow, within: WITHIN.call }));
    const looks = result[side].points.flatMap((p) => {
      const flow = p.flow.value;
      const passed = farFrom(flow, called).filter((f) => f.off > 0);
      const [far] = [...farFrom(flow, [...expected[side](p.lift), ...expectedOfFamily(p, side, family)]), ...passed];
      return far ? [{ side, lift: p.lift, flow, far }] : [];
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
