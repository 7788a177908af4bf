import { EndType, JoinType, areaD, inflatePathsD } from 'clipper2-ts';
import { polygonArea, polygonCentroid } from 'd3-polygon';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { evaluateTarget } from '../evaluate/target.js';
import { meanPortArea, sectionSpeed } from '../head/ratios.js';
import { work } from '../method/method.js';
import { cfm, fromSi, inches, millimetres, rpm, squareInches, unitNamed } from '../quantity/units.js';
import { growOutline, metalBudget, sectionBudget } from './budget.js';
import { USUAL_FLOORS, floorsFor } from './floors.js';
import { enclosedVolume, loft, writeStl } from './loft.js';
import { compoundNeeded, packsCost, packsNeeded } from './mould.js';
import {
  centroid,
  evenly,
  hydraulicDiameter,
  outlineOf,
  perimeter,
  selfCrossing,
  shapeArea,
  signedArea,
  type Point,
  type Shape,
} from './shape.js';
import { areaAt, closure, evaluateSurvey, type Section } from './survey.js';

const mm = millimetres;
const mm2 = (x: number) => x * 1e6;
const section = (station: number, shape: Shape, more: Partial<Section> = {}): Section => ({
  station: mm(station),
  branch: 0,
  shape,
  angle: 0,
  bend: 0,
  walls: {},
  ...more,
});
const round = (d: number): Shape => ({ kind: 'round', width: mm(d) });
const SHAPES: Shape[] = [
  round(40),
  { kind: 'rectangle', width: mm(30), height: mm(50), radius: mm(8) },
  { kind: 'rectangle', width: mm(30), height: mm(50), radius: 0 },
  { kind: 'obround', width: mm(30), height: mm(58.5) },
  { kind: 'oval', width: mm(34), height: mm(46) },
  { kind: 'D', width: mm(36), height: mm(40) },
];
/** A star-shaped outline with as many corners as radii, mm. */
const star = fc.array(fc.double({ min: 8, max: 30, noNaN: true }), { minLength: 5, maxLength: 40 }).map((radii) =>
  radii.map((r, i): Point => {
    const t = (2 * Math.PI * i) / radii.length;
    return [mm(r * Math.cos(t)), mm(r * Math.sin(t))];
  }),
);

describe('the area of a section', () => {
  it('worked example of the method notes: obround 58.5 × 30 mm = 1561.9 mm²', () => {
    const area = shapeArea({ kind: 'obround', width: mm(58.5), height: mm(30) });
    expect(mm2(area.value)).toBeCloseTo(1561.9, 1);
  });
  it.each(SHAPES.map((s) => [s.kind, s] as const))('%s: closed form and drawn outline agree', (_, shape) => {
    const outline = outlineOf(shape, 2000);
    expect(signedArea(outline)).toBeGreaterThan(0);
    expect(signedArea(outline) / shapeArea(shape).value).toBeCloseTo(1, 4);
  });
  it('of any outline is what d3-polygon finds, and so is its centroid', () => {
    fc.assert(
      fc.property(star, (points) => {
        const theirs = points.map((p): [number, number] => [p[0], p[1]]);
        const shape: Shape = { kind: 'outline', points };
        expect(shapeArea(shape).value).toBeCloseTo(Math.abs(polygonArea(theirs)), 12);
        const [x, y] = centroid(points);
        const [u, v] = polygonCentroid(theirs);
        expect(Math.hypot(x - u, y - v)).toBeLessThan(1e-12);
      }),
    );
  });
  it('refuses sizes that make no such shape', () => {
    expect(() => shapeArea({ kind: 'rectangle', width: mm(20), height: mm(30), radius: mm(11) })).toThrow(
      'corner radius',
    );
    expect(() => shapeArea({ kind: 'D', width: mm(40), height: mm(19) })).toThrow('half as high');
    expect(() =>
      centroid([
        [0, 0],
        [1, 1],
        [2, 2],
      ]),
    ).toThrow('encloses nothing');
  });
  it('hydraulic diameter of a circle is its diameter', () => {
    const points = outlineOf(round(40), 4000);
    expect(hydraulicDiameter.compute({ area: signedArea(points), perimeter: perimeter(points) }) * 1e3).toBeCloseTo(
      40,
      3,
    );
  });
});

