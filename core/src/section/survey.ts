/** A port surveyed section by section: area along it, volume, choke, taper, closure against what was poured. */
import { noted, work, type Method, type Working } from '../method/method.js';
import { outlineOf, perimeter, shapeArea, squareArea, hydraulicDiameter, type Shape } from './shape.js';
import { refusal } from '../refusal/refusal.js';

/** What lies behind a wall. */
export const NEIGHBOURS = ['water', 'guide', 'spring seat', 'bolt', 'pushrod', 'other port', 'outside'] as const;
export type Neighbour = (typeof NEIGHBOURS)[number];
export const WALL_SIDES = ['roof', 'floor', 'front', 'rear'] as const;
export type WallSide = (typeof WALL_SIDES)[number];

export interface Wall {
  /** Metal measured, m. */
  readonly thickness: number;
  readonly behind: Neighbour;
}

/** One section; m and rad. */
export interface Section {
  /** Along the port from the flange. */
  readonly station: number;
  /** 0 where the port is one; 1 and 2 after it divided. */
  readonly branch: 0 | 1 | 2;
  readonly shape: Shape;
  /** How far the cut is off square to the flow. */
  readonly angle: number;
  /** How far the centreline turns down towards the valve at this station. */
  readonly bend: number;
  readonly place?: Place;
  readonly walls: { readonly [S in WallSide]?: Wall };
}
export const PLACES = ['opening', 'pinch', 'window', 'throat'] as const;
export type Place = (typeof PLACES)[number];

/** One station of a surveyed port: both branches together where it is divided. */
export interface StationResult {
  readonly station: number;
  readonly area: Working;
  readonly sections: readonly SectionResult[];
}
export interface SectionResult {
  readonly section: Section;
  readonly area: Working;
  readonly hydraulic: Working;
  readonly width: number;
  readonly height: number;
}

export interface SurveyResult {
  readonly stations: readonly StationResult[];
  /** ∫A dx, m³. Missing with fewer than two stations. */
  readonly volume?: Working;
  readonly length: number;
  /** The station of the least area. */
  readonly choke?: StationResult;
  /** The window over the short turn, where one was marked. */
  readonly window?: StationResult;
  /** Rate of change of area between each station and the next, m²/m. */
  readonly taper: readonly { readonly from: number; readonly to: number; readonly rate: number }[];
}

export const branchesArea: Method<{ areas: readonly number[] }> = {
  id: 'branches-area',
  title: 'Both branches together',
  formula: 'A = A_1 + A_2',
  inputs: { areas: { label: 'area of each branch', symbol: 'A_i', kind: 'area' } },
  result: { label: 'area', symbol: 'A', kind: 'area' },
  source: 'Arithmetic.',
  compute: ({ areas }) => areas.reduce((sum, a) => sum + a, 0),
};

export const surveyVolume: Method<{ stations: readonly number[]; areas: readonly number[] }> = {
  id: 'survey-volume',
  title: 'Volume of the sections',
  formula: 'V = \\sum_i \\frac{x_{i+1} - x_i}{3}\\left(A_i + \\sqrt{A_i A_{i+1}} + A_{i+1}\\right)',
  inputs: {
    stations: { label: 'stations along the port', symbol: 'x_i', kind: 'length' },
    areas: { label: 'areas square to the flow', symbol: 'A_i', kind: 'area' },
  },
  result: { label: '∫A dx', symbol: 'V', kind: 'volume' },
  source: 'Volume of a frustum between each two sections (Heron’s formula).',
  compute: ({ stations, areas }) =>
    stations.slice(1).reduce((sum, x, i) => {
      const [a, b] = [areas[i]!, areas[i + 1]!];
      return sum + ((x - stations[i]!) / 3) * (a + Math.sqrt(a * b) + b);
    }, 0),
};

export const closure: Method<{ sections: number; poured: number }> = {
  id: 'closure',
  title: 'Closure: sections against liquid',
  formula: 'c = \\frac{\\int A\\,dx - V}{V}',
  inputs: {
    sections: { label: '∫A dx over the sections', symbol: '\\int A\\,dx', kind: 'volume' },
    poured: { label: 'liquid volume, mean of the pours', symbol: 'V', kind: 'volume' },
  },
  result: { label: 'sections over liquid', symbol: 'c', kind: 'percent' },
  source: 'Definition.',
  caution: 'Both must be of the same port at the same stage, from flange to valve, the valve in or out alike.',
  compute: ({ sections, poured }) => {
    if (poured <= 0) throw refusal('notAboveZero', 'poured volume');
    return (sections - poured) / poured;
  },
};

