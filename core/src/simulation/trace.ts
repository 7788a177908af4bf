/** The last cycle by crank angle, for drawings. */
/** What went on over the last cycle of the first kind, by crank angle from firing top dead centre. */
export interface Trace {
  readonly angle: number[];
  readonly lift: readonly [number[], number[]];
  /** Into the cylinder through the intake, out through the exhaust, kg/s. */
  readonly flow: readonly [number[], number[]];
  readonly pressure: number[];
  readonly volume: number[];
  readonly temperature: number[];
  readonly burned: number[];
  /** On the pipe side of each valve, Pa. */
  readonly port: readonly [number[], number[]];
  readonly chokeMach: number[];
  /** Along the intake, cell by cell, Pa, and where the cells stand, m. */
  readonly path: number[][];
  readonly place: readonly number[];
}

/** A trace of nothing yet, over a pipe's cells. `dx`: their lengths, m. */
export function emptyTrace(dx: Float64Array): Trace {
  let x = 0;
  return {
    angle: [],
    lift: [[], []],
    flow: [[], []],
    pressure: [],
    volume: [],
    temperature: [],
    burned: [],
    port: [[], []],
    chokeMach: [],
    path: [],
    place: Array.from(dx, (d) => {
      x += d;
      return x - d / 2;
    }),
  };
}
