/**
 * Where the flow is lost, valve or port: two restrictions in series, fitted to every stage of a head together. From one
 * curve the split is not identified; from stage to stage the change of each is. What is told is the envelope over forms
 * of the model that the curves cannot tell apart.
 */
import { cholesky, inverse, solveFactored } from '../method/cholesky.js';
import { REFERENCE_DENSITY, REFERENCE_DEPRESSION, idealVelocity } from '../flow/reading.js';
import type { FlowPoint } from '../flow/curve.js';
import { minimumAreaOfValve, USUAL_SEAT } from '../valve/areas.js';
import type { PortValve } from '../evaluate/sheet.js';
import { inches, millimetres } from '../quantity/units.js';
import { refusal } from '../refusal/refusal.js';

/** One stage of one side: what its curve read, with which valve, and what is known of its port. */
export interface SplitStage {
  readonly points: readonly FlowPoint[];
  readonly valve: PortValve;
  /** Least area of the port behind the valve, m², where it was surveyed. */
  readonly choke?: number | undefined;
  /** Flow with the valve out and a radiused plug in the seat, m³/s at 28 in. */
  readonly valveOut?: number | undefined;
}

/** What is taken of uncertainties, each a standard uncertainty; shares but for the lift's zero, m. */
export interface SplitAssumptions {
  readonly row: number;
  readonly setup: number;
  readonly zero: number;
}
export const USUAL_SPLIT: SplitAssumptions = { row: 0.005, setup: 0.005, zero: inches(0.002) };

/** How the valve's part is written down; nothing but more kinds of measurement tells these apart. */
export interface SplitForm {
  readonly area: 'curtain' | 'least area';
  /** Whether the coefficient of the valve may fall with lift, or is held. */
  readonly fall: 'free' | 'held';
}
export const SPLIT_FORMS: readonly SplitForm[] = [
  { area: 'curtain', fall: 'free' },
  { area: 'curtain', fall: 'held' },
  { area: 'least area', fall: 'free' },
  { area: 'least area', fall: 'held' },
];

