/** A cylinder with its two pipes as it is solved: what it holds, what its valves passed, and how a step fills it. */
import { raised } from './exact.js';
import { cylinderVolumeAt, heatPerCharge, woschni } from './cylinder.js';
import { delayLine, type DelayLine } from './delayLine.js';
import { internalEnergy, temperatureOf, type Gas } from './gas.js';
import { gridOf } from './grid.js';
import { cellOf, type CylinderModel, type EngineModel, type Running } from './model.js';
import { endMemory, type EndMemory, type Volume } from './nozzle.js';
import { endFlow, pipeOf, type EndFlow, type Pipe, type Rest } from './pipe.js';
import { CYCLE, liftTable, openAt, tableAt, wrap } from './valveTable.js';

// points.at()!: a pipe has points.

/** An opening below this is shut, m². */
export const OPEN = 1e-9;

export interface Cylinder {
  readonly model: CylinderModel;
  readonly intake: Pipe;
  readonly exhaust: Pipe;
  readonly memory: readonly [EndMemory, EndMemory, EndMemory, EndMemory];
  /** Ends: plenum, intake valve, exhaust valve, outlet. */
  readonly ends: readonly [EndFlow, EndFlow, EndFlow, EndFlow];
  readonly state: Volume;
  /** What last left the outlet: it is what comes back. */
  readonly left: { T: number; Y: number };
  mass: number;
  energy: number;
  burned: number;
  /** Rate of pressure over the last step. */
  dp: number;
  /** Fresh charge that burns in this cycle, and pressure, volume and temperature where the charge was shut in. */
  charge: number;
  shut: { p: number; V: number; T: number; heat: number };
  /** Crank angle behind the first cylinder. */
  readonly behind: number;
  readonly openings: readonly [Float64Array, Float64Array];
  readonly lifts: readonly [Float64Array, Float64Array];
  /** By crank angle over the last cycle: mass, enthalpy and burned mass given back to the plenum; and over this one. */
  readonly line: DelayLine;
  readonly lineNow: DelayLine;
  readonly sums: Sums;
  V: number;
}

/** What a cycle adds up, SI. */
export interface Sums {
  work: number;
  pumping: number;
  air: number;
  back: number;
  in: number;
  out: number;
  energy: number;
  heat: number;
  burn: number;
  peak: number;
  mach: number;
  trapped: number;
  residual: number;
  freshIn: number;
}
export const noSums = (): Sums => ({
  work: 0,
  pumping: 0,
  air: 0,
  back: 0,
  in: 0,
  out: 0,
  energy: 0,
  heat: 0,
  burn: 0,
  peak: 0,
  mach: 0,
  trapped: 0,
  residual: 0,
  freshIn: 0,
});

/** The state a cylinder may start from. */
export interface CylinderSeed {
  readonly mass: number;
  readonly energy: number;
  readonly burned: number;
  readonly charge: number;
  readonly shut: { p: number; V: number; T: number; heat: number };
  readonly pipes: readonly (readonly { at: number; p: number; T: number; Y: number; u: number }[])[];
  readonly line: readonly (readonly number[])[];
}

/** State along a pipe from kept points by their share of its length. */
function along(kept: CylinderSeed['pipes'][number], length: number): (x: number) => Rest {
  return (x) => {
    const at = x / length;
    let i = 0;
    while (i < kept.length - 2 && kept[i + 1]!.at < at) i++;
    const [a, b] = [kept[i]!, kept[i + 1]!];
    const t = Math.min(1, Math.max(0, (at - a.at) / (b.at - a.at)));
    const mix = (of: 'p' | 'T' | 'Y' | 'u') => a[of] * (1 - t) + b[of] * t;
    return { p: mix('p'), T: mix('T'), Y: mix('Y'), u: mix('u') };
  };
}

/** What of the engine a cylinder's step needs. */
export interface Turning {
  readonly gas: Gas;
  readonly model: EngineModel;
  /** Crank angle per second. */
  readonly omega: number;
  /** Displacement of a cylinder. */
  readonly swept: number;
  readonly pistonSpeed: number;
  /** Share burned over the burning's duration, in 400 steps, and where it begins. */
  readonly burn: Float64Array;
  readonly burnStart: number;
}

