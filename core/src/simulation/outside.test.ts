/** The simulation against closed forms and against independent, plain programs of the same equations. */
import { describe, expect, it } from 'vitest';
import { rpm } from '../quantity/units.js';
import { random } from '../uncertainty/random.js';
import { Engine } from './breathing.js';
import type { SpeedResult } from './point.js';
import { runPoint } from './runPoint.js';
import { FUEL_FIGURES, airInCharge, cylinderVolumeAt, heatPerCharge, startFor } from './cylinder.js';
import { ENGINE_GAS, coldCv, perfectGas, type Gas } from './gas.js';
import { gridOf, plainPipe, type AreaPoint } from './grid.js';
import { LIVE, type EngineModel } from './model.js';
import { nozzleFlux } from './nozzle.js';
import { pipeOf, stepPipe, take, type EndFlow, type Pipe } from './pipe.js';

interface State {
  rho: number;
  u: number;
  p: number;
  Y: number;
}
const monotone = (a: number, b: number): number =>
  a * b <= 0 ? 0 : Math.sign(a) * Math.min(2 * Math.abs(a), 2 * Math.abs(b), Math.abs(a + b) / 2);
const atEnd = (near: number, far: number): number =>
  near * far <= 0 ? 0 : Math.sign(near) * Math.min(Math.abs(near), 2 * Math.abs(far));

/**
 * One step as the textbook writes it (Toro (2009), §14.4 and eq. 10.71 to 10.73), array by array, without friction:
 * mass, momentum, energy and burned mass of each cell after it.
 */
function plainStep(pipe: Pipe, dt: number, left: EndFlow, right: EndFlow): number[][] {
  const { gas, grid } = pipe;
  const { dx, area, volume, cells: n } = grid;
  const cells: State[] = Array.from({ length: n }, (_, i) => ({
    rho: pipe.rho[i]!,
    u: pipe.u[i]!,
    p: pipe.p[i]!,
    Y: pipe.Y[i]!,
  }));
  const way = (i: number) => 0.5 * (dx[i]! + dx[i + 1]!);
  const cv = (q: State) => coldCv(gas, q.Y) + gas.rise * (q.p / (q.rho * gas.R));
  const gamma = (q: State) => 1 + gas.R / cv(q);
  const slopes = cells.map((q, i): State => {
    const of = (key: keyof State): number => {
      const d = (k: number) => (cells[k + 1]![key] - cells[k]![key]) / way(k);
      const raw = i === 0 ? atEnd(d(0), d(1)) : i === n - 1 ? atEnd(d(n - 2), d(n - 3)) : monotone(d(i - 1), d(i));
      const end = i === 0 || i === n - 1;
      const most = (1.8 * q[key]) / dx[i]!;
      return end && (key === 'rho' || key === 'p') && Math.abs(raw) > most ? Math.sign(raw) * most : raw;
    };
    return { rho: of('rho'), u: of('u'), p: of('p'), Y: of('Y') };
  });
  // The state half a step ahead in the middle of each cell, and at both of its faces.
  const ahead = cells.map((q, i): State => {
    const s = slopes[i]!;
    const spread = s.u + (q.u * (area[i + 1]! - area[i]!)) / volume[i]!;
    return {
      rho: q.rho - (dt / 2) * (q.u * s.rho + q.rho * spread),
      u: q.u - (dt / 2) * (q.u * s.u + s.p / q.rho),
      p: q.p - (dt / 2) * (q.u * s.p + gamma(q) * q.p * spread),
      Y: q.Y - (dt / 2) * q.u * s.Y,
    };
  });
  const face = (i: number, side: -1 | 1): State => {
    const at = (key: keyof State) => ahead[i]![key] + (side * dx[i]! * slopes[i]![key]) / 2;
    const found = { rho: at('rho'), u: at('u'), p: at('p'), Y: at('Y') };
    const other = (key: 'rho' | 'p') => ahead[i]![key] - (side * dx[i]! * slopes[i]![key]) / 2;
    return found.rho > 0 && found.p > 0 && other('rho') > 0 && other('p') > 0 ? found : cells[i]!;
  };
  const wallOf = (i: number): number => (face(i, 1) === cells[i] ? cells[i]!.p : ahead[i]!.p);
  const energyOf = (q: State) => {
    const T = q.p / (q.rho * gas.R);
    return q.rho * (T * (coldCv(gas, q.Y) + 0.5 * gas.rise * T) + 0.5 * q.u * q.u);
  };
  const conserved = (q: State) => [q.rho, q.rho * q.u, energyOf(q), q.rho * q.Y];
  const physical = (q: State) => [q.rho * q.u, q.rho * q.u * q.u + q.p, q.u * (energyOf(q) + q.p), q.rho * q.u * q.Y];
  const fluxes: number[][] = [[-left.mass, left.push, -left.energy, -left.burned]];
  for (let i = 1; i < n; i++) {
    const [L, R] = [face(i - 1, 1), face(i, -1)];
    const [cl, cr] = [Math.sqrt((gamma(cells[i - 1]!) * L.p) / L.rho), Math.sqrt((gamma(cells[i]!) * R.p) / R.rho)];
    const [sl, sr] = [Math.min(L.u - cl, R.u - cr), Math.max(L.u + cl, R.u + cr)];
    const star =
      (R.p - L.p + L.rho * L.u * (sl - L.u) - R.rho * R.u * (sr - R.u)) / (L.rho * (sl - L.u) - R.rho * (sr - R.u));
    const beside = (q: State, s: number) => {
      const k = (q.rho * (s - q.u)) / (s - star);
      const e = energyOf(q) / q.rho + (star - q.u) * (star + q.p / (q.rho * (s - q.u)));
      const u = [k, k * star, k * e, k * q.Y];
      return physical(q).map((f, j) => f + s * (u[j]! - conserved(q)[j]!));
    };
    const f = sl >= 0 ? physical(L) : sr <= 0 ? physical(R) : star >= 0 ? beside(L, sl) : beside(R, sr);
    fluxes.push(f.map((v) => v * area[i]!));
  }
  fluxes.push([right.mass, right.push, right.energy, right.burned]);
  const totals = [pipe.mass, pipe.momentum, pipe.energy, pipe.burned];
  return totals.map((total, j) =>
    Array.from({ length: n }, (_, i) => {
      const push = j === 1 ? wallOf(i) * (area[i + 1]! - area[i]!) : 0;
      return total[i]! + dt * (fluxes[i]![j]! - fluxes[i + 1]![j]! + push);
    }),
  );
}