export const openingShare: Method<{ opening: number; gasket: number }> = {
  id: 'opening-share',
  title: 'Port opening against its gasket',
  formula: 's = \\frac{A_{opening}}{A_{gasket}}',
  inputs: {
    opening: { label: 'opening of the port at the flange', symbol: 'A_{opening}', kind: 'area' },
    gasket: { label: 'opening of the gasket', symbol: 'A_{gasket}', kind: 'area' },
  },
  result: { label: 'opening of gasket', symbol: 's', kind: 'percent' },
  source: 'Definition.',
  caution: 'Above 100 % the gasket stands into the stream.',
  compute: ({ opening, gasket }) => opening / gasket,
};

/** Past this sections and liquid are said to disagree. */
export const CLOSURE_LIMIT = 0.03;

function sectionResult(section: Section): SectionResult {
  const cut = shapeArea(section.shape);
  const area = section.angle === 0 ? cut : work(squareArea, { area: cut, angle: section.angle });
  const outline = outlineOf(section.shape);
  const [xs, ys] = [outline.map((p) => p[0]), outline.map((p) => p[1])];
  return {
    section,
    area,
    hydraulic: work(hydraulicDiameter, { area: cut, perimeter: perimeter(outline) }),
    width: Math.max(...xs) - Math.min(...xs),
    height: Math.max(...ys) - Math.min(...ys),
  };
}

/** Stations closer than this are one. */
const SAME_STATION = 1e-6;

/**
 * Reads the sections of one port in order along it. Where it divides, a station's area is both branches together, so a
 * station needs a section of each branch to count.
 * @throws Refusal with the station at fault, when a section's sizes make no shape.
 */
export function evaluateSurvey(sections: readonly Section[]): SurveyResult {
  const sorted = [...sections].sort((a, b) => a.station - b.station || a.branch - b.branch);
  const groups: SectionResult[][] = [];
  for (const section of sorted) {
    const result = sectionResult(section);
    const last = groups.at(-1);
    if (last && section.station - last[0]!.section.station < SAME_STATION) last.push(result);
    else groups.push([result]);
  }
  const stations = groups
    .filter((g) => g[0]!.section.branch === 0 || g.length === 2)
    .map((g): StationResult => ({
      station: g[0]!.section.station,
      area: g.length === 1 ? g[0]!.area : work(branchesArea, { areas: g.map((s) => s.area.value) }),
      sections: g,
    }));
  const [first, last] = [stations[0], stations.at(-1)];
  const choke = stations.reduce<StationResult | undefined>(
    (least, s) => (!least || s.area.value < least.area.value ? s : least),
    undefined,
  );
  const window = stations.find((s) => s.sections.some((x) => x.section.place === 'window'));
  return {
    stations,
    length: first && last ? last.station - first.station : 0,
    ...(stations.length > 1
      ? {
          volume: work(surveyVolume, {
            stations: stations.map((s) => s.station),
            areas: noted(
              stations.map((s) => s.area.value),
              'square to the flow',
            ),
          }),
        }
      : {}),
    ...(choke ? { choke } : {}),
    ...(window ? { window } : {}),
    taper: stations.slice(1).map((s, i) => ({
      from: stations[i]!.station,
      to: s.station,
      rate: (s.area.value - stations[i]!.area.value) / (s.station - stations[i]!.station),
    })),
  };
}

/** Area at any place along a port, read straight between stations in √A, as the frustum does. Undefined outside. */
export function areaAt(survey: SurveyResult, station: number): number | undefined {
  const { stations } = survey;
  const k = stations.findIndex((s) => s.station >= station - SAME_STATION);
  if (k < 0 || (k === 0 && stations[0]!.station > station + SAME_STATION)) return undefined;
  const b = stations[k]!;
  const a = stations[k - 1];
  if (!a || Math.abs(b.station - station) < SAME_STATION) return b.area.value;
  const t = (station - a.station) / (b.station - a.station);
  return ((1 - t) * Math.sqrt(a.area.value) + t * Math.sqrt(b.area.value)) ** 2;
}