describe('an outline', () => {
  it('that crosses itself is found, with the place', () => {
    const bow: Point[] = [
      [0, 0],
      [2, 2],
      [2, 0],
      [0, 2],
    ];
    expect(selfCrossing(bow)).toEqual({ first: 0, second: 2, at: [1, 1] });
    expect(
      selfCrossing([
        [0, 0],
        [2, 0],
        [2, 2],
        [0, 2],
      ]),
    ).toBeUndefined();
  });
  it('is taken counter-clockwise, without points that stand twice', () => {
    const clockwise: Point[] = [
      [0, 0],
      [0, 1],
      [0, 1],
      [1, 1],
      [1, 0],
      [0, 0],
    ];
    const points = outlineOf({ kind: 'outline', points: clockwise });
    expect(points).toHaveLength(4);
    expect(signedArea(points)).toBe(1);
  });
  it('spaced evenly starts straight above its middle and keeps its area', () => {
    for (const shape of SHAPES) {
      const outline = outlineOf(shape, 400);
      const even = evenly(outline, 200);
      const [cx] = centroid(outline);
      expect(even[0]![0]).toBeCloseTo(cx, 9);
      expect(even[0]![1]).toBeCloseTo(Math.max(...outline.map((p) => p[1])), 4);
      expect(signedArea(even) / signedArea(outline)).toBeCloseTo(1, 2);
    }
  });
});

describe('a survey', () => {
  it('of a cone is the cone: frustum volume, taper, choke', () => {
    const sections = [0, 20, 40, 60].map((x) => section(x, round(50 - x / 4)));
    const survey = evaluateSurvey(sections.toReversed());
    const [R, r, h] = [25, 17.5, 60];
    expect(survey.volume!.value * 1e9).toBeCloseTo((Math.PI * h * (R * R + R * r + r * r)) / 3, 6);
    expect(survey.choke!.station).toBeCloseTo(mm(60), 9);
    expect(survey.taper).toHaveLength(3);
    expect(survey.taper[0]!.rate).toBeLessThan(0);
    expect(areaAt(survey, mm(10))! * 1e6).toBeCloseTo(Math.PI * (25 - 1.25) ** 2, 6);
    expect([areaAt(survey, mm(-1)), areaAt(survey, mm(61))]).toEqual([undefined, undefined]);
  });
  it('takes a slanted opening square to the flow', () => {
    const [tilted] = evaluateSurvey([section(0, round(40), { angle: Math.PI / 3 })]).stations;
    expect(mm2(tilted!.area.value)).toBeCloseTo((Math.PI * 400) / 2, 6);
  });
  it('adds both branches where the port divides, and passes over a branch alone', () => {
    const survey = evaluateSurvey([
      section(0, round(50)),
      section(20, round(30), { branch: 1 }),
      section(20, round(32), { branch: 2 }),
      section(30, round(30), { branch: 1 }),
    ]);
    expect(survey.stations.map((s) => s.sections.length)).toEqual([1, 2]);
    expect(mm2(survey.stations[1]!.area.value)).toBeCloseTo(Math.PI * (225 + 256), 6);
  });
  it('closes against the liquid', () => {
    expect(closure.compute({ sections: 191e-6, poured: 188.4e-6 })).toBeCloseTo(0.0138, 4);
    expect(() => closure.compute({ sections: 1, poured: 0 })).toThrow('above zero');
  });
  it('worked examples of the method notes: 250 cc over 5.625 in, 262 cc over 5.5 in; 310 cfm through 2.44 in²', () => {
    const mean = (cc: number, inch: number) =>
      meanPortArea.compute({ volume: cc * 1e-6, length: inches(inch) }) / squareInches(1);
    expect(mean(250, 5.625)).toBeCloseTo(2.712, 3);
    expect(mean(262, 5.5)).toBeCloseTo(2.907, 3);
    const speed = sectionSpeed.compute({ flow: cfm(310), area: squareInches(2.44) });
    expect(fromSi(speed, unitNamed('velocity', 'ft/s')!)).toBeCloseTo(304.9, 1);
  });
  it('of one section has no volume; of none nothing', () => {
    expect(evaluateSurvey([section(0, round(40))]).volume).toBeUndefined();
    expect(evaluateSurvey([])).toMatchObject({ stations: [], length: 0 });
  });
});

/** Volume of a binary STL by the divergence theorem over the file's own facets, mm³; and whether every edge is met once each way. */
function readStl(buffer: ArrayBuffer) {
  const view = new DataView(buffer);
  const facets = view.getUint32(80, true);
  expect(buffer.byteLength).toBe(84 + facets * 50);
  const edges = new Map<string, number>();
  let six = 0;
  for (let f = 0; f < facets; f++) {
    const v = Array.from({ length: 9 }, (_, i) => view.getFloat32(84 + f * 50 + 12 + i * 4, true));
    const [a, b, c] = [v.slice(0, 3), v.slice(3, 6), v.slice(6, 9)] as [number[], number[], number[]];
    six +=
      a[0]! * (b[1]! * c[2]! - b[2]! * c[1]!) +
      a[1]! * (b[2]! * c[0]! - b[0]! * c[2]!) +
      a[2]! * (b[0]! * c[1]! - b[1]! * c[0]!);
    for (const [p, q] of [
      [a, b],
      [b, c],
      [c, a],
    ] as const) {
      const key = [p, q].map(String);
      edges.set(key.join('|'), (edges.get(key.join('|')) ?? 0) + 1);
      edges.set(key.toReversed().join('|'), (edges.get(key.toReversed().join('|')) ?? 0) - 1);
    }
  }
  return { facets, volume: six / 6, watertight: [...edges.values()].every((n) => n === 0) };
}

