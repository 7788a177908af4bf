/**
 * What one head is to the simulation, as plain JSON: its sheets, its sizes, the engine, and every value that is assumed,
 * each by its name and with how far it may be off. A model is made of it at any set of those values.
 */
import { camProfiles, type Build } from '../evaluate/target.js';
import { exhaustCentreline } from '../cam/profile.js';
import type { FlowPoint } from '../flow/curve.js';
import { inches, degrees } from '../quantity/units.js';
import type { Kind } from '../quantity/units.js';
import type { Leaf } from '../uncertainty/leaf.js';
import { fitValve, selfTest, type ValveFit } from './bench.js';
import { FUEL_FIGURES, USUAL_FRICTION } from './cylinder.js';
import { pipeAreaAt, pipesJoined, plainPipe, type AreaPoint } from './grid.js';
import type { CylinderModel, EngineModel, Lobe } from './model.js';
import { refusal } from '../refusal/refusal.js';

// intakePort.at()!, exhaustPort.at()!: a pipe has points.
// intake!, exhaust!: looked for in front of it.

/** Pipes of the engine as they are known; whatever is left out is assumed. */
export interface Pipework {
  readonly runnerLength?: number;
  readonly runnerArea?: number;
  readonly plenumVolume?: number;
  /** Effective area of the plenum's inlet: throttle, carburettor. */
  readonly inletArea?: number;
  readonly primaryLength?: number;
  readonly primaryArea?: number;
  /** Above the air around, at the target speed, Pa. */
  readonly backPressure?: number;
}

/** One runner of a head: what was flowed, and how the port runs. SI. */
export interface PortSetup {
  readonly name: string;
  readonly intake: readonly FlowPoint[];
  /** Undefined where the exhaust was not flowed. */
  readonly exhaust?: readonly FlowPoint[];
  /** From the flange to the valve, and from the valve to the flange; of the whole cylinder. */
  readonly intakePort: readonly AreaPoint[];
  readonly exhaustPort: readonly AreaPoint[];
}

/** How one assumed value is written and how far it may be off, half a range. */
export interface Assumed {
  readonly id: AssumedId;
  readonly label: string;
  readonly value: number;
  readonly half: number;
  readonly kind: Kind;
  /** Stated for this engine, or taken as usual. */
  readonly note: string;
  /** Which leaf it is: the same id in two heads is the same thing. */
  readonly leaf: string;
}

export const ASSUMED = [
  'runnerLength',
  'runnerArea',
  'plenumVolume',
  'inletArea',
  'primaryLength',
  'primaryArea',
  'backPressure',
  'wallIntake',
  'exhaustArea',
  'intakeSheet',
  'exhaustSheet',
  'liftZero',
  'ramp',
  'completeness',
  'burnDuration',
  'friction',
] as const;
export type AssumedId = (typeof ASSUMED)[number];
export type Values = Readonly<Record<AssumedId, number>>;

export interface SimulationSetup {
  readonly bore: number;
  readonly stroke: number;
  readonly rod: number;
  readonly cylinders: number;
  readonly compression: number;
  readonly fuel: Build['fuel'];
  readonly induction: Build['induction'];
  readonly cam: {
    readonly intake: Omit<Lobe, 'centre' | 'lash'>;
    readonly exhaust: Omit<Lobe, 'centre' | 'lash'>;
    readonly lobeSeparation: number;
    readonly intakeCentreline: number;
  };
  /** The air around: what filling and power are counted against. */
  readonly around: { readonly p: number; readonly T: number };
  /** Speed the build asks for, turns a second. */
  readonly speed: number;
  readonly ports: readonly PortSetup[];
  readonly assumed: readonly Assumed[];
  /** What is said beside the curve: pieces that were not known and what stands for them. */
  readonly said: readonly string[];
}

/** Powers are of the air SAE J1349 corrects to: 990 mbar dry, 25 °C. */
export const AROUND = { p: 99_000, T: 298.15 };
/** Share of the intake's flow an exhaust that was not flowed is taken to have (common practice, no source). */
const USUAL_EXHAUST = 0.75;
const USUAL_SEPARATION = degrees(110);

