/** An engine and how it breathes, as plain JSON: what one point of the simulation is asked. SI; angles in rad of crank, speeds in turns a second. */
import type { FuelFigures, Friction } from './cylinder.js';
import type { AreaPoint } from './grid.js';

/** Effective area of a valve by lift, through the virtual bench; rising lift from 0. */
export interface ValveArea {
  readonly lift: readonly number[];
  readonly open: readonly number[];
}

/** One lobe at the valve. */
export interface Lobe {
  readonly maxLift: number;
  readonly halfDuration: number;
  readonly fullness: number;
  /** Of the nose, from top dead centre of the gas exchange; the exhaust's is negative. */
  readonly centre: number;
  /** Taken off the lift: lash, or a zero of the dial that is off. */
  readonly lash: number;
}

export interface PipeSide {
  readonly valve: ValveArea;
  readonly lobe: Lobe;
  /** Wall temperature, K; no friction and no heat where undefined. */
  readonly wall: number | undefined;
  /** From plenum to valve; from valve to outlet. */
  readonly pipe: readonly AreaPoint[];
}

/** A cylinder with its pipes. */
export interface CylinderModel {
  readonly name: string;
  readonly compression: number;
  /** Effective share of the runner's entry. */
  readonly entry: number;
  readonly intake: PipeSide;
  readonly exhaust: PipeSide;
}

export interface EngineModel {
  readonly bore: number;
  readonly stroke: number;
  readonly rod: number;
  readonly cylinders: number;
  readonly fuel: FuelFigures;
  readonly friction: Friction;
  /** Wall of the cylinder, K; no heat passes it where undefined. */
  readonly wall: number | undefined;
  /** The air around: what filling and power are counted against. */
  readonly ambient: { readonly p: number; readonly T: number };
  /** What the plenum draws from: the air around, or a compressor's outlet. */
  readonly supply: { readonly p: number; readonly T: number };
  /** A compressor that the crank drives: its efficiency with its drive. */
  readonly drive?: { readonly pressureRatio: number; readonly efficiency: number };
  readonly plenum: { readonly volume: number; /** Effective area of its inlet. */ readonly entry: number };
  /** Pressure at the outlet of the exhaust pipe. */
  readonly back: number;
  /** Power that nitrous adds by itself. */
  readonly nitrous: number;
  /** Kinds of runner; the cylinders take them in turn, in firing order. */
  readonly kinds: readonly CylinderModel[];
}

/** Sound in exhaust gas is faster than in air by about this: its waves are as much longer, and so may its cells be. */
const EXHAUST_CELLS = 1.75;
/** Length of a cell on either side, for waves that are resolved alike. */
export const cellOf = (side: 'intake' | 'exhaust', cell: number): number =>
  side === 'exhaust' ? EXHAUST_CELLS * cell : cell;

/** How finely and how long. */
export interface Running {
  /** Length of a cell of the intake, m; the exhaust’s by `cellOf`. */
  readonly cell: number;
  /** Most cycles. */
  readonly cycles: number;
  /** Cycles that are run at least. */
  readonly least: number;
  /** Change of filling and of work over two cycles that is called settled. */
  readonly settled: number;
}
export const LIVE: Running = { cell: 0.015, cycles: 40, least: 3, settled: 1e-3 };
export const FINE: Running = { ...LIVE, cell: 0.01 };
export const COARSE: Running = { ...LIVE, cell: 0.03 };
