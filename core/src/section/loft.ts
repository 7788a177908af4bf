/** The port as a body: its sections joined along the centreline, as triangles, with volume and binary STL. */
import { centroid, evenly, outlineOf, type Point } from './shape.js';
import type { Section } from './survey.js';
import { refusal } from '../refusal/refusal.js';

/** One closed tube of triangles. */
export interface Tube {
  /** x y z of each vertex, m: x along the flange's normal, y up, z to the rear. */
  readonly positions: Float32Array;
  /** Three vertices a triangle, counter-clockwise seen from outside. */
  readonly triangles: Uint32Array;
  /** Index of the section each vertex belongs to. */
  readonly sectionOf: Uint32Array;
  /** How many of the last indices are the two caps. */
  readonly capIndices: number;
}

export interface Loft {
  readonly tubes: readonly Tube[];
  /** Centreline of the port, one point a station, m. */
  readonly centreline: readonly (readonly [x: number, y: number])[];
}

/** Frame of one station: where the centreline is and which way it goes, in the plane of roof and floor. */
interface Frame {
  readonly x: number;
  readonly y: number;
  /** Downward turn of the centreline so far, rad. */
  readonly turn: number;
}

/** Follows the centreline: each station turns it by its bend, half before and half after the section itself. */
export function centrelineFrames(sections: readonly Pick<Section, 'station' | 'bend'>[]): Frame[] {
  let [x, y, turn] = [0, 0, 0];
  return sections.map((s, i) => {
    const before = sections[i - 1];
    if (before) {
      const step = s.station - before.station;
      x += step * Math.cos(turn);
      y -= step * Math.sin(turn);
    }
    const frame = { x, y, turn: turn + s.bend / 2 };
    turn += s.bend;
    return frame;
  });
}

function tube(sections: readonly Section[], frames: readonly Frame[], around: number, shift: number): Tube {
  const rings = sections.length;
  const positions = new Float32Array((rings * around + 2) * 3);
  const sectionOf = new Uint32Array(rings * around + 2);
  const put = (vertex: number, frame: Frame, [px, py]: Point, section: number) => {
    // The outline stands square to the centreline; its own x lies across the head.
    positions[vertex * 3] = frame.x + py * Math.sin(frame.turn);
    positions[vertex * 3 + 1] = frame.y + py * Math.cos(frame.turn);
    positions[vertex * 3 + 2] = px + shift;
    sectionOf[vertex] = section;
  };
  const centres: Point[] = [];
  sections.forEach((s, i) => {
    const outline = outlineOf(s.shape, Math.max(around, 96));
    centres.push(centroid(outline));
    evenly(outline, around).forEach((p, k) => put(i * around + k, frames[i]!, p, i));
  });
  const [front, back] = [rings * around, rings * around + 1];
  put(front, frames[0]!, centres[0]!, 0);
  put(back, frames[rings - 1]!, centres[rings - 1]!, rings - 1);

  const triangles = new Uint32Array(((rings - 1) * around * 2 + around * 2) * 3);
  let t = 0;
  const face = (a: number, b: number, c: number) => {
    triangles[t++] = a;
    triangles[t++] = b;
    triangles[t++] = c;
  };
  for (let i = 0; i + 1 < rings; i++) {
    for (let k = 0; k < around; k++) {
      const [a, b] = [i * around + k, i * around + ((k + 1) % around)];
      const [c, d] = [a + around, b + around];
      face(a, c, b);
      face(b, c, d);
    }
  }
  for (let k = 0; k < around; k++) {
    const next = (k + 1) % around;
    face(front, k, next);
    face(back, (rings - 1) * around + next, (rings - 1) * around + k);
  }
  return { positions, triangles, sectionOf, capIndices: around * 2 * 3 };
}

/**
 * Lofts a port: one tube, or three where it divides (the common part and both branches, each closed by itself). Sections
 * follow each other by station. Outlines are capped from their centroid, which a port's outline can be seen from.
 * @throws Refusal with fewer than two sections.
 */
export function loft(sections: readonly Section[], around = 96): Loft {
  const sorted = [...sections].sort((a, b) => a.station - b.station);
  const main = sorted.filter((s) => s.branch === 0);
  if (main.length < 2 && sorted.length < 2) throw refusal('loftOfOne');
  const line = [...new Map(sorted.map((s) => [s.station, s])).values()];
  const frames = centrelineFrames(line);
  const at = (list: readonly Section[]) => list.map((s) => frames[line.findIndex((l) => l.station === s.station)]!);
  const tubes: Tube[] = main.length > 1 ? [tube(main, at(main), around, 0)] : [];
  for (const branch of [1, 2] as const) {
    const own = sorted.filter((s) => s.branch === branch);
    if (own.length < 2) continue;
    // Branches lie side by side: each is shifted by half its width and a little metal.
    const width = Math.max(...own.flatMap((s) => outlineOf(s.shape).map((p) => Math.abs(p[0]))));
    tubes.push(tube(own, at(own), around, (branch === 1 ? -1 : 1) * width * 1.1));
  }
  return { tubes, centreline: frames.map((f) => [f.x, f.y] as const) };
}

/** Volume enclosed by a closed tube, by the divergence theorem over its triangles, m³. */
export function enclosedVolume({ positions: p, triangles }: Pick<Tube, 'positions' | 'triangles'>): number {
  let six = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t]! * 3, triangles[t + 1]! * 3, triangles[t + 2]! * 3];
    const [ax, ay, az] = [p[a]!, p[a + 1]!, p[a + 2]!];
    const [bx, by, bz] = [p[b]!, p[b + 1]!, p[b + 2]!];
    const [cx, cy, cz] = [p[c]!, p[c + 1]!, p[c + 2]!];
    six += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  }
  return six / 6;
}

const STL_HEADER = 80;
const STL_FACET = 50;

/** Binary STL of the tubes in millimetres, so that a mould can be printed. Little-endian, facet normals by the right hand. */
export function writeStl(tubes: readonly Pick<Tube, 'positions' | 'triangles'>[]): ArrayBuffer {
  const facets = tubes.reduce((n, t) => n + t.triangles.length / 3, 0);
  const buffer = new ArrayBuffer(STL_HEADER + 4 + facets * STL_FACET);
  const view = new DataView(buffer);
  [...'Alluvium port, millimetres'].forEach((c, i) => view.setUint8(i, c.charCodeAt(0)));
  view.setUint32(STL_HEADER, facets, true);
  let at = STL_HEADER + 4;
  for (const { positions: p, triangles } of tubes) {
    for (let t = 0; t < triangles.length; t += 3) {
      const corner = (k: number): readonly [number, number, number] => {
        const v = triangles[t + k]! * 3;
        return [p[v]! * 1000, p[v + 1]! * 1000, p[v + 2]! * 1000];
      };
      const [a, b, c] = [corner(0), corner(1), corner(2)];
      const [u, w] = [
        [b[0] - a[0], b[1] - a[1], b[2] - a[2]],
        [c[0] - a[0], c[1] - a[1], c[2] - a[2]],
      ] as const;
      const normal = [u[1]! * w[2]! - u[2]! * w[1]!, u[2]! * w[0]! - u[0]! * w[2]!, u[0]! * w[1]! - u[1]! * w[0]!];
      const size = Math.hypot(...normal) || 1;
      [...normal.map((n) => n / size), ...a, ...b, ...c].forEach((value, i) =>
        view.setFloat32(at + i * 4, value, true),
      );
      at += STL_FACET;
    }
  }
  return buffer;
}