export interface HeadSetup {
  readonly ports: readonly PortSetup[];
  /** Standard uncertainty of the sheets as shares, and which sheet it is. */
  readonly sheet: { readonly id: string; readonly intake: number; readonly exhaust: number };
  /** Its own chamber's, where it differs from the build's. */
  readonly compression?: number;
  readonly said?: readonly string[];
}

/**
 * @throws Refusal with a sentence where the engine or the head cannot be run: no cam, no sheet, a bore smaller than
 * the valve.
 */
export function simulationSetup(
  build: Build,
  sizes: { bore: number; stroke: number },
  head: HeadSetup,
  pipes: Pipework = {},
): SimulationSetup {
  const { bore, stroke } = sizes;
  const said: string[] = [...(head.said ?? [])];
  if (!build.cam) throw refusal('buildWithoutCam');
  const { cam } = build;
  if (cam.intakeDuration === undefined) throw refusal('camWithoutDuration');
  if (head.ports.length === 0) throw refusal('intakeNotFlowed');
  const { intake, exhaust } = camProfiles(cam);
  const lobe = (p: NonNullable<typeof intake>) => ({
    maxLift: p.maxLift,
    halfDuration: p.halfDuration,
    fullness: p.fullness,
  });
  for (const port of head.ports) {
    const last = Math.max(...port.intake.map((p) => p.lift));
    if (last < cam.intakeLift * 0.98)
      said.push(`${port.name}: the sheet ends below the cam’s lift; its last flow is held beyond it.`);
    if (!port.exhaust) said.push(`${port.name}: no exhaust sheet; 75 % of the intake’s flow is assumed, within ±15 %.`);
    const throat = pipeAreaAt(port.intakePort, port.intakePort.at(-1)!.x);
    if (throat > 0.6 * (Math.PI / 4) * bore ** 2) throw refusal('throatOverBore', port.name, bore);
  }
  if (cam.lobeSeparation === undefined) said.push('Lobe separation is not known; 110° is assumed.');
  if (cam.intakeCentreline === undefined) said.push('The intake centreline is not known; 4° advanced is assumed.');
  if (build.compression === undefined && head.compression === undefined)
    said.push('Compression is not known; 10:1 is assumed.');
  if (build.rod === undefined) said.push('The rod is not known; 1.6 strokes are assumed.');
  const lobeSeparation = cam.lobeSeparation ?? USUAL_SEPARATION;
  const compression = head.compression ?? build.compression ?? 10;
  return {
    bore,
    stroke,
    rod: build.rod ?? 1.6 * stroke,
    cylinders: build.cylinders,
    compression,
    fuel: build.fuel,
    induction: build.induction,
    cam: {
      intake: lobe(intake!),
      exhaust: lobe(exhaust!),
      lobeSeparation,
      intakeCentreline: cam.intakeCentreline ?? lobeSeparation - degrees(4),
    },
    around: AROUND,
    speed: build.speed,
    ports: head.ports,
    assumed: assumedOf(build, { bore, stroke }, head, pipes),
    said: [
      ...said,
      'Combustion is the same for every head: it does not see swirl, squish or the chamber’s shape.',
      'The exhaust ends at a constant pressure: tuning of a collector is not shown.',
      ...(build.induction.kind === 'boosted' ? ['The compressor is taken as driven by the crank.'] : []),
    ],
  };
}

