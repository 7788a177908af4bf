/** Outlines of sections in the open formats: CSV of points, SVG and DXF. */
import { outlineOf, type Point, type Shape } from '@alluvium/core';
import { headingUnit, headingWord } from './heading.js';
import Papa from 'papaparse';

// split()[]!: splitting gives one part at least.
// heading[]!, v[]!, v.at()!, xs[]!, ys[]!: places of the lists themselves.

/** One closed outline with the station it belongs to, where the file says so. m. */
export interface NamedOutline {
  readonly name: string;
  readonly station?: number;
  readonly points: readonly Point[];
}

export interface OutlineReading {
  readonly outlines: readonly NamedOutline[];
  readonly problems: readonly string[];
}

const UNITS: ReadonlyMap<string, number> = new Map([
  ['mm', 1e-3],
  ['cm', 1e-2],
  ['in', 0.0254],
  ['m', 1],
]);

/**
 * Reads a CSV of points: columns x and y, optionally station; units in the heading, `x (mm)`, else millimetres. Points of one
 * station follow each other; an empty line also ends an outline.
 */
export function readOutlineCsv(text: string): OutlineReading {
  const plain = text.replace(/^\uFEFF/, '').trim();
  // The heading tells the separator: decimal commas in the rows would mislead a guess.
  const first = plain.split('\n', 1)[0]!;
  const delimiter = [';', '\t'].find((d) => first.includes(d)) ?? ',';
  const parsed = Papa.parse<string[]>(plain, { skipEmptyLines: false, delimiter });
  const [heading = []] = parsed.data;
  const column = (name: string) => heading.findIndex((h) => headingWord(h).toLowerCase() === name);
  const [xs, ys, ss] = [column('x'), column('y'), column('station')];
  if (xs < 0 || ys < 0) return { outlines: [], problems: ['The first line must name the columns x and y.'] };
  const unit = UNITS.get(headingUnit(heading[xs]!).toLowerCase() || 'mm');
  if (!unit) return { outlines: [], problems: [`The unit of “${heading[xs]}” is none of mm, cm, in, m.`] };
  const problems: string[] = [];
  const groups = new Map<string, { station?: number; points: Point[] }>();
  let block = 0;
  const number = (cell: string | undefined) => Number((cell ?? '').trim().replace(',', '.'));
  parsed.data.slice(1).forEach((cells, i) => {
    if (cells.every((c) => c.trim() === '')) return void block++;
    const [x, y] = [number(cells[xs]), number(cells[ys])];
    const station = ss < 0 ? undefined : number(cells[ss]);
    if (![x, y, station ?? 0].every(Number.isFinite) || (cells[xs] ?? '').trim() === '') {
      if (problems.length < 20) problems.push(`Line ${i + 2}: “${cells.join(', ')}” is no point.`);
      return;
    }
    const key = station === undefined ? `#${block}` : String(station);
    const group = groups.get(key) ?? { ...(station === undefined ? {} : { station: station * unit }), points: [] };
    group.points.push([x * unit, y * unit]);
    groups.set(key, group);
  });
  const outlines = [...groups].map(([key, g]) => ({
    name: key.startsWith('#') ? `outline ${Number(key.slice(1)) + 1}` : `station ${key}`,
    ...g,
  }));
  return finish(outlines, problems);
}

/** What a DXF reader hands over of one entity: the parts of it that make an outline. */
export interface DxfEntity {
  readonly type: string;
  readonly layer?: string;
  readonly vertices?: readonly { readonly x: number; readonly y: number; readonly bulge?: number }[];
  readonly shape?: boolean;
  readonly center?: { readonly x: number; readonly y: number };
  readonly radius?: number;
}

/** An arc of a polyline: bulge is the tangent of a quarter of its angle (the DXF reference). */
function bulged(a: { x: number; y: number }, b: { x: number; y: number }, bulge: number): Point[] {
  const sweep = 4 * Math.atan(bulge);
  const chord = Math.hypot(b.x - a.x, b.y - a.y);
  if (chord === 0 || Math.abs(sweep) < 1e-9) return [];
  const radius = chord / (2 * Math.sin(sweep / 2));
  const middle = [(a.x + b.x) / 2, (a.y + b.y) / 2] as const;
  const off = radius * Math.cos(sweep / 2);
  const centre = [middle[0] - (off * (b.y - a.y)) / chord, middle[1] + (off * (b.x - a.x)) / chord] as const;
  const from = Math.atan2(a.y - centre[1], a.x - centre[0]);
  const steps = Math.max(2, Math.ceil(Math.abs(sweep) / 0.1));
  return Array.from({ length: steps - 1 }, (_, i) => {
    const t = from + (sweep * (i + 1)) / steps;
    return [centre[0] + Math.abs(radius) * Math.cos(t), centre[1] + Math.abs(radius) * Math.sin(t)] as const;
  });
}

/** DXF $INSUNITS to metres: 1 inch, 4 mm, 5 cm, 6 m; without it millimetres. */
const DXF_UNITS: Readonly<Record<number, number>> = { 1: 0.0254, 4: 1e-3, 5: 1e-2, 6: 1 };

