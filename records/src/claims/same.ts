/** Whether two heads, stages or ports are the same, from everything that is known of both. */
import {
  SIDES,
  areaAt,
  comparable,
  evaluateSurvey,
  flowLikeness,
  likeness,
  numberOf,
  sameOrDifferent,
  sameWords,
  type Aspect,
  type FlowCurve,
  type FlowLikeness,
  type Given,
  type Likeness,
  type SameVerdict,
  type Say,
  type Side,
} from '@alluvium/core';
import { toleranceOf } from '../arrival/stated.js';
import { portOf } from '../bench/session.js';
import type { WholeHead } from '../api.js';
import { evaluated } from './evaluated.js';
import type { Tolerance } from '../nouns/measure.js';
import { MEASURE_ITEMS, MEASURE_ITEM_NAMES, type MeasureItem } from '../nouns/measureItems.js';
import type { Sheet } from '../nouns/sheet.js';
import { toCoreSections } from '../sections.js';
import { isOnPort, measuresAt, portName, speaks, surveyAt, touchedPorts } from '../select.js';
import { measured } from '../toCore.js';
import { conditionsOf, portIdOf } from './conditions.js';

// measures[]!: one for each of the two.

/** What is held against another: a head at a stage, one of its cylinders or whatever speaks for all. */
export interface Specimen {
  readonly whole: WholeHead;
  readonly stageId: string;
  /** Cylinder number; null for the head as a whole. */
  readonly cylinder: number | null;
}

export interface SameResult {
  readonly sizes: readonly Likeness[];
  readonly flow: { readonly intake?: FlowLikeness; readonly exhaust?: FlowLikeness };
  /** The curves held against each other. */
  readonly curves: readonly { readonly side: Side; readonly a: FlowCurve; readonly b: FlowCurve }[];
  readonly verdict: SameVerdict;
  readonly words: string;
  /** What could not be held against each other, and why. */
  readonly leftOut: readonly string[];
}

/** What belongs to the engine, not to the head, or says nothing of its make. */
const NOT_OF_THE_HEAD: readonly MeasureItem[] = [
  'piston dish',
  'deck volume',
  'gasket volume',
  'price',
  'lift limit',
  'valve train mass',
];
const GROUPS: Partial<Record<MeasureItem, Likeness['group']>> = {
  'valve diameter': 'valve job',
  'seat width': 'valve job',
  'seat angle': 'valve job',
  'back-cut angle': 'valve job',
  'top cut width': 'valve job',
  'top cut angle': 'valve job',
  throat: 'valve job',
  bowl: 'port',
  window: 'port',
  pinch: 'port',
  opening: 'port',
  'bowl depth': 'port',
  'port length': 'port',
  'port volume': 'port',
  'short turn height': 'port',
  'chamber volume': 'chamber',
  'chamber width': 'chamber',
  'valve spacing': 'chamber',
  'valve inclination': 'chamber',
  'spring installed height': 'springs',
  'spring seat force': 'springs',
  'spring open force': 'springs',
  'spring rate': 'springs',
};

const portOfCylinder = ({ whole, cylinder }: Specimen, side: Side): string | null =>
  (cylinder === null ? undefined : portOf(whole.ports, side, cylinder))?.id ?? null;

/** Shares of the port's length at which two surveys are held against each other. */
const SHARES: readonly (readonly [share: number, name: string])[] = [
  [0, 'at the opening'],
  [0.25, 'a quarter in'],
  [0.5, 'half-way in'],
  [0.75, 'three quarters in'],
];

function sizesOf(a: Specimen, b: Specimen, tolerances: readonly Tolerance[]): Likeness[] {
  const measures = [a, b].map((s) => measuresAt(s.whole, s.stageId));
  const sizes = MEASURE_ITEM_NAMES.filter((item) => !NOT_OF_THE_HEAD.includes(item)).flatMap((item) =>
    (MEASURE_ITEMS[item].sided ? SIDES : [null]).flatMap((side): Likeness[] => {
      const [va, vb] = [a, b].map((s, i) =>
        measured(measures[i]!, item, side, side === null ? null : portOfCylinder(s, side)),
      );
      if (va === undefined || vb === undefined) return [];
      const name = side === null ? item : `${side} ${item}`;
      return [likeness(name, GROUPS[item] ?? 'sizes', MEASURE_ITEMS[item].kind, va, vb, toleranceOf(item, tolerances))];
    }),
  );
  const sections = SIDES.flatMap((side): Likeness[] => {
    const [sa, sb] = [a, b].map((s) => {
      const survey = surveyAt(s.whole, s.stageId, side, portOfCylinder(s, side));
      return survey && evaluateSurvey(toCoreSections(survey));
    });
    if (!sa || !sb) return [];
    const twice = toleranceOf('pinch', tolerances);
    const held = (what: string, va: number | undefined, vb: number | undefined) =>
      va === undefined || vb === undefined ? [] : [likeness(`${side} area ${what}`, 'port', 'area', va, vb, twice)];
    return [
      ...SHARES.flatMap(([share, name]) => held(name, areaAt(sa, share * sa.length), areaAt(sb, share * sb.length))),
      ...held('at the choke', sa.choke?.area.value, sb.choke?.area.value),
    ];
  });
  return [...sizes, ...sections];
}

