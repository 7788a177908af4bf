import type { CamProfile } from '../cam/profile.js';
import { dwellMean } from '../cam/dwell.js';
import { flowCurve, SAME_LIFT, type FlowCurve, type FlowPoint } from '../flow/curve.js';
import { backsUp, exhaustToIntake, knee, peak, peakWithin, stability, type BacksUp } from '../flow/describe.js';
import { doubts, type Doubt } from '../flow/doubt.js';
import {
  REFERENCE_DENSITY,
  REFERENCE_DEPRESSION,
  benchFactor,
  depressionCorrection,
  differentialReading,
  idealVelocity,
  leakage,
  meanOfPulls,
  percentReading,
  temperatureCorrection,
} from '../flow/reading.js';
import { USUAL_REPEATABILITY } from '../flow/compare.js';
import { deviation, mean } from '../method/mean.js';
import { noted, work, type Given, type Working } from '../method/method.js';
import { cfm } from '../quantity/units.js';
import { budgetOfWorking } from '../uncertainty/working.js';
import { seatBook } from '../valve/seatBook.js';
import { peakOf, pointLeaf } from './sheetRows.js';
import {
  USUAL_SEAT,
  curtainArea,
  curtainCoefficient,
  discCoefficient,
  minimumArea,
  minimumAreaCoefficient,
  throatArea,
  throatCoefficient,
  valveDiscArea,
  type ValveGeometry,
} from '../valve/areas.js';
import { alongUsualShape } from '../flow/usualShape.js';
import { refusal } from '../refusal/refusal.js';

// points.at()!, side.peak!: a curve has points and a peak.

export type Side = 'intake' | 'exhaust';
export const SIDES: readonly Side[] = ['intake', 'exhaust'];

/** What the bench shows: flow, percent of a flow range, percent of a differential range, or only a difference from something. */
export type Reads = 'flow' | 'percent' | 'differential' | 'difference';

export interface Reading {
  /** One value per pull: m³/s, or a share (0.425) when the bench reads percent. */
  readonly pulls: readonly number[];
  /** Full scale of the range this point was read on, in this direction, m³/s. */
  readonly fullScale?: number;
  /** Depression at this point when it was not the set one, Pa. */
  readonly depression?: number;
  readonly noisy?: boolean;
}

export interface SheetRow {
  readonly lift: number;
  readonly intake?: Reading;
  readonly exhaust?: Reading;
}

export interface SheetSetup {
  readonly reads: Reads;
  /** Pa; undefined when nobody stated it. */
  readonly depression?: number;
  readonly leak?: { readonly intake?: number; readonly exhaust?: number };
  /** Calibration factor of the bench. */
  readonly factor?: number;
  readonly meterTemperature?: number;
  readonly portTemperature?: number;
}

/** Valve of one side with how many of them the tested port feeds. */
export interface PortValve extends ValveGeometry {
  readonly valves: number;
}

/** The leak as this row saw it: read at the depression that was set, it goes with the root of the row's own. */
function leakAt(leak: number, reading: Reading, setup: SheetSetup): Given<number> {
  const { depression } = reading;
  if (depression === undefined || setup.depression === undefined || depression === setup.depression) return leak;
  return work(depressionCorrection, { flow: leak, depression: setup.depression, reference: depression });
}

/** One reading brought to 28 in, step by step, so that the working shows each step. @throws Refusal on a percent without its full scale. */
export function standardFlow(reading: Reading, setup: SheetSetup, side: Side): Working {
  const { pulls } = reading;
  let flow: Given<number> = pulls.length > 1 ? work(meanOfPulls, { pulls }) : noted(pulls[0]!, 'as read');
  if (setup.reads === 'percent' || setup.reads === 'differential') {
    if (reading.fullScale === undefined) throw refusal('noFullScale');
    flow = work(setup.reads === 'percent' ? percentReading : differentialReading, {
      reading: flow,
      fullScale: reading.fullScale,
    });
  }
  const leak = setup.leak?.[side];
  if (leak) flow = work(leakage, { flow, leak: leakAt(leak, reading, setup) });
  if (setup.factor !== undefined && setup.factor !== 1) flow = work(benchFactor, { flow, factor: setup.factor });
  const { meterTemperature: meter, portTemperature: port } = setup;
  if (meter !== undefined && port !== undefined && meter !== port)
    flow = work(temperatureCorrection, { flow, port, meter });
  const depression = reading.depression ?? setup.depression;
  return work(depressionCorrection, {
    flow,
    depression: depression ?? noted(REFERENCE_DEPRESSION, 'not stated; taken as 28 in'),
    reference: REFERENCE_DEPRESSION,
  });
}

