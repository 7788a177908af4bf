/** The port as a river: where water, banks and what lies beyond them stand, in px from the top. */
import type { StationResult, WallSide } from '@alluvium/core';
import { area, curveMonotoneX, line } from 'd3-shape';

// edgeOf()!, sections[]!, row.bankTop!, row.bankBottom!: looked for where the rows are made; a station has a section.

/** Channel drawn as area, as height (roof and floor) or as width (front and rear). */
export type RiverMode = 'area' | 'height' | 'width';
/** The two walls seen in a mode, the upper one first. */
const sidesOf = (mode: RiverMode): readonly [WallSide, WallSide] =>
  mode === 'width' ? ['front', 'rear'] : ['roof', 'floor'];

/** What the channel's full width stands for at a station: an area, or a size. */
export const across = (s: StationResult, mode: RiverMode): number =>
  mode === 'area' ? s.area.value : s.sections.reduce((sum, p) => sum + (mode === 'height' ? p.height : p.width), 0);

/** Thinnest metal known at a station on one side, m. */
function thinnest(s: StationResult, side: WallSide): number | undefined {
  const known = s.sections.flatMap((p) => p.section.walls[side]?.thickness ?? []);
  return known.length > 0 ? Math.min(...known) : undefined;
}

/** One station as drawn. */
export interface RiverRow {
  readonly s: StationResult;
  readonly x: number;
  readonly top: number;
  readonly bottom: number;
  readonly bankTop: number | undefined;
  readonly bankBottom: number | undefined;
}

/** Channel takes a little over half of the height, the banks the rest. */
const CHANNEL = 0.27;
const BANK = 0.19;
/** Metal this thick fills its bank, m; more is drawn no wider. */
const THICKEST = 0.012;
/** How far what lies beyond the metal is drawn, px. */
const BEYOND = 30;

/** Half the width of the channel for a value, px. */
export const halfOf = (value: number, most: number, height: number): number => (value / most) * height * CHANNEL;

export function riverRows(
  stations: readonly StationResult[],
  mode: RiverMode,
  /** The value that fills the channel. */
  most: number,
  height: number,
  x: (station: number) => number,
): RiverRow[] {
  const middle = height / 2;
  const bank = (thickness: number) => (Math.min(thickness, THICKEST) / THICKEST) * height * BANK;
  const [up, down] = sidesOf(mode);
  return stations.map((s) => {
    const half = halfOf(across(s, mode), most, height);
    const [t, b] = [thinnest(s, up), thinnest(s, down)];
    return {
      ...{ s, x: x(s.station), top: middle - half, bottom: middle + half },
      bankTop: t === undefined ? undefined : middle - half - bank(t),
      bankBottom: b === undefined ? undefined : middle + half + bank(b),
    };
  });
}

export const between = (rows: readonly RiverRow[], y0: (r: RiverRow) => number, y1: (r: RiverRow) => number): string =>
  area<RiverRow>()
    .x((r) => r.x)
    .y0(y0)
    .y1(y1)
    .curve(curveMonotoneX)(rows) ?? '';
export const edge = (rows: readonly RiverRow[], y: (r: RiverRow) => number): string =>
  line<RiverRow>()
    .x((r) => r.x)
    .y(y)
    .curve(curveMonotoneX)(rows) ?? '';

/** Both banks where their metal is known: the metal, its far edge, and what lies beyond. */
export const banksOf = (rows: readonly RiverRow[], height: number) =>
  (['top', 'bottom'] as const).flatMap((side) => {
    const up = side === 'top';
    const edgeOf = (r: RiverRow) => (up ? r.bankTop : r.bankBottom);
    const known = rows.filter((r) => edgeOf(r) !== undefined);
    if (known.length < 2) return [];
    const out = (r: RiverRow) => edgeOf(r)!;
    return [
      {
        side,
        metal: between(known, (r) => (up ? r.top : r.bottom), out),
        far: edge(known, out),
        beyond: between(known, out, (r) => (up ? Math.max(0, out(r) - BEYOND) : Math.min(height, out(r) + BEYOND))),
      },
    ];
  });

/** A stretch shorter than this has no room for its name, px. */
const NAMED = 40;

/** Stretches of one neighbour behind a bank, each named once. */
export const neighboursOf = (rows: readonly RiverRow[], mode: RiverMode) =>
  sidesOf(mode).flatMap((side, k) => {
    const stretches: { name: string; from: number; to: number }[] = [];
    for (const r of rows) {
      const behind = r.s.sections[0]!.section.walls[side]?.behind;
      if (!behind) continue;
      const last = stretches.at(-1);
      if (last?.name === behind) last.to = r.x;
      else stretches.push({ name: behind, from: r.x, to: r.x });
    }
    return stretches
      .filter((s) => s.to - s.from > NAMED)
      .map((s) => {
        const at = (s.from + s.to) / 2;
        const near = rows.reduce((b, r) => (Math.abs(r.x - at) < Math.abs(b.x - at) ? r : b));
        const y = k === 0 ? (near.bankTop ?? near.top) - 10 : (near.bankBottom ?? near.bottom) + 18;
        return { name: s.name, x: at, y };
      });
  });

/** Metal at a station, and where it is written. */
export const metalAt = (row: RiverRow, mode: RiverMode) =>
  sidesOf(mode).flatMap((side, k) => {
    const thickness = thinnest(row.s, side);
    if (thickness === undefined) return [];
    return [{ x: row.x, y: (k === 0 ? row.top + row.bankTop! : row.bottom + row.bankBottom!) / 2 + 5, thickness }];
  });
