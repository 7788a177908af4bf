/** Ports cut up and measured section by section: area along each, and the metal round it. */
import { lists } from './tables.js';

type Anchor = readonly [station: number, value: number];

/** Straight between anchors, eased at each, so that a port has no corners along its length. */
function along(anchors: readonly Anchor[], x: number): number {
  const k = Math.max(
    1,
    anchors.findIndex((a) => a[0] >= x),
  );
  const [[x0, y0], [x1, y1]] = [anchors[k - 1]!, anchors[k]!];
  const t = (x - x0) / (x1 - x0);
  return y0 + (y1 - y0) * t * t * (3 - 2 * t);
}

interface Spec {
  readonly id: string;
  readonly stage: string;
  readonly port: string;
  readonly title: string;
  readonly date: string;
  readonly length: number;
  readonly way: string;
  /** Area, mm². */
  readonly area: readonly Anchor[];
  /** Width over height. */
  readonly aspect: readonly Anchor[];
  readonly radius: readonly Anchor[];
  /** Metal at roof, floor, front and rear, mm, and what lies behind each. */
  readonly walls?: Readonly<
    Record<'roof' | 'floor' | 'front' | 'rear', readonly [readonly Anchor[], (x: number) => string]>
  >;
  readonly pinch: number;
  readonly window: number;
  readonly bend: readonly Anchor[];
}

function survey(s: Spec): void {
  const stations: number[] = [];
  for (let x = 0; x < s.length - 2; x += 5) stations.push(x);
  stations.push(s.length);
  const sections = stations.map((x) => {
    const radius = along(s.radius, x);
    const aspect = along(s.aspect, x);
    const height = Math.sqrt((along(s.area, x) + (4 - Math.PI) * radius ** 2) / aspect);
    const wall = (side: 'roof' | 'floor' | 'front' | 'rear') =>
      s.walls && { thickness: `${along(s.walls[side][0], x).toFixed(1)} mm`, behind: s.walls[side][1](x) };
    const bend = along(s.bend, x);
    return {
      station: `${x} mm`,
      shape: 'rectangle',
      width: `${(aspect * height).toFixed(1)} mm`,
      height: `${height.toFixed(1)} mm`,
      radius: `${radius.toFixed(1)} mm`,
      ...(bend > 0.2 ? { bend: `${bend.toFixed(1)}°` } : {}),
      ...(x === 0
        ? { place: 'opening' }
        : x === s.pinch
          ? { place: 'pinch' }
          : x === s.window
            ? { place: 'window' }
            : {}),
      ...(s.walls
        ? { walls: { roof: wall('roof'), floor: wall('floor'), front: wall('front'), rear: wall('rear') } }
        : {}),
    };
  });
  lists.surveys.push({
    id: s.id,
    stageId: s.stage,
    portId: s.port,
    side: 'intake',
    title: s.title,
    date: s.date,
    instrument: 'calipers .01 mm',
    way: s.way,
    sections,
  });
}

const BEND: readonly Anchor[] = [
  [0, 0],
  [45, 0],
  [60, 4],
  [70, 9],
  [80, 14],
  [100, 16],
];

