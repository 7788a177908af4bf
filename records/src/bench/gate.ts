/** The set-up gate: what must be answered before anything is recorded, and what an answer is wondered at. */
import { depressionCorrection, written, type Side } from '@alluvium/core';
import type { Quantity } from '../quantity.js';
import { BenchSetup } from '../nouns/bench.js';
import { FURTHER_SETUP, Setup } from '../nouns/sheet.js';
import { SETUP_FIELDS, type SetupField } from './setupFields.js';

// own[]!, sort()[]!: there is one at least.

type Field = keyof BenchSetup;

/** A question of the gate: a field of the set-up, or what only a session is asked. */
export type GateQuestion = Omit<SetupField, 'field' | 'gate' | 'unlike'> & { readonly field: Field };

/** Every question of the gate, in the order a hand goes round the bench. */
export const GATE: readonly GateQuestion[] = [
  ...SETUP_FIELDS.filter((f) => f.gate),
  {
    field: 'leakTest',
    ask: 'Leak test, valves shut',
    options: [
      ['done', 'done'],
      ['unknown', 'not done'],
    ],
  },
  { field: 'calibration', ask: 'Last calibration' },
];

export interface Unanswered {
  readonly field: Field;
  readonly sentence: string;
}

/** The questions that apply to a set-up. */
export const questionsOf = (setup: BenchSetup, sides: readonly Side[]): GateQuestion[] =>
  GATE.filter((q) => q.when?.(setup, sides) ?? true);

/** What is not answered yet; recording waits until this is empty. */
export function unanswered(setup: BenchSetup, sides: readonly Side[]): Unanswered[] {
  const open = questionsOf(setup, sides)
    .filter((q) => setup[q.field] === null || setup[q.field] === '')
    .map((q) => ({ field: q.field, sentence: `${q.ask}: answer it, or say unknown.` }));
  if (setup.leakTest === 'done')
    for (const side of sides)
      if (!setup.leaks.some((l) => l.side === side))
        open.push({ field: 'leaks', sentence: `The leak test is done, but no ${side} figure is noted.` });
  if (setup.reads !== 'flow')
    for (const side of sides)
      if (!setup.ranges.some((r) => r[side]))
        open.push({
          field: 'ranges',
          sentence: `The bench reads percent: give a full scale in the ${side} direction.`,
        });
  return open;
}

/** The answers that stay unknown for ever, in words. */
export const unknowns = (setup: BenchSetup, sides: readonly Side[]): string[] =>
  questionsOf(setup, sides)
    .filter((q) => setup[q.field] === 'unknown')
    .map((q) => q.ask.toLowerCase());

const value = (x: 'unknown' | Quantity | null): Quantity | null => (x === 'unknown' ? null : x);

export interface SetupFacts {
  /** Bore of the engine the head is meant for, m. */
  readonly engineBore?: number | undefined;
  /** The head's own valves, m. */
  readonly valves?: { readonly intake?: number | undefined; readonly exhaust?: number | undefined };
  /** The set-up of the sheet this one will be compared with. */
  readonly before?: Pick<Setup, 'exhaustPipe' | 'entry' | 'depression' | 'bore'> | undefined;
}

const apart = (a: number, b: number, by: number) => Math.abs(a - b) > by;