describe('the lofted port', () => {
  const port = [0, 10, 20, 30, 40, 50].map((x, i) => section(x, SHAPES[i % SHAPES.length]!));
  const straight = [0, 15, 30, 45].map((x) =>
    section(x, { kind: 'oval', width: mm(40 - x / 5), height: mm(50 - x / 4) }),
  );

  it('has the volume of its sections within 0.5 %, and its file has it too, watertight', () => {
    const survey = evaluateSurvey(straight);
    const body = loft(straight, 96);
    const own = body.tubes.reduce((sum, t) => sum + enclosedVolume(t), 0);
    expect(own / survey.volume!.value).toBeGreaterThan(0.995);
    expect(own / survey.volume!.value).toBeLessThan(1.005);
    const file = readStl(writeStl(body.tubes));
    expect(file.watertight).toBe(true);
    expect((file.volume * 1e-9) / own).toBeCloseTo(1, 5);
  });
  it('a cylinder is a cylinder', () => {
    const body = loft([section(0, round(40)), section(100, round(40))], 360);
    expect(enclosedVolume(body.tubes[0]!) * 1e9).toBeCloseTo(Math.PI * 400 * 100, -2);
    expect(body.tubes[0]!.triangles.length / 3).toBe(360 * 4);
  });
  it('bent by a quarter turn keeps its volume by Pappus, and the centreline goes down', () => {
    const n = 30;
    const bend = Math.PI / 2 / n;
    const arcLength = 120;
    const bent = Array.from({ length: n + 1 }, (_, i) => section((arcLength * i) / n, round(30), { bend }));
    const body = loft(bent, 200);
    expect((enclosedVolume(body.tubes[0]!) * 1e9) / (Math.PI * 225 * arcLength)).toBeCloseTo(1, 2);
    const [x, y] = body.centreline.at(-1)!;
    const R = arcLength / (Math.PI / 2);
    expect(Math.abs(x * 1e3 - R)).toBeLessThan(0.03 * R);
    expect(Math.abs(y * 1e3 + R)).toBeLessThan(0.03 * R);
    expect(readStl(writeStl(body.tubes)).watertight).toBe(true);
  });
  it('of unlike shapes is watertight still', () => {
    const file = readStl(writeStl(loft(port, 96).tubes));
    expect(file.watertight).toBe(true);
    expect(file.facets).toBe(5 * 96 * 2 + 2 * 96);
  });
  it('that divides is three closed tubes', () => {
    const divided = [
      section(0, round(50)),
      section(20, round(50)),
      ...[20, 30, 40].flatMap((x) => [section(x, round(32), { branch: 1 }), section(x, round(32), { branch: 2 })]),
    ];
    const { tubes } = loft(divided, 48);
    expect(tubes).toHaveLength(3);
    expect(readStl(writeStl(tubes)).watertight).toBe(true);
  });
  it('needs two sections', () => {
    expect(() => loft([section(0, round(40))])).toThrow('at least two');
  });
});