export interface PointResult {
  readonly lift: number;
  /** Flow at 28 in. */
  readonly flow: Working;
  /** Pulls it is the mean of. */
  readonly pulls: number;
  /** Standard deviation of the pulls at 28 in, m³/s. */
  readonly spread?: number;
  readonly noisy: boolean;
  /** Lift over valve diameter. */
  readonly liftRatio?: number;
  readonly coefficients: Coefficients;
  /** More than the valve's least area passes: impossible beyond its uncertainty, a question to the figures within it. */
  readonly aboveOne?: AboveOne;
}

/** A coefficient on the minimum area above 1 by more than twice what its own sizes leave open, or only within it. */
export type AboveOne = 'beyond its uncertainty' | 'within its uncertainty';

export function aboveOne(minimum: Working | undefined, valve: PortValve | undefined): AboveOne | undefined {
  if (!minimum || !valve || minimum.value <= 1) return undefined;
  const u = budgetOfWorking(minimum, seatBook(valve))?.u ?? 0;
  return minimum.value - 1 > 2 * u ? 'beyond its uncertainty' : 'within its uncertainty';
}

export interface Coefficients {
  readonly curtain?: Working;
  readonly disc?: Working;
  readonly throat?: Working;
  readonly minimum?: Working;
}

export interface SideResult {
  readonly points: readonly PointResult[];
  /** Undefined with fewer than two points: one row is a known point, and no curve. */
  readonly curve?: FlowCurve;
  readonly peak?: FlowPoint;
  readonly knee?: number;
  readonly backsUp?: BacksUp;
  readonly stability?: Working;
  readonly doubts: readonly Doubt[];
}

/** What a sheet says of one side over one cam. */
export interface OverCam {
  /** Flow at the cam's own lift; undefined when the sheet stops short of it. */
  readonly atLift?: number;
  /** Best flow at or below the cam's lift. */
  readonly best: FlowPoint;
  readonly mean?: Working;
  /** The sheet stops below the cam's lift. */
  readonly stopsShort: boolean;
}

/** What 28 in of water drives through an ideal opening in reference air: the same for every point. */
const IDEAL_VELOCITY = work(idealVelocity, { depression: REFERENCE_DEPRESSION, density: REFERENCE_DENSITY });

/** Coefficients of one flow through one valve at one lift; sizes that were not measured take the usual ones, and say so. */
export function coefficientsAt(flow: Given<number>, lift: number, valve: PortValve): Coefficients {
  const { diameter, valves } = valve;
  const velocity = IDEAL_VELOCITY;
  const assumed = (value: number | undefined, usual: number, leaf: string): Given<number> =>
    noted(value ?? usual, value === undefined ? 'not measured; usual value' : '', leaf);
  const throat = assumed(valve.throat, diameter * USUAL_SEAT.throatRatio, 'seat.throat');
  const stem = assumed(valve.stem, USUAL_SEAT.stem, 'seat.stem');
  const minimum = work(minimumArea, {
    lift: noted(lift, '', 'lift'),
    diameter: noted(diameter, '', 'valve'),
    seatWidth: assumed(valve.seatWidth, USUAL_SEAT.width, 'seat.width'),
    seatAngle: assumed(valve.seatAngle, USUAL_SEAT.angle, 'seat.angle'),
    throat,
    stem,
    valves,
  });
  return {
    curtain: work(curtainCoefficient, {
      flow,
      area: work(curtainArea, {
        diameter: noted(diameter, '', 'valve'),
        lift: noted(lift, '', 'lift'),
        valves,
      }),
      velocity,
    }),
    disc: work(discCoefficient, { flow, area: work(valveDiscArea, { diameter, valves }), velocity }),
    throat: work(throatCoefficient, { flow, area: work(throatArea, { throat, stem, valves }), velocity }),
    minimum: work(minimumAreaCoefficient, { flow, area: minimum, velocity }),
  };
}

