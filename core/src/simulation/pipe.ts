/**
 * Unsteady flow along a pipe of varying area: the Euler equations with area, wall friction and wall heat,
 *
 *   ∂(ρA)/∂t + ∂(ρuA)/∂x = 0
 *   ∂(ρuA)/∂t + ∂((ρu² + p)A)/∂x = p dA/dx − ½ f ρ u|u| P
 *   ∂(ρEA)/∂t + ∂(ρu(E + p/ρ)A)/∂x = ½ f ρ |u| c_p (T_w − T) P
 *   ∂(ρYA)/∂t + ∂(ρuYA)/∂x = 0
 *
 * by MUSCL-Hancock with HLLC (E. F. Toro, Riemann Solvers and Numerical Methods for Fluid Dynamics, 3rd ed. (2009),
 * §14.4 and §10.4; wave speeds by Davis, eq. 10.48). Slopes of ρ, u, p and Y are limited (monotonised central). Gas at
 * rest in any pipe stays at rest: the pressure on the wall is the one the half step gives. Friction is Blasius'
 * 0.0791 Re^−¼ and heat follows it by Reynolds' analogy (D. E. Winterbone, R. J. Pearson, Theory of Engine Manifold
 * Design (2000), §2.3).
 */
import { coldCv, viscosity, type Gas } from './gas.js';
import type { Grid } from './grid.js';

/** State just inside an end of a pipe, half a step ahead; `w` is the speed out of the pipe. */
export interface Face {
  rho: number;
  w: number;
  p: number;
  Y: number;
}

/** What passes an end of a pipe, out of it. */
export interface EndFlow {
  /** kg/s. */
  mass: number;
  /** Pressure and momentum on the face's area along the outward normal, N. */
  push: number;
  /** W. */
  energy: number;
  /** kg/s of burned gas. */
  burned: number;
}

export const endFlow = (): EndFlow => ({ mass: 0, push: 0, energy: 0, burned: 0 });

export interface Pipe {
  readonly gas: Gas;
  readonly grid: Grid;
  /** Wall temperature, K; no friction and no heat where undefined. */
  readonly wall: number | undefined;
  readonly rho: Float64Array;
  readonly u: Float64Array;
  readonly p: Float64Array;
  readonly Y: Float64Array;
  /** One over ρ, ratio of heats, and what friction takes for each ρu|u|: ½ f × wall, m². */
  readonly perRho: Float64Array;
  readonly gamma: Float64Array;
  readonly skin: Float64Array;
  /** Steps until friction is read again. */
  stale: number;
  /** Totals of each cell: kg, kg m/s, J, kg. Two copies: what is, and what the step makes of it. */
  mass: Float64Array;
  momentum: Float64Array;
  energy: Float64Array;
  burned: Float64Array;
  nextMass: Float64Array;
  nextMomentum: Float64Array;
  nextEnergy: Float64Array;
  nextBurned: Float64Array;
  readonly ends: readonly [Face, Face];
  /** Mach number at the choke's face over the last step, towards the last cell. */
  chokeMach: number;
  /** Longest time in which no wave passes more than one cell, s. */
  waveTime: number;
}

const face = (): Face => ({ rho: 0, w: 0, p: 0, Y: 0 });

export interface Rest {
  readonly p: number;
  readonly T: number;
  readonly Y: number;
  readonly u?: number;
}

export function pipeOf(gas: Gas, grid: Grid, start: Rest | ((x: number) => Rest), wall?: number): Pipe {
  const n = grid.cells;
  const array = () => new Float64Array(n);
  const pipe: Pipe = {
    gas,
    grid,
    wall,
    rho: array(),
    u: array(),
    p: array(),
    Y: array(),
    perRho: array(),
    gamma: array(),
    skin: array(),
    stale: 0,
    mass: array(),
    momentum: array(),
    energy: array(),
    burned: array(),
    nextMass: array(),
    nextMomentum: array(),
    nextEnergy: array(),
    nextBurned: array(),
    ends: [face(), face()],
    chokeMach: 0,
    waveTime: 0,
  };
  let x = 0;
  for (let i = 0; i < n; i++) {
    const { p, T, Y, u = 0 } = typeof start === 'function' ? start(x + grid.dx[i]! / 2) : start;
    x += grid.dx[i]!;
    fillCell(pipe, i, p, T, Y, u);
  }
  settle(pipe);
  return pipe;
}

