/** Pipes and their ends against exact solutions. */
import { describe, expect, it } from 'vitest';
import { perfectGas } from './gas.js';
import { gridOf, plainPipe, type AreaPoint } from './grid.js';
import { endMemory, nozzleFlux, solveEnd, type Volume } from './nozzle.js';
import { contentOf, endFlow, pipeOf, reachEnds, stepPipe, take, type EndFlow, type Pipe } from './pipe.js';

const gas = perfectGas(1.4, 1);
interface State {
  readonly rho: number;
  readonly u: number;
  readonly p: number;
}

/** Exact solution of the Riemann problem at x/t (Toro (2009), §4.5 to 4.9), written from the equations for this test. */
function exact(l: State, r: State, s: number, g = 1.4): State {
  const c = (q: State) => Math.sqrt((g * q.p) / q.rho);
  const f = (p: number, q: State): [number, number] => {
    if (p > q.p) {
      const a = 2 / ((g + 1) * q.rho);
      const b = ((g - 1) / (g + 1)) * q.p;
      const root = Math.sqrt(a / (p + b));
      return [(p - q.p) * root, root * (1 - (p - q.p) / (2 * (p + b)))];
    }
    return [
      ((2 * c(q)) / (g - 1)) * ((p / q.p) ** ((g - 1) / (2 * g)) - 1),
      (p / q.p) ** (-(g + 1) / (2 * g)) / (q.rho * c(q)),
    ];
  };
  let p = Math.max(1e-8, 0.5 * (l.p + r.p));
  for (let i = 0; i < 200; i++) {
    const [fl, dl] = f(p, l);
    const [fr, dr] = f(p, r);
    p = Math.max(1e-10, p - (fl + fr + r.u - l.u) / (dl + dr));
  }
  const star = 0.5 * (l.u + r.u) + 0.5 * (f(p, r)[0] - f(p, l)[0]);
  const mirror = s > star;
  const q = mirror ? { ...r, u: -r.u } : l;
  const x = mirror ? -s : s;
  const v = mirror ? -star : star;
  const m = (g - 1) / (g + 1);
  const back = (w: State): State => (mirror ? { ...w, u: -w.u } : w);
  if (p > q.p) {
    const speed = q.u - c(q) * Math.sqrt(((g + 1) / (2 * g)) * (p / q.p) + (g - 1) / (2 * g));
    return back(x < speed ? q : { rho: (q.rho * (p / q.p + m)) / ((m * p) / q.p + 1), u: v, p });
  }
  const cs = c(q) * (p / q.p) ** ((g - 1) / (2 * g));
  if (x < q.u - c(q)) return back(q);
  if (x > v - cs) return back({ rho: q.rho * (p / q.p) ** (1 / g), u: v, p });
  const u = (2 / (g + 1)) * (c(q) + ((g - 1) / 2) * q.u + x);
  const k = (2 / (g + 1) + (m * (q.u - x)) / c(q)) ** (2 / (g - 1));
  return back({ rho: q.rho * k, u, p: q.p * k ** g });
}

function tube(cells: number, l: State, r: State, at: number): Pipe {
  const of = (q: State) => ({ p: q.p, T: q.p / q.rho, Y: 0, u: q.u });
  return pipeOf(gas, gridOf(plainPipe(1, 1), 1 / cells), (x) => of(x < at ? l : r));
}
/** What passes an end that nothing reaches: the cell's own state. */
function open(pipe: Pipe, i: number, out: 1 | -1): EndFlow {
  const [rho, u, p] = [pipe.rho[i]!, pipe.u[i]! * out, pipe.p[i]!];
  return { mass: rho * u, push: p + rho * u * u, energy: u * (p * 3.5 + 0.5 * rho * u * u), burned: 0 };
}
function runTube(pipe: Pipe, until: number, order: 1 | 2 = 2, courant = 0.8): void {
  let t = 0;
  while (t < until - 1e-14) {
    const dt = Math.min(courant * pipe.waveTime, until - t);
    expect(stepPipe(pipe, dt, open(pipe, 0, -1), open(pipe, pipe.grid.cells - 1, 1), order)).toBe(true);
    take(pipe);
    t += dt;
  }
}
/** Mean absolute error of the density. */
function errorOf(pipe: Pipe, l: State, r: State, at: number, t: number): number {
  const n = pipe.grid.cells;
  let sum = 0;
  for (let i = 0; i < n; i++) {
    // The mean over the cell, by its middle eight.
    let mean = 0;
    for (let k = 0; k < 8; k++) mean += exact(l, r, ((i + (k + 0.5) / 8) / n - at) / t).rho / 8;
    sum += Math.abs(pipe.rho[i]! - mean) / n;
  }
  return sum;
}
const slope = (ns: readonly number[], errors: readonly number[]): number =>
  Math.log(errors[0]! / errors.at(-1)!) / Math.log(ns.at(-1)! / ns[0]!);