describe('the kernel', () => {
  it('is the plain one, cell by cell to 1e-10, over a pipe of any areas with waves of any kind', () => {
    const u = random(17);
    for (const rough of [0.02, 0.3, 0.7]) {
      const points: AreaPoint[] = Array.from({ length: 9 }, (_, i) => ({
        x: 0.05 * i,
        area: 1e-3 * (0.7 + 0.6 * u()),
      }));
      const grid = gridOf(points, 0.012);
      const pipe = pipeOf(ENGINE_GAS, grid, () => ({
        p: 1e5 * (1 + rough * (u() - 0.5)),
        T: 500 * (1 + rough * (u() - 0.5)),
        Y: u(),
        u: 200 * rough * (u() - 0.5),
      }));
      for (let k = 0; k < 40; k++) {
        const shut = (i: number, face: number): EndFlow => ({
          mass: 0,
          push: pipe.p[i]! * grid.area[face]!,
          energy: 0,
          burned: 0,
        });
        const [left, right] = [shut(0, 0), shut(grid.cells - 1, grid.cells)];
        const dt = 0.7 * pipe.waveTime;
        const plain = plainStep(pipe, dt, left, right);
        expect(stepPipe(pipe, dt, left, right, 2)).toBe(true);
        [pipe.nextMass, pipe.nextMomentum, pipe.nextEnergy, pipe.nextBurned].forEach((fast, j) => {
          const scale = Math.max(...plain[j]!.map(Math.abs));
          fast.forEach((v, i) => expect(Math.abs(v - plain[j]![i]!) / scale).toBeLessThan(1e-10));
        });
        take(pipe);
      }
    }
  });
});