function fillCell(pipe: Pipe, i: number, p: number, T: number, Y: number, u: number): void {
  const { gas, grid } = pipe;
  const rho = p / (gas.R * T);
  const m = rho * grid.volume[i]!;
  pipe.rho[i] = rho;
  pipe.u[i] = u;
  pipe.p[i] = p;
  pipe.Y[i] = Y;
  pipe.mass[i] = m;
  pipe.momentum[i] = m * u;
  pipe.energy[i] = m * (T * (coldCv(gas, Y) + 0.5 * gas.rise * T) + 0.5 * u * u);
  pipe.burned[i] = m * Y;
}

/** Slope over a cell, monotonised central (Toro, §13.8); `a` before and `b` after, per length. */
function limited(a: number, b: number): number {
  if (a * b <= 0) return 0;
  const c = 0.5 * (a + b);
  const two = 2 * (Math.abs(a) < Math.abs(b) ? a : b);
  return Math.abs(c) < Math.abs(two) ? c : two;
}

/** The end cell's slope, from the two differences behind it. */
function endSlope(near: number, far: number): number {
  if (near * far <= 0) return 0;
  return Math.abs(near) < 2 * Math.abs(far) ? near : 2 * far;
}

/** Works out the state at both ends half a step ahead. `order` 1 takes the cells as they are. */
export function reachEnds(pipe: Pipe, dt: number, order: 1 | 2): void {
  const { grid, rho, u, p, Y } = pipe;
  const n = grid.cells;
  for (let side = 0; side < 2; side++) {
    const i = side === 0 ? 0 : n - 1;
    const j = side === 0 ? 1 : n - 2;
    const k = side === 0 ? 2 : n - 3;
    const to = pipe.ends[side]!;
    const dx = grid.dx[i]!;
    let [sr, su, sp, sY] = [0, 0, 0, 0];
    if (order === 2) {
      // Slopes along x: towards rising index on the left side, from it on the right.
      const turn = side === 0 ? 1 : -1;
      const near = turn * grid.perWay[Math.max(i, j)]!;
      const far = turn * grid.perWay[Math.max(j, k)]!;
      sr = endSlope((rho[j]! - rho[i]!) * near, (rho[k]! - rho[j]!) * far);
      su = endSlope((u[j]! - u[i]!) * near, (u[k]! - u[j]!) * far);
      sp = endSlope((p[j]! - p[i]!) * near, (p[k]! - p[j]!) * far);
      sY = endSlope((Y[j]! - Y[i]!) * near, (Y[k]! - Y[j]!) * far);
      sr = held(sr, rho[i]!, dx);
      sp = held(sp, p[i]!, dx);
    }
    const r = rho[i]!;
    const v = u[i]!;
    const rc2 = pipe.gamma[i]! * p[i]!;
    const spread = order === 1 ? 0 : (v * (grid.area[i + 1]! - grid.area[i]!)) / grid.volume[i]!;
    const half = 0.5 * dt;
    const off = (side === 0 ? -0.5 : 0.5) * dx;
    to.rho = r + off * sr - half * (v * sr + r * su + r * spread);
    const uEnd = v + off * su - half * (v * su + sp / r);
    to.p = p[i]! + off * sp - half * (v * sp + rc2 * (su + spread));
    to.Y = Math.min(1, Math.max(0, Y[i]! + off * sY - half * v * sY));
    to.w = side === 0 ? -uEnd : uEnd;
    if (!(to.rho > 0 && to.p > 0)) {
      to.rho = r;
      to.p = p[i]!;
      to.w = side === 0 ? -v : v;
      to.Y = Y[i]!;
    }
  }
}

