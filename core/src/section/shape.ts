/** The outline of a port at one station: closed forms where the shape has one, the shoelace where it is free. */
import { work, type Method, type Working } from '../method/method.js';
import { refusal } from '../refusal/refusal.js';

// lengths.at()!: it begins with one.

/** A point of an outline, m: x across (to the right seen from the flange), y up towards the roof. */
export type Point = readonly [x: number, y: number];

/** A section as it is measured, m. The D stands on its flat floor, its roof is half a circle. */
export type Shape =
  | { readonly kind: 'round'; readonly width: number }
  | { readonly kind: 'rectangle'; readonly width: number; readonly height: number; readonly radius: number }
  | { readonly kind: 'obround'; readonly width: number; readonly height: number }
  | { readonly kind: 'oval'; readonly width: number; readonly height: number }
  | { readonly kind: 'D'; readonly width: number; readonly height: number }
  | { readonly kind: 'outline'; readonly points: readonly Point[] };

export const SHAPE_KINDS = ['round', 'rectangle', 'obround', 'oval', 'D', 'outline'] as const;

const WIDTH = { label: 'width', symbol: 'w', kind: 'length' } as const;
const HEIGHT = { label: 'height', symbol: 'h', kind: 'length' } as const;
const AREA = { label: 'area across the cut', symbol: 'A', kind: 'area' } as const;
const GEOMETRY = 'Plane geometry.';

export const roundArea: Method<{ width: number }> = {
  id: 'round-area',
  title: 'Round section',
  formula: 'A = \\frac{\\pi w^2}{4}',
  inputs: { width: { ...WIDTH, label: 'diameter' } },
  result: AREA,
  source: GEOMETRY,
  compute: ({ width }) => (Math.PI * width ** 2) / 4,
};

export const rectangleArea: Method<{ width: number; height: number; radius: number }> = {
  id: 'rectangle-area',
  title: 'Rectangular section with rounded corners',
  formula: 'A = w h - (4 - \\pi) r^2',
  inputs: { width: WIDTH, height: HEIGHT, radius: { label: 'corner radius', symbol: 'r', kind: 'length' } },
  result: AREA,
  source: GEOMETRY,
  compute: ({ width, height, radius }) => {
    if (radius > Math.min(width, height) / 2 + 1e-12) throw refusal('cornerOverSide');
    return width * height - (4 - Math.PI) * radius ** 2;
  },
};

export const obroundArea: Method<{ width: number; height: number }> = {
  id: 'obround-area',
  title: 'Obround section',
  formula: 'A = w h - (4 - \\pi)\\,\\frac{\\min(w, h)^2}{4}',
  inputs: { width: WIDTH, height: HEIGHT },
  result: AREA,
  source: GEOMETRY,
  compute: ({ width, height }) => width * height - ((4 - Math.PI) * Math.min(width, height) ** 2) / 4,
};

export const ovalArea: Method<{ width: number; height: number }> = {
  id: 'oval-area',
  title: 'Oval section',
  formula: 'A = \\frac{\\pi w h}{4}',
  inputs: { width: WIDTH, height: HEIGHT },
  result: AREA,
  source: GEOMETRY,
  compute: ({ width, height }) => (Math.PI * width * height) / 4,
};

export const dArea: Method<{ width: number; height: number }> = {
  id: 'd-area',
  title: 'D section, flat floor and half-round roof',
  formula: 'A = w\\left(h - \\frac{w}{2}\\right) + \\frac{\\pi w^2}{8}',
  inputs: { width: WIDTH, height: HEIGHT },
  result: AREA,
  source: GEOMETRY,
  compute: ({ width, height }) => {
    if (height < width / 2 - 1e-12) throw refusal('dTooFlat');
    return width * (height - width / 2) + (Math.PI * width ** 2) / 8;
  },
};

export const outlineArea: Method<{ x: readonly number[]; y: readonly number[] }> = {
  id: 'outline-area',
  title: 'Free outline',
  formula: 'A = \\tfrac{1}{2}\\left|\\sum_i (x_i y_{i+1} - x_{i+1} y_i)\\right|',
  inputs: {
    x: { label: 'points across', symbol: 'x_i', kind: 'length' },
    y: { label: 'points up', symbol: 'y_i', kind: 'length' },
  },
  result: AREA,
  source: 'The shoelace formula (Gauss’s area formula).',
  compute: ({ x, y }) => Math.abs(signedArea(x.map((v, i) => [v, y[i]!] as const))),
};

