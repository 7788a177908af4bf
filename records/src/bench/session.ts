/** What a session still has to do, what it has recorded, and the sheet that follows from it. */
import {
  mean,
  REFERENCE_DEPRESSION,
  SAME_LIFT,
  USUAL_PITOT_SECONDS,
  USUAL_POINT_SECONDS,
  USUAL_REPEATABILITY,
  callError,
  evaluateSide,
  inches,
  millimetres,
  noted,
  oddPull,
  reversals,
  testTime,
  work,
  written,
  type Side,
  type Working,
} from '@alluvium/core';
import type { Call, Plan, RawReading, Session, VelocityMap, WetFlow } from '../nouns/bench.js';
import { liftsOf } from '../nouns/bench.js';
import type { Port } from '../nouns/head.js';
import type { Sheet, SheetRow } from '../nouns/sheet.js';
import { owing, type Owed } from '../owed/owed.js';
import type { Quantity } from '../quantity.js';
import { toCoreRows, toCoreSetup } from '../toCore.js';
import { unknowns } from './gate.js';

// at[]!: the one before, from the second on.
// steps[]!, points[]!, group[]!, inOrder[]!: places of the lists themselves.
// r.percent!, r.swirl!: a reading has what its bench reads.

/** The set-up a session is taken with now. */
// !: the schema refuses a session without one.
export const setupInForce = ({ setups }: Pick<Session, 'setups'>) => setups.at(-1)!;

/** One thing to record. */
export interface PlannedPoint {
  readonly number: number;
  readonly side: Side;
  readonly pull: number;
  readonly lift: number;
}

/** A point as it is planned, or as it was typed. */
type AnyPoint = Omit<PlannedPoint, 'lift'> & { readonly lift: number | Quantity };

/** Whether two lifts (m) are one setting of the dial, each written to a thousandth. */
export const sameLift = (a: number, b: number): boolean => Math.abs(a - b) < 10 * SAME_LIFT;
const si = (lift: number | Quantity): number => (typeof lift === 'number' ? lift : lift.si);
/** Whether two records are of one point: port, side, pull and lift. */
export const samePoint = (a: AnyPoint, b: AnyPoint): boolean =>
  a.number === b.number && a.side === b.side && a.pull === b.pull && sameLift(si(a.lift), si(b.lift));

/**
 * All points of a plan in the order they are recorded: the hardest ports first, then by number; intake before exhaust;
 * each pull is a whole run from the lowest lift, so that opening the valve anew is part of the scatter.
 */
export function plannedPoints(plan: Plan): PlannedPoint[] {
  const lifts = liftsOf(plan);
  const ports = [...plan.ports].sort((a, b) => Number(b.hard) - Number(a.hard) || a.number - b.number);
  const sides = (['intake', 'exhaust'] as const).filter((s) => plan.sides.includes(s));
  return ports.flatMap(({ number }) =>
    sides.flatMap((side) =>
      Array.from({ length: plan.pulls }, (_, pull) => lifts.map((lift) => ({ number, side, pull, lift }))).flat(),
    ),
  );
}

export const kept = (readings: readonly RawReading[]): RawReading[] => readings.filter((r) => r.state === 'kept');

/** The points that are neither recorded nor skipped, in order. */
export const pointsLeft = (plan: Plan, readings: readonly RawReading[]): PlannedPoint[] => {
  const done = kept(readings);
  return plannedPoints(plan).filter((p) => !done.some((r) => samePoint(p, r)));
};

/** A lift (m) as the trade writes it: `.400 in`, `9.5 mm`. */
export function liftText(si: number, metric: boolean): string {
  if (metric) return `${Number((si * 1000).toFixed(3))} mm`;
  return `${(si / 0.0254).toFixed(3).replace(/^0/, '')} in`;
}

/** A lift of a run as a quantity, as the trade writes it. */
export const liftQuantity = (at: number, metric: boolean): Quantity => {
  const typed = liftText(at, metric);
  return { si: Number.parseFloat(typed) * (metric ? millimetres(1) : inches(1)), typed };
};