const BORE = 0.09;
const STROKE = 0.09;
/** A single cylinder on short wide pipes between two great rooms, whose valves open all at once and pass no heat. */
function ideal(pipe: number, over: Partial<EngineModel> = {}, open = 1.2e-3): EngineModel {
  const side = (centre: number, wall?: number) => ({
    valve: { lift: [0, 0.005, 0.01], open: [0, open, open] },
    lobe: { maxLift: 0.01, halfDuration: Math.PI / 2, fullness: 60, centre, lash: 0 },
    wall,
    pipe: plainPipe(pipe, 2.4e-3),
  });
  const around = { p: 1e5, T: 300 };
  return {
    bore: BORE,
    stroke: STROKE,
    rod: 0.15,
    cylinders: 1,
    fuel: FUEL_FIGURES.petrol,
    friction: { constant: 0, perPressure: 0, perSpeed: 0, perSpeed2: 0 },
    wall: undefined,
    ambient: around,
    supply: around,
    plenum: { volume: 1, entry: 1 },
    back: around.p,
    nitrous: 0,
    kinds: [{ name: 'one', compression: 9, entry: 1, intake: side(Math.PI / 2), exhaust: side(-Math.PI / 2) }],
    ...over,
  };
}
const good = (p: { ok: boolean }): SpeedResult => {
  expect(p).toMatchObject({ ok: true });
  return p as SpeedResult;
};

describe('the cycle', () => {
  it('burning at once without heat to the walls has the Otto cycle’s efficiency, 1 − r^(1−γ), within 1 %', () => {
    const gas = perfectGas(1.4);
    const Vd = (Math.PI / 4) * BORE ** 2 * STROKE;
    for (const r of [7, 9, 12]) {
      const fuel = { ...FUEL_FIGURES.petrol, duration: 0.02, half: 0.01, form: 2 };
      const plain = ideal(0.06, { fuel });
      const model = { ...plain, kinds: plain.kinds.map((k) => ({ ...k, compression: r })) };
      const engine = new Engine(model, rpm(600), { ...LIVE, cell: 0.02 }, undefined, gas);
      for (let k = 0; k < 7; k++) expect(engine.cycle()).toBeUndefined();
      const p = engine.result(7);
      const air = (p.volumetricEfficiency * model.ambient.p * Vd) / (gas.R * model.ambient.T);
      const heat = (air / airInCharge(fuel)) * p.trapping * heatPerCharge(fuel);
      const work = (p.imep - p.pmep) * Vd;
      expect(work / heat / (1 - r ** -0.4), String(r)).toBeCloseTo(1, 2);
    }
  }, 60_000);
  it('burning part at once and the rest at constant pressure has the dual cycle’s efficiency (Heywood (1988), §5.5, from memory) within 1 %', () => {
    const gas = perfectGas(1.4);
    const duration = 0.5;
    const r = 12;
    const volumeAt = (angle: number) =>
      cylinderVolumeAt.compute({ bore: BORE, stroke: STROKE, rod: 0.15, compression: r, angle });
    // Combustion begins at top dead centre; at constant pressure heat goes with the volume swept.
    const fuel = { ...FUEL_FIGURES.petrol, duration, half: -startFor(0, duration, FUEL_FIGURES.petrol.form) };
    const cutOff = volumeAt(duration) / volumeAt(0);
    const swept = (share: number) => (volumeAt(share * duration) / volumeAt(0) - 1) / (cutOff - 1);
    for (const rise of [1.4, 2]) {
      // Heat over c_v T at the end of compression: at once to a pressure `rise` times as high, then at that pressure.
      const needed = rise - 1 + 1.4 * rise * (cutOff - 1);
      const atOnce = (rise - 1) / needed;
      const law = (share: number) => Math.min(1, share / 0.01) * atOnce + (1 - atOnce) * Math.min(1, swept(share));
      let completeness = 0.3;
      let [efficiency, mostOverFirst] = [0, 0];
      // As much heat as the temperature reached asks for.
      for (let round = 0; round < 3; round++) {
        const burning = { ...fuel, completeness };
        const plain = ideal(0.06, { fuel: burning });
        const model = { ...plain, kinds: plain.kinds.map((k) => ({ ...k, compression: r })) };
        const engine = new Engine(model, rpm(600), { ...LIVE, cell: 0.02 }, undefined, gas, law);
        for (let k = 0; k < 6; k++) expect(engine.cycle()).toBeUndefined();
        const trace = engine.emptyTrace();
        expect(engine.cycle(trace)).toBeUndefined();
        const p = engine.result(7);
        const Vd = (Math.PI / 4) * BORE ** 2 * STROKE;
        const air = (p.volumetricEfficiency * model.ambient.p * Vd) / (gas.R * model.ambient.T);
        const heat = (air / airInCharge(fuel)) * p.trapping * heatPerCharge(burning);
        const compressed = (trace.pressure[0]! * trace.volume[0]! * gas.fresh) / gas.R;
        efficiency = ((p.imep - p.pmep) * Vd) / heat;
        mostOverFirst = p.peakPressure / (rise * trace.pressure[0]!);
        completeness *= (needed * compressed) / heat;
      }
      expect(mostOverFirst, 'the pressure stays where the first part took it').toBeCloseTo(1, 1);
      const dual = 1 - (r ** -0.4 * (rise * cutOff ** 1.4 - 1)) / needed;
      expect(efficiency / dual, String(rise)).toBeCloseTo(1, 2);
    }
  }, 60_000);
  it('burning longer does less work of the same charge than the limit', () => {
    const at = (duration: number) => {
      const fuel = { ...FUEL_FIGURES.petrol, duration, half: 0.15 };
      return good(runPoint(ideal(0.06, { fuel }), rpm(1500), { ...LIVE, cell: 0.02 }).point).imep;
    };
    const [short, long] = [at(0.4), at(1.6)];
    expect(long).toBeLessThan(short);
  });
});

