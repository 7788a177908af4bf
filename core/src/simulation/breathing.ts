/**
 * One engine at one speed, cycle after cycle, until it repeats itself: pipes, valves, cylinders and the plenum they
 * share. Cylinders that are not solved themselves draw from the plenum what the solved one of their kind drew at the
 * same angle of its own cycle: mass, enthalpy and burned share are kept by crank angle and read back a firing interval
 * on. Every exchange is taken from one side and given to the other, so that mass and energy are kept.
 */
import { cylinderVolume } from '../engine/engine.js';
import { mean } from '../method/mean.js';
import {
  airInCharge,
  chenFlynn,
  compressorPower,
  cylinderVolumeAt,
  heatPerCharge,
  startFor,
  wiebe,
  woschni,
} from './cylinder.js';
import {
  ENGINE_GAS,
  enthalpy,
  gammaOf,
  internalEnergy,
  temperatureOf,
  temperatureOfEnthalpy,
  type Gas,
} from './gas.js';
import { raised } from './exact.js';
import { gridOf } from './grid.js';
import { cellOf, type CylinderModel, type EngineModel, type Lobe, type Running, type ValveArea } from './model.js';
import { endMemory, nozzleFlux, solveEnd, type EndMemory, type Volume } from './nozzle.js';
import { endFlow, pipeOf, reachEnds, stepPipe, take, type EndFlow, type Pipe, type Rest } from './pipe.js';

const CYCLE = 4 * Math.PI;
/** Steps of the tables over a cycle: half a degree. */
const TABLE = 1440;
/** Bins of the delay line: one degree. */
const BINS = 720;
/** Most crank angle in a step. */
const MOST_TURN = (1.5 * Math.PI) / 180;
const COURANT = 0.8;
/** Share of the delay line that a new cycle renews. */
const RENEWED = 0.4;

export interface SpeedResult {
  /** Turns a second. */
  readonly speed: number;
  readonly ok: true;
  readonly cycles: number;
  /** Air drawn in against the air that fills the displacement at the state around. */
  readonly volumetricEfficiency: number;
  /** Fresh charge still in the cylinder when both valves are shut, of what came in. */
  readonly trapping: number;
  /** Burned gas in the cylinder when both valves are shut. */
  readonly residual: number;
  /** Mean effective pressures, Pa: all strokes, gas exchange alone, friction, at the crank. */
  readonly imep: number;
  readonly pmep: number;
  readonly fmep: number;
  readonly bmep: number;
  readonly torque: number;
  readonly power: number;
  readonly peakPressure: number;
  /** Greatest Mach number on the intake's least area, of the kind that is highest. */
  readonly chokeMach: number;
  /** Share of the charge that ran back out of the cylinder into the intake. */
  readonly reversion: number;
  /** What does not close over the cycle, of the cylinder where it is most: mass and energy kept in it, as shares, signed. */
  readonly imbalance: number;
  readonly energyImbalance: number;
  /** Range of the torque from cycle to cycle where it never settles to one; 0 else, Nm. */
  readonly wander: number;
  readonly steps: number;
}

export interface SpeedFailure {
  readonly speed: number;
  readonly ok: false;
  readonly reason: string;
}
export type SpeedPoint = SpeedResult | SpeedFailure;

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

interface Cylinder {
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
  readonly line: Line;
  readonly lineNow: Line;
  readonly sums: Sums;
  V: number;
}

type Line = readonly [Float64Array, Float64Array, Float64Array];
const line = (from?: readonly (readonly number[])[]): Line => {
  const of = (k: number) => (from ? Float64Array.from(from[k]!) : new Float64Array(BINS));
  return [of(0), of(1), of(2)];
};