/** A slope that leaves the value above a tenth of itself at the face. */
function held(slope: number, value: number, dx: number): number {
  const most = (1.8 * value) / dx;
  return Math.abs(slope) > most ? Math.sign(slope) * most : slope;
}

/**
 * One step of the pipe, between what passes its two ends; the result stands in `next…` until `take`.
 * @returns whether every cell is a state of matter.
 */
export function stepPipe(pipe: Pipe, dt: number, left: EndFlow, right: EndFlow, order: 1 | 2): boolean {
  const { gas, grid, wall, rho, u, p, Y, perRho, gamma, skin, mass, momentum, energy, burned } = pipe;
  const { nextMass, nextMomentum, nextEnergy, nextBurned } = pipe;
  const { dx, area, perVolume, perWay, cells: n, choke } = grid;
  const { R, fresh } = gas;
  const perR = 1 / R;
  const rise = gas.rise * perR;
  const halfRise = 0.5 * rise;
  const extra = gas.burned - fresh;
  const half = 0.5 * dt;
  // What passes the face on the left of the cell at hand, along x.
  let fMass = -left.mass;
  let fPush = left.push;
  let fEnergy = -left.energy;
  let fBurned = -left.burned;
  // The state on the left of the face at hand, and the pressure on the cell's wall half a step ahead.
  let lr = 0;
  let lu = 0;
  let lp = 0;
  let lY = 0;
  let lg = 0;
  let pHalf = 0;
  // The cell at hand, the one before it, and the differences over the face between them, per length: each is read once.
  let r = rho[0]!;
  let v = u[0]!;
  let q = p[0]!;
  let y = Y[0]!;
  let per = perRho[0]!;
  let rWas = 0;
  let vWas = 0;
  let qWas = 0;
  let yWas = 0;
  let perWas = 0;
  let drWas = 0;
  let dvWas = 0;
  let dqWas = 0;
  let dyWas = 0;
  let A = 0;
  let next = area[0]!;
  let good = true;
  for (let i = 0; i <= n; i++) {
    const before = A;
    A = next;
    let rNext = 0;
    let vNext = 0;
    let qNext = 0;
    let yNext = 0;
    let dr = 0;
    let dv = 0;
    let dq = 0;
    let dy = 0;
    // The state on the right of the face, that on the far side of the cell, and the cell's wall pressure.
    let rr = 0;
    let ru = 0;
    let rp = 0;
    let rY = 0;
    let rg = 0;
    let farR = 0;
    let farU = 0;
    let farP = 0;
    let farY = 0;
    let pHere = 0;
    if (i < n) {
      next = area[i + 1]!;
      const h = 0.5 * dx[i]!;
      if (i < n - 1) {
        const way = perWay[i + 1]!;
        rNext = rho[i + 1]!;
        vNext = u[i + 1]!;
        qNext = p[i + 1]!;
        yNext = Y[i + 1]!;
        dr = (rNext - r) * way;
        dv = (vNext - v) * way;
        dq = (qNext - q) * way;
        dy = (yNext - y) * way;
      }
      rg = gamma[i]!;
      rr = farR = r;
      ru = farU = v;
      rp = farP = q;
      rY = farY = y;
      pHere = q;
      if (order === 2) {
        let sr: number;
        let su: number;
        let sp: number;
        let sY: number;
        if (i > 0 && i < n - 1) {
          sr = limited(drWas, dr);
          su = limited(dvWas, dv);
          sp = limited(dqWas, dq);
          sY = limited(dyWas, dy);
        } else {
          const side = i === 0 ? 1 : -1;
          const j = i + side;
          const k = j + side;
          const near = side * perWay[i === 0 ? 1 : i]!;
          const far = side * perWay[i === 0 ? 2 : j]!;
          sr = held(endSlope((rho[j]! - r) * near, (rho[k]! - rho[j]!) * far), r, 2 * h);
          su = endSlope((u[j]! - v) * near, (u[k]! - u[j]!) * far);
          sp = held(endSlope((p[j]! - q) * near, (p[k]! - p[j]!) * far), q, 2 * h);
          sY = endSlope((Y[j]! - y) * near, (Y[k]! - Y[j]!) * far);
        }
        const spread = su + v * (next - A) * perVolume[i]!;
        const r0 = r - half * (v * sr + r * spread);
        const p0 = q - half * (v * sp + rg * q * spread);
        const hr = h * sr;
        const hp = h * sp;
        if (r0 - hr > 0 && r0 + hr > 0 && p0 - hp > 0 && p0 + hp > 0) {
          const u0 = v - half * (v * su + sp * per);
          const Y0 = y - half * v * sY;
          const hu = h * su;
          const hY = h * sY;
          rr = r0 - hr;
          farR = r0 + hr;
          ru = u0 - hu;
          farU = u0 + hu;
          rp = p0 - hp;
          farP = p0 + hp;
          rY = Y0 - hY;
          farY = Y0 + hY;
          pHere = p0;
        }
      }
    }
    let gMass: number;
    let gPush: number;
    let gEnergy: number;
    let gBurned: number;
    if (i === 0) {
      gMass = fMass;
      gPush = fPush;
      gEnergy = fEnergy;
      gBurned = fBurned;
    } else if (i === n) {
      gMass = right.mass;
      gPush = right.push;
      gEnergy = right.energy;
      gBurned = right.burned;
    } else {
      // HLLC between the left and the right of the face; t is RT.
      const lt = lp / lr;
      const rt = rp / rr;
      const lc = Math.sqrt(lg * lt);
      const rc = Math.sqrt(rg * rt);
      const sl = Math.min(lu - lc, ru - rc);
      const sR = Math.max(lu + lc, ru + rc);
      const ml = lr * (sl - lu);
      const mr = rr * (sR - ru);
      const star = (rp - lp + lu * ml - ru * mr) / (ml - mr);
      if (star >= 0) {
        const e = lt * perR * (fresh + lY * extra + halfRise * lt) + 0.5 * lu * lu;
        gMass = lr * lu;
        gPush = gMass * lu + lp;
        gEnergy = lu * (lr * e + lp);
        if (sl < 0) {
          const k = ml / (sl - star);
          gPush += sl * (k * star - gMass);
          gMass += sl * (k - lr);
          gEnergy += sl * (k * (e + (star - lu) * (star + lp / ml)) - lr * e);
        }
        gMass *= A;
        gPush *= A;
        gEnergy *= A;
        gBurned = gMass * lY;
      } else {
        const e = rt * perR * (fresh + rY * extra + halfRise * rt) + 0.5 * ru * ru;
        gMass = rr * ru;
        gPush = gMass * ru + rp;
        gEnergy = ru * (rr * e + rp);
        if (sR > 0) {
          const k = mr / (sR - star);
          gPush += sR * (k * star - gMass);
          gMass += sR * (k - rr);
          gEnergy += sR * (k * (e + (star - ru) * (star + rp / mr)) - rr * e);
        }
        gMass *= A;
        gPush *= A;
        gEnergy *= A;
        gBurned = gMass * rY;
      }
      if (i === choke) pipe.chokeMach = star >= 0 ? star / lc : star / rc;
    }
    if (i > 0) {
      // The cell on the left of this face is complete.
      const c = i - 1;
      let force = pHalf * (A - before);
      let warmth = 0;
      if (wall !== undefined) {
        const drag = skin[c]! * rWas * (vWas < 0 ? -vWas : vWas);
        const t = qWas * perWas;
        force -= drag * vWas;
        warmth = drag * (R + fresh + yWas * extra + rise * t) * (wall - t * perR);
      }
      const m = mass[c]! + dt * (fMass - gMass);
      const mo = momentum[c]! + dt * (fPush - gPush + force);
      const en = energy[c]! + dt * (fEnergy - gEnergy + warmth);
      const bu = burned[c]! + dt * (fBurned - gBurned);
      nextMass[c] = m;
      nextMomentum[c] = mo;
      nextEnergy[c] = en;
      nextBurned[c] = bu;
      if (!(m > 0 && en * m > 0.5 * mo * mo)) good = false;
    }
    fMass = gMass;
    fPush = gPush;
    fEnergy = gEnergy;
    fBurned = gBurned;
    lr = farR;
    lu = farU;
    lp = farP;
    lY = farY;
    lg = rg;
    pHalf = pHere;
    rWas = r;
    vWas = v;
    qWas = q;
    yWas = y;
    perWas = per;
    r = rNext;
    v = vNext;
    q = qNext;
    y = yNext;
    if (i < n - 1) per = perRho[i + 1]!;
    drWas = dr;
    dvWas = dv;
    dqWas = dq;
    dyWas = dy;
  }
  return good;
}