const volumeAt = ({ bore, stroke, rod }: EngineModel, { compression }: CylinderModel, angle: number): number =>
  cylinderVolumeAt.compute({ bore, stroke, rod, compression, angle });

/** `behind`: crank angle after the first cylinder. */
export function cylinderOf(
  engine: EngineModel,
  gas: Gas,
  running: Running,
  model: CylinderModel,
  behind: number,
  seed?: CylinderSeed,
): Cylinder {
  const { ambient, supply, back } = engine;
  const pipe = (side: 'intake' | 'exhaust', k: number) => {
    const { pipe: points, wall } = model[side];
    const kept = seed?.pipes[k];
    const rest = side === 'intake' ? { p: supply.p, T: supply.T, Y: 0 } : { p: back, T: 900, Y: 1 };
    const length = points.at(-1)!.x - points[0]!.x;
    return pipeOf(gas, gridOf(points, cellOf(side, running.cell)), kept ? along(kept, length) : rest, wall);
  };
  const table = (side: 'intake' | 'exhaust') => {
    const lifts = liftTable(model[side].lobe);
    return [lifts, lifts.map((l) => openAt(model[side].valve, l))] as const;
  };
  const [il, io] = table('intake');
  const [el, eo] = table('exhaust');
  const V0 = volumeAt(engine, model, wrap(-behind));
  const T = 900;
  const mass = seed?.mass ?? (ambient.p * V0 * 8) / (gas.R * T);
  return {
    model,
    intake: pipe('intake', 0),
    exhaust: pipe('exhaust', 1),
    memory: [endMemory(), endMemory(), endMemory(), endMemory()],
    ends: [endFlow(), endFlow(), endFlow(), endFlow()],
    state: { p: 0, T: 0, Y: 0 },
    left: { T, Y: 1 },
    mass,
    energy: seed?.energy ?? mass * internalEnergy(gas, T, 1),
    burned: seed?.burned ?? mass,
    dp: 0,
    charge: seed?.charge ?? 0,
    shut: seed ? { ...seed.shut } : { p: ambient.p, V: V0, T, heat: 0 },
    behind,
    openings: [io, eo],
    lifts: [il, el],
    line: delayLine(seed?.line),
    lineNow: delayLine(),
    sums: noSums(),
    V: V0,
  };
}

/** State of the cylinder from its totals. */
export function readState(gas: Gas, c: Cylinder): void {
  const Y = Math.min(1, Math.max(0, c.burned / c.mass));
  const T = temperatureOf(gas, c.energy / c.mass, Y);
  c.state.T = T;
  c.state.Y = Y;
  c.state.p = (c.mass * gas.R * T) / c.V;
}

