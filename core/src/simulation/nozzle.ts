/**
 * The end of a pipe that looks through an opening at a volume: a valve, an entry, an outlet.
 *
 * The state on the pipe's end face lies on the exact wave curve from the state just inside (Toro (2009), §4.2: a
 * rarefaction or a shock). Out of the pipe, the opening is a nozzle fed by the face's own stagnation state; into the
 * pipe, the stream leaves the volume isentropically to the face's pressure and fills the pipe there with its total
 * enthalpy kept (constant-pressure model: Winterbone and Pearson (2000), §3.4). Choking is at the opening, or on the
 * face. Ratios of heats are frozen, each at its own side's temperature; the energy that passes is the gas's own.
 */
import { enthalpy, gammaOf, type Gas } from './gas.js';
import { raised } from './exact.js';
import type { EndFlow, Face } from './pipe.js';

/** What the opening leads to. */
export interface Volume {
  p: number;
  T: number;
  Y: number;
}

/** The face is solved when what does not balance is less than this share of ρcA. */
const RESIDUAL = 1e-9;
const MOST_TRIES = 60;
/** A compression weaker than this share of the speed of sound is a wave of constant entropy within 2e-6 of its pressure. */
const WEAK = 0.02;

/**
 * Mass flow per area of an isentropic nozzle, kg/(m² s): subsonic, or choked at its throat
 * (Heywood (1988), eq. C.8 and C.9).
 */
export function nozzleFlux(gamma: number, R: number, p0: number, T0: number, p: number): number {
  if (p >= p0) return 0;
  // Temperature at the throat as a share of that before it, and no less than where it is choked.
  const free = raised(p / p0, (gamma - 1) / gamma);
  const choked = 2 / (gamma + 1);
  const x = free < choked ? choked : free;
  const density = free < choked ? raised(choked, 1 / (gamma - 1)) : p / p0 / free;
  return p0 * Math.sqrt((2 * gamma) / ((gamma - 1) * R * T0)) * density * Math.sqrt(1 - x);
}

/** The last three roots of one end one way, as shares of the speed of sound there, the newest first. */
export interface Roots {
  a: number;
  b: number;
  c: number;
}
/** Roots of one end either way. */
export interface EndMemory {
  readonly out: Roots;
  readonly into: Roots;
}
const roots = (): Roots => ({ a: 0.05, b: 0.05, c: 0.05 });
export const endMemory = (): EndMemory => ({ out: roots(), into: roots() });

/**
 * Where the last three roots point to, half of their bend taken (all of it makes too much of their last places); the last
 * itself where that lies out of bounds.
 */
function firstTry({ a, b, c }: Roots, sound: number, low: number, high: number, otherwise: number): number {
  const ahead = (2.5 * a - 2 * b + 0.5 * c) * sound;
  if (ahead > low && ahead < high) return ahead;
  const last = a * sound;
  return last > low && last < high ? last : otherwise;
}
function remember(memory: Roots, root: number): void {
  memory.c = memory.b;
  memory.b = memory.a;
  memory.a = root;
}

/**
 * Whether the step to come ends within the residual, by how much the last one gained: what does not balance shrinks by at
 * least as much again. Then the balance need not be asked once more.
 */
const isLast = (now: number, before: number, scale: number): boolean =>
  now * now <= RESIDUAL * scale * (before < 0 ? -before : before);

/**
 * What passes the end of a pipe of face area `A` through an effective area `open`, at most A.
 * Writes `to` and returns the pressure on the face, Pa; NaN where nothing balances.
 */
export function solveEnd(
  gas: Gas,
  face: Face,
  A: number,
  open: number,
  beyond: Volume,
  memory: EndMemory,
  to: EndFlow,
): number {
  const g = gammaOf(gas, face.p / (face.rho * gas.R), face.Y);
  const c = Math.sqrt((g * face.p) / face.rho);
  const shut = stateAt(g, face, c, 0);
  if (open <= 0) {
    to.mass = to.energy = to.burned = 0;
    to.push = shut.p * A;
    return shut.p;
  }
  const area = open < A ? open : A;
  return shut.p >= beyond.p
    ? out(gas, g, c, face, A, area, beyond.p, memory, to)
    : into(gas, g, c, face, A, area, beyond, memory, to);
}