/** Makes the step's result the state. */
export function take(pipe: Pipe): void {
  [pipe.mass, pipe.nextMass] = [pipe.nextMass, pipe.mass];
  [pipe.momentum, pipe.nextMomentum] = [pipe.nextMomentum, pipe.momentum];
  [pipe.energy, pipe.nextEnergy] = [pipe.nextEnergy, pipe.energy];
  [pipe.burned, pipe.nextBurned] = [pipe.nextBurned, pipe.burned];
  settle(pipe);
}

/** From the totals of each cell to its state, and the time the fastest wave allows. */
function settle(pipe: Pipe): void {
  const { gas, grid, rho, u, p, Y, perRho, gamma, mass, momentum, energy, burned } = pipe;
  const { dx, volume, perVolume } = grid;
  const { R, fresh, rise } = gas;
  const extra = gas.burned - fresh;
  let most = 0;
  for (let i = 0; i < grid.cells; i++) {
    const m = mass[i]!;
    const per = 1 / m;
    const v = momentum[i]! * per;
    let y = burned[i]! * per;
    if (y < 0) y = 0;
    else if (y > 1) y = 1;
    const e = energy[i]! * per - 0.5 * v * v;
    const a = fresh + y * extra;
    // c_v at T is the root itself.
    const root = Math.sqrt(a * a + 2 * rise * e);
    const t = (2 * R * e) / (a + root);
    const r = m * perVolume[i]!;
    const g = 1 + R / root;
    rho[i] = r;
    u[i] = v;
    p[i] = r * t;
    Y[i] = y;
    perRho[i] = volume[i]! * per;
    gamma[i] = g;
    const rate = ((v < 0 ? -v : v) + Math.sqrt(g * t)) / dx[i]!;
    // A state that is no number must not hide behind the comparison.
    if (!(rate <= most)) most = rate;
  }
  pipe.waveTime = 1 / most;
  if (pipe.wall !== undefined && pipe.stale-- <= 0) rub(pipe);
}