/** Filling and emptying alone: cylinder and two rooms, isentropic nozzles between, by small plain steps. Returns filling. */
function fillingAndEmptying(model: EngineModel, speed: number, gas: Gas): number {
  const { kinds, ambient, back } = model;
  const kind = kinds[0]!;
  const cv = gas.fresh;
  const gamma = 1 + gas.R / cv;
  const cp = cv + gas.R;
  const volume = (angle: number) =>
    cylinderVolumeAt.compute({ bore: BORE, stroke: STROKE, rod: model.rod, compression: kind.compression, angle });
  const open = (side: 'intake' | 'exhaust', angle: number): number => {
    const { lobe, valve } = kind[side];
    const a = angle - 2 * Math.PI - lobe.centre;
    const x = Math.abs(a) / lobe.halfDuration;
    const lift = x >= 1 ? 0 : lobe.maxLift * (1 - x ** lobe.fullness) ** 3;
    return valve.open[2]! * Math.min(1, lift / 0.005);
  };
  let mass = (ambient.p * volume(0)) / (gas.R * ambient.T);
  let T = ambient.T;
  let drawn = 0;
  const n = 72_000;
  const dt = 2 / speed / n;
  for (let cycle = 0; cycle < 6; cycle++) {
    drawn = 0;
    for (let i = 0; i < n; i++) {
      const angle = (4 * Math.PI * i) / n;
      const V = volume(angle);
      const p = (mass * gas.R * T) / V;
      const through = (area: number, room: number): number =>
        p < room ? area * nozzleFlux(gamma, gas.R, room, ambient.T, p) : -area * nozzleFlux(gamma, gas.R, p, T, room);
      const inflow = through(open('intake', angle), ambient.p);
      const backflow = through(open('exhaust', angle), back);
      const heat = (q: number) => q * cp * (q > 0 ? ambient.T : T);
      const dV = volume(angle + (4 * Math.PI) / n) - V;
      const energy = mass * cv * T + dt * (heat(inflow) + heat(backflow)) - p * dV;
      mass += dt * (inflow + backflow);
      T = energy / (mass * cv);
      drawn += dt * inflow;
    }
  }
  const Vd = (Math.PI / 4) * BORE ** 2 * STROKE;
  return drawn / ((ambient.p * Vd) / (gas.R * ambient.T));
}

describe('pipes of no length', () => {
  it('leave filling and emptying, by a program of its own, the nearer the shorter they are', () => {
    const gas = perfectGas(1.4);
    // Nothing burns: the engine is motored, its rooms hold one gas at one temperature.
    const fuel = { ...FUEL_FIGURES.petrol, completeness: 0 };
    const speed = rpm(4500);
    const off = (length: number): number => {
      const model = ideal(length, { fuel }, 0.7e-3);
      const engine = new Engine(model, speed, { ...LIVE, cell: length / 4 }, undefined, gas);
      for (let k = 0; k < 8; k++) expect(engine.cycle()).toBeUndefined();
      const filled = engine.result(8).volumetricEfficiency / airInCharge(fuel);
      return Math.abs(filled / fillingAndEmptying(model, speed, gas) - 1);
    };
    const [long, short] = [off(0.3), off(0.02)];
    expect(short).toBeLessThan(0.01);
    expect(short).toBeLessThan(long);
  }, 60_000);
});
