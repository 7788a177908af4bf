import * as arrival from './arrival/methods.js';
import * as call from './bench/call.js';
import * as controlHead from './bench/controlHead.js';
import * as orifice from './bench/orifice.js';
import * as plan from './bench/plan.js';
import * as range from './bench/range.js';
import * as swirl from './bench/swirl.js';
import * as velocity from './bench/velocity.js';
import * as offsets from './claim/offsets.js';
import * as published from './claim/published.js';
import * as repeatability from './claim/repeatability.js';
import * as report from './claim/report.js';
import { toldApart } from './claim/same.js';
import * as verdict from './claim/verdict.js';
import * as chamber from './chamber/chamber.js';
import * as cost from './decide/cost.js';
import * as planned from './decide/plan.js';
import * as gain from './change/gain.js';
import * as machining from './change/machining.js';
import * as nextCut from './change/nextCut.js';
import * as usual from './change/usual.js';
import { dwellMean } from './cam/dwell.js';
import * as float from './cam/float.js';
import * as correction from './dyno/correction.js';
import * as order from './dyno/order.js';
import * as pull from './dyno/pull.js';
import * as score from './dyno/score.js';
import * as engine from './engine/engine.js';
import * as compare from './flow/compare.js';
import * as describe from './flow/describe.js';
import * as reading from './flow/reading.js';
import * as ratios from './head/ratios.js';
import type { AnyMethod } from './method/method.js';
import * as statistics from './method/statistics.js';
import * as manifold from './power/manifold.js';
import * as schools from './power/schools.js';
import * as mould from './section/mould.js';
import * as shape from './section/shape.js';
import * as survey from './section/survey.js';
import * as ring from './valve/ring.js';
import * as shroud from './valve/shroud.js';
import * as crank from './simulation/crank.js';
import * as cylinder from './simulation/cylinder.js';
import * as valve from './valve/areas.js';

const isMethod = (x: unknown): x is AnyMethod =>
  typeof x === 'object' && x !== null && 'formula' in x && 'compute' in x;

const methodsOf = (module: Record<string, unknown>): AnyMethod[] => Object.values(module).filter(isMethod);

/** Every method users can meet, in the order the work is done. */
export const CATALOGUE: readonly { readonly heading: string; readonly methods: readonly AnyMethod[] }[] = [
  { heading: 'Bench reading to standard flow', methods: methodsOf(reading) },
  {
    heading: 'On the bench',
    methods: [orifice, controlHead, plan, range, swirl, velocity, call].flatMap(methodsOf),
  },
  { heading: 'What the valve could flow', methods: methodsOf(valve) },
  { heading: 'Reading a curve', methods: [...methodsOf(describe), ...methodsOf(compare), dwellMean] },
  { heading: 'Engine and target', methods: methodsOf(engine) },
  { heading: 'Power and speed, by school', methods: [schools, manifold].flatMap(methodsOf) },
  { heading: 'Sizes', methods: [...methodsOf(ratios), ...methodsOf(float)] },
  {
    heading: 'The port, section by section',
    methods: [...methodsOf(shape), ...methodsOf(survey), ...methodsOf(mould)],
  },
  { heading: 'Ring, bore and chamber', methods: [...methodsOf(ring), ...methodsOf(shroud), ...methodsOf(chamber)] },
  {
    heading: 'Claims',
    methods: [...[verdict, offsets, repeatability, published, report].flatMap(methodsOf), toldApart('length')],
  },
  { heading: 'Arrival', methods: methodsOf(arrival) },
  { heading: 'Simulation', methods: [...methodsOf(cylinder), ...methodsOf(crank)] },
  { heading: 'What a cut bought, and the next one', methods: [gain, usual, nextCut, machining].flatMap(methodsOf) },
  { heading: 'What a way to go costs', methods: [cost, planned].flatMap(methodsOf) },
  { heading: 'Dyno', methods: [correction, pull, order, score].flatMap(methodsOf) },
  { heading: 'Means, sums and scatter', methods: methodsOf(statistics) },
];
