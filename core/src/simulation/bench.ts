/**
 * The virtual bench: the port with its valve, run steady at the sheet's depression on the grid the engine will use. The
 * effective area of the valve is the one with which the model flows what the sheet says, so that what the port loses by
 * its own shape and walls is counted once.
 */
import { flowCurve, hermite, monotoneSlopes, type FlowPoint } from '../flow/curve.js';
import { REFERENCE_DENSITY, REFERENCE_DEPRESSION, REFERENCE_PRESSURE } from '../flow/reading.js';
import { ENGINE_GAS } from './gas.js';
import { gridOf, type AreaPoint } from './grid.js';
import { cellOf, type ValveArea } from './model.js';
import { endMemory, nozzleFlux, solveEnd, type Volume } from './nozzle.js';
import { endFlow, pipeOf, reachEnds, stepPipe, take } from './pipe.js';
import { refusal } from '../refusal/refusal.js';

// target!: it is what is asked where the opening is not.

/** The air of the flow room, as standard flows are stated. */
const ROOM_P = REFERENCE_PRESSURE;
const ROOM_T = ROOM_P / (REFERENCE_DENSITY * ENGINE_GAS.R);
/** The bench gives the sheet back within this share. */
export const BENCH_TOLERANCE = 5e-4;
const MOST_STEPS = 40_000;
/** Steps over which a flow is read, and how still it stands from one reading to the next. */
const READ = 40;
const STILL = 1e-4;
/** Points of the effective area between the rows of a sheet. */
const BETWEEN = 4;

export interface Steady {
  /** At the density of the room, m³/s. */
  readonly flow: number;
  readonly open: number;
  /** The port passes no more at any opening. */
  readonly full: boolean;
}

/**
 * Steady flow of a port: at an opening, or with `flow` at the opening that gives it. Towards the valve on the intake
 * side, from it on the exhaust side; `points` run with the flow of the engine.
 * @throws Refusal where it does not come to rest.
 */
export function steadyFlow(
  side: 'intake' | 'exhaust',
  points: readonly AreaPoint[],
  cell: number,
  asked: { readonly open: number } | { readonly flow: number },
  depression = REFERENCE_DEPRESSION,
): Steady {
  const gas = ENGINE_GAS;
  const grid = gridOf(points, cellOf(side, cell));
  const valveEnd = side === 'intake' ? 1 : 0;
  const faceV = grid.area[valveEnd === 1 ? grid.cells : 0]!;
  const faceM = grid.area[valveEnd === 1 ? 0 : grid.cells]!;
  const room: Volume = { p: ROOM_P, T: ROOM_T, Y: 0 };
  const valve: Volume = { p: ROOM_P + (side === 'intake' ? -depression : depression), T: ROOM_T, Y: 0 };
  const high = Math.max(room.p, valve.p);
  const low = Math.min(room.p, valve.p);
  const flux = nozzleFlux(1.4, gas.R, high, ROOM_T, low);
  const target = 'flow' in asked ? asked.flow * REFERENCE_DENSITY : undefined;
  let open = 'open' in asked ? Math.min(asked.open, faceV) : Math.min(faceV, target! / flux);
  const pipe = pipeOf(gas, grid, { p: side === 'intake' ? room.p : low, T: ROOM_T, Y: 0 }, ROOM_T);
  const [v, m] = [endFlow(), endFlow()];
  const [mv, mm] = [endMemory(), endMemory()];
  let still = 0;
  let before = 0;
  let atValve = 0;
  let atMouth = 0;
  for (let i = 1; i <= MOST_STEPS; i++) {
    const dt = 0.8 * pipe.waveTime;
    reachEnds(pipe, dt, 2);
    solveEnd(gas, pipe.ends[valveEnd], faceV, open, valve, mv, v);
    solveEnd(gas, pipe.ends[1 - valveEnd]!, faceM, faceM, room, mm, m);
    if (!stepPipe(pipe, dt, valveEnd === 0 ? v : m, valveEnd === 0 ? m : v, 2)) throw refusal('steadyFlowBroken');
    take(pipe);
    atValve += v.mass;
    atMouth += m.mass;
    if (i % READ !== 0) continue;
    const now = Math.abs(atValve) / READ;
    const steady = Math.abs(Math.abs(atMouth) / READ - now) < STILL * now && Math.abs(now - before) < STILL * now;
    before = now;
    atValve = 0;
    atMouth = 0;
    const off = target === undefined ? 0 : target / now - 1;
    const full = off > 0 && open >= faceV;
    still = steady && (Math.abs(off) < BENCH_TOLERANCE / 5 || full) ? still + 1 : 0;
    if (still >= 3) return { flow: now / REFERENCE_DENSITY, open, full: full && off > BENCH_TOLERANCE };
    // The opening follows the flow that is missing, slower than the waves settle.
    if (target !== undefined) open = Math.min(faceV, open * (1 + Math.min(0.2, Math.max(-0.2, 0.7 * off))));
  }
  throw refusal('steadyFlowUnsettled');
}

export interface ValveFit {
  readonly area: ValveArea;
  /** Lifts at which the port as measured cannot pass what the sheet says. */
  readonly full: readonly number[];
  /** What the bench gives at each row, and what the sheet says. */
  readonly rows: readonly {
    readonly lift: number;
    readonly sheet: number;
    readonly bench: number;
    readonly open: number;
  }[];
}

/** Effective area of a valve by lift, from its sheet, through the virtual bench. */
export function fitValve(
  side: 'intake' | 'exhaust',
  sheet: readonly FlowPoint[],
  port: readonly AreaPoint[],
  cell: number,
  depression = REFERENCE_DEPRESSION,
): ValveFit {
  const points = flowCurve(sheet)?.points ?? sheet.filter((p) => p.lift > 0);
  if (points.length === 0) throw refusal('sheetWithoutRow');
  const rows = points.map(({ lift, flow }) => {
    const found = steadyFlow(side, port, cell, { flow }, depression);
    return { lift, sheet: flow, bench: found.flow, open: found.open, full: found.full };
  });
  const x = [0, ...rows.map((r) => r.lift)];
  const y = [0, ...rows.map((r) => r.open)];
  const slopes = monotoneSlopes(x, y);
  const lift: number[] = [0];
  for (let i = 1; i < x.length; i++)
    for (let k = 1; k <= BETWEEN; k++) lift.push(x[i - 1]! + ((x[i]! - x[i - 1]!) * k) / BETWEEN);
  return {
    area: { lift, open: lift.map((l) => hermite(x, y, slopes, l)) },
    full: rows.filter((r) => r.full).map((r) => r.lift),
    rows: rows.map(({ lift: l, sheet: s, bench, open }) => ({ lift: l, sheet: s, bench, open })),
  };
}

/** The model's own test: each row's opening run again on the bench, against what the sheet says. */
export function selfTest(
  side: 'intake' | 'exhaust',
  fit: ValveFit,
  port: readonly AreaPoint[],
  cell: number,
): { readonly lift: number; readonly off: number }[] {
  return fit.rows.map((r) => ({
    lift: r.lift,
    off: steadyFlow(side, port, cell, { open: r.open }).flow / r.sheet - 1,
  }));
}
