/** What charts are made of: a frame with two axes, and marks within it that the frame can read aloud, hide and save. */
import { fromSi, toSi, unitFor, type Kind, type Say, type System } from '@alluvium/core';
import { ticks } from 'd3-array';
import { scaleLinear, scaleLog } from 'd3-scale';
import { inject, onScopeDispose, type InjectionKey } from 'vue';
import { unitTicks } from './ticks.js';

// inject()!: a part of a chart stands inside its frame.
// split()[]!: splitting gives one part at least.
// all[]!: the one before, from the second on.

/** A place in a chart, in the units of its axes: SI, where an axis is of a kind. */
export type Point = readonly [x: number, y: number];

/** One axis: what it spans, and how its values are said. */
export interface Axis {
  readonly from: number;
  readonly to: number;
  /** Of which kind its values are: round ticks in the user's unit, written in it. */
  readonly kind?: Kind;
  readonly digits?: number;
  readonly signed?: boolean;
  /** How a value is written instead. */
  readonly say?: (value: number) => string;
  /** How many ticks there is room for, or which; none with 0. */
  readonly ticks?: number | readonly number[];
  /** By powers of ten; both ends above nought. */
  readonly log?: boolean;
  /** Heading of its column when what is drawn is saved. */
  readonly name?: string;
  /** The unit stands at its end. */
  readonly unit?: boolean;
  /** Its values are rows, one under the other: nothing that could be read or saved. */
  readonly rows?: boolean;
}

/** The upright axis of a chart of rows, the first at the top; row i reaches from i to i + 1. */
export const rowsOf = (count: number): Axis => ({ from: count, to: 0, ticks: 0, rows: true });

/** What a mark has drawn: read at the cursor, and saved as a column. */
export interface Drawn {
  readonly name: string;
  /** What it is called where it is read, if that is shorter. */
  readonly short?: string | undefined;
  readonly points: readonly Point[];
  /** Between its points, where it is a curve known there. */
  readonly at?: ((x: number) => number | undefined) | undefined;
  /** How a value is said instead of as the axis says it. */
  readonly say?: ((point: Point) => string) | undefined;
}

/** What a frame hands to the marks within it. */
export interface Chart {
  readonly x: (value: number) => number;
  readonly y: (value: number) => number;
  /** Edges of the field, px. */
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
  readonly hides: (name: string) => boolean;
  /** Shows what a mark has drawn to the frame, as long as the mark lives. */
  readonly draws: (drawn: () => Drawn) => void;
  /** Says where names stand that hide and show their curve when pressed. */
  readonly names: (labels: () => readonly NamePlace[]) => void;
}
export interface NamePlace {
  readonly name: string;
  readonly text: string;
  /** Left edge and middle, px. */
  readonly x: number;
  readonly y: number;
}
export const CHART: InjectionKey<Chart> = Symbol('chart');
export const useChart = (): Chart => inject(CHART)!;

/** Kept in the map for as long as the scope that puts it there lives. */
export function keptWhileAlive<T>(map: Map<symbol, T>, what: T): void {
  const key = Symbol('keptWhileAlive');
  map.set(key, what);
  onScopeDispose(() => map.delete(key));
}

export interface Tick {
  readonly value: number;
  readonly text: string;
}

/** 1, 2 and 5 of each power of ten of a unit between two values. */
function logTicks(from: number, to: number, factor: number): number[] {
  const first = Math.floor(Math.log10(from / factor));
  const last = Math.ceil(Math.log10(to / factor));
  return Array.from({ length: last - first + 1 }, (_, i) => first + i)
    .flatMap((power) => [1, 2, 5].map((m) => m * 10 ** power * factor))
    .filter((v) => v >= from && v <= to);
}

/** A value in the unit of its axis, as a number. */
const inUnit = (value: number, { kind }: Axis, system: System): number =>
  kind ? fromSi(value, unitFor(kind, system)) : value;

