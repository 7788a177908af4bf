/** What the metal's budget would carry: the figures of it, without the work of growing outlines. */
import { speedOfArea } from '../engine/engine.js';
import type { Build, TargetResult } from '../evaluate/target.js';
import { windowRule } from '../head/ratios.js';
import { noted, work, type Working } from '../method/method.js';
import { peakFlowPower } from '../power/schools.js';
import type { Point } from './shape.js';
import type { Neighbour, Section, SurveyResult, WallSide } from './survey.js';

/** How far one wall may go back. */
export interface Allowance {
  readonly side: WallSide;
  readonly thickness: number;
  readonly floor: number;
  readonly behind: Neighbour;
  /** Metal above the floor; below zero the wall is too thin already. */
  readonly spare: number;
}

export interface SectionBudget {
  readonly section: Section;
  readonly walls: readonly Allowance[];
  /** The wall with the least to give. */
  readonly holds?: Allowance;
  /** Area now and at most, square to the flow, m². Sides whose wall was not measured stay where they are. */
  readonly area: number;
  readonly largest: number;
  readonly outline: readonly Point[];
}

export interface StationBudget {
  readonly station: number;
  readonly area: number;
  readonly largest: number;
  readonly sections: readonly SectionBudget[];
}

/** A surveyed station as plain figures, so that a worker can be handed it. */
export interface PlainStation {
  readonly station: number;
  readonly sections: readonly { readonly section: Section; readonly area: number }[];
}

export const plainStations = (survey: SurveyResult): PlainStation[] =>
  survey.stations.map((s) => ({
    station: s.station,
    sections: s.sections.map((x) => ({ section: x.section, area: x.area.value })),
  }));

export interface MetalBudget {
  readonly stations: readonly StationBudget[];
  /** The least area once every section is as large as its walls allow. */
  readonly choke?: StationBudget;
  /** What that choke would carry, by method. */
  readonly speed?: Working;
  readonly flow?: Working;
  readonly power?: Working;
  /** Walls under their floor already. */
  readonly thin: readonly { readonly station: number; readonly wall: Allowance }[];
}

/** Stations whose areas differ by less than this share are one choke. */
const SAME_AREA = 0.002;
const hasWall = (s: StationBudget): boolean => s.sections.some((x) => x.holds !== undefined);

/** The station of the least area once every section is as large as its walls allow; of several alike, one whose walls are known. */
function chokeOf(stations: readonly StationBudget[]): StationBudget | undefined {
  const least = Math.min(...stations.map((s) => s.largest));
  const tied = stations.filter((s) => s.largest <= least * (1 + SAME_AREA));
  return tied.find(hasWall) ?? tied[0];
}

/**
 * What a budget's choke would carry, against a build's target when one is given. Where no wall is known at the choke, nothing
 * is said to be carried: how far it may grow is not known.
 */
export function budgetCarries(
  stations: readonly StationBudget[],
  target?: { readonly build: Build; readonly result: TargetResult },
): MetalBudget {
  const choke = chokeOf(stations);
  const thin = stations.flatMap((s) =>
    s.sections.flatMap((x) => x.walls.filter((w) => w.spare < -1e-9).map((wall) => ({ station: s.station, wall }))),
  );
  if (!choke) return { stations, thin };
  if (!hasWall(choke)) return { stations, choke, thin };
  const area = noted(choke.largest, 'choke, as large as the walls allow');
  const flow = work(windowRule, { window: area });
  if (!target) return { stations, choke, flow, thin };
  const { build, result } = target;
  return {
    stations,
    choke,
    flow,
    speed: work(speedOfArea, {
      area,
      ...result.sizes,
      limit: result.velocityLimit,
      ratio: result.pistonRatio,
    }),
    ...(result.powerPerFlow === undefined
      ? {}
      : {
          power: work(peakFlowPower, {
            powerPerFlow: result.powerPerFlow,
            flow,
            cylinders: build.cylinders,
            charge: result.charge,
          }),
        }),
    thin,
  };
}