/** Standard deviation of pulls as a share of the flow: a differential is the flow squared, so its scatter counts half. */
function relativeSpread(pulls: readonly number[], reads: Reads): number | undefined {
  const scatter = deviation(pulls);
  const level = mean(pulls);
  return scatter === undefined || level <= 0 ? undefined : (scatter / level) * (reads === 'differential' ? 0.5 : 1);
}

/** One row of a side, with what its flow says through the valve. */
export function pointOfRow(
  lift: number,
  flow: Working,
  row: Pick<PointResult, 'pulls' | 'spread' | 'noisy'>,
  valve: PortValve | undefined,
): PointResult {
  const coefficients = valve ? coefficientsAt(flow, lift, valve) : {};
  const above = aboveOne(coefficients.minimum, valve);
  return {
    lift,
    flow,
    ...row,
    coefficients,
    ...(above ? { aboveOne: above } : {}),
    ...(valve ? { liftRatio: lift / valve.diameter } : {}),
  };
}

/**
 * Everything one side of a sheet says by itself. Rows without a reading for this side are left out. With the sheet's `id`
 * each flow carries its leaf.
 */
export function evaluateSide(
  setup: SheetSetup,
  rows: readonly SheetRow[],
  side: Side,
  valve?: PortValve,
  id?: string,
): SideResult {
  if (setup.reads === 'difference') return { points: [], doubts: [] };
  const points = rows.flatMap((row): PointResult[] => {
    const reading = row[side];
    if (!reading || reading.pulls.length === 0 || row.lift <= SAME_LIFT) return [];
    const read = standardFlow(reading, setup, side);
    const flow = id === undefined ? read : { ...read, leaf: pointLeaf(id, side, row.lift) };
    const scatter = relativeSpread(reading.pulls, setup.reads);
    return [
      pointOfRow(
        row.lift,
        flow,
        {
          pulls: reading.pulls.length,
          noisy: reading.noisy ?? false,
          ...(scatter === undefined ? {} : { spread: scatter * flow.value }),
        },
        valve,
      ),
    ];
  });
  return sideOf(points.sort((a, b) => a.lift - b.lift));
}

/** The valve the rows were read with, m; undefined where nobody measured it. */
const valveOf = (points: readonly PointResult[]): number | undefined => {
  const known = points.find((p) => p.liftRatio);
  return known?.liftRatio && known.lift / known.liftRatio;
};
/** What the valve passes at the row of a lift with nothing lost, m³/s. */
function mostAt(points: readonly PointResult[], lift: number): number | undefined {
  const row = points.find((p) => p.lift === lift);
  const minimum = row?.coefficients.minimum;
  return row && minimum && minimum.value > 0 ? row.flow.value / minimum.value : undefined;
}

/** Rows of one side, by rising lift, that break their curve; `beside` is the curve of another port, tested alike. */
export const doubtsOf = (points: readonly PointResult[], beside?: FlowCurve): readonly Doubt[] =>
  doubts(points.map(pointOf), 1 / cfm(1), 0, {
    valve: valveOf(points),
    most: (lift) => mostAt(points, lift),
    beside,
  });

/** What the rows of one side, by rising lift, say together. */
export function sideOf(points: readonly PointResult[]): SideResult {
  const curve = flowCurve(points.map((p) => ({ lift: p.lift, flow: p.flow.value })));
  if (!curve) return { points, doubts: [], ...(points[0] ? { peak: pointOf(points[0]) } : {}) };
  const top = peak(curve);
  const bend = knee(curve);
  const falls = backsUp(curve, USUAL_REPEATABILITY);
  return {
    points,
    curve,
    peak: top,
    doubts: doubtsOf(points),
    stability: work(stability, {
      last: points.at(-1)!.flow,
      peak: points.find((p) => Math.abs(p.lift - top.lift) < SAME_LIFT)?.flow ?? top.flow,
    }),
    ...(bend === undefined ? {} : { knee: bend }),
    ...(falls === undefined ? {} : { backsUp: falls }),
  };
}

