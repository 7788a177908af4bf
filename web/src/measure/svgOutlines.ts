import { centred, type NamedOutline, type OutlineReading } from '@alluvium/records';

// []!: one of the four units is met, or px.
// box[]!: four numbers.

const SHAPES = 'path, polygon, polyline, rect, circle, ellipse';
const ATTRIBUTES = ['d', 'points', 'x', 'y', 'width', 'height', 'rx', 'ry', 'cx', 'cy', 'r'];
/** A drawing of a port has a section a shape, and some frame. */
const MOST_SHAPES = 500;
/** Points along one outline. */
const STEPS = 240;
const CSS_MM = 25.4 / 96;

/** Millimetres in one user unit of the drawing: by its width and viewBox, else CSS pixels. */
function unitOf(svg: Element): number {
  const match = /^\s*([\d.]+)\s*(mm|cm|in|px)?\s*$/.exec(svg.getAttribute('width') ?? '');
  const box = (svg.getAttribute('viewBox') ?? '').split(/[\s,]+/).map(Number);
  const to = { mm: 1, cm: 10, in: 25.4, px: CSS_MM }[match?.[2] ?? 'px']!;
  const width = match ? Number(match[1]) * to : undefined;
  return width && box.length === 4 && box[2]! > 0 ? width / box[2]! : match ? to : CSS_MM;
}

/**
 * Outlines of an SVG drawing, measured by the browser's own engine. Only geometry is copied out of the file: nothing in it
 * is shown or run. An id such as `station-30` says where an outline belongs.
 */
export function outlinesOfSvg(text: string): OutlineReading {
  const file = new DOMParser().parseFromString(text, 'image/svg+xml');
  const root = file.documentElement;
  if (root.nodeName !== 'svg') return { outlines: [], problems: ['This is no SVG drawing.'] };
  const unit = unitOf(root) * 1e-3;
  const host = document.createElementNS('http://www.w3.org/2000/svg', 'svg');
  host.setAttribute('style', 'position:absolute;width:0;height:0;overflow:hidden');
  document.body.append(host);
  const problems: string[] = [];
  const outlines: NamedOutline[] = [];
  try {
    const found = [...root.querySelectorAll(SHAPES)];
    if (found.length > MOST_SHAPES)
      problems.push(`This drawing has ${found.length} shapes; the first ${MOST_SHAPES} are read.`);
    for (const [i, source] of found.slice(0, MOST_SHAPES).entries()) {
      const copy = document.createElementNS(host.namespaceURI, source.localName) as SVGGeometryElement;
      for (const name of ATTRIBUTES) {
        const value = source.getAttribute(name);
        if (value !== null) copy.setAttribute(name, value);
      }
      // The transforms of the groups above it, outermost first.
      const transforms: string[] = [];
      for (let e: Element | null = source; e && e !== root; e = e.parentElement)
        transforms.unshift(e.getAttribute('transform') ?? '');
      copy.setAttribute('transform', transforms.filter(Boolean).join(' '));
      host.append(copy);
      const length = copy.getTotalLength();
      const name = source.id || `${source.localName} ${i + 1}`;
      if (!(length > 0)) {
        problems.push(`${name} has no length.`);
        continue;
      }
      const matrix = copy.transform.baseVal.consolidate()?.matrix;
      const at = (s: number) => {
        const p = copy.getPointAtLength(s);
        const q = matrix ? p.matrixTransform(matrix) : p;
        return [q.x * unit, -q.y * unit] as const;
      };
      const [a, b] = [at(0), at(length)];
      if (Math.hypot(a[0] - b[0], a[1] - b[1]) > 1e-5 && source.localName !== 'polygon') {
        problems.push(`${name} is not closed.`);
        continue;
      }
      const station = /station[-_ ]*([\d.]+)/i.exec(source.id)?.[1];
      outlines.push({
        name,
        ...(station ? { station: Number(station) * 1e-3 } : {}),
        points: centred(Array.from({ length: STEPS }, (_, k) => at((length * k) / STEPS))),
      });
    }
  } catch {
    problems.push('A shape in this drawing cannot be read.');
  } finally {
    host.remove();
  }
  if (outlines.length === 0 && problems.length === 0) problems.push('There is no closed outline in this drawing.');
  return { outlines, problems };
}
