/** How a chart is being read: what is marked so far, and what follows from it. */
import {
  SQUARE_ENOUGH,
  chartReader,
  inches,
  millimetres,
  parseQuantity,
  unitFor,
  written,
  type ChartReader,
  type Quantity,
  type Side,
  type System,
} from '@alluvium/core';
import { liftQuantity, type Chart, type SheetRow } from '@alluvium/records';
import type { Dot } from '../parts/dots.js';

// state.at[]!, marks[]!: all four are set.
// l1!, l2!, f1!, f2!: the four marks, in their order.
// chart.lift[]!, chart.flow[]!: two on each axis.

/** What a click puts: one of the two marks of an axis, or a point of a curve. */
export const MARKS = ['lift1', 'lift2', 'flow1', 'flow2'] as const;
export type MarkName = (typeof MARKS)[number];
export const MARK_NAMES: Record<MarkName, string> = {
  lift1: 'first lift',
  lift2: 'second lift',
  flow1: 'first flow',
  flow2: 'second flow',
};

export interface ChartState {
  readonly at: Readonly<Partial<Record<MarkName, Dot>>>;
  /** The value printed at each mark, as typed. */
  readonly values: Readonly<Partial<Record<MarkName, string>>>;
  readonly points: readonly { readonly side: Side; readonly dot: Dot }[];
}
export const emptyChart: ChartState = { at: {}, values: {}, points: [] };

const kindOf = (name: MarkName) => (name.startsWith('lift') ? 'lift' : 'flow');

/** A printed value as a quantity, or the sentence why it is none. */
export function markValue(state: ChartState, name: MarkName, system: System): Quantity | string {
  const text = state.values[name]?.trim() ?? '';
  if (text === '') return 'Type the value printed there.';
  const parsed = parseQuantity(text, kindOf(name), system);
  return parsed.ok ? parsed.quantity : parsed.problem;
}

/** The reader of the chart once both axes are set; a sentence while they are not. */
export function readerOf(state: ChartState, system: System): ChartReader | string {
  const missing = MARKS.find((m) => !state.at[m]);
  if (missing) return '';
  const mark = (name: MarkName) => ({ at: state.at[name]!, value: markValue(state, name, system) });
  const all = MARKS.map(mark);
  const wrong = all.find((m) => typeof m.value === 'string');
  if (wrong) return wrong.value as string;
  const [l1, l2, f1, f2] = all.map((m) => ({ at: m.at, value: (m.value as Quantity).si }));
  try {
    return chartReader({ lift: [l1!, l2!], flow: [f1!, f2!] });
  } catch (error) {
    return (error as Error).message;
  }
}

export interface ReadPoint {
  readonly index: number;
  readonly side: Side;
  readonly lift: number;
  readonly flow: number;
}

/**
 * The points as lift and flow, by rising lift. With `round`, a lift close to a line of the chart is that line's: every
 * .050 in or 1 mm, within two pixels or a fiftieth of the step.
 */
export function pointsOf(state: ChartState, reader: ChartReader, system: System, round: boolean): ReadPoint[] {
  const step = system === 'inch' ? inches(0.05) : millimetres(1);
  const near = Math.max(2 * reader.perPixel.lift, step / 50);
  return state.points
    .map(({ side, dot }, index) => {
      const { lift, flow } = reader.read(dot);
      const line = Math.round(lift / step) * step;
      return { index, side, flow, lift: round && Math.abs(lift - line) <= near ? line : lift };
    })
    .sort((a, b) => a.lift - b.lift);
}

/** The points as rows of a sheet, written with as many figures as a click is worth. Points of one lift share a row. */
export function rowsOf(points: readonly ReadPoint[], system: System): SheetRow[] {
  const rows: SheetRow[] = [];
  for (const p of points) {
    if (p.lift <= 0 || p.flow < 0) continue;
    const lift = liftQuantity(p.lift, system === 'metric');
    const reading = {
      pulls: [written(p.flow, 'flow', unitFor('flow', system).symbol, 1)],
      range: null,
      depression: null,
      noisy: false,
    };
    const row = rows.find((r) => r.lift.typed === lift.typed && r[p.side] === null);
    if (row) row[p.side] = reading;
    else if (!rows.some((r) => r.lift.typed === lift.typed))
      rows.push({ lift, intake: null, exhaust: null, missing: '', note: '', [p.side]: reading });
  }
  return rows;
}

/** What stands in the way of taking the points; empty when nothing does. */
export function chartProblem(points: readonly ReadPoint[], system: System): string {
  if (points.length < 2) return 'Click at least two points of the curve.';
  const text = (p: ReadPoint) => p.side + liftQuantity(p.lift, system === 'metric').typed;
  const twin = points.find((p, i) => points.findIndex((o) => text(o) === text(p)) < i);
  if (twin) return `Two ${twin.side} points lie at one lift: take one out or move it.`;
  if (points.some((p) => p.lift <= 0)) return 'A point lies at no lift, or left of it: move it or remove it.';
  if (points.some((p) => p.flow < 0)) return 'A point lies below no flow: move it or remove it.';
  return '';
}

/** What is worth saying of how the picture was taken. */
export function chartWords(reader: ChartReader, say: (si: number, kind: 'lift' | 'flow') => string): string {
  const { perPixel, angle } = reader;
  const lean = Math.abs(angle - Math.PI / 2);
  const square =
    lean > SQUARE_ENOUGH
      ? `The axes meet at ${((Math.min(angle, Math.PI - angle) * 180) / Math.PI).toFixed(0)}°, and each point is read along them. `
      : '';
  return `${square}One pixel is ${say(perPixel.lift, 'lift')} of lift and ${say(perPixel.flow, 'flow')}: no figure read here is surer than that.`;
}

/** The record of how a chart was read. @throws never for a state whose reader exists. */
export const chartOf = (state: ChartState, attachmentId: string, system: System): Chart => {
  const mark = (name: MarkName) => ({
    x: state.at[name]![0],
    y: state.at[name]![1],
    value: markValue(state, name, system) as Quantity,
  });
  return {
    attachmentId,
    lift: [mark('lift1'), mark('lift2')],
    flow: [mark('flow1'), mark('flow2')],
    points: state.points.map(({ side, dot: [x, y] }) => ({ side, x, y })),
  };
};

/** A chart that was read before, opened again. */
export const stateOf = (chart: Chart): ChartState => {
  const marks = [chart.lift[0]!, chart.lift[1]!, chart.flow[0]!, chart.flow[1]!];
  return {
    at: Object.fromEntries(MARKS.map((m, i) => [m, [marks[i]!.x, marks[i]!.y]])),
    values: Object.fromEntries(MARKS.map((m, i) => [m, marks[i]!.value.typed])),
    points: chart.points.map(({ side, x, y }) => ({ side, dot: [x, y] })),
  };
};