export const squareArea: Method<{ area: number; angle: number }> = {
  id: 'square-area',
  title: 'Area square to the flow',
  formula: 'A_\\perp = A\\,\\cos\\varphi',
  inputs: {
    area: { label: 'area across the cut', symbol: 'A', kind: 'area' },
    angle: { label: 'cut off square by', symbol: '\\varphi', kind: 'angle' },
  },
  result: { label: 'area square to the flow', symbol: 'A_\\perp', kind: 'area' },
  source: GEOMETRY,
  caution: 'An opening cut at an angle looks larger than the port is.',
  compute: ({ area, angle }) => area * Math.cos(angle),
};

export const hydraulicDiameter: Method<{ area: number; perimeter: number }> = {
  id: 'hydraulic-diameter',
  title: 'Hydraulic diameter',
  formula: 'd_h = \\frac{4A}{P}',
  inputs: {
    area: { label: 'area', symbol: 'A', kind: 'area' },
    perimeter: { label: 'wetted perimeter', symbol: 'P', kind: 'length' },
  },
  result: { label: 'hydraulic diameter', symbol: 'd_h', kind: 'length' },
  source: 'F. M. White, Fluid Mechanics, ch. 6 (definition, from memory).',
  compute: ({ area, perimeter }) => (4 * area) / perimeter,
};

/** Twice-signed shoelace halved: positive counter-clockwise, m². */
export function signedArea(points: readonly Point[]): number {
  let sum = 0;
  points.forEach(([x, y], i) => {
    const [u, v] = points[(i + 1) % points.length]!;
    sum += x * v - u * y;
  });
  return sum / 2;
}

/** Centroid of a simple outline. @throws Refusal when it encloses nothing. */
export function centroid(points: readonly Point[]): Point {
  const area = signedArea(points);
  if (Math.abs(area) < 1e-18) throw refusal('outlineWithoutArea');
  let [cx, cy] = [0, 0];
  points.forEach(([x, y], i) => {
    const [u, v] = points[(i + 1) % points.length]!;
    const cross = x * v - u * y;
    cx += (x + u) * cross;
    cy += (y + v) * cross;
  });
  return [cx / (6 * area), cy / (6 * area)];
}

/** Whether a point lies within a closed outline, by the even-odd rule. */
export function inside([x, y]: Point, outline: readonly Point[]): boolean {
  let odd = false;
  outline.forEach(([x1, y1], i) => {
    const [x2, y2] = outline[(i + 1) % outline.length]!;
    if (y1 > y !== y2 > y && x < x1 + ((y - y1) * (x2 - x1)) / (y2 - y1)) odd = !odd;
  });
  return odd;
}

export const perimeter = (points: readonly Point[]): number =>
  points.reduce((sum, [x, y], i) => {
    const [u, v] = points[(i + 1) % points.length]!;
    return sum + Math.hypot(u - x, v - y);
  }, 0);

/** Where an outline crosses itself: the indices of two sides and the point; undefined when it does not. */
export function selfCrossing(points: readonly Point[]): { first: number; second: number; at: Point } | undefined {
  const n = points.length;
  for (let i = 0; i < n; i++) {
    const [a, b] = [points[i]!, points[(i + 1) % n]!];
    for (let j = i + 2; j < n; j++) {
      if (i === 0 && j === n - 1) continue;
      const [c, d] = [points[j]!, points[(j + 1) % n]!];
      const [r, s] = [
        [b[0] - a[0], b[1] - a[1]],
        [d[0] - c[0], d[1] - c[1]],
      ] as const;
      const cross = r[0]! * s[1]! - r[1]! * s[0]!;
      if (Math.abs(cross) < 1e-24) continue;
      const t = ((c[0] - a[0]) * s[1]! - (c[1] - a[1]) * s[0]!) / cross;
      const u = ((c[0] - a[0]) * r[1]! - (c[1] - a[1]) * r[0]!) / cross;
      if (t > 0 && t < 1 && u > 0 && u < 1) return { first: i, second: j, at: [a[0] + t * r[0]!, a[1] + t * r[1]!] };
    }
  }
  return undefined;
}

/** Area across the cut, with its working. @throws Refusal for sizes that make no such shape. */
export function shapeArea(shape: Shape): Working {
  switch (shape.kind) {
    case 'round':
      return work(roundArea, { width: shape.width });
    case 'rectangle':
      return work(rectangleArea, { width: shape.width, height: shape.height, radius: shape.radius });
    case 'obround':
      return work(obroundArea, { width: shape.width, height: shape.height });
    case 'oval':
      return work(ovalArea, { width: shape.width, height: shape.height });
    case 'D':
      return work(dArea, { width: shape.width, height: shape.height });
    case 'outline':
      return work(outlineArea, { x: shape.points.map((p) => p[0]), y: shape.points.map((p) => p[1]) });
  }
}

