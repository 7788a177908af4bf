/** Whether two heads, stages or ports are the same, from everything that is known of both. */
import {
  SIDES,
  areaAt,
  comparable,
  crossingOdds,
  evaluateSurvey,
  flowCurve,
  flowLikeness,
  likeness,
  numberOf,
  sameOrDifferent,
  sameWords,
  USUAL_ASSUMPTIONS,
  type Aspect,
  type Crossing,
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
import { differencePoints } from '../compare/differences.js';
import { evaluated } from './evaluated.js';
import type { Measure, Tolerance } from '../nouns/measure.js';
import { MEASURE_ITEMS, MEASURE_ITEM_NAMES, type MeasureItem } from '../nouns/measureItems.js';
import type { Sheet } from '../nouns/sheet.js';
import { toCoreSections } from '../sections.js';
import { isOnPort, measuresAt, portName, speaks, surveyAt, touchedPorts } from '../select.js';
import { measured } from '../toCore.js';
import { conditionsOf, portIdOf } from './conditions.js';

// measures[]!: one for each of the two.
// portName()!: a port of the head itself.

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
  /** Where curves change places, each with its odds. */
  readonly crossings: readonly (Crossing & { readonly side: Side })[];
  /** What is seen on both without measuring: material, class, valves, what was done before they came. */
  readonly seen: readonly Seen[];
  /** What to measure next: it was measured on one of the two only. */
  readonly settles: readonly string[];
  /** What could not be held against each other, and why. */
  readonly leftOut: readonly string[];
}

/** One feature of both as it is seen. */
export interface Seen {
  readonly what: string;
  readonly a: string;
  readonly b: string;
  readonly same: boolean;
}

/** Features of the two heads that are noted of both. */
function seenOf(a: Specimen, b: Specimen): Seen[] {
  const [ha, hb] = [a.whole.head, b.whole.head];
  const pairs: readonly (readonly [what: string, a: string, b: string])[] = [
    ['class', ha.class, hb.class],
    ['material', ha.material, hb.material],
    ['intake valves a cylinder', String(ha.intakeValves), String(hb.intakeValves)],
    ['exhaust valves a cylinder', String(ha.exhaustValves), String(hb.exhaustValves)],
    ['number on the casting', ha.catalogueNumber, hb.catalogueNumber],
  ];
  return pairs.flatMap(([what, x, y]) =>
    [x, y].some((v) => v === '' || v === 'unknown') ? [] : [{ what, a: x, b: y, same: x === y }],
  );
}

/** What casts are told apart by, best first: sizes no hand changes, then those a cut changes, then the valve job. */
const TELLING: readonly MeasureItem[] = [
  'valve spacing',
  'valve inclination',
  'casting weight',
  'port volume',
  'short turn height',
  'chamber width',
  'chamber volume',
  'pinch',
  'window',
  'opening',
  'bowl',
  'throat',
  'valve diameter',
  'seat angle',
  'back-cut angle',
];
const MOST_TO_SETTLE = 3;

/** What was measured on one of the two and not on the other, the most telling first, as something to do. */
function settlesOf(a: Specimen, b: Specimen, names: { readonly a: string; readonly b: string }): string[] {
  const [ma, mb] = [a, b].map((s) => measuresAt(s.whole, s.stageId).filter((m) => m.sourceId === null)) as [
    Measure[],
    Measure[],
  ];
  const holds = (list: readonly Measure[], item: MeasureItem, side: Side | null) =>
    list.some((m) => m.item === item && m.side === side);
  return TELLING.flatMap((item) =>
    (MEASURE_ITEMS[item].sided ? SIDES : [null]).flatMap((side): string[] => {
      const [onA, onB] = [holds(ma, item, side), holds(mb, item, side)];
      if (onA === onB) return [];
      return [`Measure the ${side ? `${side} ` : ''}${item} of ${onA ? names.b : names.a}: the other’s is known.`];
    }),
  ).slice(0, MOST_TO_SETTLE);
}

/** Ports of a specimen somebody worked on before it came: foreign work tells nothing of the casting. */
function touchedOf({ whole, cylinder }: Specimen, name: string): string[] {
  return whole.ports
    .filter((p) => p.touched !== '' && (cylinder === null || p.number === cylinder))
    .map(
      (p) =>
        `The ${p.side} of ${portName(whole.ports, p.id)!} of ${name} was worked on before it came (${p.touched}): ${cylinder === null ? 'it is left out' : 'a difference may be that work, not the casting'}.`,
    );
}

/**
 * Two curves from a sheet of differences: the one it was taken against, and that with the differences on it. Undefined where
 * no such sheet ties the two on this side.
 */
function byDifferences(
  a: Specimen,
  b: Specimen,
  side: Side,
): { a: FlowCurve; b: FlowCurve; title: string } | undefined {
  for (const [from, to, isA] of [
    [a, b, true],
    [b, a, false],
  ] as const)
    for (const sheet of from.whole.sheets) {
      if (sheet.stageId !== from.stageId || sheet.setup.reads !== 'difference' || sheet.setAside !== '') continue;
      const base = to.whole.sheets.find((s) => s.id === sheet.baselineId && s.stageId === to.stageId);
      const curve = base && evaluated(to.whole, base)[side].curve;
      if (!curve) continue;
      const moved = flowCurve(
        differencePoints(sheet, side).flatMap(({ lift, difference }) => {
          const flow = curve.at(lift);
          return flow === undefined || flow + difference <= 0 ? [] : [{ lift, flow: flow + difference }];
        }),
      );
      if (moved) return { ...(isA ? { a: moved, b: curve } : { a: curve, b: moved }), title: sheet.title };
    }
  return undefined;
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
  const hold = (side: Side, ca: FlowCurve, cb: FlowCurve) => {
    curves.push({ side, a: ca, b: cb });
    const from = Math.max(ca.first.lift, cb.first.lift) - 1e-6;
    const to = Math.min(ca.last.lift, cb.last.lift) + 1e-6;
    const lifts = ca.points.map((p) => p.lift).filter((l) => l >= from && l <= to);
    flow[side] = flowLikeness(ca, cb, lifts, sigma, side, (lift) => say.of(lift, 'lift'));
  };
  for (const side of SIDES) {
    // One against the other on one day says more of their difference than two sheets do.
    const tied = byDifferences(a, b, side);
    if (tied) {
      hold(side, tied.a, tied.b);
      leftOut.push(`The ${side} is held by the differences of “${tied.title}”, taken one against the other.`);
      continue;
    }
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
    hold(side, ca, cb);
    const [pa, pb] = [portName(a.whole.ports, portIdOf(sa, side)), portName(b.whole.ports, portIdOf(sb, side))];
    if (a.cylinder === null && pa && pb && pa !== pb)
      leftOut.push(`The ${side} curves are of ${pa} and of ${pb}: part of a difference may lie between runners.`);
  }
  const sizes = sizesOf(a, b, tolerances);
  const verdict = sameOrDifferent(sizes, flow);
  const { setup } = USUAL_ASSUMPTIONS;
  return {
    sizes,
    flow,
    curves,
    verdict,
    words: sameWords(verdict, names, say),
    crossings: curves.flatMap(({ side, a: ca, b: cb }) =>
      crossingOdds(ca, cb, sigma, setup).map((c) => ({ ...c, side })),
    ),
    seen: seenOf(a, b),
    settles: settlesOf(a, b, names),
    leftOut: [...leftOut, ...touchedOf(a, names.a), ...touchedOf(b, names.b)],
  };
}