/** Sheets that may speak for a specimen on a side: of its port, ours before others', none of a port somebody touched. */
function sheetsOf(specimen: Specimen, side: Side, own: string | undefined): Sheet[] {
  const { whole, stageId, cylinder } = specimen;
  const touched = touchedPorts(whole.ports);
  const flowed = whole.sheets.filter((s) => s.stageId === stageId && speaks(s) && s.rows.some((r) => r[side]));
  const mine = flowed.filter((s) => s.sourceId === own && own !== undefined);
  const port = portOfCylinder(specimen, side);
  return (mine.length > 0 ? mine : flowed).filter((s) =>
    cylinder === null ? !isOnPort(s, touched) : port !== null && portIdOf(s, side) === port,
  );
}

interface SheetPair {
  readonly a: Sheet;
  readonly b: Sheet;
  readonly differs: readonly Aspect[];
}

/** The two sheets that stand least apart: one bench and one set-up first, then one port, then the newest. */
function nearestPair(a: Specimen, b: Specimen, side: Side, own: string | undefined): SheetPair | undefined {
  const pairs = sheetsOf(a, side, own).flatMap((sa) =>
    sheetsOf(b, side, own)
      .filter((sb) => sb !== sa)
      .map((sb): SheetPair => {
        const held = comparable(conditionsOf(sa, a.whole.ports, side), conditionsOf(sb, b.whole.ports, side), side);
        return { a: sa, b: sb, differs: held.aspects.filter((x) => x.state === 'differs') };
      }),
  );
  // Which runner it is belongs to the question, so it weighs least.
  const apart = (p: SheetPair) =>
    (p.a.sourceId === p.b.sourceId && p.a.sourceId !== null ? 0 : 100) +
    p.differs.reduce((sum, x) => sum + (x.what === 'port' ? 1 : 10), 0);
  const date = (p: SheetPair) => `${p.a.date ?? ''} ${p.b.date ?? ''}`;
  return pairs.sort((x, y) => apart(x) - apart(y) || date(y).localeCompare(date(x)))[0];
}

/**
 * Holds everything measured on both against each other, each difference against what measuring twice would give. Curves
 * taken on different benches or under conditions no formula converts are left out, and it is said why.
 */
export function sameOrNot(
  a: Specimen,
  b: Specimen,
  context: {
    readonly tolerances: readonly Tolerance[];
    readonly repeatability: Given<number>;
    readonly own: string | undefined;
    readonly names: { readonly a: string; readonly b: string };
    readonly say: Say;
  },
): SameResult {
  const { tolerances, repeatability, own, names, say } = context;
  const sigma = numberOf(repeatability);
  const leftOut: string[] = [];
  const flow: { intake?: FlowLikeness; exhaust?: FlowLikeness } = {};
  const curves: { side: Side; a: FlowCurve; b: FlowCurve }[] = [];
  for (const side of SIDES) {
    const pair = nearestPair(a, b, side, own);
    if (!pair) {
      leftOut.push(`There is no ${side} curve of both.`);
      continue;
    }
    const { a: sa, b: sb } = pair;
    if (sa.sourceId !== sb.sourceId || sa.sourceId === null) {
      leftOut.push(`The ${side} curves are not of one bench: a difference could be the bench’s.`);
      continue;
    }
    const differs = pair.differs.filter((x) => x.what !== 'port');
    if (differs.length > 0) {
      leftOut.push(`The ${side} curves cannot be compared. ${differs.map((x) => x.sentence).join(' ')}`);
      continue;
    }
    const [ca, cb] = [evaluated(a.whole, sa)[side].curve, evaluated(b.whole, sb)[side].curve];
    if (!ca || !cb) continue;
    curves.push({ side, a: ca, b: cb });
    const from = Math.max(ca.first.lift, cb.first.lift) - 1e-6;
    const to = Math.min(ca.last.lift, cb.last.lift) + 1e-6;
    const lifts = ca.points.map((p) => p.lift).filter((l) => l >= from && l <= to);
    flow[side] = flowLikeness(ca, cb, lifts, sigma, side, (lift) => say.of(lift, 'lift'));
    const [pa, pb] = [portName(a.whole.ports, portIdOf(sa, side)), portName(b.whole.ports, portIdOf(sb, side))];
    if (a.cylinder === null && pa && pb && pa !== pb)
      leftOut.push(`The ${side} curves are of ${pa} and of ${pb}: part of a difference may lie between runners.`);
  }
  const sizes = sizesOf(a, b, tolerances);
  const verdict = sameOrDifferent(sizes, flow);
  return { sizes, flow, curves, verdict, words: sameWords(verdict, names, say), leftOut };
}