/** A value without its unit, as at a tick. */
export function tickText(value: number, axis: Axis, say: Say): string {
  if (axis.say) return axis.say(value);
  if (!axis.kind) return say.number(value, axis.digits ?? 2);
  if (axis.log) return String(Number(inUnit(value, axis, say.system).toPrecision(3)));
  return valueText(value, value === 0 ? { ...axis, signed: false } : axis, say).split('\u00a0')[0]!;
}

/** A value as it is read, with its unit. */
export function valueText(value: number, axis: Axis, say: Say): string {
  if (axis.say || !axis.kind) return axis.say?.(value) ?? say.number(value, axis.digits ?? 2);
  const { digits, signed } = axis;
  return say.of(value, axis.kind, {
    ...(digits === undefined ? {} : { digits }),
    ...(signed ? { signed } : {}),
  });
}

export function ticksOf(axis: Axis, usual: number, say: Say): Tick[] {
  const { from, to, kind, log } = axis;
  const wanted = axis.ticks ?? usual;
  const values =
    typeof wanted !== 'number'
      ? wanted.filter((v) => v >= Math.min(from, to) && v <= Math.max(from, to))
      : wanted === 0
        ? []
        : log
          ? logTicks(from, to, kind ? toSi(1, unitFor(kind, say.system)) : 1)
          : kind
            ? unitTicks(from, to, kind, say.system, wanted)
            : ticks(from, to, wanted);
  return values.map((value) => ({ value, text: tickText(value, axis, say) }));
}

export const scaleOf = ({ from, to, log }: Axis, range: readonly [number, number]) =>
  (log ? scaleLog : scaleLinear)([from, to], range);

export type Scale = ReturnType<typeof scaleOf>;

/** Values less than this share of the span apart are the same. */
const SAME = 1e-6;

/** Every place at which something is drawn, each once, rising. */
export function stops(drawn: readonly Drawn[], { from, to }: Axis): number[] {
  const near = Math.abs(to - from) * SAME;
  const all = drawn.flatMap((d) => d.points.map(([x]) => x)).sort((a, b) => a - b);
  return all.filter((x, i) => i === 0 || x - all[i - 1]! > near);
}

/** What is drawn at a place: of each its own points there, else the curve between them. */
export function readAt(drawn: readonly Drawn[], x: number, { from, to }: Axis): { drawn: Drawn; point: Point }[] {
  const near = Math.abs(to - from) * SAME;
  return drawn.flatMap((d) => {
    const own = d.points.filter(([px]) => Math.abs(px - x) <= near);
    if (own.length > 0) return own.map((point) => ({ drawn: d, point }));
    const y = d.at?.(x);
    return y === undefined ? [] : [{ drawn: d, point: [x, y] as const }];
  });
}

/** Figures kept in a saved column. */
const FIGURES = 6;

/**
 * What is drawn as a table, in the user's units: a row for each place, a column for each mark, and as many rows for a place
 * as a mark has points there. Of a chart of rows, each mark with its places.
 */
export function drawnTable(drawn: readonly Drawn[], x: Axis, y: Axis, system: System): (string | number)[][] {
  const named = (axis: Axis, otherwise: string) =>
    [axis.name ?? otherwise, axis.kind && unitFor(axis.kind, system).symbol].filter(Boolean).join(', ');
  const number = (value: number, axis: Axis) => Number(inUnit(value, axis, system).toPrecision(FIGURES));
  const place = (value: number) => (x.say && !x.kind ? x.say(value) : number(value, x));
  const unit = y.kind ? unitFor(y.kind, system).symbol : '';
  if (y.rows) return [['', named(x, 'x')], ...drawn.flatMap((d) => d.points.map(([at]) => [d.name, place(at)]))];
  return [
    [named(x, 'x'), ...drawn.map((d) => [d.name, unit].filter(Boolean).join(', '))],
    ...stops(drawn, x).flatMap((at) => {
      const here = readAt(drawn, at, x);
      const columns = drawn.map((d) => here.filter((h) => h.drawn === d).map((h) => number(h.point[1], y)));
      const most = Math.max(...columns.map((c) => c.length));
      return Array.from({ length: most }, (_, i) => [place(at), ...columns.map((c) => c[i] ?? '')]);
    }),
  ];
}