/** Whether a plan's lifts are asked for in millimetres. */
export const isMetric = (plan: Pick<Plan, 'step' | 'list'>): boolean =>
  (plan.step ?? plan.list[0])?.typed.includes('mm') ?? false;

const SETTING_SECONDS = 300;

/** How long what is left will take: the pace of this run once five points are in, else the usual one. */
export function timeLeft(session: Pick<Session, 'plan'>, readings: readonly RawReading[]): Working {
  const left = pointsLeft(session.plan, readings);
  const at = kept(readings)
    .map((r) => Date.parse(r.at) / 1000)
    .sort((a, b) => a - b);
  const steps = at
    .slice(1)
    .map((t, i) => t - at[i]!)
    .filter((d) => d > 0 && d < 180)
    .sort((a, b) => a - b);
  const pace = steps.length >= 5 ? steps[Math.floor(steps.length / 2)]! : USUAL_POINT_SECONDS;
  const started = new Set(kept(readings).map((r) => `${r.side}${r.number}`));
  const ports = new Set(left.map((p) => `${p.side}${p.number}`).filter((p) => !started.has(p))).size;
  return work(testTime, {
    points: left.length,
    pulls: 1,
    point: Math.max(1, Math.round(pace)),
    ports,
    setting: SETTING_SECONDS,
    probes: session.plan.maps.reduce((s, m) => s + m.rows * m.columns, 0),
    probe: USUAL_PITOT_SECONDS,
  });
}

const byPull = (a: RawReading, b: RawReading) => a.pull - b.pull || a.at.localeCompare(b.at);

/**
 * One side of a row from the readings kept of it; null when none is. A row has one range and one depression, those of
 * the last pull: a pull read otherwise is brought to them, and stays as it came among the raw readings.
 */
function sideOf(readings: readonly RawReading[], setup: Sheet['setup'], side: Side): SheetRow['intake'] {
  const read = readings.filter((r) => r.flow ?? r.percent).sort(byPull);
  const last = read.at(-1);
  if (!last) return null;
  const fullScale = (r: RawReading) => setup.ranges.find((x) => x.name === r.range)?.[side]?.si ?? 1;
  const depression = (r: RawReading) => r.depression?.si ?? setup.depression?.si ?? REFERENCE_DEPRESSION;
  const pulls = read.map((r): Quantity => {
    if (r.flow) {
      const times = Math.sqrt(depression(last) / depression(r));
      return times === 1 ? r.flow : written(r.flow.si * times, 'flow', 'cfm', 2);
    }
    const linear = (fullScale(r) / fullScale(last)) * Math.sqrt(depression(last) / depression(r));
    const times = setup.reads === 'differential' ? linear ** 2 : linear;
    return times === 1 ? r.percent! : written(r.percent!.si * times, 'percent', '%', 2);
  });
  return { pulls, range: last.range, depression: last.depression, noisy: read.some((r) => r.noisy) };
}

/**
 * The sheet with one point of one side written anew from the raw readings of that sheet; every other row stays as it
 * is, so that a correction made by hand elsewhere is not undone by the next reading.
 */
export function withReadings(
  sheet: Sheet,
  readings: readonly RawReading[],
  touched: { readonly side: Side; readonly lift: Quantity },
): Sheet {
  const here = kept(readings).filter((r) => sameLift(r.lift.si, touched.lift.si));
  const own = here.filter((r) => r.side === touched.side);
  const skipped = here.find((r) => r.skipped !== '');
  const before = sheet.rows.find((r) => sameLift(r.lift.si, touched.lift.si));
  const row: SheetRow = {
    ...(before ?? { lift: touched.lift, intake: null, exhaust: null, missing: '', note: '' }),
    [touched.side]: sideOf(own, sheet.setup, touched.side),
    missing: skipped ? `${skipped.side}: ${skipped.skipped}`.slice(0, 200) : '',
  };
  const others = sheet.rows.filter((r) => r !== before);
  const says = row.intake !== null || row.exhaust !== null || row.missing !== '';
  const speeds = here.filter((r) => r.swirl && r.side === 'intake').sort(byPull);
  const swirl = sheet.swirl.filter((s) => !sameLift(s.lift.si, touched.lift.si));
  return {
    ...sheet,
    rows: [...others, ...(says ? [row] : [])].sort((a, b) => a.lift.si - b.lift.si),
    swirl: [...swirl, ...(speeds.length ? [{ lift: touched.lift, speed: speeds.map((r) => r.swirl!) }] : [])].sort(
      (a, b) => a.lift.si - b.lift.si,
    ),
  };
}