/** Adds the surveys of the Slate Six's heads. */
export function surveys(): void {
  survey({
    id: '417-sawn',
    stage: '417-received',
    port: 'corrow-417-i3',
    title: 'Sectioned scrap, port 3',
    date: '2026-02-08',
    length: 91,
    way: 'sawn',
    area: [
      [0, 1640],
      [30, 1122.6],
      [55, 1375],
      [75, 1290.3],
      [91, 1500],
    ],
    aspect: [
      [0, 0.72],
      [30, 0.56],
      [60, 0.78],
      [91, 0.96],
    ],
    radius: [
      [0, 7],
      [30, 8],
      [60, 12],
      [91, 18],
    ],
    pinch: 30,
    window: 75,
    bend: BEND,
    walls: {
      roof: [
        [
          [0, 6.2],
          [15, 5],
          [30, 3.9],
          [55, 8.4],
          [75, 6.4],
          [91, 6],
        ],
        (x) => (x > 40 && x < 70 ? 'spring seat' : 'water'),
      ],
      floor: [
        [
          [0, 6.8],
          [30, 4.6],
          [60, 5],
          [75, 4.1],
          [91, 4.4],
        ],
        () => 'water',
      ],
      front: [
        [
          [0, 6],
          [30, 4.2],
          [60, 6],
          [91, 5],
        ],
        () => 'water',
      ],
      rear: [
        [
          [0, 6],
          [20, 3.6],
          [30, 2.9],
          [40, 4],
          [60, 6],
          [91, 5],
        ],
        (x) => (x > 15 && x < 42 ? 'pushrod' : x > 70 ? 'guide' : 'water'),
      ],
    },
  });
  survey({
    id: '417-pinch-mould',
    stage: '417-pinch',
    port: 'corrow-417-i3',
    title: 'Mould, port 3, pinch opened',
    date: '2026-03-17',
    length: 91,
    way: 'mould',
    area: [
      [0, 1650],
      [30, 1206.4],
      [55, 1420],
      [75, 1342],
      [91, 1540],
    ],
    aspect: [
      [0, 0.72],
      [30, 0.6],
      [60, 0.78],
      [91, 0.96],
    ],
    radius: [
      [0, 7],
      [30, 8],
      [60, 12],
      [91, 18],
    ],
    pinch: 30,
    window: 75,
    bend: BEND,
  });
  survey({
    id: 'p6-mould',
    stage: 'p6-received',
    port: 'pellam-p6-i3',
    title: 'Mould, port 3',
    date: '2026-02-24',
    length: 95,
    way: 'mould',
    area: [
      [0, 1740],
      [30, 1258.1],
      [58, 1510],
      [80, 1387.1],
      [95, 1600],
    ],
    aspect: [
      [0, 0.74],
      [30, 0.6],
      [60, 0.8],
      [95, 0.97],
    ],
    radius: [
      [0, 8],
      [30, 9],
      [60, 13],
      [95, 19],
    ],
    pinch: 30,
    window: 80,
    bend: BEND,
  });
  survey({
    id: 'longreach-mould',
    stage: 'longreach-received',
    port: 'longreach-212-i3',
    title: 'Mould, port 3',
    date: '2026-03-04',
    length: 97,
    way: 'mould',
    area: [
      [0, 1745],
      [30, 1341.9],
      [58, 1580],
      [80, 1458.1],
      [97, 1640],
    ],
    aspect: [
      [0, 0.74],
      [30, 0.62],
      [60, 0.8],
      [97, 0.98],
    ],
    radius: [
      [0, 9],
      [30, 10],
      [60, 14],
      [97, 20],
    ],
    pinch: 30,
    window: 80,
    bend: BEND,
  });
  divided();
}

/** The standard head of the four-valve five: one port that divides to two valves. */
function divided(): void {
  const walls = (roof: number, floor: number, across: number) => ({
    roof: { thickness: `${roof} mm`, behind: 'water' },
    floor: { thickness: `${floor} mm`, behind: 'water' },
    front: { thickness: `${across} mm`, behind: 'water' },
    rear: { thickness: `${across} mm`, behind: 'water' },
  });
  const common = [0, 10, 20, 30].map((x) => ({
    station: `${x} mm`,
    shape: 'obround',
    width: `${(50 - x * 0.1).toFixed(1)} mm`,
    height: `${(30 - x * 0.08).toFixed(1)} mm`,
    ...(x === 0 ? { place: 'opening' } : {}),
    walls: walls(6, 5, 6),
  }));
  const branches = [40, 50, 60, 70].flatMap((x) =>
    ([1, 2] as const).map((branch) => ({
      station: `${x} mm`,
      branch,
      shape: 'oval',
      width: `${(26.5 - (x - 40) * 0.02).toFixed(1)} mm`,
      height: `${(30.5 - (x - 40) * 0.06).toFixed(1)} mm`,
      ...(x === 60 ? { place: 'window' } : {}),
      bend: '9°',
      walls: walls(5, 4.2, 5),
    })),
  );
  lists.surveys.push({
    id: 'v5-divided',
    stageId: 'vennick-v5-received',
    portId: 'vennick-v5-i2',
    side: 'intake',
    title: 'Mould, port 2, divided',
    date: '2026-05-04',
    way: 'mould',
    sections: [...common, ...branches],
  });
}
