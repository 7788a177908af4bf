/** From stored records to what core computes with: plain SI numbers, missing left out. */
import { mean, USUAL_ASSUMPTIONS } from '@alluvium/core';
import type {
  Assumptions,
  Build as CoreBuild,
  CamCard,
  HeadGeometry,
  PortValve,
  Reading,
  SheetRow as CoreRow,
  SheetSetup,
  Side,
  SheetFacts,
  SizeFacts,
  SizeItem,
} from '@alluvium/core';
import type { Build } from './nouns/build.js';
import type { Head } from './nouns/head.js';
import type { Measure } from './nouns/measure.js';
import type { MeasureItem } from './nouns/measureItems.js';
import type { Sheet } from './nouns/sheet.js';
import type { Source } from './nouns/source.js';
import { lookedLifts } from './looked.js';
import { needsScale, rangeOf } from './ranges.js';
import { valveOn } from './repeats.js';
import { resolutionOf } from './resolution.js';

// build.torque!: a build says its power or its torque.

/** An object without its null and undefined members. */
function known<T extends object>(object: T): { [K in keyof T]: Exclude<T[K], null | undefined> } {
  return Object.fromEntries(Object.entries(object).filter(([, v]) => v !== null && v !== undefined)) as never;
}

/** The shop's likeliest power per flow, where it is not the usual one. */
const ownFactor = (a?: Pick<Assumptions, 'powerPerFlow'>): number | undefined =>
  a && a.powerPerFlow[1] !== USUAL_ASSUMPTIONS.powerPerFlow[1] ? a.powerPerFlow[1] : undefined;

/** Power wanted, W: as stated, else of the torque at the speed. */
export const powerWanted = (build: Pick<Build, 'power' | 'torque' | 'speed'>): number =>
  build.power?.si ?? build.torque!.si * 2 * Math.PI * build.speed.si;

/** A build with the shop's own figures where it states none. */
export function toCoreBuild(build: Build, assumptions?: Pick<Assumptions, 'powerPerFlow'>): CoreBuild {
  const { cam, induction } = build;
  return known({
    bore: build.bore?.si,
    stroke: build.stroke?.si,
    displacement: build.displacement?.si,
    cylinders: build.cylinders,
    rod: build.rod?.si,
    compression: build.compression?.si,
    fuel: build.fuel,
    induction:
      induction.kind === 'boosted'
        ? {
            kind: 'boosted',
            pressureRatio: induction.pressureRatio.si,
            chargeTemperature: induction.chargeTemperature.si,
            ambientTemperature: induction.ambientTemperature.si,
          }
        : induction.kind === 'nitrous'
          ? { kind: 'nitrous', power: induction.power.si }
          : { kind: 'natural' },
    cam: cam
      ? (known({
          intakeLift: cam.intakeLift.si,
          exhaustLift: cam.exhaustLift?.si,
          intakeDuration: cam.intakeDuration?.si,
          exhaustDuration: cam.exhaustDuration?.si,
          height: cam.height?.si,
          second: cam.second ? { height: cam.second.height.si, duration: cam.second.duration.si } : undefined,
          lobeSeparation: cam.lobeSeparation?.si,
          intakeCentreline: cam.intakeCentreline?.si,
          rockerRatio: cam.rockerRatio.si,
        }) as CamCard)
      : undefined,
    manifoldFlow: build.manifoldFlow?.si,
    manifoldLoss: build.manifoldLoss?.si,
    power: powerWanted(build),
    wanted: build.power ? undefined : 'torque',
    speed: build.speed.si,
    resolution: {
      bore: build.bore ? resolutionOf(build.bore) : 0,
      stroke: build.stroke ? resolutionOf(build.stroke) : 0,
    },
    powerPerFlow: build.powerPerFlow?.si,
    usualPowerPerFlow: ownFactor(assumptions),
    torquePerVolume: build.torquePerVolume?.si,
    velocityLimit: build.velocityLimit?.si,
  }) as CoreBuild;
}