/** Values that are not measured, each stated for this engine or usual (common practice, no source), and their ranges. */
function assumedOf(
  build: Build,
  { bore, stroke }: { bore: number; stroke: number },
  head: HeadSetup,
  pipes: Pipework,
): Assumed[] {
  const volume = (Math.PI / 4) * bore ** 2 * stroke * build.cylinders;
  const port = head.ports[0]!;
  const flange = port.intakePort[0]!.area;
  const outlet = port.exhaustPort.at(-1)!.area;
  const fuel = FUEL_FIGURES[build.fuel];
  const of = (
    id: AssumedId,
    label: string,
    kind: Kind,
    stated: number | undefined,
    usual: number,
    halfStated: number,
    halfUsual: number,
    leaf = id as string,
  ): Assumed => ({
    id,
    label,
    kind,
    value: stated ?? usual,
    half: stated === undefined ? halfUsual : halfStated,
    note: stated === undefined ? 'usual value; common practice, no source' : 'stated for this build',
    leaf,
  });
  const runner = pipes.runnerLength;
  const primary = pipes.primaryLength;
  const inlet = (volume * build.speed) / 2 / 70;
  const usualRunner = 0.28;
  const usualPrimary = 0.75;
  return [
    of('runnerLength', 'runner length, plenum to head', 'length', runner, usualRunner, 0.005, 0.1 * usualRunner),
    of('runnerArea', 'runner area', 'area', pipes.runnerArea, flange * 1.05, 0.03 * flange, 0.1 * flange),
    of('plenumVolume', 'plenum volume', 'volume', pipes.plenumVolume, 0.8 * volume, 0.1 * volume, 0.4 * volume),
    of('inletArea', 'flowing area of the inlet', 'area', pipes.inletArea, inlet, 0.1 * inlet, 0.25 * inlet),
    of('primaryLength', 'exhaust pipe length', 'length', primary, usualPrimary, 0.01, 0.2 * usualPrimary),
    of('primaryArea', 'exhaust pipe area', 'area', pipes.primaryArea, outlet * 1.15, 0.03 * outlet, 0.15 * outlet),
    of('backPressure', 'back pressure at the target speed', 'pressure', pipes.backPressure, 8e3, 2e3, 6e3),
    of('wallIntake', 'wall of the intake', 'temperature', undefined, 345, 0, 20),
    of('exhaustArea', 'exhaust flow hot against the cold bench', 'ratio', undefined, 1, 0, 0.1),
    of(
      'intakeSheet',
      'the intake’s sheet',
      'ratio',
      undefined,
      1,
      0,
      Math.sqrt(3) * head.sheet.intake,
      `sheet:${head.sheet.id}:intake`,
    ),
    of(
      'exhaustSheet',
      'the exhaust’s sheet',
      'ratio',
      undefined,
      1,
      0,
      port.exhaust ? Math.sqrt(3) * head.sheet.exhaust : 0.15,
      `sheet:${head.sheet.id}:exhaust`,
    ),
    of('liftZero', 'zero of the lift: lash and wear', 'lift', undefined, 0, 0, inches(0.004)),
    of('ramp', 'half the seat-to-seat duration against the card', 'angle', undefined, 0, 0, degrees(3)),
    of('completeness', 'share of the fuel that burns', 'percent', undefined, fuel.completeness, 0, 0.03),
    of('burnDuration', 'duration of combustion', 'angle', undefined, fuel.duration, 0, degrees(10)),
    of('friction', 'friction against the usual line', 'ratio', undefined, 1, 0, 0.2),
  ];
}

export const valuesOf = (setup: SimulationSetup): Values =>
  Object.fromEntries(setup.assumed.map((a) => [a.id, a.value])) as unknown as Values;

/** What would make an assumption known: the act, the share of its range that is left, and minutes. Common practice, no source. */
const SETTLES: Partial<Record<AssumedId, readonly [act: string, left: number, minutes: number]>> = {
  runnerLength: ['measure the runner’s length', 0.1, 10],
  runnerArea: ['measure the runner’s section', 0.2, 15],
  plenumVolume: ['pour the plenum', 0.1, 20],
  inletArea: ['measure the throttle', 0.3, 10],
  primaryLength: ['measure the exhaust pipe’s length', 0.1, 10],
  primaryArea: ['measure the exhaust pipe’s bore', 0.2, 10],
  backPressure: ['tap the exhaust for its back pressure', 0.2, 60],
  intakeSheet: ['flow the intake again, set up anew', 0.7, 40],
  exhaustSheet: ['flow the exhaust again, with its pipe', 0.7, 40],
  liftZero: ['set the lash and the dial’s zero', 0.3, 20],
  ramp: ['read the cam at two heights', 0.3, 40],
};