/** Closed outlines among the entities of a DXF: polylines (with bulges) and circles. A layer named `station 30` says where. */
export function outlinesOfDxf(entities: readonly DxfEntity[], insUnits: number | undefined): OutlineReading {
  const unit = DXF_UNITS[insUnits ?? 4] ?? 1e-3;
  const problems: string[] = [];
  const outlines = entities.flatMap((e, i): NamedOutline[] => {
    const name = e.layer && e.layer !== '0' ? e.layer : `${e.type.toLowerCase()} ${i + 1}`;
    const at = /station\s*(-?[\d.]+)/i.exec(e.layer ?? '')?.[1];
    const station = at === undefined ? {} : { station: Number(at) * 1e-3 };
    if (e.type === 'CIRCLE' && e.center && e.radius) {
      const { center, radius } = e;
      return [
        {
          name,
          ...station,
          points: outlineOf({ kind: 'round', width: 2 * radius * unit }).map(([x, y]) => [
            x + center.x * unit,
            y + center.y * unit,
          ]),
        },
      ];
    }
    if ((e.type === 'LWPOLYLINE' || e.type === 'POLYLINE') && e.vertices) {
      const v = e.vertices;
      const ends = v.length > 1 && Math.hypot(v[0]!.x - v.at(-1)!.x, v[0]!.y - v.at(-1)!.y) < 1e-6;
      if (!e.shape && !ends) {
        problems.push(`The polyline ${name} is not closed.`);
        return [];
      }
      const points = v.flatMap((p, k): Point[] => {
        const next = v[(k + 1) % v.length]!;
        return [[p.x, p.y], ...(p.bulge ? bulged(p, next, p.bulge) : [])];
      });
      return [{ name, ...station, points: points.map(([x, y]) => [x * unit, y * unit] as const) }];
    }
    return [];
  });
  return finish(outlines, problems);
}

/** No traced section has more points; a scan has to be thinned out first. */
const MOST_POINTS = 5_000;

/** Outlines moved to the middle of their box, since a drawing has its own origin; too few points are told. */
function finish(found: readonly NamedOutline[], problems: string[]): OutlineReading {
  const outlines = found.flatMap((o): NamedOutline[] => {
    if (o.points.length > MOST_POINTS) {
      problems.push(`${o.name} has ${o.points.length} points; at most ${MOST_POINTS} are read.`);
      return [];
    }
    if (o.points.length < 3) {
      problems.push(`${o.name} has fewer than three points.`);
      return [];
    }
    return [{ ...o, points: centred(o.points) }];
  });
  if (outlines.length === 0 && problems.length === 0) problems.push('There is no closed outline in this file.');
  return { outlines, problems };
}

/** An outline about the middle of its box. */
export function centred(points: readonly Point[]): Point[] {
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  const [cx, cy] = [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
  return points.map(([x, y]) => [x - cx, y - cy] as const);
}

export interface StationShape {
  readonly station: number;
  readonly shape: Shape;
}
const mm = (si: number) => Number((si * 1000).toFixed(4));

/** Every outline as points: station, x, y in millimetres. */
export const writeOutlineCsv = (shapes: readonly StationShape[]): string =>
  [
    'station (mm),x (mm),y (mm)',
    ...shapes.flatMap((s) => outlineOf(s.shape).map(([x, y]) => `${mm(s.station)},${mm(x)},${mm(y)}`)),
  ].join('\n') + '\n';

/** Every outline as a closed polyline of a plain DXF (R12), millimetres, a layer a station. */
export function writeOutlineDxf(shapes: readonly StationShape[]): string {
  const pairs: (string | number)[] = [
    0,
    'SECTION',
    2,
    'HEADER',
    9,
    '$INSUNITS',
    70,
    4,
    0,
    'ENDSEC',
    0,
    'SECTION',
    2,
    'ENTITIES',
  ];
  for (const { station, shape } of shapes) {
    const layer = `station ${mm(station)}`;
    pairs.push(0, 'POLYLINE', 8, layer, 66, 1, 70, 1, 10, 0, 20, 0, 30, 0);
    for (const [x, y] of outlineOf(shape)) pairs.push(0, 'VERTEX', 8, layer, 10, mm(x), 20, mm(y), 30, 0);
    pairs.push(0, 'SEQEND');
  }
  pairs.push(0, 'ENDSEC', 0, 'EOF');
  return pairs.join('\n') + '\n';
}

/** Every outline as a path of one SVG in true size, side by side. */
export function writeOutlineSvg(shapes: readonly StationShape[]): string {
  let left = 0;
  let height = 0;
  const paths = shapes.map(({ station, shape }) => {
    const points = outlineOf(shape);
    const [xs, ys] = [points.map((p) => mm(p[0])), points.map((p) => mm(p[1]))];
    const [w, h] = [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)];
    const [dx, dy] = [left - Math.min(...xs), Math.max(...ys)];
    left += w + 5;
    height = Math.max(height, h);
    const d = points.map((_, i) => `${i ? 'L' : 'M'}${(xs[i]! + dx).toFixed(3)} ${(dy - ys[i]!).toFixed(3)}`).join('');
    return `<path id="station-${mm(station)}" d="${d}Z"/>`;
  });
  const w = Math.max(1, left - 5).toFixed(3);
  const h = Math.max(1, height).toFixed(3);
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="0 0 ${w} ${h}" fill="none" stroke="black" stroke-width="0.2">${paths.join('')}</svg>\n`;
}