// Toro (2009), table 4.1 and §10.8; the third is his blast wave, the fifth his slow contact.
const TORO: readonly (readonly [string, State, State, number, number, number])[] = [
  ['Sod', { rho: 1, u: 0, p: 1 }, { rho: 0.125, u: 0, p: 0.1 }, 0.5, 0.2, 0.003],
  ['sonic rarefaction', { rho: 1, u: 0.75, p: 1 }, { rho: 0.125, u: 0, p: 0.1 }, 0.3, 0.2, 0.006],
  ['two rarefactions, near vacuum', { rho: 1, u: -2, p: 0.4 }, { rho: 1, u: 2, p: 0.4 }, 0.5, 0.15, 0.012],
  ['blast', { rho: 1, u: 0, p: 1000 }, { rho: 1, u: 0, p: 0.01 }, 0.5, 0.012, 0.09],
  ['two shocks', { rho: 5.99924, u: 19.5975, p: 460.894 }, { rho: 5.99242, u: -6.19633, p: 46.095 }, 0.4, 0.035, 0.2],
];

describe('a pipe of one area', () => {
  it.each(TORO)('%s as the exact Riemann solution', (_, l, r, at, t, allowed) => {
    const pipe = tube(400, l, r, at);
    runTube(pipe, t);
    expect(errorOf(pipe, l, r, at, t)).toBeLessThan(allowed);
  });
  it('closes on Sod’s tube with the grid: slope at least 0.85 from 100 to 800 cells', () => {
    const [, l, r, at, t] = TORO[0]!;
    const ns = [100, 200, 400, 800];
    const errors = ns.map((n) => {
      const pipe = tube(n, l, r, at);
      runTube(pipe, t);
      return errorOf(pipe, l, r, at, t);
    });
    expect(slope(ns, errors)).toBeGreaterThan(0.85);
  });
  it('carries a smooth pulse as the exact simple wave: slope at least 1.9', () => {
    // A wave to the right: u − 2c/(γ−1) and entropy are those at rest; each speed travels with u + c.
    const g = 1.4;
    const c0 = Math.sqrt(g);
    const u0 = (x: number) => 0.1 * Math.exp(-(((x - 0.3) / 0.08) ** 2));
    const of = (u: number): State => {
      const c = c0 + ((g - 1) / 2) * u;
      const p = (c / c0) ** ((2 * g) / (g - 1));
      return { rho: (g * p) / c ** 2, u, p };
    };
    const t = 0.25;
    const at = (x: number) => {
      let from = x - c0 * t;
      for (let i = 0; i < 60; i++) from = x - (u0(from) * (1 + (g - 1) / 2) + c0) * t;
      return of(u0(from));
    };
    const meanOver = (n: number, i: number, f: (x: number) => State) => {
      let sum = 0;
      for (let k = 0; k < 8; k++) sum += f((i + (k + 0.5) / 8) / n).rho / 8;
      return sum;
    };
    const ns = [100, 200, 400];
    const errors = ns.map((n) => {
      const pipe = pipeOf(gas, gridOf(plainPipe(1, 1), 1 / n), (x) => {
        const q = of(u0(x));
        return { p: q.p, T: q.p / q.rho, Y: 0, u: q.u };
      });
      runTube(pipe, t);
      let sum = 0;
      for (let i = 0; i < n; i++) sum += Math.abs(pipe.rho[i]! - meanOver(n, i, at)) / n;
      return sum;
    });
    expect(slope(ns, errors)).toBeGreaterThan(1.9);
  });
});

const AIR = perfectGas(1.4);
const HORN: AreaPoint[] = Array.from({ length: 41 }, (_, i) => {
  const x = i / 40;
  return { x: 0.2 * x, area: 8e-4 * (1.6 - Math.sin(Math.PI * x)) };
});