/** The assumption as a leaf of the uncertainty: anything in its range alike. */
export function leafOfAssumed(a: Assumed): Leaf {
  const settles = SETTLES[a.id];
  return {
    id: `simulation:${a.leaf}`,
    label: a.label,
    value: a.value,
    kind: a.kind,
    spread: { shape: 'uniform', half: a.half },
    source: a.note,
    ...(settles && a.half > 0
      ? { settle: { act: settles[0], after: (settles[1] * a.half) / Math.sqrt(3), minutes: settles[2] } }
      : {}),
  };
}

/** Valves of every port through the virtual bench, on a grid; kept by whoever runs many points. */
export interface Fits {
  readonly cell: number;
  readonly ports: readonly { readonly intake: ValveFit; readonly exhaust: ValveFit }[];
}

export function fitPorts(setup: SimulationSetup, cell: number): Fits {
  return {
    cell,
    ports: setup.ports.map((port) => ({
      intake: fitValve('intake', port.intake, port.intakePort, cell),
      exhaust: fitValve(
        'exhaust',
        port.exhaust ?? port.intake.map((p) => ({ lift: p.lift, flow: USUAL_EXHAUST * p.flow })),
        port.exhaustPort,
        cell,
      ),
    })),
  };
}

export interface BenchTest {
  readonly rows: number;
  /** The greatest share a row is off, and the lifts at which the port as measured cannot pass what the sheet says. */
  readonly worst: number;
  readonly full: readonly number[];
}

/** Whether the model gives every row of the sheets back. */
export function testBench(setup: SimulationSetup, { cell, ports }: Fits): BenchTest {
  const tested = ports.flatMap((fit, i) =>
    (['intake', 'exhaust'] as const).map((side) => ({
      full: fit[side].full,
      rows: selfTest(side, fit[side], setup.ports[i]![`${side}Port`], cell).filter(
        (r) => !fit[side].full.includes(r.lift),
      ),
    })),
  );
  const rows = tested.flatMap((t) => t.rows);
  return {
    rows: rows.length,
    worst: Math.max(0, ...rows.map((r) => Math.abs(r.off))),
    full: [...new Set(tested.flatMap((t) => t.full))],
  };
}

/** The sheet's own cam, or another: lobes with their places. */
export interface CamAt {
  readonly lobeSeparation: number;
  readonly intakeCentreline: number;
}

/** How far two cams are apart: the greater of the two angles. */
export const camsApart = (a: CamAt, b: CamAt): number =>
  Math.max(Math.abs(a.lobeSeparation - b.lobeSeparation), Math.abs(a.intakeCentreline - b.intakeCentreline));

/** The engine at these values. `fits` are of the grid it will run on. */
export function engineModel(
  setup: SimulationSetup,
  fits: Fits,
  values: Values = valuesOf(setup),
  at: CamAt = setup.cam,
): EngineModel {
  const { cam, induction } = setup;
  const fuel = FUEL_FIGURES[setup.fuel];
  const boosted = induction.kind === 'boosted';
  const supply = boosted
    ? { p: setup.around.p * induction.pressureRatio, T: induction.chargeTemperature }
    : { p: setup.around.p, T: setup.around.T };
  const lobe = (base: Omit<Lobe, 'centre' | 'lash'>, centre: number): Lobe => ({
    ...base,
    halfDuration: base.halfDuration + values.ramp,
    centre,
    lash: values.liftZero,
  });
  const scaled = ({ area }: ValveFit, by: number) => ({ lift: area.lift, open: area.open.map((o) => o * by) });
  const kinds = setup.ports.map((port, i): CylinderModel => {
    const fit = fits.ports[i]!;
    return {
      name: port.name,
      compression: setup.compression,
      entry: 0.95,
      intake: {
        valve: scaled(fit.intake, values.intakeSheet),
        lobe: lobe(cam.intake, at.intakeCentreline),
        wall: values.wallIntake,
        pipe: pipesJoined(plainPipe(values.runnerLength, values.runnerArea), port.intakePort),
      },
      exhaust: {
        valve: scaled(fit.exhaust, values.exhaustSheet * values.exhaustArea),
        lobe: lobe(cam.exhaust, -exhaustCentreline(at.lobeSeparation, at.intakeCentreline)),
        wall: 700,
        pipe: pipesJoined(port.exhaustPort, plainPipe(values.primaryLength, values.primaryArea)),
      },
    };
  });
  return {
    bore: setup.bore,
    stroke: setup.stroke,
    rod: setup.rod,
    cylinders: setup.cylinders,
    fuel: { ...fuel, completeness: values.completeness, duration: values.burnDuration },
    friction: {
      constant: USUAL_FRICTION.constant * values.friction,
      perPressure: USUAL_FRICTION.perPressure * values.friction,
      perSpeed: USUAL_FRICTION.perSpeed * values.friction,
      perSpeed2: USUAL_FRICTION.perSpeed2 * values.friction,
    },
    wall: 450,
    ambient: setup.around,
    supply,
    ...(boosted ? { drive: { pressureRatio: induction.pressureRatio, efficiency: 0.6 } } : {}),
    plenum: { volume: values.plenumVolume, entry: values.inletArea },
    back: setup.around.p + values.backPressure,
    nitrous: induction.kind === 'nitrous' ? induction.power : 0,
    kinds,
  };
}

