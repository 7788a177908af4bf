import { hermite, monotoneSlopes, type FlowPoint } from './curve.js';

/** A row that breaks its curve's shape, with the value the writer may have meant. */
export interface Doubt {
  readonly index: number;
  /** What the neighbours suggest. */
  readonly expected: number;
  /** The likeliest slip of the pen (two figures swapped, one figure wrong), in the same scale; undefined when none fits. */
  readonly meant?: number;
}

/** A row is asked about when it is off by more than this share of the peak. */
const OFF_BY = 0.06;

const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted.length === 0 ? 0 : (sorted[(sorted.length - 1) >> 1]! + sorted[sorted.length >> 1]!) / 2;
};

/** Numbers one pen slip away: two neighbouring figures swapped, or one figure wrong. `digits` decimals are kept. */
export function slips(value: number, digits: number): { swaps: number[]; wrongFigures: number[] } {
  const text = value.toFixed(digits);
  const swaps: number[] = [];
  const wrongFigures: number[] = [];
  for (let i = 0; i < text.length; i++) {
    if (text[i] === '.') continue;
    const next = text[i + 1] === '.' ? i + 2 : i + 1;
    if (next < text.length && text[i] !== text[next]) {
      const swapped = [...text];
      [swapped[i], swapped[next]] = [swapped[next]!, swapped[i]!];
      swaps.push(Number(swapped.join('')));
    }
    for (let d = 0; d <= 9; d++) wrongFigures.push(Number(text.slice(0, i) + d + text.slice(i + 1)));
  }
  const other = (v: number) => v > 0 && v !== value;
  return { swaps: swaps.filter(other), wrongFigures: wrongFigures.filter(other) };
}

/** The likeliest slip within `tolerance` of the aim: a swap before a wrong figure, since swaps are few. */
function likelySlip(value: number, aim: number, digits: number, tolerance: number): number | undefined {
  const { swaps, wrongFigures } = slips(value, digits);
  const nearest = (list: number[]) =>
    list.filter((v) => Math.abs(v - aim) < tolerance).sort((a, b) => Math.abs(a - aim) - Math.abs(b - aim))[0];
  return nearest(swaps) ?? nearest(wrongFigures);
}

/** Rows to each side that can sway the curve between a row's neighbours. */
const REACH = 3;

/** How far a row lies from the curve through the rows beside it; undefined at the last row, where no curve leads on. */
function misfit(points: readonly FlowPoint[], i: number): { off: number; expected: number } | undefined {
  const p = points[i]!;
  if (i === points.length - 1) return undefined;
  const beside = points.slice(Math.max(0, i - REACH), i + REACH + 1).filter((q) => q !== p);
  const x = beside.map((q) => q.lift);
  const y = beside.map((q) => q.flow);
  if (i <= REACH) {
    x.unshift(0);
    y.unshift(0);
  }
  const expected = hermite(x, y, monotoneSlopes(x, y), p.lift);
  return { off: Math.abs(p.flow - expected), expected };
}

/**
 * Rows that break the shape of their curve: each row is held against the curve through the others, and the worst one is
 * asked about when it stands out from the rest; then again without it. `scale` turns SI into the unit the rows were
 * typed in, `digits` its decimals, so that slips of the pen are looked for in the figures as written.
 */
export function doubts(points: readonly FlowPoint[], scale = 1, digits = 0): Doubt[] {
  const found: Doubt[] = [];
  let live = points.map((point, index) => ({ point, index }));
  while (live.length >= 5 && found.length < 3) {
    const current = live.map((l) => l.point);
    const top = Math.max(...current.map((p) => p.flow));
    const misfits = current.map((_, i) => misfit(current, i));
    const worst = misfits.reduce((best, m, i) => ((m?.off ?? 0) > (misfits[best]?.off ?? 0) ? i : best), 0);
    const m = misfits[worst];
    if (!m || m.off < OFF_BY * top) break;
    // Taking the odd row out must calm the rest: neighbours of an odd row look odd too, so compare with what remains.
    const rest = current.filter((_, i) => i !== worst);
    const calm = median(rest.map((_, i) => misfit(rest, i)?.off ?? 0));
    if (m.off < 3 * calm) break;
    const tolerance = Math.max(m.off * 0.35, 3 * calm) * scale;
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