/** Swirl of a sheet over lift: the mean of each point's readings, and the lifts at which it turns round. */
export function swirlOf(sheet: Pick<Sheet, 'swirl'>): {
  points: { lift: number; speed: number }[];
  reversals: number[];
} {
  const points = sheet.swirl.map((s) => ({
    lift: s.lift.si,
    speed: mean(s.speed.map((q) => q.si)),
  }));
  return { points, reversals: reversals(points) };
}

/** Points of which several pulls were taken and one stands apart. */
export function oddPulls(readings: readonly RawReading[]): RawReading[] {
  const groups = new Map<string, RawReading[]>();
  for (const r of kept(readings)) {
    if (!(r.flow ?? r.percent)) continue;
    const key = [r.setup, r.number, r.side, Math.round(r.lift.si * 1e6), r.range].join('|');
    groups.set(key, [...(groups.get(key) ?? []), r]);
  }
  return [...groups.values()].flatMap((group) => {
    const odd = oddPull(
      group.map((r) => (r.flow ?? r.percent)!.si),
      USUAL_REPEATABILITY,
    );
    return odd === undefined ? [] : [group[odd]!];
  });
}

/** Everything of one session. */
export interface WholeSession {
  readonly session: Session;
  readonly readings: readonly RawReading[];
  readonly calls: readonly Call[];
  readonly sheets: readonly Sheet[];
  readonly velocityMaps: readonly VelocityMap[];
  readonly wetFlows: readonly WetFlow[];
}

/** What a session owes: points, doubtful readings, unknown facts, swirl, maps. Complete when all is done or excused. */
export function owedOf({ session, readings, velocityMaps, wetFlows, sheets }: Omit<WholeSession, 'calls'>): Owed[] {
  const { plan } = session;
  const { owed, owe } = owing(session.excused);
  const left = pointsLeft(plan, readings);
  const ports = new Map<string, PlannedPoint[]>();
  for (const p of left) {
    const key = `${p.side} ${p.number}`;
    ports.set(key, [...(ports.get(key) ?? []), p]);
  }
  for (const [key, points] of ports)
    owe(
      `points ${key}`,
      `Port ${points[0]!.number} ${points[0]!.side}: ${points.length} ${points.length === 1 ? 'point' : 'points'} not recorded.`,
    );
  if (left.length > 0 && readings.length > 0 && session.finished && session.stopped === '')
    owe('stopped', 'Say why the run stopped early.');
  const metric = isMetric(plan);
  for (const r of kept(readings).filter((x) => x.noisy))
    owe(
      `noisy ${r.id}`,
      `Port ${r.number} ${r.side} at ${liftText(r.lift.si, metric)} is marked noisy: take it again.`,
    );
  for (const r of oddPulls(readings))
    owe(
      `odd ${r.id}`,
      `Port ${r.number} ${r.side} at ${liftText(r.lift.si, metric)}: pull ${r.pull + 1} stands apart from the others.`,
    );
  const used = new Set(readings.map((r) => r.setup));
  session.setups.forEach((setup, i) => {
    if (!used.has(i)) return;
    for (const fact of unknowns(setup, plan.sides)) owe(`unknown ${i} ${fact}`, `Set-up ${i + 1}: ${fact} is unknown.`);
  });
  if (plan.swirl && plan.sides.includes('intake'))
    for (const { number } of plan.ports)
      if (!readings.some((r) => r.number === number && r.state === 'kept' && r.swirl))
        owe(`swirl ${number}`, `Port ${number}: no swirl taken.`);
  plan.maps.forEach((m, i) => {
    if (!velocityMaps.some((v) => v.place === m.place && sameLift(v.lift.si, m.lift.si) && v.cells.length > 0))
      owe(`map ${i}`, `No velocity map of the ${m.place} at ${m.lift.typed}.`);
  });
  if (plan.valveOut)
    for (const { number } of plan.ports) {
      const own = new Set(readings.filter((r) => r.number === number).map((r) => r.sheetId));
      for (const side of plan.sides)
        if (!sheets.some((s) => own.has(s.id) && s.valveOut[side]))
          owe(
            `valve out ${side} ${number}`,
            `Port ${number} ${side}: no valve-out pull. Type it on its sheet, with “valve out” in the place of the lift.`,
          );
    }
  if (plan.wetFlow && wetFlows.length === 0) owe('wet flow', 'No wet-flow photo.');
  return owed;
}