interface Sums {
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
const noSums = (): Sums => ({
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

/** Effective area at a lift; held beyond the last row. */
function openAt({ lift, open }: ValveArea, at: number): number {
  if (at <= 0) return 0;
  const last = lift.length - 1;
  if (at >= lift[last]!) return open[last]!;
  let i = 0;
  while (lift[i + 1]! < at) i++;
  const t = (at - lift[i]!) / (lift[i + 1]! - lift[i]!);
  return open[i]! * (1 - t) + open[i + 1]! * t;
}

const cubed = (x: number): number => x * x * x;

export function liftOf(lobe: Lobe, angle: number): number {
  const u = Math.abs(angle) / lobe.halfDuration;
  return u >= 1 ? 0 : Math.max(0, lobe.maxLift * cubed(1 - raised(u, lobe.fullness)) - lobe.lash);
}

/** Lift over the cycle from firing top dead centre. */
function liftTable(lobe: Lobe): Float64Array {
  return Float64Array.from({ length: TABLE + 1 }, (_, i) => {
    const angle = (i / TABLE) * CYCLE - CYCLE / 2 - lobe.centre;
    // A lobe may reach over firing top dead centre from either side.
    return Math.max(liftOf(lobe, angle), liftOf(lobe, angle - CYCLE), liftOf(lobe, angle + CYCLE));
  });
}

function tableAt(table: Float64Array, angle: number): number {
  const x = (angle / CYCLE) * TABLE;
  const i = x | 0;
  const t = x - i;
  return table[i]! * (1 - t) + table[i + 1]! * t;
}

const wrap = (angle: number): number => {
  const a = angle % CYCLE;
  return a < 0 ? a + CYCLE : a;
};

/** The state of a whole engine: what a run may start from. */
export interface Seed {
  readonly cylinders: readonly {
    readonly mass: number;
    readonly energy: number;
    readonly burned: number;
    readonly charge: number;
    readonly shut: { p: number; V: number; T: number; heat: number };
    readonly pipes: readonly (readonly { at: number; p: number; T: number; Y: number; u: number }[])[];
    readonly line: readonly (readonly number[])[];
  }[];
  readonly plenum: { readonly p: number; readonly T: number; readonly Y: number };
}

const OPEN = 1e-9;

/** A step that fails is tried shorter, then at first order. */
const TRIES = [
  { share: 1, order: 2 },
  { share: 0.25, order: 2 },
  { share: 0.25, order: 1 },
  { share: 0.05, order: 1 },
] as const;

export class Engine {
  readonly gas: Gas;
  private readonly cylinders: Cylinder[];
  private readonly plenum: Volume & { mass: number; energy: number; burned: number; dp: number };
  private angle = 0;
  private steps = 0;
  private cycles = 0;
  private readonly seeded: boolean;
  private readonly burn: Float64Array;
  private readonly pistonSpeed: number;
  /** Displacement of a cylinder. */
  private readonly swept: number;
  /** Crank angle per second. */
  private readonly omega: number;

  constructor(
    readonly model: EngineModel,
    readonly speed: number,
    readonly running: Running,
    seed?: Seed,
    gas: Gas = ENGINE_GAS,
    /** Share burned at a share of the burning's duration; Wiebe's where none is given. */
    law = (share: number) => wiebe.compute({ angle: share, start: 0, duration: 1, form: model.fuel.form }),
  ) {
    this.gas = gas;
    this.seeded = seed !== undefined;
    this.swept = cylinderVolume.compute(model);
    this.pistonSpeed = 2 * model.stroke * speed;
    this.omega = 2 * Math.PI * speed;
    const start = startFor(model.fuel.half, model.fuel.duration, model.fuel.form);
    this.burnStart = start;
    this.burn = Float64Array.from({ length: 401 }, (_, i) => law(i / 400));
    const slots = model.cylinders;
    this.cylinders = model.kinds.map((kind, k) => this.cylinder(kind, (k * CYCLE) / slots, seed?.cylinders[k]));
    const { p, T } = seed?.plenum ?? model.supply;
    const Y = seed?.plenum.Y ?? 0;
    const mass = (p * model.plenum.volume) / (gas.R * T);
    this.plenum = { p, T, Y, mass, energy: mass * internalEnergy(gas, T, Y), burned: mass * Y, dp: 0 };
  }
  private readonly burnStart: number;

  private cylinder(model: CylinderModel, behind: number, seed?: Seed['cylinders'][number]): Cylinder {
    const { gas, running } = this;
    const { ambient, supply, back } = this.model;
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
    const V0 = this.volume(model, wrap(-behind));
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
      line: line(seed?.line),
      lineNow: line(),
      sums: noSums(),
      V: V0,
    };
  }

  private volume(model: CylinderModel, angle: number): number {
    const { bore, stroke, rod } = this.model;
    return cylinderVolumeAt.compute({ bore, stroke, rod, compression: model.compression, angle });
  }

  /** State of the cylinder from its totals. */
  private read(c: Cylinder): void {
    const { gas } = this;
    const Y = Math.min(1, Math.max(0, c.burned / c.mass));
    const T = temperatureOf(gas, c.energy / c.mass, Y);
    c.state.T = T;
    c.state.Y = Y;
    c.state.p = (c.mass * gas.R * T) / c.V;
  }

  /** Runs one cycle; returns why it could not. `trace` is filled where given. */
  cycle(trace?: Trace): string | undefined {
    for (const c of this.cylinders) {
      Object.assign(c.sums, noSums());
      this.read(c);
    }
    this.angle = 0;
    let next = 0;
    while (this.angle < CYCLE - 1e-12) {
      if (trace && this.angle >= next - 1e-9) {
        this.note(trace);
        next += CYCLE / 720;
      }
      const why = this.step();
      if (why) return why;
    }
    this.cycles++;
    for (const c of this.cylinders) {
      // Some of what was and some of what is: read back at once, a wave of the plenum could feed itself from cycle to cycle.
      const fresh = this.cycles === 1 && !this.seeded ? 1 : RENEWED;
      c.line.forEach((bins, k) => {
        const now = c.lineNow[k]!;
        for (let i = 0; i < BINS; i++) bins[i] = bins[i]! * (1 - fresh) + now[i]! * fresh;
        now.fill(0);
      });
    }
    return undefined;
  }

  private step(): string | undefined {
    let dt = MOST_TURN / this.omega;
    for (const c of this.cylinders) dt = Math.min(dt, COURANT * c.intake.waveTime, COURANT * c.exhaust.waveTime);
    if (!(dt > 0)) return 'The gas in a pipe reached no state of matter.';
    dt = Math.min(dt, (CYCLE - this.angle) / this.omega);
    for (let i = 0; i < TRIES.length; i++) if (this.tryStep(dt * TRIES[i]!.share, TRIES[i]!.order)) return undefined;
    return 'A wave in a pipe was too steep for the smallest step.';
  }

  private tryStep(dt: number, order: 1 | 2): boolean {
    const { gas, model, plenum, cylinders } = this;
    const half = 0.5 * dt;
    const mid = this.angle + this.omega * half;
    const ahead: Volume = { p: Math.max(1, plenum.p + half * plenum.dp), T: plenum.T, Y: plenum.Y };
    const outside: Volume = { p: model.back, T: 0, Y: 1 };
    for (const c of cylinders) {
      reachEnds(c.intake, dt, order);
      reachEnds(c.exhaust, dt, order);
      const at = wrap(mid - c.behind);
      const { grid: gi } = c.intake;
      const { grid: ge } = c.exhaust;
      const within: Volume = { p: Math.max(1, c.state.p + half * c.dp), T: c.state.T, Y: c.state.Y };
      const entry = gi.area[0]!;
      const p0 = solveEnd(gas, c.intake.ends[0], entry, entry * c.model.entry, ahead, c.memory[0], c.ends[0]);
      const open1 = tableAt(c.openings[0], at);
      const p1 = solveEnd(
        gas,
        c.intake.ends[1],
        gi.area[gi.cells]!,
        open1 < OPEN ? 0 : open1,
        within,
        c.memory[1],
        c.ends[1],
      );
      const open2 = tableAt(c.openings[1], at);
      const p2 = solveEnd(
        gas,
        c.exhaust.ends[0],
        ge.area[0]!,
        open2 < OPEN ? 0 : open2,
        within,
        c.memory[2],
        c.ends[2],
      );
      outside.T = c.left.T;
      outside.Y = c.left.Y;
      const last = c.exhaust.ends[1];
      const outlet = ge.area[ge.cells]!;
      const p3 = solveEnd(gas, last, outlet, outlet, outside, c.memory[3], c.ends[3]);
      if (!(p0 > 0 && p1 > 0 && p2 > 0 && p3 > 0)) return false;
      if (!stepPipe(c.intake, dt, c.ends[0], c.ends[1], order)) return false;
      if (!stepPipe(c.exhaust, dt, c.ends[2], c.ends[3], order)) return false;
    }
    for (const c of cylinders) {
      take(c.intake);
      take(c.exhaust);
      const gone = c.ends[3];
      if (gone.mass > 0) {
        c.left.Y = Math.min(1, gone.burned / gone.mass);
        c.left.T = temperatureOfEnthalpy(gas, gone.energy / gone.mass, c.left.Y);
      }
      this.fill(c, dt, wrap(this.angle - c.behind));
    }
    this.fillPlenum(dt, ahead, mid);
    this.angle += this.omega * dt;
    this.steps++;
    return true;
  }

  /** The cylinder over a step, between what its valves let pass. */
  private fill(c: Cylinder, dt: number, from: number): void {
    const { gas, model } = this;
    const [, iv, ev] = c.ends;
    const to = from + this.omega * dt;
    const V1 = this.volume(c.model, to);
    const { p, T } = c.state;
    const inMass = iv.mass;
    const outMass = -ev.mass;
    const { sums } = c;
    // Shut in: what burns is decided when combustion begins.
    const duration = model.fuel.duration;
    const begin = wrap(this.burnStart);
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
        return this.burn[i]! * (1 - (x - i)) + this.burn[i + 1]! * (x - i);
      };
      burnt = share(since + to - from) - share(since);
    }
    const open = tableAt(c.openings[0], from) > OPEN || tableAt(c.openings[1], from) > OPEN;
    if (open) {
      c.shut.p = p;
      c.shut.V = c.V;
      c.shut.T = T;
    }
    const warmth = this.walls(c, open, since) * dt;
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
    this.read(c);

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
  private walls(c: Cylinder, open: boolean, since: number): number {
    const { model, pistonSpeed } = this;
    if (model.wall === undefined) return 0;
    const { p, T } = c.state;
    const bore = model.bore;
    let w = (open ? 6.18 : 2.28) * pistonSpeed;
    if (!open && since < 2 * Math.PI && c.shut.heat > 0) {
      const motored = c.shut.p * raised(c.shut.V / c.V, 1.33);
      if (p > motored) w += (3.24e-3 * this.swept * c.shut.T * (p - motored)) / (c.shut.p * c.shut.V);
    }
    const h = woschni.compute({ bore, pressure: p, temperature: T, gasSpeed: w });
    const area = (Math.PI / 2) * bore * bore + (4 * c.V) / bore;
    return h * area * (model.wall - T);
  }

  /** The plenum over a step: its supply, the solved runners, and the others from their delay lines. */
  private fillPlenum(dt: number, ahead: Volume, mid: number): void {
    const { gas, model, plenum, cylinders } = this;
    const { supply } = model;
    let mass = 0;
    let energy = 0;
    let burned = 0;
    const turn = this.omega * dt;
    for (let slot = 0; slot < model.cylinders; slot++) {
      const kind = slot % cylinders.length;
      const c = cylinders[kind]!;
      if (slot < cylinders.length) {
        const end = c.ends[0];
        mass += end.mass * dt;
        energy += end.energy * dt;
        burned += end.burned * dt;
      } else {
        // What the solved cylinder of this kind gave at this one's own angle.
        const own = wrap(mid - (slot * CYCLE) / model.cylinders);
        const bin = Math.min(BINS - 1, ((own / CYCLE) * BINS) | 0);
        const share = (turn / CYCLE) * BINS;
        mass += c.line[0][bin]! * share;
        energy += c.line[1][bin]! * share;
        burned += c.line[2][bin]! * share;
      }
    }
    for (const c of cylinders) keep(c, wrap(this.angle - c.behind), turn, dt);
    const inFlow = ahead.p < supply.p;
    const rate = inFlow
      ? model.plenum.entry * nozzleFlux(1.4, gas.R, supply.p, supply.T, ahead.p)
      : -model.plenum.entry * nozzleFlux(gammaOf(gas, ahead.T, ahead.Y), gas.R, ahead.p, ahead.T, supply.p);
    const h = inFlow ? enthalpy(gas, supply.T, 0) : enthalpy(gas, ahead.T, ahead.Y);
    plenum.mass += mass + rate * dt;
    plenum.energy += energy + rate * h * dt;
    plenum.burned += burned + (inFlow ? 0 : rate * ahead.Y * dt);
    const Y = Math.min(1, Math.max(0, plenum.burned / plenum.mass));
    plenum.Y = Y;
    plenum.T = temperatureOf(gas, plenum.energy / plenum.mass, Y);
    const p = (plenum.mass * gas.R * plenum.T) / model.plenum.volume;
    plenum.dp = (p - plenum.p) / dt;
    plenum.p = p;
  }

  private note(trace: Trace): void {
    const c = this.cylinders[0]!;
    const at = wrap(this.angle);
    trace.angle.push(this.angle);
    trace.lift[0].push(tableAt(c.lifts[0], at));
    trace.lift[1].push(tableAt(c.lifts[1], at));
    trace.flow[0].push(c.ends[1].mass);
    trace.flow[1].push(-c.ends[2].mass);
    trace.pressure.push(c.state.p);
    trace.volume.push(c.V);
    trace.temperature.push(c.state.T);
    trace.burned.push(c.state.Y);
    trace.port[0].push(c.intake.p[c.intake.grid.cells - 1]!);
    trace.port[1].push(c.exhaust.p[0]!);
    trace.chokeMach.push(c.intake.chokeMach);
    trace.path.push([...c.intake.p]);
  }

  emptyTrace(): Trace {
    const { dx } = this.cylinders[0]!.intake.grid;
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

  /** What the last cycle gave. */
  result(cycles: number): SpeedResult {
    const { model, speed, swept: Vd } = this;
    const density = model.ambient.p / (this.gas.R * model.ambient.T);
    const kinds = this.cylinders.length;
    // A kind counts as often as cylinders have it.
    const counts = this.cylinders.map((_, k) => Math.ceil((model.cylinders - k) / kinds));
    const all = counts.reduce((a, b) => a + b, 0);
    const each = (of: (s: Sums) => number) =>
      this.cylinders.reduce((sum, c, k) => sum + of(c.sums) * counts[k]!, 0) / all;
    const worst = (of: (s: Sums) => number) =>
      this.cylinders.map((c) => of(c.sums)).reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a));
    const air = each((s) => s.air) * airInCharge(model.fuel);
    const imep = each((s) => s.work) / Vd;
    const peakPressure = each((s) => s.peak);
    const fmep = chenFlynn.compute({ ...model.friction, peakPressure, pistonSpeed: this.pistonSpeed });
    const drive = model.drive
      ? compressorPower.compute({
          air: (each((s) => s.air) * speed) / 2,
          temperature: model.ambient.T,
          ...model.drive,
        })
      : 0;
    const crank = (imep - fmep) * Vd * model.cylinders * (speed / 2) - drive * model.cylinders + model.nitrous;
    return {
      speed,
      ok: true,
      cycles,
      volumetricEfficiency: air / (density * Vd),
      trapping: each((s) => s.trapped) / each((s) => Math.max(1e-12, s.freshIn)),
      residual: each((s) => s.residual),
      imep,
      pmep: each((s) => s.pumping) / Vd,
      fmep,
      bmep: crank / (Vd * model.cylinders * (speed / 2)),
      torque: crank / this.omega,
      power: crank,
      peakPressure,
      chokeMach: Math.max(...this.cylinders.map((c) => c.sums.mach)),
      reversion: each((s) => s.back) / each((s) => Math.max(1e-12, s.in)),
      imbalance: worst((s) => (s.in - s.back - s.out) / Math.max(1e-12, s.in)),
      energyImbalance: worst((s) => (s.energy + s.heat + s.burn - s.work) / Math.max(1, s.burn)),
      wander: 0,
      steps: this.steps,
    };
  }

