/**
 * One engine at one speed, cycle after cycle, until it repeats itself: pipes, valves, cylinders and the plenum they
 * share. Cylinders that are not solved themselves draw from the plenum what the solved one of their kind drew at the
 * same angle of its own cycle: mass, enthalpy and burned share are kept by crank angle and read back a firing interval
 * on. Every exchange is taken from one side and given to the other, so that mass and energy are kept.
 */
import { cylinderVolume } from '../engine/engine.js';
import { refusal, type Refusal } from '../refusal/refusal.js';
import { airInCharge, chenFlynn, compressorPower, startFor, wiebe } from './cylinder.js';
import {
  cylinderOf,
  fillCylinder,
  noSums,
  OPEN,
  readState,
  seedOf,
  type Cylinder,
  type CylinderSeed,
  type Sums,
  type Turning,
} from './cylinderState.js';
import { binAt, binsOf, keep, renew } from './delayLine.js';
import {
  ENGINE_GAS,
  enthalpy,
  gammaOf,
  internalEnergy,
  temperatureOf,
  temperatureOfEnthalpy,
  type Gas,
} from './gas.js';
import type { EngineModel, Running } from './model.js';
import { nozzleFlux, solveEnd, type Volume } from './nozzle.js';
import { reachEnds, stepPipe, take } from './pipe.js';
import type { SpeedResult } from './point.js';
import { emptyTrace, type Trace } from './trace.js';
import { CYCLE, tableAt, wrap } from './valveTable.js';

/** Most crank angle in a step. */
const MOST_TURN = (1.5 * Math.PI) / 180;
const COURANT = 0.8;

/** The state of a whole engine: what a run may start from. */
export interface Seed {
  readonly cylinders: readonly CylinderSeed[];
  readonly plenum: { readonly p: number; readonly T: number; readonly Y: number };
}

/** A step that fails is tried shorter, then at first order. */
const TRIES = [
  { share: 1, order: 2 },
  { share: 0.25, order: 2 },
  { share: 0.25, order: 1 },
  { share: 0.05, order: 1 },
] as const;

export class Engine {
  private readonly cylinders: Cylinder[];
  private readonly plenum: Volume & { mass: number; energy: number; burned: number; dp: number };
  private angle = 0;
  private steps = 0;
  private cycles = 0;
  private readonly seeded: boolean;
  private readonly turning: Turning;

  constructor(
    readonly model: EngineModel,
    readonly speed: number,
    readonly running: Running,
    seed?: Seed,
    readonly gas: Gas = ENGINE_GAS,
    /** Share burned at a share of the burning's duration; Wiebe's where none is given. */
    law = (share: number) => wiebe.compute({ angle: share, start: 0, duration: 1, form: model.fuel.form }),
  ) {
    this.seeded = seed !== undefined;
    this.turning = {
      gas,
      model,
      omega: 2 * Math.PI * speed,
      swept: cylinderVolume.compute(model),
      pistonSpeed: 2 * model.stroke * speed,
      burn: Float64Array.from({ length: 401 }, (_, i) => law(i / 400)),
      burnStart: startFor(model.fuel.half, model.fuel.duration, model.fuel.form),
    };
    this.cylinders = model.kinds.map((kind, k) =>
      cylinderOf(model, gas, running, kind, (k * CYCLE) / model.cylinders, seed?.cylinders[k]),
    );
    const { p, T } = seed?.plenum ?? model.supply;
    const Y = seed?.plenum.Y ?? 0;
    const mass = (p * model.plenum.volume) / (gas.R * T);
    this.plenum = { p, T, Y, mass, energy: mass * internalEnergy(gas, T, Y), burned: mass * Y, dp: 0 };
  }

  /** Runs one cycle; returns why it could not. `trace` is filled where given. */
  cycle(trace?: Trace): Refusal | undefined {
    for (const c of this.cylinders) {
      Object.assign(c.sums, noSums());
      readState(this.gas, c);
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
    for (const c of this.cylinders) renew(c.line, c.lineNow, this.cycles === 1 && !this.seeded);
    return undefined;
  }

  private step(): Refusal | undefined {
    let dt = MOST_TURN / this.turning.omega;
    for (const c of this.cylinders) dt = Math.min(dt, COURANT * c.intake.waveTime, COURANT * c.exhaust.waveTime);
    if (!(dt > 0)) return refusal('pipeBroken');
    dt = Math.min(dt, (CYCLE - this.angle) / this.turning.omega);
    for (let i = 0; i < TRIES.length; i++) if (this.tryStep(dt * TRIES[i]!.share, TRIES[i]!.order)) return undefined;
    return refusal('waveTooSteep');
  }

  private tryStep(dt: number, order: 1 | 2): boolean {
    const { gas, model, plenum, cylinders, turning } = this;
    const half = 0.5 * dt;
    const mid = this.angle + turning.omega * half;
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
      fillCylinder(turning, c, dt, wrap(this.angle - c.behind));
    }
    this.fillPlenum(dt, ahead, mid);
    this.angle += turning.omega * dt;
    this.steps++;
    return true;
  }

  /** The plenum over a step: its supply, the solved runners, and the others from their delay lines. */
  private fillPlenum(dt: number, ahead: Volume, mid: number): void {
    const { gas, model, plenum, cylinders } = this;
    const { supply } = model;
    let mass = 0;
    let energy = 0;
    let burned = 0;
    const turn = this.turning.omega * dt;
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
        const bin = binAt(own);
        const share = binsOf(turn);
        mass += c.line[0][bin]! * share;
        energy += c.line[1][bin]! * share;
        burned += c.line[2][bin]! * share;
      }
    }
    for (const c of cylinders) keep(c.lineNow, c.ends[0], wrap(this.angle - c.behind), turn, dt);
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
    return emptyTrace(this.cylinders[0]!.intake.grid.dx);
  }

  /** What the last cycle gave. */
  result(cycles: number): SpeedResult {
    const { model, speed } = this;
    const { swept: Vd, pistonSpeed, omega } = this.turning;
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
    const fmep = chenFlynn.compute({ ...model.friction, peakPressure, pistonSpeed });
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
      torque: crank / omega,
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
      cylinders: this.cylinders.map((c) => seedOf(c, this.gas)),
      plenum: { p: this.plenum.p, T: this.plenum.T, Y: this.plenum.Y },
    };
  }
}