/** The cylinder over a step, between what its valves let pass. */
export function fillCylinder(turning: Turning, c: Cylinder, dt: number, from: number): void {
  const { gas, model, omega, burn, burnStart } = turning;
  const [, iv, ev] = c.ends;
  const to = from + omega * dt;
  const V1 = volumeAt(model, c.model, to);
  const { p, T } = c.state;
  const inMass = iv.mass;
  const outMass = -ev.mass;
  const { sums } = c;
  // Shut in: what burns is decided when combustion begins.
  const duration = model.fuel.duration;
  const begin = wrap(burnStart);
  if (inStep(begin, from, to)) {
    c.charge = c.mass - c.burned;
    c.shut.heat = c.charge * heatPerCharge(model.fuel);
    sums.trapped = c.charge;
    sums.residual = c.burned / c.mass;
  }
  let burnt = 0;
  const since = wrap(from - begin);
  if (since < duration) {
    const share = (a: number) => {
      const x = Math.min(400, (a / duration) * 400);
      const i = Math.min(399, x | 0);
      return burn[i]! * (1 - (x - i)) + burn[i + 1]! * (x - i);
    };
    burnt = share(since + to - from) - share(since);
  }
  const open = tableAt(c.openings[0], from) > OPEN || tableAt(c.openings[1], from) > OPEN;
  if (open) {
    c.shut.p = p;
    c.shut.V = c.V;
    c.shut.T = T;
  }
  const warmth = wallHeat(turning, c, open, since) * dt;
  const heat = c.shut.heat * burnt;
  const passed = dt * (iv.energy + ev.energy);
  const dV = V1 - c.V;
  const mass = c.mass + dt * (inMass - outMass);
  const burned = Math.min(mass, c.burned + dt * (iv.burned + ev.burned) + c.charge * burnt);
  const Y1 = Math.min(1, Math.max(0, burned / mass));
  const gain = passed + heat + warmth;
  // Work at the mean of both pressures, the second found twice.
  let p1 = p + dt * c.dp;
  for (let i = 0; i < 2; i++) {
    const e = (c.energy + gain - 0.5 * (p + p1) * dV) / mass;
    p1 = (mass * gas.R * temperatureOf(gas, e, Y1)) / V1;
  }
  const work = 0.5 * (p + p1) * dV;
  c.energy += gain - work;
  c.mass = mass;
  c.burned = burned;
  c.dp = (p1 - p) / dt;
  c.V = V1;
  readState(gas, c);

  sums.work += work;
  // Gas exchange: the two strokes about the middle of the cycle.
  if (from >= Math.PI && from < 3 * Math.PI) sums.pumping += work;
  if (p1 > sums.peak) sums.peak = p1;
  sums.heat += warmth;
  sums.burn += heat;
  sums.energy += passed;
  if (inMass > 0) sums.in += inMass * dt;
  else sums.back -= inMass * dt;
  sums.freshIn += (inMass - iv.burned) * dt;
  sums.out += outMass * dt;
  // Of the plenum: fresh charge that leaves it.
  const entry = c.ends[0];
  sums.air -= (entry.mass - entry.burned) * dt;
  if (c.intake.chokeMach > sums.mach && inMass > 0) sums.mach = c.intake.chokeMach;
}

/** Heat from the walls into the gas, W: Woschni's coefficient over head, piston and the free wall. */
function wallHeat({ model, pistonSpeed, swept }: Turning, c: Cylinder, open: boolean, since: number): number {
  if (model.wall === undefined) return 0;
  const { p, T } = c.state;
  const bore = model.bore;
  let w = (open ? 6.18 : 2.28) * pistonSpeed;
  if (!open && since < 2 * Math.PI && c.shut.heat > 0) {
    const motored = c.shut.p * raised(c.shut.V / c.V, 1.33);
    if (p > motored) w += (3.24e-3 * swept * c.shut.T * (p - motored)) / (c.shut.p * c.shut.V);
  }
  const h = woschni.compute({ bore, pressure: p, temperature: T, gasSpeed: w });
  const area = (Math.PI / 2) * bore * bore + (4 * c.V) / bore;
  return h * area * (model.wall - T);
}

const inStep = (at: number, from: number, to: number): boolean =>
  (at >= from && at < to) || (at + CYCLE >= from && at + CYCLE < to);

/** The cylinder as it stands, to start another run from. */
export const seedOf = (c: Cylinder, gas: Gas): CylinderSeed => ({
  mass: c.mass,
  energy: c.energy,
  burned: c.burned,
  charge: c.charge,
  shut: { ...c.shut },
  pipes: [c.intake, c.exhaust].map((pipe) => {
    let x = 0;
    const { dx } = pipe.grid;
    const whole = dx.reduce((a, b) => a + b, 0);
    return Array.from(dx, (d, i) => {
      x += d;
      return {
        at: (x - d / 2) / whole,
        p: pipe.p[i]!,
        T: pipe.p[i]! / (pipe.rho[i]! * gas.R),
        Y: pipe.Y[i]!,
        u: pipe.u[i]!,
      };
    });
  }),
  line: c.line.map((l) => [...l]),
});