/** Steps between two readings of the friction factor: it goes with the fourth root of the speed. */
const RUB = 8;
/** Friction factors: Blasius, laminar below where the two meet (Re 1187). */
function rub(pipe: Pipe): void {
  const { gas, grid, rho, u, p, skin } = pipe;
  const { cells, volume, wall } = grid;
  pipe.stale = RUB - 1;
  for (let i = 0; i < cells; i++) {
    const r = rho[i]!;
    const speed = Math.abs(u[i]!);
    const T = p[i]! / (r * gas.R);
    // Hydraulic diameter: four volumes over the wall.
    const re = (r * speed * 4 * volume[i]!) / (wall[i]! * viscosity(T));
    const f = re > 1187 ? 0.0791 / Math.sqrt(Math.sqrt(re)) : 16 / Math.max(re, 1);
    skin[i] = 0.5 * f * wall[i]!;
  }
}

/** Mass, energy and burned mass of the whole pipe. */
export function contentOf(pipe: Pipe): { mass: number; energy: number; burned: number } {
  let [mass, energy, burned] = [0, 0, 0];
  for (let i = 0; i < pipe.grid.cells; i++) {
    mass += pipe.mass[i]!;
    energy += pipe.energy[i]!;
    burned += pipe.burned[i]!;
  }
  return { mass, energy, burned };
}