const arc = (cx: number, cy: number, r: number, from: number, to: number, n: number): Point[] =>
  Array.from({ length: n + 1 }, (_, i) => {
    const t = from + ((to - from) * i) / n;
    return [cx + r * Math.cos(t), cy + r * Math.sin(t)] as const;
  });

/** Corners rounded with `n` sides each; straight sides between them. */
function roundedBox(w: number, h: number, r: number, n: number): Point[] {
  const [x, y] = [w / 2 - r, h / 2 - r];
  const quarter = Math.PI / 2;
  return [
    ...arc(x, y, r, 0, quarter, n),
    ...arc(-x, y, r, quarter, 2 * quarter, n),
    ...arc(-x, -y, r, 2 * quarter, 3 * quarter, n),
    ...arc(x, -y, r, 3 * quarter, 4 * quarter, n),
  ];
}

/** The outline as a counter-clockwise polygon about the middle of its box; curves get about `n` sides in all. */
export function outlineOf(shape: Shape, n = 96): Point[] {
  switch (shape.kind) {
    case 'round':
      return arc(0, 0, shape.width / 2, 0, 2 * Math.PI, n).slice(0, -1);
    case 'oval':
      return Array.from({ length: n }, (_, i) => {
        const t = (2 * Math.PI * i) / n;
        return [(shape.width / 2) * Math.cos(t), (shape.height / 2) * Math.sin(t)] as const;
      });
    case 'rectangle':
      return shape.radius > 0
        ? roundedBox(shape.width, shape.height, shape.radius, Math.max(2, n >> 2))
        : [
            [shape.width / 2, shape.height / 2],
            [-shape.width / 2, shape.height / 2],
            [-shape.width / 2, -shape.height / 2],
            [shape.width / 2, -shape.height / 2],
          ];
    case 'obround':
      return withoutTwins(roundedBox(shape.width, shape.height, Math.min(shape.width, shape.height) / 2, n >> 2));
    case 'D': {
      const { width: w, height: h } = shape;
      return withoutTwins([...arc(0, h / 2 - w / 2, w / 2, 0, Math.PI, n >> 1), [-w / 2, -h / 2], [w / 2, -h / 2]]);
    }
    case 'outline': {
      const points = withoutTwins(shape.points);
      return signedArea(points) < 0 ? points.reverse() : points;
    }
  }
}

/** Points that follow each other at the same place, taken out. */
const withoutTwins = (points: readonly Point[]): Point[] =>
  points.filter(([x, y], i) => {
    const [u, v] = points[(i + points.length - 1) % points.length]!;
    return Math.hypot(x - u, y - v) > 1e-9;
  });

/** An outline with `n` points at even distances, counter-clockwise, the first straight above the centroid. */
export function evenly(points: readonly Point[], n: number): Point[] {
  const [cx, cy] = centroid(points);
  // Where the ray straight up leaves the outline; the furthest crossing when there are several.
  let start = { at: 0, y: -Infinity };
  const lengths = [0];
  points.forEach(([x, y], i) => {
    const [u, v] = points[(i + 1) % points.length]!;
    const before = lengths.at(-1)!;
    const side = Math.hypot(u - x, v - y);
    if ((x - cx) * (u - cx) <= 0 && x !== u) {
      const t = (cx - x) / (u - x);
      const height = y + t * (v - y);
      if (height >= cy && height > start.y) start = { at: before + t * side, y: height };
    }
    lengths.push(before + side);
  });
  const total = lengths.at(-1)!;
  const result: Point[] = [];
  for (let k = 0; k < n; k++) {
    const s = (start.at + (total * k) / n) % total;
    let low = 0;
    let high = points.length;
    while (high - low > 1) {
      const mid = (low + high) >> 1;
      if (lengths[mid]! <= s) low = mid;
      else high = mid;
    }
    const [x, y] = points[low]!;
    const [u, v] = points[(low + 1) % points.length]!;
    const side = lengths[low + 1]! - lengths[low]!;
    const t = side > 0 ? (s - lengths[low]!) / side : 0;
    result.push([x + t * (u - x), y + t * (v - y)]);
  }
  return result;
}
