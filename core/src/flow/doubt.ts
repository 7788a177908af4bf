import type { FlowPoint } from './curve.js';

/** A row that breaks its curve's shape, with the value the writer may have meant. */
export interface Doubt {
  readonly index: number;
  /** What the neighbours suggest. */
  readonly expected: number;
  /** The one slip of the pen that explains it, in the same scale; undefined when none does, or several would. */
  readonly meant?: number;
}

/**
 * A row is asked about when it is off by more than this share. The last lies beyond the others and is expected less surely;
 * the first still less, since the seat's faces rule it.
 */
const OFF_BY = 0.06;
const LAST_OFF_BY = 0.08;
const FIRST_OFF_BY = 0.12;

const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted.length === 0 ? 0 : (sorted[(sorted.length - 1) >> 1]! + sorted[sorted.length >> 1]!) / 2;
};

/**
 * Numbers one pen slip away. `sure`: two neighbouring figures swapped, one written twice, one left out. `wrongFigures`:
 * one figure another. `digits` decimals are kept.
 */
export function slips(value: number, digits: number): { sure: number[]; wrongFigures: number[] } {
  const text = value.toFixed(digits);
  const sure: number[] = [];
  const wrongFigures: number[] = [];
  for (let i = 0; i < text.length; i++) {
    if (text[i] === '.') continue;
    const next = text[i + 1] === '.' ? i + 2 : i + 1;
    if (next < text.length && text[i] !== text[next]) {
      const swapped = [...text];
      [swapped[i], swapped[next]] = [swapped[next]!, swapped[i]!];
      sure.push(Number(swapped.join('')));
    }
    if (next < text.length && text[i] === text[next]) sure.push(Number(text.slice(0, i) + text.slice(i + 1)));
    for (let d = 0; d <= 9; d++) {
      wrongFigures.push(Number(text.slice(0, i) + d + text.slice(i + 1)));
      sure.push(Number(text.slice(0, i) + d + text.slice(i)));
    }
  }
  for (let d = 0; d <= 9 && digits === 0; d++) sure.push(Number(text + d));
  const other = (list: number[]) => [...new Set(list)].filter((v) => v > 0 && v !== value);
  return { sure: other(sure), wrongFigures: other(wrongFigures) };
}

/** The one slip within `tolerance` of the aim, sure ones before a wrong figure; undefined where there are none or several. */
function likelySlip(value: number, aim: number, digits: number, tolerance: number): number | undefined {
  const { sure, wrongFigures } = slips(value, digits);
  for (const list of [sure, wrongFigures]) {
    const near = list.filter((v) => Math.abs(v - aim) < tolerance);
    if (near.length > 0) return near.length === 1 ? near[0] : undefined;
  }
  return undefined;
}

/** Rows that a row is held against: the nearest ones. */
const BESIDE = 4;

/**
 * How far a row lies from what its neighbours lead one to expect, as a natural logarithm. Flow over lift goes with the
 * coefficient on the curtain area, which bends slowly, to the first row and the last: the polynomial of its logarithm
 * through the nearest rows (three where they all lie to one side, where a fourth would swing too far).
 */
function misfit(points: readonly FlowPoint[], i: number): { off: number; expected: number } {
  const p = points[i]!;
  const end = i === 0 || i === points.length - 1;
  const count = end ? BESIDE - 1 : BESIDE;
  // The nearest rows are those of a window that holds the row, as even about it as the ends allow.
  const from = Math.max(0, Math.min(i - (BESIDE >> 1), points.length - 1 - count));
  const log = (q: FlowPoint) => Math.log(Math.max(q.flow, 1e-9) / q.lift);
  let expected = 0;
  for (let k = from; k <= from + count; k++) {
    if (k === i) continue;
    const q = points[k]!;
    let weight = 1;
    for (let m = from; m <= from + count; m++)
      if (m !== k && m !== i) weight *= (p.lift - points[m]!.lift) / (q.lift - points[m]!.lift);
    expected += weight * log(q);
  }
  return { off: Math.abs(log(p) - expected), expected: Math.exp(expected) * p.lift };
}

/**
 * Rows that break the shape of their curve: the one that lies furthest from what the others lead one to expect is asked
 * about when it stands out from the rest once it is left out; then again without it. `scale` turns SI into the unit the
 * rows were typed in, `digits` its decimals, so that slips of the pen are looked for in the figures as written.
 */
export function doubts(points: readonly FlowPoint[], scale = 1, digits = 0): Doubt[] {
  const found: Doubt[] = [];
  let live = points.map((point, index) => ({ point, index })).filter(({ point }) => point.lift > 0);
  while (live.length > BESIDE + 1 && found.length < 3) {
    const current = live.map((l) => l.point);
    const whole = Math.max(...current.map((_, i) => misfit(current, i).off));
    if (whole < OFF_BY) break;
    // Neighbours of an odd row look odd too: it is the one without which the rest is calm.
    const calms = current.map((_, i) => {
      const rest = current.filter((__, k) => k !== i);
      return Math.max(...rest.map((__, k) => misfit(rest, k).off));
    });
    const worst = calms.reduce((best, c, i) => (c < calms[best]! ? i : best), 0);
    const m = misfit(current, worst);
    const rest = current.filter((_, i) => i !== worst);
    const calm = median(rest.map((_, i) => misfit(rest, i).off));
    const end = worst === 0 || worst === current.length - 1;
    if (
      m.off < (worst === 0 ? FIRST_OFF_BY : end ? LAST_OFF_BY : OFF_BY) ||
      m.off < 4 * calm ||
      calms[worst]! > 0.6 * whole
    )
      break;
    // What lies beyond the other rows is expected less surely.
    const tolerance = Math.max(end ? 0.06 : 0.025, 2 * calm) * m.expected * scale;
    const meant = likelySlip(current[worst]!.flow * scale, m.expected * scale, digits, tolerance);
    found.push({
      index: live[worst]!.index,
      expected: m.expected,
      ...(meant === undefined ? {} : { meant: meant / scale }),
    });
    live = live.filter((_, i) => i !== worst);
  }
  return found.sort((a, b) => a.index - b.index);
}