/** What is unlike the engine, the head, or the test before: pointed at, not forbidden. */
export function setupDoubts(setup: BenchSetup, facts: SetupFacts): string[] {
  const doubts: string[] = [];
  const bore = value(setup.bore);
  if (bore && facts.engineBore !== undefined && apart(bore.si, facts.engineBore, 0.00025))
    doubts.push(
      `The fixture's bore is ${bore.typed}; the engine's is ${(facts.engineBore * 1000).toFixed(1)} mm. Shrouding will differ.`,
    );
  if (setup.valve === 'other')
    for (const side of ['intake', 'exhaust'] as const) {
      const flowValve = value(setup[`${side}FlowValve`]);
      const own = facts.valves?.[side];
      if (flowValve && own !== undefined && apart(flowValve.si, own, 0.0001))
        doubts.push(
          `The ${side} flow valve is ${flowValve.typed}; the head's own is ${(own * 1000).toFixed(2)} mm. The sheet says so for ever.`,
        );
    }
  const { before } = facts;
  if (before && setup.exhaustPipe && before.exhaustPipe !== 'unknown' && setup.exhaustPipe !== before.exhaustPipe)
    doubts.push(
      `The test before was ${before.exhaustPipe === 'piped' ? 'with an exhaust pipe' : 'with the exhaust bare'}; this one is not. They cannot be compared on the exhaust side.`,
    );
  if (before && setup.entry && before.entry !== 'unknown' && setup.entry !== before.entry)
    doubts.push(
      `The test before had another intake entry: ${before.entry}. They cannot be compared on the intake side.`,
    );
  if (before?.bore && bore && apart(before.bore.si, bore.si, 0.00025))
    doubts.push(`The test before stood on a ${before.bore.typed} bore.`);
  if (setup.holesClosed === 'no') doubts.push('Open plug or injector holes add their own flow to every reading.');
  if (setup.springs === 'running')
    doubts.push('Running springs can bend the opener: check the lift at the valve, not at the screw.');
  return doubts;
}

/** Shut-valve flow of one side brought to the depression of the test: leaks go with the square root of it. */
function leakAt(setup: BenchSetup, side: Side): Quantity | null {
  const depression = value(setup.depression);
  const own = setup.leaks.filter((l) => l.side === side);
  if (own.length === 0) return null;
  const near = depression
    ? [...own].sort((a, b) => Math.abs(a.depression.si - depression.si) - Math.abs(b.depression.si - depression.si))[0]!
    : own[0]!;
  if (!depression || Math.abs(near.depression.si - depression.si) < 1) return near.flow;
  const flow = depressionCorrection.compute({
    flow: near.flow.si,
    depression: near.depression.si,
    reference: depression.si,
  });
  return written(flow, 'flow', 'cfm', 2);
}

/** The set-up as the flow sheet keeps it. `factor` is what the calibration gave. */
export function sheetSetup(setup: BenchSetup, factor: number | undefined): Setup {
  return Setup.parse({
    reads: setup.reads,
    depression: value(setup.depression),
    bore: value(setup.bore),
    entry: setup.entry ?? 'unknown',
    exhaustPipe: setup.exhaustPipe ?? 'unknown',
    pipeDiameter: setup.exhaustPipe === 'piped' ? value(setup.pipeDiameter) : null,
    pipeLength: setup.exhaustPipe === 'piped' ? value(setup.pipeLength) : null,
    holesClosed: setup.holesClosed ?? 'unknown',
    valve: setup.valve ?? 'unknown',
    intakeFlowValve: setup.valve === 'other' ? value(setup.intakeFlowValve) : null,
    exhaustFlowValve: setup.valve === 'other' ? value(setup.exhaustFlowValve) : null,
    springs: setup.springs ?? 'unknown',
    gasket: setup.gasket ?? 'unknown',
    portKind: setup.portKind === 'unknown' ? '' : setup.portKind,
    factor: factor === undefined ? null : factor.toFixed(4),
    intakeLeak: leakAt(setup, 'intake'),
    exhaustLeak: leakAt(setup, 'exhaust'),
    meterTemperature: setup.meterTemperature,
    portTemperature: setup.portTemperature,
    ...Object.fromEntries(Object.keys(FURTHER_SETUP).map((k) => [k, setup[k as keyof typeof FURTHER_SETUP]])),
    scales: setup.scales,
    ranges: setup.ranges,
  });
}

/** A set-up with every question open. `reads` and ranges may come from the bench that is connected. */
export const blankSetup = (known: Partial<BenchSetup> = {}): BenchSetup => ({ ...BenchSetup.parse({}), ...known });

/** A set-up taken over as a whole for the next test. Leak test and temperatures are of their day: they are asked again. */
export const takenOver = (before: BenchSetup): BenchSetup => ({
  ...before,
  leakTest: null,
  leaks: [],
  meterTemperature: null,
  portTemperature: null,
  barometer: null,
  zero: '',
  note: '',
});
