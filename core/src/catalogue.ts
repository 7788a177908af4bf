import * as arrival from './arrival/methods.js';
import { dwellMean } from './cam/dwell.js';
import * as engine from './engine/engine.js';
import * as describe from './flow/describe.js';
import * as reading from './flow/reading.js';
import * as ratios from './head/ratios.js';
import type { AnyMethod } from './method/method.js';
import * as schools from './power/schools.js';
import * as valve from './valve/areas.js';

const isMethod = (x: unknown): x is AnyMethod =>
  typeof x === 'object' && x !== null && 'formula' in x && 'compute' in x;

const methodsOf = (module: Record<string, unknown>): AnyMethod[] => Object.values(module).filter(isMethod);

/** Every method users can meet, in the order the work is done. */
export const CATALOGUE: readonly { readonly heading: string; readonly methods: readonly AnyMethod[] }[] = [
  { heading: 'Bench reading to standard flow', methods: methodsOf(reading) },
  { heading: 'What the valve could flow', methods: methodsOf(valve) },
  { heading: 'Reading a curve', methods: [...methodsOf(describe), dwellMean] },
  { heading: 'Engine and target', methods: methodsOf(engine) },
  { heading: 'Power and speed, by school', methods: methodsOf(schools) },
  { heading: 'Sizes', methods: methodsOf(ratios) },
  { heading: 'Arrival', methods: methodsOf(arrival) },
];