  /** The state as it stands, to start another run from. */
  seed(): Seed {
    return {
      cylinders: this.cylinders.map((c) => ({
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
              T: pipe.p[i]! / (pipe.rho[i]! * this.gas.R),
              Y: pipe.Y[i]!,
              u: pipe.u[i]!,
            };
          });
        }),
        line: c.line.map((l) => [...l]),
      })),
      plenum: { p: this.plenum.p, T: this.plenum.T, Y: this.plenum.Y },
    };
  }
}

const inStep = (at: number, from: number, to: number): boolean =>
  (at >= from && at < to) || (at + CYCLE >= from && at + CYCLE < to);

/** Adds what the plenum gave over a step to the delay line, spread over the bins the step covers. */
function keep(c: Cylinder, from: number, turn: number, dt: number): void {
  const width = CYCLE / BINS;
  const [mass, energy, burned] = c.lineNow;
  const end = c.ends[0];
  let a = from;
  let left = turn;
  while (left > 1e-12) {
    const bin = Math.min(BINS - 1, (a / width) | 0);
    const part = Math.min(Math.max((bin + 1) * width - a, 1e-12), left);
    const time = (dt * part) / turn;
    mass[bin]! += end.mass * time;
    energy[bin]! += end.energy * time;
    burned[bin]! += end.burned * time;
    a += part;
    if (a >= CYCLE) a -= CYCLE;
    left -= part;
  }
}

