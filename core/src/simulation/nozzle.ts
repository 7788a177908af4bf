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

/** Remembers the last two roots of one end either way, as shares of the speed of sound there. */
export interface EndMemory {
  out: number;
  outBefore: number;
  into: number;
  intoBefore: number;
}
export const endMemory = (): EndMemory => ({ out: 0.05, outBefore: 0.05, into: 0.05, intoBefore: 0.05 });

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
  // Where the last two roots point to.
  let w = (2 * memory.out - memory.outBefore) * c;
  if (!(w > low && w < high)) w = memory.out * c;
  if (!(w > low && w < high)) w = 0.5 * (low + high);
  for (let i = 0; i < MOST_TRIES; i++) {
    const f = balanceOut(g, face, c, A, open, beyond, w);
    if (Math.abs(f) <= RESIDUAL * scale || high - low < 1e-13 * c) {
      memory.outBefore = memory.out;
      memory.out = w / c;
      // The balance left the state at this very speed.
      return written(gas, STATE.p, STATE.rho, w, face.Y, A, to);
    }
    if (f < 0) low = w;
    else high = w;
    const next = w - f / SLOPE.of;
    w = next > low && next < high ? next : 0.5 * (low + high);
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
  // A choked throat's flow falls with the stagnation state: d(ρ*c*)/dw = −(ρ*c*)(g+1)/2 (a − w)/stagnation.
  SLOPE.of =
    free < choked
      ? A * rho * (1 - w / a) + (open * density * speed * 0.5 * (g + 1) * (a - w)) / stagnation
      : (a - w) * ((A * rho) / a + (open * density) / speed);
  return A * rho * w - open * density * speed;
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
  let v = (2 * memory.into - memory.intoBefore) * c;
  if (!(v > low && v < high)) v = memory.into * c;
  if (!(v > low && v < high)) v = Math.min(0.05 * c, 0.5 * high);
  for (let i = 0; i < MOST_TRIES; i++) {
    const { p, rho } = stateAt(g, face, c, -v);
    const T = beyond.T - (v * v) / (2 * cp);
    const filled = p / (R * T);
    let flow = 0;
    let slope = 0;
    const ratio = p / beyond.p;
    if (ratio < 1) {
      const free = raised(ratio, power);
      const x = free < choked ? choked : free;
      const speed = Math.sqrt(2 * cp * beyond.T * (1 - x));
      const density = free < choked ? rhoBeyond * raised(choked, 1 / (gr - 1)) : (rhoBeyond * ratio) / free;
      flow = open * density * speed;
      if (free > choked) {
        const mach2 = (speed * speed) / (gr * R * beyond.T * x);
        slope = (open * (1 - mach2)) / speed;
      }
    }
    const f = A * filled * v - flow;
    const rise = rho * Math.sqrt((g * p) / rho);
    if (Math.abs(f) <= RESIDUAL * scale || high - low < 1e-13 * c) {
      memory.intoBefore = memory.into;
      memory.into = v / c;
      return filling(gas, p, T, v, A, f + flow, beyond, gr, to);
    }
    if (f < 0) low = v;
    else high = v;
    const next = v - f / (A * filled * (1 + (v * rise) / p + (v * v) / (cp * T)) + slope * rise);
    v = next > low && next < high ? next : 0.5 * (low + high);
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