/** Two volumes joined by a pipe, run until the flow at both ends is one. */
function blow(points: AreaPoint[], cells: number, p0: number, pb: number, opening?: number) {
  const grid = gridOf(points, points.at(-1)!.x / cells);
  const pipe = pipeOf(AIR, grid, { p: pb, T: 300, Y: 0 });
  const up: Volume = { p: p0, T: 300, Y: 0 };
  const down: Volume = { p: pb, T: 300, Y: 0 };
  const [l, r] = [endFlow(), endFlow()];
  const [ml, mr] = [endMemory(), endMemory()];
  const [aL, aR] = [grid.area[0]!, grid.area[grid.cells]!];
  for (let i = 0; i < 40_000; i++) {
    const dt = 0.8 * pipe.waveTime;
    reachEnds(pipe, dt, 2);
    solveEnd(AIR, pipe.ends[0], aL, aL, up, ml, l);
    solveEnd(AIR, pipe.ends[1], aR, opening ?? aR, down, mr, r);
    expect(stepPipe(pipe, dt, l, r, 2)).toBe(true);
    take(pipe);
    if (i > 200 && i % 50 === 0 && Math.abs(l.mass + r.mass) < 1e-7 * Math.abs(r.mass)) break;
  }
  return { pipe, flow: r.mass, inflow: -l.mass };
}

describe('a pipe of varying area', () => {
  it('at rest stays at rest, and keeps its mass', () => {
    const grid = gridOf(HORN, 0.01);
    const pipe = pipeOf(AIR, grid, { p: 1e5, T: 300, Y: 0 });
    const before = contentOf(pipe);
    const [l, r] = [endFlow(), endFlow()];
    for (let i = 0; i < 2000; i++) {
      const dt = 0.8 * pipe.waveTime;
      reachEnds(pipe, dt, 2);
      solveEnd(AIR, pipe.ends[0], grid.area[0]!, 0, { p: 2e5, T: 300, Y: 0 }, endMemory(), l);
      solveEnd(AIR, pipe.ends[1], grid.area[grid.cells]!, 0, { p: 2e5, T: 300, Y: 0 }, endMemory(), r);
      stepPipe(pipe, dt, l, r, 2);
      take(pipe);
    }
    expect(Math.max(...pipe.u.map(Math.abs))).toBeLessThan(1e-5);
    expect(Math.abs(contentOf(pipe).mass / before.mass - 1)).toBeLessThan(1e-12);
  });
  it('chokes at its least area with the mass flow of the isentropic nozzle: 0.1 % at 40 cells', () => {
    const { flow } = blow(HORN, 40, 1e5, 4e4);
    const exactFlow = Math.min(...HORN.map((p) => p.area)) * nozzleFlux(1.4, 287.05, 1e5, 300, 4e4);
    expect(Math.abs(flow / exactFlow - 1)).toBeLessThan(1e-3);
  });
  it('subsonic: 1 % at 40 cells and an order of at least 1.8', () => {
    // All of the end's area: the isentropic flow from p0 to pb through the end area.
    const end = HORN.at(-1)!.area;
    const exactFlow = end * nozzleFlux(1.4, 287.05, 1e5, 300, 0.97e5);
    const errors = [20, 40, 80].map((n) => Math.abs(blow(HORN, n, 1e5, 0.97e5).flow / exactFlow - 1));
    expect(errors[1]).toBeLessThan(0.01);
    expect(slope([20, 40, 80], errors)).toBeGreaterThan(1.8);
  });
});

