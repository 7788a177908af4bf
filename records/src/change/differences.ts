/** Everything that changed from one stage to the next beside the flow, and what was looked at again and did not. */
import {
  SIDES,
  compressionRatio,
  evaluateSurvey,
  uniformityIndex,
  workIf,
  type Kind,
  type Side,
  type SideResult,
} from '@alluvium/core';
import { toleranceOf } from '../arrival/stated.js';
import { mapAt } from '../bench/map.js';
import { swirlOf } from '../bench/session.js';
import type { WholeHead } from '../api.js';
import type { Stage } from '../nouns/head.js';
import type { Tolerance } from '../nouns/measure.js';
import { MEASURE_ITEMS, MEASURE_ITEM_NAMES } from '../nouns/measureItems.js';
import type { Sheet } from '../nouns/sheet.js';
import { toCoreSections } from '../sections.js';
import { measuresAt } from '../select.js';
import { measured } from '../toCore.js';
import type { StageGain } from './stageGain.js';

// x.liftRatio!, y.liftRatio!: points that have one.

export interface StageDifference {
  readonly what: string;
  readonly kind: Kind;
  readonly before: number;
  readonly after: number;
  /** More than measuring twice would give. */
  readonly changed: boolean;
}

/** A share below which two figures that nobody set a tolerance for are one. Common practice, no source. */
const SAME = 0.01;

const difference = (
  what: string,
  kind: Kind,
  before: number | undefined,
  after: number | undefined,
  by?: number,
): StageDifference[] =>
  before === undefined || after === undefined
    ? []
    : [{ what, kind, before, after, changed: Math.abs(after - before) > (by ?? SAME * Math.abs(before)) }];

function ofSizes(whole: WholeHead, before: Stage, after: Stage, tolerances: readonly Tolerance[]): StageDifference[] {
  const [a, b] = [measuresAt(whole, before.id), measuresAt(whole, after.id)];
  return MEASURE_ITEM_NAMES.flatMap((item) =>
    (MEASURE_ITEMS[item].sided ? SIDES : [null]).flatMap((side) => {
      // Only what was taken again at the later stage says anything of the cut.
      const again = whole.measures.some(
        (m) => m.stageId === after.id && m.item === item && m.side === side && m.sourceId === null,
      );
      if (!again) return [];
      const name = side === null ? item : `${side} ${item}`;
      return difference(
        name,
        MEASURE_ITEMS[item].kind,
        measured(a, item, side),
        measured(b, item, side),
        toleranceOf(item, tolerances),
      );
    }),
  );
}

function ofSurveys(whole: WholeHead, before: Stage, after: Stage): StageDifference[] {
  return SIDES.flatMap((side) => {
    const [a, b] = [before, after].map((stage) => {
      const survey = whole.surveys.find((s) => s.stageId === stage.id && s.side === side && s.sections.length > 1);
      return survey && evaluateSurvey(toCoreSections(survey));
    });
    return [
      ...difference(`${side} choke, surveyed`, 'area', a?.choke?.area.value, b?.choke?.area.value),
      ...difference(`${side} volume of the sections`, 'volume', a?.volume?.value, b?.volume?.value),
    ];
  });
}

function ofMaps(whole: WholeHead, before: Stage, after: Stage): StageDifference[] {
  return SIDES.flatMap((side) => {
    const [a, b] = [before, after].map((stage) => {
      const reading = mapAt(whole, stage.id, side)?.reading;
      return reading && uniformityIndex.compute({ velocities: reading.velocities, areas: reading.areas });
    });
    return difference(`${side} velocity map, uniformity`, 'ratio', a, b);
  });
}

/** The coefficient on the curtain at the row nearest to a quarter of the valve's diameter, where both have it. */
function coefficientOf({ points }: SideResult): number | undefined {
  const known = points.filter((p) => p.coefficients.curtain && p.liftRatio !== undefined);
  const near = known.sort((x, y) => Math.abs(x.liftRatio! - 0.25) - Math.abs(y.liftRatio! - 0.25))[0];
  return near?.coefficients.curtain?.value;
}
const topSwirl = (sheet: Sheet): number | undefined => swirlOf(sheet).points.at(-1)?.speed;

function ofFlow(gains: readonly StageGain[]): StageDifference[] {
  const own = gains.flatMap(({ side, before, after }) => [
    ...difference(`${side} peak`, 'flow', before.result.peak?.flow, after.result.peak?.flow, 0),
    ...difference(`${side} knee`, 'lift', before.result.knee, after.result.knee, 5e-4),
    ...difference(
      `${side} coefficient at a quarter of the valve`,
      'ratio',
      coefficientOf(before.result),
      coefficientOf(after.result),
    ),
  ]);
  const of = (side: Side) => gains.find((g) => g.side === side);
  const [intake, exhaust] = [of('intake'), of('exhaust')];
  const share = (when: 'before' | 'after') => {
    const [i, e] = [intake?.[when].result.peak?.flow, exhaust?.[when].result.peak?.flow];
    return i && e ? e / i : undefined;
  };
  return [
    ...own,
    ...difference('exhaust / intake', 'percent', share('before'), share('after')),
    ...(intake
      ? difference('swirl at the last lift', 'rotation', topSwirl(intake.before.sheet), topSwirl(intake.after.sheet))
      : []),
  ];
}

/** Compression with the sizes of each stage, where all its parts are known and the cylinder is. */
function ofCompression(whole: WholeHead, before: Stage, after: Stage, cylinderVolume: number | undefined) {
  const at = (stage: Stage) => {
    const measures = measuresAt(whole, stage.id);
    const of = (item: 'chamber volume' | 'gasket volume' | 'deck volume' | 'piston dish') =>
      measured(measures, item, null);
    return workIf(compressionRatio, {
      cylinderVolume,
      chamber: of('chamber volume'),
      gasket: of('gasket volume'),
      deck: of('deck volume'),
      piston: of('piston dish'),
    })?.value;
  };
  const parts = ['chamber volume', 'gasket volume', 'deck volume', 'piston dish'];
  const again = whole.measures.some((m) => m.stageId === after.id && parts.includes(m.item));
  return again ? difference('compression', 'compression', at(before), at(after), 0.05) : [];
}

/** What was looked at on both stages. What changed comes first. */
export function differencesOf(
  whole: WholeHead,
  before: Stage,
  after: Stage,
  gains: readonly StageGain[],
  { tolerances = [], cylinderVolume }: { tolerances?: readonly Tolerance[]; cylinderVolume?: number | undefined } = {},
): StageDifference[] {
  return [
    ...ofSizes(whole, before, after, tolerances),
    ...ofSurveys(whole, before, after),
    ...ofCompression(whole, before, after, cylinderVolume),
    // A flow of another test says nothing of the cut.
    ...ofFlow(gains.filter((g) => g.credited)),
    ...ofMaps(whole, before, after),
  ].sort((a, b) => Number(b.changed) - Number(a.changed));
}