/** State along a pipe from kept points by their share of its length. */
function along(kept: Seed['cylinders'][number]['pipes'][number], length: number): (x: number) => Rest {
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

/** One speed, run until it repeats itself. Never throws for a state that fails: it says so. */
export function runPoint(
  model: EngineModel,
  speed: number,
  running: Running,
  seed?: Seed,
): { point: SpeedPoint; seed?: Seed; engine?: Engine } {
  let engine: Engine;
  try {
    engine = new Engine(model, speed, running, seed);
  } catch (e) {
    return { point: { speed, ok: false, reason: (e as Error).message } };
  }
  const cycles: SpeedResult[] = [];
  for (let n = 1; n <= running.cycles; n++) {
    const why = engine.cycle();
    if (why) return { point: { speed, ok: false, reason: why } };
    const result = engine.result(n);
    if (!Number.isFinite(result.imep + result.volumetricEfficiency))
      return { point: { speed, ok: false, reason: 'The cycle came to no figure.' } };
    cycles.push(result);
    if (n < running.least) continue;
    if (settledBy(cycles, running.settled) && Math.abs(result.imbalance) < 1e-3)
      return { point: result, seed: engine.seed(), engine };
    if (wandersAbout(cycles, running.settled))
      return { point: meanCycle(cycles.slice(-2 * MANY)), seed: engine.seed(), engine };
  }
  if (running.cycles <= running.least) return { point: cycles.at(-1)!, seed: engine.seed(), engine };
  return { point: { speed, ok: false, reason: `It did not settle in ${running.cycles} cycles.` } };
}

/** Cycles in each of two groups that are compared where the engine never repeats itself to the last figure. */
const MANY = 2;
/** Most that such cycles may differ by, as a share. */
const MOST_WANDER = 0.03;

/** Whether cycles vary about a mean that no longer moves: one group's against the next one's. */
function wandersAbout(cycles: readonly SpeedResult[], share: number): boolean {
  const last = cycles.slice(-2 * MANY);
  if (cycles.length < 2 * MANY + 1) return false;
  return (['volumetricEfficiency', 'imep'] as const).every((key) => {
    const all = last.map((c) => c[key]);
    const whole = Math.max(1e-3, Math.abs(mean(all)));
    return (
      Math.abs(mean(all.slice(0, MANY)) - mean(all.slice(MANY))) < 3 * share * whole &&
      Math.max(...all) - Math.min(...all) < MOST_WANDER * whole
    );
  });
}

/** Every figure of several results at one speed by weights that sum to 1; the speed to the last bit: it is what a point is found by. */
export const weighted = (results: readonly SpeedResult[], weights: readonly number[]): SpeedResult =>
  Object.fromEntries(
    Object.entries(results[0]!).map(([key, value]) => [
      key,
      typeof value === 'number' && key !== 'speed'
        ? results.reduce((sum, r, i) => sum + weights[i]! * (r[key as keyof SpeedResult] as number), 0)
        : value,
    ]),
  ) as unknown as SpeedResult;

/** The mean of several cycles, and by how much their torque differs. */
function meanCycle(cycles: readonly SpeedResult[]): SpeedResult {
  const { cycles: run, steps } = cycles.at(-1)!;
  const torques = cycles.map((c) => c.torque);
  const even = cycles.map(() => 1 / cycles.length);
  return { ...weighted(cycles, even), cycles: run, steps, wander: Math.max(...torques) - Math.min(...torques) };
}

/** Filling and work within a share of each other over the last two changes of cycle. */
function settledBy(values: readonly SpeedResult[], share: number): boolean {
  const last = values.slice(-3);
  if (last.length < 3) return false;
  const range = (of: (v: SpeedResult) => number) => {
    const all = last.map(of);
    return (Math.max(...all) - Math.min(...all)) / Math.max(Math.abs(of(last[2]!)), 1e-3);
  };
  return range((v) => v.volumetricEfficiency) < share && range((v) => v.imep) < share;
}
