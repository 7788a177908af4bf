/** Every field of a set-up, once: what it is called, what it may be, when it applies. The gate, the sheet's form, its file and the sentences about it read this table. */
import type { Kind, Side } from '@alluvium/core';
import type { BenchSetup } from '../nouns/bench.js';
import {
  BACK_CUTS,
  CHAMBERS,
  ENTRIES,
  FLOW_VALVES,
  GASKETS,
  NOTCHES,
  PIPES,
  SPRINGS,
  YES_NO,
  type Setup,
} from '../nouns/sheet.js';

export type SetupFieldName = Exclude<keyof Setup & keyof BenchSetup, 'ranges' | 'scales' | 'reads'>;
/** What a field's own condition is read from, in a session and on a sheet alike. */
type Conditions = { readonly [K in 'entry' | 'exhaustPipe' | 'valve' | 'notch' | 'plug']: string | null };

export interface SetupField {
  readonly field: SetupFieldName;
  readonly ask: string;
  /** A quantity of this kind; a choice among `options`; else a short text. */
  readonly kind?: Kind;
  readonly options?: readonly (readonly [value: string, text: string])[];
  readonly placeholder?: string;
  /** Only asked when this holds. */
  readonly when?: (setup: Conditions, sides: readonly Side[]) => boolean;
  /** Answered before anything is recorded on the bench. The others are asked for once somebody looks. */
  readonly gate: boolean;
  /** Two tests that differ in it are no fair pair on this side, or on both. */
  readonly unlike?: Side | 'both';
}

const words = (values: readonly string[], text: Readonly<Record<string, string>> = {}) =>
  values.map((v) => [v, text[v] ?? v] as const);
const intake = (_: Conditions, sides: readonly Side[]) => sides.includes('intake');
const exhaust = (_: Conditions, sides: readonly Side[]) => sides.includes('exhaust');
const piped = (s: Conditions, sides: readonly Side[]) => sides.includes('exhaust') && s.exhaustPipe === 'piped';

/** In the order a hand goes round the bench. */
export const SETUP_FIELDS: readonly SetupField[] = [
  { field: 'depression', ask: 'Depression', kind: 'depression', gate: true },
  { field: 'bore', ask: 'Bore fixture', kind: 'length', gate: true },
  {
    field: 'entry',
    ask: 'Intake entry',
    when: intake,
    options: words(ENTRIES, { radius: 'radius plate', manifold: 'manifold on' }),
    gate: true,
  },
  { field: 'entrySize', ask: 'Size of the entry', kind: 'length', when: intake, gate: false, unlike: 'intake' },
  {
    field: 'entryShape',
    ask: 'Shape of the entry',
    placeholder: 'quarter round, bell, square',
    when: intake,
    gate: false,
    unlike: 'intake',
  },
  { field: 'exhaustPipe', ask: 'Exhaust', when: exhaust, options: words(PIPES), gate: true },
  { field: 'pipeDiameter', ask: 'Pipe diameter', kind: 'length', when: piped, gate: true },
  { field: 'pipeLength', ask: 'Pipe length', kind: 'length', when: piped, gate: true },
  { field: 'holesClosed', ask: 'Plug and injector holes closed', options: words(YES_NO), gate: true },
  { field: 'plug', ask: 'Spark plug fitted', placeholder: 'which one', gate: false, unlike: 'both' },
  {
    field: 'plugReach',
    ask: 'Plug reaches into the chamber',
    kind: 'length',
    when: (s) => s.plug !== '',
    gate: false,
    unlike: 'both',
  },
  {
    field: 'springs',
    ask: 'Springs',
    options: words(SPRINGS, { light: 'light checking springs', running: 'the running springs' }),
    gate: true,
  },
  {
    field: 'valve',
    ask: 'Valves',
    options: words(FLOW_VALVES, { own: 'the head’s own', other: 'flow valves' }),
    gate: true,
  },
  {
    field: 'intakeFlowValve',
    ask: 'Intake flow valve',
    kind: 'length',
    when: (s, sides) => s.valve === 'other' && sides.includes('intake'),
    gate: true,
  },
  {
    field: 'exhaustFlowValve',
    ask: 'Exhaust flow valve',
    kind: 'length',
    when: (s, sides) => s.valve === 'other' && sides.includes('exhaust'),
    gate: true,
  },
  { field: 'backCut', ask: 'Valves back-cut', options: words(BACK_CUTS), gate: false, unlike: 'both' },
  {
    field: 'shifted',
    ask: 'Head shifted on its fixture by',
    kind: 'length',
    placeholder: 'as it bolts on',
    gate: false,
    unlike: 'both',
  },
  { field: 'guides', ask: 'Guides in place', options: words(YES_NO), gate: false, unlike: 'both' },
  { field: 'chamber', ask: 'Chamber', options: words(CHAMBERS), gate: false, unlike: 'both' },
  {
    field: 'notch',
    ask: 'Bore notch',
    options: words(NOTCHES, { 'chamber side': 'on the chamber side', chamfer: 'a chamfer', radius: 'a radius' }),
    gate: false,
    unlike: 'both',
  },
  {
    field: 'notchToRing',
    ask: 'Notch reaches the ring land',
    options: words(YES_NO),
    when: (s) => s.notch !== 'none' && s.notch !== 'unknown',
    gate: false,
    unlike: 'both',
  },
  { field: 'portKind', ask: 'Kind of port', placeholder: 'long runner, divided …', gate: true },
  { field: 'gasket', ask: 'Head gasket on the fixture', options: words(GASKETS), gate: true },
  { field: 'meterTemperature', ask: 'Temperature at the meter', kind: 'temperature', gate: false },
  { field: 'portTemperature', ask: 'Temperature at the port', kind: 'temperature', gate: false },
  { field: 'barometer', ask: 'Barometer', kind: 'pressure', gate: false },
  { field: 'zero', ask: 'Zero', placeholder: 'how it was set, and whether it held', gate: false },
];

/** The fields that apply to a set-up. */
export const fieldsOf = (setup: Conditions, sides: readonly Side[]): SetupField[] =>
  SETUP_FIELDS.filter((f) => f.when?.(setup, sides) ?? true);

/** One answer in words; undefined where it is not known. */
export function setupAnswer(setup: Setup, { field, options }: SetupField): string | undefined {
  const value = setup[field];
  if (value === null || value === '' || value === 'unknown') return undefined;
  if (typeof value === 'object') return value.typed.replace('inH2O', 'in');
  return options?.find(([v]) => v === value)?.[1] ?? String(value);
}