describe('the metal budget', () => {
  const allRound = (d: number) => ({ roof: mm(d), floor: mm(d), front: mm(d), rear: mm(d) });
  it('grown alike all round is the outward offset of clipper2', () => {
    for (const shape of SHAPES) {
      const outline = outlineOf(shape, 400);
      const path = outline.map(([x, y]) => ({ x: x * 1e3, y: y * 1e3 }));
      const theirs = inflatePathsD([path], 3, JoinType.Round, EndType.Polygon, 2, 6);
      const ratio = (signedArea(growOutline(outline, allRound(3))) * 1e6) / areaD(theirs[0]!);
      // A sharp corner goes by its mitre here and round there.
      expect(ratio).toBeGreaterThan(0.998);
      const sharp = shape.kind === 'D' || (shape.kind === 'rectangle' && shape.radius === 0);
      expect(ratio).toBeLessThan(sharp ? 1.01 : 1.002);
    }
  });
  it('a circle with the same metal all round grows by exactly that', () => {
    const grown = growOutline(outlineOf(round(40), 720), allRound(2));
    expect(Math.sqrt(signedArea(grown) / Math.PI) * 1e3).toBeCloseTo(22, 3);
  });
  it('grows only where there is metal', () => {
    const outline = outlineOf({ kind: 'rectangle', width: mm(30), height: mm(40), radius: mm(10) });
    const grown = growOutline(outline, { roof: mm(4), floor: 0, front: 0, rear: 0 });
    const extent = (points: Point[], k: 0 | 1) => [
      Math.min(...points.map((p) => p[k])),
      Math.max(...points.map((p) => p[k])),
    ];
    expect(extent(grown, 1)[1]! * 1e3).toBeCloseTo(24, 2);
    expect(extent(grown, 1)[0]! * 1e3).toBeCloseTo(-20, 2);
    expect(extent(grown, 0)[0]!).toBeCloseTo(extent(outline, 0)[0]!, 5);
  });
  it('says which wall holds a section, and gives nothing where one is under its floor', () => {
    const walls = {
      roof: { thickness: mm(3.9), behind: 'water' as const },
      rear: { thickness: mm(2.1), behind: 'pushrod' as const },
    };
    const tight = sectionBudget(section(30, round(38), { walls }), 1e-3, USUAL_FLOORS);
    expect(tight.holds).toMatchObject({ side: 'rear', behind: 'pushrod' });
    expect(tight.holds!.spare).toBeCloseTo(mm(-0.4), 9);
    expect(tight.largest).toBeGreaterThan(1e-3);
    const none = sectionBudget(section(30, round(38), { walls: { rear: walls.rear } }), 1e-3, USUAL_FLOORS);
    expect(none.largest).toBe(1e-3);
  });
  it('an exhaust port keeps more, and the shop decides', () => {
    expect(floorsFor('exhaust').water - floorsFor('intake').water).toBeCloseTo(mm(1), 12);
    expect(floorsFor('exhaust', { water: mm(6) }).water).toBe(mm(6));
  });
  it('tells the choke the metal allows and what it carries against the target', () => {
    const build = {
      bore: mm(98),
      stroke: mm(93),
      cylinders: 6,
      rod: mm(150),
      fuel: 'petrol' as const,
      induction: { kind: 'natural' as const },
      power: 290 * 745.7,
      speed: rpm(5600),
    };
    const result = evaluateTarget(build as never);
    const wall = (thickness: number) => ({ thickness: mm(thickness), behind: 'water' as const });
    const survey = evaluateSurvey([
      section(0, round(42), { walls: { roof: wall(7), floor: wall(7), front: wall(7), rear: wall(7) } }),
      section(30, round(37.8), { walls: { roof: wall(3.9), floor: wall(3.9), front: wall(3.9), rear: wall(3.9) } }),
      section(60, round(41), { walls: { roof: wall(3), floor: wall(5), front: wall(5), rear: wall(5) } }),
    ]);
    const budget = metalBudget(survey, USUAL_FLOORS, { build: build as never, result });
    expect(budget.choke!.station).toBeCloseTo(mm(30), 9);
    expect(mm2(budget.choke!.largest)).toBeCloseTo(Math.PI * 19.3 ** 2, -0.5);
    // Speed by continuity, written out by hand: N = v A / (ratio · 2 S · π/4 B²).
    const ratio = typeof result.pistonRatio === 'number' ? result.pistonRatio : result.pistonRatio.value;
    expect(budget.speed!.value).toBeCloseTo(
      (result.velocityLimit * budget.choke!.largest) / (ratio * 2 * 0.093 * (Math.PI / 4) * 0.098 ** 2),
      6,
    );
    expect(budget.thin.map((t) => [t.station, t.wall.side])).toEqual([[mm(60), 'roof']]);
    expect(metalBudget(evaluateSurvey([]), USUAL_FLOORS)).toEqual({ stations: [], thin: [] });
  });
  it('stations alike are one choke: a wall known at one of them speaks, and with none nothing is said to be carried', () => {
    const walls = { roof: { thickness: mm(3.5), behind: 'water' as const } };
    const at = (first: object, second: object) =>
      metalBudget(evaluateSurvey([section(0, round(38), first), section(30, round(38), second)]), USUAL_FLOORS);
    const one = at({}, { walls });
    expect(one.choke!.station).toBeCloseTo(mm(30), 9);
    expect(one.flow).toBeDefined();
    const none = at({}, {});
    expect(none.choke).toBeDefined();
    expect([none.flow, none.speed, none.power]).toEqual([undefined, undefined, undefined]);
  });
});

describe('a pour', () => {
  it('is planned by volume, spare and pack', () => {
    const needed = work(compoundNeeded, { volumes: [121.5e-6, 62e-6], spare: 0.15 });
    expect(needed.value * 1e6).toBeCloseTo(211.025, 6);
    const packs = work(packsNeeded, { needed, pack: 100e-6 });
    expect(packs.value).toBe(3);
    expect(work(packsCost, { packs, price: 24 }).value).toBe(72);
    expect(packsNeeded.compute({ needed: 200e-6, pack: 100e-6 })).toBe(2);
  });
});