/** A figure with what it may lie between, 95 %. */
export interface Between {
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

/** What changed from the stage before, as natural logarithms of the flow each restriction would pass by itself. */
export interface SplitChange {
  readonly valve: Between;
  readonly port: Between;
}

export interface SplitFit {
  readonly form: SplitForm;
  /** Root mean square of what the form leaves of the curves, a share. */
  readonly left: number;
  /** How far the form itself had to be allowed to be wrong before it fitted, a share. */
  readonly wrong: number;
  readonly changes: readonly SplitChange[];
}

export interface Split {
  /** From each stage to the next: the envelope over the forms. One fewer than there are stages. */
  readonly changes: readonly SplitChange[];
  /** Share of the loss that the port takes at `lift`, each stage, 0 to 1. */
  readonly shares: readonly Between[];
  readonly lift: number;
  readonly fits: readonly SplitFit[];
  /** A valve-out pull speaks for at least one stage. */
  readonly measured: boolean;
}

/** Priors of the method: standard deviations of natural logarithms. Common practice, no source. */
const COEFFICIENT = { mean: Math.log(0.9), u: 0.07 };
const FALL = { mean: 0, u: 0.4 };
const PORT_COEFFICIENT = 0.85;
const PORT_KNOWN = 0.2;
/** A port nobody surveyed: some way above the best flow, anything within a factor of three. */
const PORT_UNKNOWN = { above: 1.3, u: 1 };
/** What a plug in the seat does to the port's own flow. */
const VALVE_OUT = 0.03;
/** Reach of what a form gets wrong along the lift: it is smooth. */
const REACH = millimetres(2.5);
/** Widest that a form may be wrong, and how the search widens. */
const MOST_WRONG = 0.2;
const WIDEN = 1.7;
const ITERATIONS = 40;
const TWO = 1.96;
/** A valve is never quite shut where a logarithm is taken, m. */
const LEAST_LIFT = 1e-5;

const VELOCITY = idealVelocity.compute({ depression: REFERENCE_DEPRESSION, density: REFERENCE_DENSITY });

/** Least area of a port's valves at a lift, m²; what was not measured of the seat takes the usual. */
export function leastArea(valve: PortValve, lift: number): number {
  const { diameter, valves } = valve;
  return (
    valves *
    minimumAreaOfValve({
      lift: Math.max(lift, LEAST_LIFT),
      diameter,
      seatWidth: valve.seatWidth ?? USUAL_SEAT.width,
      seatAngle: valve.seatAngle ?? USUAL_SEAT.angle,
      throat: valve.throat ?? diameter * USUAL_SEAT.throatRatio,
      stem: valve.stem ?? USUAL_SEAT.stem,
    }).area
  );
}
const valveArea = (valve: PortValve, lift: number, area: SplitForm['area']): number =>
  area === 'curtain' ? valve.valves * Math.PI * valve.diameter * lift : leastArea(valve, lift);

interface Unknown {
  readonly mean: number;
  readonly u: number;
}

/** One form's model: its unknowns with their priors, and the logarithm of each reading as a function of them. */
function modelOf(stages: readonly SplitStage[], form: SplitForm, a: SplitAssumptions) {
  const unknowns: Unknown[] = [];
  const add = (mean: number, u: number) => unknowns.push({ mean, u }) - 1;
  const fall = form.fall === 'free' ? add(FALL.mean, FALL.u) : -1;
  const places = stages.map((s) => {
    const best = Math.max(...s.points.map((p) => p.flow));
    return {
      coefficient: add(COEFFICIENT.mean, COEFFICIENT.u),
      port:
        s.choke === undefined
          ? add(Math.log(PORT_UNKNOWN.above * best), PORT_UNKNOWN.u)
          : add(Math.log(PORT_COEFFICIENT * s.choke * VELOCITY), PORT_KNOWN),
      zero: add(0, a.zero),
      setup: add(0, a.setup),
    };
  });
  const logValve = (j: number, lift: number, x: ArrayLike<number>, zero: number): number => {
    const { valve } = stages[j]!;
    const k = fall < 0 ? 0 : x[fall]!;
    const area = valveArea(valve, Math.max(lift + zero, LEAST_LIFT), form.area);
    return x[places[j]!.coefficient]! - (k * lift) / valve.diameter + Math.log(area * VELOCITY);
  };
  const rows = stages.flatMap((s, j) => [
    ...s.points.map((p) => ({ j, lift: p.lift as number | undefined, log: Math.log(p.flow), u: a.row })),
    ...(s.valveOut === undefined ? [] : [{ j, lift: undefined, log: Math.log(s.valveOut), u: VALVE_OUT }]),
  ]);
  const predict = (x: ArrayLike<number>): number[] =>
    rows.map(({ j, lift }) => {
      const at = places[j]!;
      const port = x[at.port]!;
      const setup = x[at.setup]!;
      if (lift === undefined) return port + setup;
      const valve = logValve(j, lift, x, x[at.zero]!);
      return -0.5 * Math.log(Math.exp(-2 * valve) + Math.exp(-2 * port)) + setup;
    });
  return { unknowns, places, rows, predict, logValve };
}

interface Posterior {
  readonly x: Float64Array;
  readonly covariance: Float64Array;
  readonly residuals: readonly number[];
  readonly chiSquare: number;
}

/** The likeliest unknowns and their covariance (Gauss-Newton with damping, Laplace), `wrong` being the form's own error. */
function fit(model: ReturnType<typeof modelOf>, wrong: number, from?: Float64Array): Posterior {
  const { unknowns, rows, predict } = model;
  const n = unknowns.length;
  const m = rows.length;
  const noise = new Float64Array(m * m);
  rows.forEach((a, i) =>
    rows.forEach((b, k) => {
      const shared =
        a.lift === undefined || b.lift === undefined
          ? 0
          : wrong ** 2 * Math.exp(-(((a.lift - b.lift) / REACH) ** 2) / 2);
      noise[i * m + k] = shared + (i === k ? a.u ** 2 : 0);
    }),
  );
  const weight = inverse(noise, m);
  const x = from?.slice() ?? Float64Array.from(unknowns, (u) => u.mean);
  const cost = (at: ArrayLike<number>) => {
    const p = predict(at);
    const r = rows.map((row, i) => row.log - p[i]!);
    let chi = 0;
    for (let i = 0; i < m; i++) for (let k = 0; k < m; k++) chi += r[i]! * weight[i * m + k]! * r[k]!;
    let prior = 0;
    unknowns.forEach((u, i) => (prior += ((at[i]! - u.mean) / u.u) ** 2));
    return { r, chi, total: chi + prior };
  };
  let now = cost(x);
  let damping = 1e-3;
  let normal = new Float64Array(n * n);
  for (let step = 0; step < ITERATIONS; step++) {
    const base = predict(x);
    const jacobian = unknowns.map((u, c) => {
      const h = 1e-4 * u.u;
      const moved = x.slice();
      moved[c]! += h;
      return predict(moved).map((v, i) => (v - base[i]!) / h);
    });
    const weighted = jacobian.map((col) =>
      rows.map((_, i) => {
        let sum = 0;
        for (let k = 0; k < m; k++) sum += weight[i * m + k]! * col[k]!;
        return sum;
      }),
    );
    normal = new Float64Array(n * n);
    const gradient = new Float64Array(n);
    for (let c = 0; c < n; c++) {
      for (let d = 0; d < n; d++) {
        let sum = 0;
        for (let i = 0; i < m; i++) sum += jacobian[c]![i]! * weighted[d]![i]!;
        normal[c * n + d] = sum;
      }
      normal[c * n + c]! += 1 / unknowns[c]!.u ** 2;
      let g = (unknowns[c]!.mean - x[c]!) / unknowns[c]!.u ** 2;
      for (let i = 0; i < m; i++) g += weighted[c]![i]! * now.r[i]!;
      gradient[c] = g;
    }
    let better = false;
    while (damping < 1e8) {
      const damped = normal.slice();
      for (let c = 0; c < n; c++) damped[c * n + c]! *= 1 + damping;
      cholesky(damped, n);
      const move = solveFactored(damped, n, gradient);
      const tried = x.map((v, c) => v + move[c]!);
      const there = cost(tried);
      if (there.total <= now.total) {
        better = now.total - there.total > 1e-9 * (1 + now.total);
        x.set(tried);
        now = there;
        damping = Math.max(damping / 10, 1e-9);
        break;
      }
      damping *= 10;
    }
    if (!better) break;
  }
  return { x, covariance: inverse(normal, n), residuals: now.r, chiSquare: now.chi };
}

/** Fits a form, widening what it may be wrong by until χ² over the degrees of freedom is 1. */
function fitWidened(model: ReturnType<typeof modelOf>) {
  const free = Math.max(1, model.rows.length - 2 * model.places.length);
  let wrong = 0.001;
  let found = fit(model, wrong);
  while (found.chiSquare / free > 1 && wrong < MOST_WRONG) {
    wrong *= WIDEN;
    found = fit(model, wrong, found.x);
  }
  return { ...found, wrong };
}

const uncertaintyAlong = (slope: ReadonlyMap<number, number>, covariance: Float64Array, n: number): number => {
  let variance = 0;
  for (const [i, a] of slope) for (const [k, b] of slope) variance += a * b * covariance[i * n + k]!;
  return Math.sqrt(Math.max(0, variance));
};

const envelope = (ranges: readonly Between[]): Between => ({
  value: ranges.reduce((s, r) => s + r.value, 0) / ranges.length,
  low: Math.min(...ranges.map((r) => r.low)),
  high: Math.max(...ranges.map((r) => r.high)),
});

/** The share whose logit is `x`. */
export const logistic = (x: number): number => 1 / (1 + Math.exp(-x));

function fitForm(stages: readonly SplitStage[], form: SplitForm, lift: number, a: SplitAssumptions) {
  const model = modelOf(stages, form, a);
  const { x, covariance, residuals, wrong } = fitWidened(model);
  const n = model.unknowns.length;
  const ranged = (value: number, slope: ReadonlyMap<number, number>): Between => {
    const u = uncertaintyAlong(slope, covariance, n);
    return { value, low: value - TWO * u, high: value + TWO * u };
  };
  const changes = stages.slice(1).map((stage, i): SplitChange => {
    const [before, after] = [model.places[i]!, model.places[i + 1]!];
    const lifts = stage.points.map((p) => p.lift);
    const over = (f: (l: number) => number) => lifts.reduce((s, l) => s + f(l), 0) / lifts.length;
    const areas = over((l) =>
      Math.log(valveArea(stage.valve, l, form.area) / valveArea(stages[i]!.valve, l, form.area)),
    );
    const fall = form.fall === 'free' ? over((l) => l / stages[i]!.valve.diameter - l / stage.valve.diameter) : 0;
    const valve = x[after.coefficient]! - x[before.coefficient]! + areas + (form.fall === 'free' ? fall * x[0]! : 0);
    return {
      valve: ranged(
        valve,
        new Map([
          [after.coefficient, 1],
          [before.coefficient, -1],
          ...(form.fall === 'free' ? [[0, fall] as const] : []),
        ]),
      ),
      port: ranged(
        x[after.port]! - x[before.port]!,
        new Map([
          [after.port, 1],
          [before.port, -1],
        ]),
      ),
    };
  });
  // The share as its logit, which is 2 (ln Qv − ln Qp).
  const shares = stages.map((stage, j): Between => {
    const at = model.places[j]!;
    const logit = 2 * (model.logValve(j, lift, x, 0) - x[at.port]!);
    const slope = new Map([
      [at.coefficient, 2],
      [at.port, -2],
      ...(form.fall === 'free' ? [[0, (-2 * lift) / stage.valve.diameter] as const] : []),
    ]);
    const { low, high } = ranged(logit, slope);
    return { value: logistic(logit), low: logistic(low), high: logistic(high) };
  });
  const left = Math.sqrt(residuals.reduce((s, r) => s + r * r, 0) / residuals.length);
  return { form, left, wrong, changes, shares };
}

/**
 * Splits the stages of one side (in the order they were cut, each with a curve of two rows at least) into what the valve
 * and what the port did. `lift` is where the share of the loss is asked.
 * @throws Refusal without a curve.
 */
export function splitStages(
  stages: readonly SplitStage[],
  lift: number,
  assumptions: SplitAssumptions = USUAL_SPLIT,
): Split {
  if (stages.length === 0 || stages.some((s) => s.points.length < 2)) throw refusal('stageWithoutCurve');
  const fits = SPLIT_FORMS.map((form) => fitForm(stages, form, lift, assumptions));
  const over = <T>(read: (f: (typeof fits)[number]) => T): T[] => fits.map(read);
  return {
    lift,
    changes: stages.slice(1).map((_, i) => ({
      valve: envelope(over((f) => f.changes[i]!.valve)),
      port: envelope(over((f) => f.changes[i]!.port)),
    })),
    shares: stages.map((_, j) => envelope(over((f) => f.shares[j]!))),
    fits: fits.map(({ form, left, wrong, changes }) => ({ form, left, wrong, changes })),
    measured: stages.some((s) => s.valveOut !== undefined),
  };
}