const pointOf = (p: PointResult): FlowPoint => ({ lift: p.lift, flow: p.flow.value });

/** What one side says over one cam: from its curve, or from the only row it has. Undefined when nothing was read. */
export function sideOverCam(side: SideResult, maxLift: number | undefined, profile?: CamProfile): OverCam | undefined {
  if (side.curve) return overCam(side.curve, maxLift ?? side.peak!.lift, profile);
  const [only] = side.points;
  if (!only) return undefined;
  const at = maxLift === undefined || Math.abs(only.lift - maxLift) < SAME_LIFT;
  // A row beyond the cam's lift is what the port flows there, not what this engine opens it to.
  const best =
    at || only.lift < maxLift
      ? pointOf(only)
      : { lift: maxLift, flow: only.flow.value * alongUsualShape(only, maxLift).times };
  return {
    best,
    stopsShort: maxLift !== undefined && only.lift < maxLift - SAME_LIFT,
    ...(at && maxLift !== undefined ? { atLift: only.flow.value } : {}),
  };
}

/** What the cam's lift curve makes of a flow curve. `profile` may be missing (duration unknown): then no mean. */
export function overCam(curve: FlowCurve, maxLift: number, profile?: CamProfile): OverCam {
  const atLift = curve.at(maxLift);
  const stopsShort = atLift === undefined;
  return {
    best: peakWithin(curve, maxLift),
    stopsShort,
    ...(atLift === undefined ? {} : { atLift }),
    ...(profile && !stopsShort ? { mean: work(dwellMean, { curve, cam: profile }) } : {}),
  };
}

export interface SheetResult {
  readonly intake: SideResult;
  readonly exhaust: SideResult;
  /** Exhaust / intake at each lift both sides were measured. */
  readonly ratios: readonly { readonly lift: number; readonly ratio: Working }[];
  readonly peakRatio?: Working;
  readonly ratioDoubts: readonly number[];
}

/** The valves of the two ports a sheet was read on. */
export interface PortValves {
  readonly intake?: PortValve;
  readonly exhaust?: PortValve;
}

/** A whole sheet: both sides and how they stand to each other. With its `id` the figures carry their leaves. */
export function evaluateSheet(
  setup: SheetSetup,
  rows: readonly SheetRow[],
  valves: PortValves = {},
  id?: string,
): SheetResult {
  return sheetOf(
    evaluateSide(setup, rows, 'intake', valves.intake, id),
    evaluateSide(setup, rows, 'exhaust', valves.exhaust, id),
    id,
  );
}

/** Both sides, and how they stand to each other. */
export function sheetOf(intake: SideResult, exhaust: SideResult, id?: string): SheetResult {
  const named = (side: Side) => (id === undefined ? undefined : peakOf(id, side));
  const ratios = intake.points.flatMap((i) => {
    const e = exhaust.points.find((p) => Math.abs(p.lift - i.lift) < SAME_LIFT);
    return e && i.flow.value > 0
      ? [{ lift: i.lift, ratio: work(exhaustToIntake, { exhaust: e.flow, intake: i.flow }) }]
      : [];
  });
  const ratioDoubts = doubts(
    ratios.map((r) => ({ lift: r.lift, flow: r.ratio.value })),
    1,
    0,
    { flat: true },
  ).map((d) => ratios[d.index]!.lift);
  return {
    intake,
    exhaust,
    ratios,
    ratioDoubts,
    ...(intake.peak && exhaust.peak && intake.peak.flow > 0
      ? {
          peakRatio: work(exhaustToIntake, {
            exhaust: noted(exhaust.peak.flow, 'peak', named('exhaust')),
            intake: noted(intake.peak.flow, 'peak', named('intake')),
          }),
        }
      : {}),
  };
}