const STATE = { p: 0, rho: 0 };
/** Pressure and density on the wave curve where the gas leaves at `w`. The object is used again. */
function stateAt(g: number, face: Face, c: number, w: number): { p: number; rho: number } {
  const slow = face.w - w;
  if (slow > WEAK * c) {
    const k = ((g + 1) / 4) * slow;
    STATE.p = face.p + face.rho * slow * (k + Math.sqrt(k * k + c * c));
    const ratio = STATE.p / face.p;
    const m = (g - 1) / (g + 1);
    STATE.rho = (face.rho * (ratio + m)) / (m * ratio + 1);
  } else {
    const s = 1 + ((0.5 * (g - 1)) / c) * slow;
    const d = s <= 0 ? 0 : raised(s, 2 / (g - 1));
    STATE.rho = face.rho * d;
    STATE.p = face.p * d * s * s;
  }
  return STATE;
}

function out(
  gas: Gas,
  g: number,
  c: number,
  face: Face,
  A: number,
  open: number,
  beyond: number,
  memory: EndMemory,
  to: EndFlow,
): number {
  const scale = face.rho * c * A;
  let low = 0;
  // At most sonic on the face, by a rarefaction; a stream that is supersonic at most as a shock that stands there leaves it.
  let high = (2 / (g + 1)) * (c + 0.5 * (g - 1) * face.w);
  if (face.w >= c) {
    const m2 = (face.w * face.w) / (c * c);
    high = (face.w * ((g - 1) * m2 + 2)) / ((g + 1) * m2);
    // The opening takes more than comes: the stream passes as it is.
    if (balanceOut(g, face, c, A, open, beyond, high) <= 0)
      return written(gas, face.p, face.rho, face.w, face.Y, A, to);
  }
  let w = firstTry(memory.out, c, low, high, 0.5 * (low + high));
  let before = 0;
  for (let i = 0; i < MOST_TRIES; i++) {
    const f = balanceOut(g, face, c, A, open, beyond, w);
    if (Math.abs(f) <= RESIDUAL * scale || high - low < 1e-13 * c) {
      remember(memory.out, w / c);
      // The balance left the state at this very speed.
      return written(gas, STATE.p, STATE.rho, w, face.Y, A, to);
    }
    if (f < 0) low = w;
    else high = w;
    const next = w - f / SLOPE.of;
    if (next > low && next < high) {
      w = next;
      if (isLast(f, before, scale)) {
        remember(memory.out, w / c);
        const { p, rho } = stateAt(g, face, c, w);
        return written(gas, p, rho, w, face.Y, A, to);
      }
      before = f;
    } else {
      w = 0.5 * (low + high);
      before = 0;
    }
  }
  return NaN;
}

const SLOPE = { of: 1 };
/** Flow along the pipe less flow the opening takes, kg/s, when the gas leaves at w; its slope is left in SLOPE. */
function balanceOut(g: number, face: Face, c: number, A: number, open: number, beyond: number, w: number): number {
  const { p, rho } = stateAt(g, face, c, w);
  const a2 = (g * p) / rho;
  const a = Math.sqrt(a2);
  const stagnation = a2 + 0.5 * (g - 1) * w * w;
  // Of the throat: speed of sound squared, by expansion to the pressure beyond, or choked.
  const choked = (2 / (g + 1)) * stagnation;
  const free = a2 * raised(beyond / p, (g - 1) / g);
  if (free >= stagnation) {
    SLOPE.of = A * rho;
    return A * rho * w;
  }
  const throat = free < choked ? choked : free;
  const speed = Math.sqrt((2 / (g - 1)) * (stagnation - throat));
  const density = rho * raised(throat / a2, 1 / (g - 1));
  const comes = A * rho * w;
  const rise = A * rho * (1 - w / a);
  const taken = open * density * speed;
  // A choked throat's flow falls with the stagnation state: d(ρ*c*)/dw = −(ρ*c*)(g+1)/2 (a − w)/stagnation. Any other goes
  // with a root that is steep where little flows: the squares of both flows are met instead, which are smooth there.
  SLOPE.of =
    free < choked
      ? rise + (taken * 0.5 * (g + 1) * (a - w)) / stagnation
      : (2 * (comes * rise + open * density * open * density * (a - w))) / (comes + taken);
  return comes - taken;
}