/** Back pressure goes with the square of speed, about the one stated at the target speed. */
export const atSpeed = (setup: SimulationSetup, model: EngineModel, speed: number): EngineModel => ({
  ...model,
  back: setup.around.p + (model.back - setup.around.p) * Math.min(4, (speed * speed) / (setup.speed * setup.speed)),
});

/** What is known of how a port runs. SI; of one port. */
export interface PortSizes {
  /** Area against distance from the flange, surveyed. */
  readonly survey?: readonly AreaPoint[];
  readonly volume?: number;
  readonly length?: number;
  readonly pinch?: number;
  readonly window?: number;
  /** Area behind the valves, stems taken off. */
  readonly throat: number;
  readonly bore: number;
}

/**
 * The port as areas from the flange to the valve, and in words what of it was assumed. With a volume and a length the
 * frusta have that volume; the pinch stands a quarter of the way in, the window three quarters.
 */
export function portProfile(sizes: PortSizes): { readonly points: AreaPoint[]; readonly said?: string } {
  if (sizes.survey && sizes.survey.length >= 3) return { points: [...sizes.survey] };
  const length = sizes.length ?? 1.15 * sizes.bore;
  const { throat } = sizes;
  const pinch = sizes.pinch ?? (sizes.volume !== undefined && sizes.length ? undefined : sizes.window);
  const at = (wide: number): AreaPoint[] => [
    { x: 0, area: wide },
    ...(pinch === undefined ? [] : [{ x: 0.25 * length, area: pinch }]),
    ...(sizes.window === undefined ? [] : [{ x: 0.75 * length, area: sizes.window }]),
    { x: length, area: throat },
  ];
  if (sizes.volume !== undefined && sizes.length !== undefined) {
    const volumeOf = (points: readonly AreaPoint[]) =>
      points.slice(1).reduce((sum, b, i) => {
        const a = points[i]!;
        return sum + ((b.x - a.x) / 3) * (a.area + Math.sqrt(a.area * b.area) + b.area);
      }, 0);
    const middle = (wide: number) => {
      const points = at(wide);
      // The wide part reaches to the middle of the port where nothing else stands there.
      return pinch === undefined && sizes.window === undefined
        ? points
        : [...points.slice(0, 2), { x: 0.55 * length, area: wide }, ...points.slice(2)].sort((a, b) => a.x - b.x);
    };
    let [low, high] = [0.3 * throat, 4 * throat];
    for (let i = 0; i < 50; i++) {
      const wide = 0.5 * (low + high);
      if (volumeOf(middle(wide)) < sizes.volume) low = wide;
      else high = wide;
    }
    return { points: middle(0.5 * (low + high)) };
  }
  if (pinch !== undefined) return { points: at(Math.max(pinch * 1.1, throat)), said: 'the port’s length is assumed' };
  return {
    points: at(throat * 1.1),
    said: 'no port sizes: a port of the throat’s area is assumed, and the choke is not known',
  };
}