describe('the end of a pipe', () => {
  const still = { rho: 1e5 / (287.05 * 300), w: 0, p: 1e5, Y: 0 };
  const A = 1e-3;
  it('shut, is the wall of a shock tube', () => {
    const to = endFlow();
    // A stream of Mach 0.5 stopped at once: reflected shock (Toro (2009), eq. 4.5 with u* = 0).
    const p = solveEnd(
      AIR,
      { ...still, w: 0.5 * Math.sqrt(1.4 * 287.05 * 300) },
      A,
      0,
      { p: 1, T: 300, Y: 0 },
      endMemory(),
      to,
    );
    const g = 1.4;
    const u = 0.5;
    const k = ((g + 1) / 4) * u;
    expect(p / 1e5).toBeCloseTo(1 + g * u * (k + Math.sqrt(k * k + 1)), 9);
    expect(to.mass).toBe(0);
    expect(to.push).toBeCloseTo(p * A, 9);
  });
  it('gives steady flow back: a face that already moves as its nozzle asks is left as it is', () => {
    for (const pr of [0.99e5, 0.9e5, 0.7e5, 0.4e5, 0.1e5]) {
      // From a stagnation state of 1 bar and 300 K find the face Mach number that fills an opening of half the area.
      const flux = 0.5 * nozzleFlux(1.4, 287.05, 1e5, 300, pr);
      let [a, b] = [0, 1];
      for (let i = 0; i < 80; i++) {
        const m = 0.5 * (a + b);
        const T = 300 / (1 + 0.2 * m * m);
        const p = 1e5 * (T / 300) ** 3.5;
        if ((p / (287.05 * T)) * m * Math.sqrt(1.4 * 287.05 * T) < flux) a = m;
        else b = m;
      }
      const T = 300 / (1 + 0.2 * a * a);
      const p = 1e5 * (T / 300) ** 3.5;
      const to = endFlow();
      const w = a * Math.sqrt(1.4 * 287.05 * T);
      const on = solveEnd(
        AIR,
        { rho: p / (287.05 * T), w, p, Y: 0 },
        A,
        0.5 * A,
        { p: pr, T: 300, Y: 0 },
        endMemory(),
        to,
      );
      expect(on / p).toBeCloseTo(1, 7);
      expect(to.mass / (A * flux)).toBeCloseTo(1, 7);
    }
  });
  it('wide open to a lower pressure, has that pressure on its face', () => {
    const to = endFlow();
    expect(solveEnd(AIR, still, A, A, { p: 0.8e5, T: 300, Y: 0 }, endMemory(), to)).toBeCloseTo(0.8e5, -1);
    expect(solveEnd(AIR, still, A, 2 * A, { p: 0.8e5, T: 300, Y: 0 }, endMemory(), to)).toBeCloseTo(0.8e5, -1);
  });
  it('into the pipe, the total enthalpy and the mass of the opening are what fills it', () => {
    const beyond = { p: 1.6e5, T: 400, Y: 1 };
    for (const open of [0.02, 0.3, 0.9, 1]) {
      const to = endFlow();
      const p = solveEnd(AIR, still, A, open * A, beyond, endMemory(), to);
      const flow = open * A * nozzleFlux(1.4, 287.05, beyond.p, beyond.T, p);
      expect(-to.mass / flow).toBeCloseTo(1, 6);
      expect(to.energy / to.mass).toBeCloseTo(3.5 * 287.05 * 400, 3);
      expect(to.burned).toBeCloseTo(to.mass, 12);
    }
  });
  it('followed from step to step, lets pass what the nozzle takes, though the last balance is not asked again', () => {
    const R = 287.05;
    for (const open of [0.05, 0.4, 0.95]) {
      const memory = endMemory();
      for (let i = 0; i < 400; i++) {
        // A pressure that swings about the pipe's own, through nought flow and through choking.
        const beyond = { p: 1e5 * (1 + 0.9 * Math.sin((i + 0.5) / 40)), T: 320, Y: 0 };
        const to = endFlow();
        const p = solveEnd(AIR, still, A, open * A, beyond, memory, to);
        const w = (to.push - p * A) / to.mass;
        const rho = to.mass / (w * A);
        const T = p / (rho * R);
        const mach2 = (w * w) / (1.4 * R * T);
        const all = 1 + 0.2 * mach2;
        const flow =
          to.mass > 0
            ? nozzleFlux(1.4, R, p * all ** 3.5, T * all, beyond.p)
            : -nozzleFlux(1.4, R, beyond.p, beyond.T, p);
        const scale = still.rho * Math.sqrt(1.4 * R * 300) * A;
        expect(Math.abs(to.mass - open * A * flow) / scale, `${open} ${i}`).toBeLessThan(2e-8);
      }
    }
  });
  it('is solved for any state and any opening, and never sends gas against both pressures', () => {
    let seed = 7;
    const next = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
    for (let i = 0; i < 4000; i++) {
      const T = 250 + 1500 * next();
      const p = 1e4 * 10 ** (2 * next());
      const c = Math.sqrt(1.4 * 287.05 * T);
      const face = { rho: p / (287.05 * T), w: (2.6 * next() - 1.3) * c, p, Y: next() };
      const beyond = { p: 1e4 * 10 ** (2.5 * next()), T: 250 + 2000 * next(), Y: next() };
      const to = endFlow();
      const on = solveEnd(
        AIR,
        face,
        A,
        A * 1.3 * next() ** 3,
        beyond,
        { out: { a: next(), b: next(), c: next() }, into: { a: next(), b: next(), c: next() } },
        to,
      );
      expect(on, JSON.stringify({ face, beyond })).toBeGreaterThan(0);
      expect(Number.isFinite(to.mass + to.push + to.energy)).toBe(true);
    }
  });
});