function written(gas: Gas, p: number, rho: number, w: number, Y: number, A: number, to: EndFlow): number {
  const mass = rho * w * A;
  to.mass = mass;
  to.push = p * A + mass * w;
  to.energy = mass * (enthalpy(gas, p / (rho * gas.R), Y) + 0.5 * w * w);
  to.burned = mass * Y;
  return p;
}

function into(
  gas: Gas,
  g: number,
  c: number,
  face: Face,
  A: number,
  open: number,
  beyond: Volume,
  memory: EndMemory,
  to: EndFlow,
): number {
  const { R } = gas;
  const gr = gammaOf(gas, beyond.T, beyond.Y);
  const cp = (gr * R) / (gr - 1);
  // Temperature at a choked throat, as a share of that beyond.
  const choked = 2 / (gr + 1);
  const power = (gr - 1) / gr;
  const scale = face.rho * c * A;
  const rhoBeyond = beyond.p / (R * beyond.T);
  let low = 0;
  // The stream cannot fill the face beyond its own escape speed.
  let high = Math.sqrt(2 * cp * beyond.T) * 0.999;
  let v = firstTry(memory.into, c, low, high, Math.min(0.05 * c, 0.5 * high));
  let before = 0;
  for (let i = 0; i < MOST_TRIES; i++) {
    const { p, rho } = stateAt(g, face, c, -v);
    const T = beyond.T - (v * v) / (2 * cp);
    const filled = p / (R * T);
    let flow = 0;
    // Half of how the square of that flow falls with the pressure on the face.
    let fall = 0;
    const ratio = p / beyond.p;
    if (ratio < 1) {
      const free = raised(ratio, power);
      const x = free < choked ? choked : free;
      const speed = Math.sqrt(2 * cp * beyond.T * (1 - x));
      const density = free < choked ? rhoBeyond * raised(choked, 1 / (gr - 1)) : (rhoBeyond * ratio) / free;
      flow = open * density * speed;
      if (free > choked) {
        const mach2 = (speed * speed) / (gr * R * beyond.T * x);
        fall = open * open * density * (1 - mach2);
      }
    }
    const fills = A * filled * v;
    const f = fills - flow;
    // How the pressure on the face rises with the speed.
    const push = rho * Math.sqrt((g * p) / rho);
    const rise = A * filled * (1 + (v * push) / p + (v * v) / (cp * T));
    if (Math.abs(f) <= RESIDUAL * scale || high - low < 1e-13 * c) {
      remember(memory.into, v / c);
      return filling(gas, p, T, v, A, f + flow, beyond, gr, to);
    }
    if (f < 0) low = v;
    else high = v;
    // The squares of both flows are met, as out of the pipe; a choked one is as it is.
    const slope = fall > 0 ? (2 * (fills * rise + fall * push)) / (fills + flow) : rise;
    const next = v - f / slope;
    if (next > low && next < high) {
      v = next;
      if (isLast(f, before, scale)) {
        remember(memory.into, v / c);
        const at = stateAt(g, face, c, -v).p;
        const T = beyond.T - (v * v) / (2 * cp);
        return filling(gas, at, T, v, A, (A * at * v) / (R * T), beyond, gr, to);
      }
      before = f;
    } else {
      v = 0.5 * (low + high);
      before = 0;
    }
  }
  return NaN;
}

/** Writes a stream into the pipe; one that would be faster than sound fills the face at the speed of sound. */
function filling(
  gas: Gas,
  p: number,
  T: number,
  v: number,
  A: number,
  mass: number,
  beyond: Volume,
  gr: number,
  to: EndFlow,
): number {
  let speed = v;
  let pressure = p;
  if (v * v > gr * gas.R * T) {
    const sonicT = (2 / (gr + 1)) * beyond.T;
    speed = Math.sqrt(gr * gas.R * sonicT);
    pressure = (mass / (A * speed)) * gas.R * sonicT;
  }
  to.mass = -mass;
  to.push = pressure * A + mass * speed;
  to.energy = -mass * enthalpy(gas, beyond.T, beyond.Y);
  to.burned = -mass * beyond.Y;
  return pressure;
}