export function toCoreSetup(sheet: Pick<Sheet, 'setup'>): SheetSetup {
  const { setup } = sheet;
  return known({
    reads: setup.reads,
    depression: setup.depression?.si,
    factor: setup.factor?.si,
    leak: known({ intake: setup.intakeLeak?.si, exhaust: setup.exhaustLeak?.si }),
    meterTemperature: setup.meterTemperature?.si,
    portTemperature: setup.portTemperature?.si,
  }) as SheetSetup;
}

/** One reading of a side as core takes it, with the full scale of its range in that direction. */
export const toCoreReading = (
  sheet: Pick<Sheet, 'setup'>,
  reading: NonNullable<Sheet['rows'][number][Side]>,
  side: Side,
): Reading =>
  known({
    pulls: reading.pulls.map((p) => p.si),
    fullScale: rangeOf(sheet.setup, reading.range, side)?.[side]?.si,
    depression: reading.depression?.si,
    noisy: reading.noisy,
  }) as Reading;

export function toCoreRows(sheet: Pick<Sheet, 'setup' | 'rows'>): CoreRow[] {
  const reading = (row: Sheet['rows'][number], side: Side): Reading | undefined => {
    const r = row[side];
    const reading = r && toCoreReading(sheet, r, side);
    // A percent whose scale nobody has typed yet is no flow; the other side is read all the same.
    return reading && (!needsScale(sheet.setup) || reading.fullScale !== undefined) ? reading : undefined;
  };
  return sheet.rows.map(
    (row) => known({ lift: row.lift.si, intake: reading(row, 'intake'), exhaust: reading(row, 'exhaust') }) as CoreRow,
  );
}

export const ROOF_AND_FLOOR = 'mean of roof and floor';

/** Lengths along the centreline where only roof and floor were taken: the mean of the two, as careful as both. */
function centrelines(measures: readonly Measure[], side: Side | null, portId?: string | null): readonly Measure[] {
  const roof = measuresOf(measures, 'roof length', side, portId);
  const floor = measuresOf(measures, 'floor length', side, portId);
  const [first] = roof;
  if (!first || floor.length === 0) return [];
  const si = (mean(roof.map((m) => m.value.si)) + mean(floor.map((m) => m.value.si))) / 2;
  return [
    {
      ...first,
      item: 'port length',
      value: { si, typed: first.value.typed },
      sourceId:
        roof.every((m) => m.sourceId !== null) || floor.every((m) => m.sourceId !== null) ? first.sourceId : null,
      note: ROOF_AND_FLOOR,
    },
  ];
}

/** Measures of one item on one side: of the port asked for, else those that hold for the stage, else of all its ports. */
export function measuresOf(
  measures: readonly Measure[],
  item: MeasureItem,
  side: Side | null,
  portId?: string | null,
): readonly Measure[] {
  const all = measures.filter((m) => m.item === item && m.side === side);
  if (item === 'port length' && all.length === 0) return centrelines(measures, side, portId);
  const own = portId ? all.filter((m) => m.portId === portId) : [];
  const whole = portId ? all.filter((m) => m.portId === null) : [];
  return own.length > 0 ? own : whole.length > 0 ? whole : all;
}

/** Their mean; undefined where nothing was measured. */
export function measured(
  measures: readonly Measure[],
  item: MeasureItem,
  side: Side | null,
  portId?: string | null,
): number | undefined {
  const used = measuresOf(measures, item, side, portId);
  return used.length === 0 ? undefined : mean(used.map((m) => m.value.si));
}

const SIZE_ITEMS: Readonly<Record<SizeItem, MeasureItem>> = {
  pinch: 'pinch',
  window: 'window',
  portVolume: 'port volume',
  portLength: 'port length',
};