/** The port of a head by side and number. */
export const portOf = (ports: readonly Port[], side: Side, number: number): Port | undefined =>
  ports.find((p) => p.side === side && p.number === number);

/** Longest pause that is still the pace of a run, s; beyond it the session notes a gap. */
export const GAP_SECONDS = 180;

/** Pauses in a session: after which reading, and how long. */
export function gapsOf(readings: readonly RawReading[]): { readonly after: RawReading; readonly seconds: number }[] {
  const inOrder = [...readings].sort((a, b) => a.at.localeCompare(b.at));
  return inOrder.slice(1).flatMap((r, i) => {
    const seconds = (Date.parse(r.at) - Date.parse(inOrder[i]!.at)) / 1000;
    return seconds > GAP_SECONDS ? [{ after: inOrder[i]!, seconds }] : [];
  });
}

export interface ScoredCall {
  readonly side: Side;
  readonly called: Quantity;
  readonly error: Working;
}

/** The flow a call anywhere was answered with: the first measured sheet that reads its lift, within its rows. */
function answerOf(call: Call, sheets: readonly Sheet[]): number | undefined {
  if (!call.side || !call.lift) return undefined;
  const inOrder = [...sheets].sort((a, b) => (a.date ?? '9').localeCompare(b.date ?? '9') || a.id.localeCompare(b.id));
  for (const sheet of inOrder) {
    const { curve, points } = evaluateSide(toCoreSetup(sheet), toCoreRows(sheet), call.side);
    const far = Math.max(0, ...points.map((p) => p.lift));
    const flow = call.lift.si <= far + SAME_LIFT ? curve?.at(Math.min(call.lift.si, far)) : undefined;
    if (flow !== undefined) return flow;
  }
  return undefined;
}

/**
 * A call against what came out: of a session the best port of each side; anywhere else the flow at its lift. `sheets` must
 * be of that session, or of that stage and no older than the call.
 */
export function scoredCalls(call: Call, sheets: readonly Sheet[]): ScoredCall[] {
  if (call.sessionId === null) {
    const found = answerOf(call, sheets);
    if (found === undefined || !call.flow || !call.side) return [];
    const measured = noted(found, 'flow measured at that lift');
    return [{ side: call.side, called: call.flow, error: work(callError, { called: call.flow.si, measured }) }];
  }
  return (['intake', 'exhaust'] as const).flatMap((side) => {
    const called = call[`${side}Peak`];
    const peaks = sheets.flatMap((sheet) => {
      const { peak } = evaluateSide(toCoreSetup(sheet), toCoreRows(sheet), side);
      return peak ? [peak.flow] : [];
    });
    if (!called || peaks.length === 0) return [];
    const measured = noted(Math.max(...peaks), 'peak of the best port of the session');
    return [{ side, called, error: work(callError, { called: called.si, measured }) }];
  });
}