/** Which leaf each size is, and how well it is known: sizes of one port and stage are the same leaf in every head. */
function sizeFacts(measures: readonly Measure[], portId?: string | null): HeadGeometry['sizes'] {
  return Object.fromEntries(
    Object.entries(SIZE_ITEMS).flatMap(([name, item]) => {
      const used = measuresOf(measures, item, 'intake', portId);
      const [first] = used;
      if (!first) return [];
      const facts: SizeFacts = {
        leaf: `size:${first.stageId}:${first.portId ?? 'all'}:${item}`,
        resolution: resolutionOf(first.value),
        stated: used.every((m) => m.sourceId !== null),
        count: used.length,
      };
      return [[name, facts]];
    }),
  );
}

/** How a sheet was taken, as far as its verdict hangs on it. `sources` name it; a bench with a factor or a check was checked. */
export function toSheetFacts(
  sheet: Sheet,
  changedSince: readonly string[],
  { sources = [], checked = new Set() }: EvidenceContext = {},
): SheetFacts {
  const source = sources.find((s) => s.id === sheet.sourceId);
  const { setup } = sheet;
  const flows = sheet.rows.flatMap((r) => r.intake?.pulls ?? []);
  return known({
    id: sheet.id,
    kind: sheet.kind,
    own: sheet.kind === 'measured' && (source === undefined || source.kind === 'own bench'),
    bench: sheet.sourceId ?? 'own',
    source: source?.name,
    checked: setup.factor !== null || (sheet.sourceId !== null && checked.has(sheet.sourceId)),
    depression: setup.depression?.si,
    bore: setup.bore?.si,
    entry: setup.entry,
    exhaustPipe: setup.exhaustPipe,
    valve: valveOn(setup, 'intake'),
    noPort: sheet.intakePortId === null && sheet.kind === 'measured' ? true : undefined,
    flowValve: setup.intakeFlowValve?.si,
    changedSince,
    looked: lookedLifts(sheet, 'intake'),
    resolution: setup.reads === 'flow' && flows[0] ? Math.max(...flows.map(resolutionOf)) : 0,
  }) as SheetFacts;
}

/** Who the sources of sheets are, and which of them were checked against a plate or a control head. */
export interface EvidenceContext {
  readonly sources?: readonly Pick<Source, 'id' | 'name' | 'kind'>[];
  readonly checked?: ReadonlySet<string>;
}

export function toPortValve(
  head: Pick<Head, 'intakeValves' | 'exhaustValves' | 'intakePorts'>,
  measures: readonly Measure[],
  side: Side,
  portId?: string | null,
): PortValve | undefined {
  const diameter = measured(measures, 'valve diameter', side, portId);
  if (diameter === undefined) return undefined;
  return known({
    diameter,
    // A port of its own for each valve feeds fewer of them.
    valves: side === 'intake' ? Math.max(1, head.intakeValves / (head.intakePorts ?? 1)) : head.exhaustValves,
    seatWidth: measured(measures, 'seat width', side, portId),
    seatAngle: measured(measures, 'seat angle', side, portId),
    throat: measured(measures, 'throat', side, portId),
    stem: measured(measures, 'stem diameter', side, portId),
  }) as PortValve;
}

export function toHeadGeometry(head: Head, measures: readonly Measure[], portId?: string | null): HeadGeometry {
  return known({
    intakeValve: toPortValve(head, measures, 'intake', portId),
    exhaustValve: toPortValve(head, measures, 'exhaust'),
    intakeValvesPerCylinder: head.intakeValves,
    intakePorts: head.intakePorts,
    window: measured(measures, 'window', 'intake', portId),
    pinch: measured(measures, 'pinch', 'intake', portId),
    portVolume: measured(measures, 'port volume', 'intake', portId),
    portLength: measured(measures, 'port length', 'intake', portId),
    price: head.price?.si,
    cylinders: head.cylinders ?? undefined,
    sizes: sizeFacts(measures, portId),
  }) as HeadGeometry;
}
