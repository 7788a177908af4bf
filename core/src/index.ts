export * from './quantity/units.js';
export * from './quantity/parse.js';
export * from './quantity/style.js';
export * from './quantity/format.js';
export * from './method/method.js';
export * from './method/mean.js';
export * from './method/statistics.js';
export * from './flow/reading.js';
export * from './flow/curve.js';
export * from './flow/describe.js';
export * from './flow/differences.js';
export * from './flow/compare.js';
export * from './flow/doubt.js';
export * from './valve/areas.js';
export * from './valve/seatBook.js';
export * from './engine/engine.js';
export * from './power/manifold.js';
export * from './power/schools.js';
export * from './head/ratios.js';
export * from './cam/profile.js';
export * from './cam/dwell.js';
export * from './cam/float.js';
export * from './section/shape.js';
export * from './section/survey.js';
export * from './section/loft.js';
export * from './section/floors.js';
export * from './section/carries.js';
export * from './section/budget.js';
export * from './section/mould.js';
export * from './valve/ring.js';
export * from './valve/shroud.js';
export * from './chamber/cap.js';
export * from './chamber/chamber.js';
export * from './arrival/methods.js';
export * from './arrival/condition.js';
export * from './bench/steady.js';
export * from './bench/plan.js';
export * from './bench/controlHead.js';
export * from './bench/lookAgain.js';
export * from './bench/range.js';
export * from './bench/orifice.js';
export * from './bench/swirl.js';
export * from './bench/call.js';
export * from './bench/velocity.js';
export * from './claim/chart.js';
export * from './claim/comparable.js';
export * from './claim/doubts.js';
export * from './claim/net.js';
export * from './claim/offsets.js';
export * from './claim/tie.js';
export * from './claim/repeatability.js';
export * from './claim/band.js';
export * from './claim/verdict.js';
export * from './claim/published.js';
export * from './claim/same.js';
export * from './claim/report.js';
export * from './dyno/correction.js';
export * from './dyno/pull.js';
export * from './dyno/smooth.js';
export * from './dyno/order.js';
export * from './dyno/tie.js';
export * from './dyno/causes.js';
export * from './dyno/score.js';
export * from './evaluate/sheet.js';
export * from './evaluate/target.js';
export * from './uncertainty/random.js';
export * from './uncertainty/normal.js';
export * from './uncertainty/leaf.js';
export * from './uncertainty/leaves.js';
export * from './uncertainty/propagate.js';
export * from './uncertainty/degree.js';
export * from './uncertainty/assumptions.js';
export * from './uncertainty/working.js';
export * from './evaluate/evidence.js';
export * from './evaluate/head.js';
export * from './evaluate/sheetRows.js';
export * from './evaluate/sheetBook.js';
export * from './evaluate/flowAt.js';
export * from './evaluate/pool.js';
export * from './evaluate/limits.js';
export * from './evaluate/estimates.js';
export * from './evaluate/match.js';
export * from './evaluate/model.js';
export * from './evaluate/verdict.js';
export * from './simulation/gas.js';
export * from './simulation/grid.js';
export * from './simulation/cylinder.js';
export * as pipes from './simulation/pipe.js';
export * from './simulation/model.js';
export * from './simulation/bench.js';
export * from './simulation/setup.js';
export {
  runPoint,
  type Seed,
  type SpeedPoint,
  type SpeedResult,
  type SpeedFailure,
  type Trace,
} from './simulation/breathing.js';
export {
  FitStore,
  runnerKnown,
  solvePoint,
  lookAt,
  sweepPoint,
  sweepSpeeds,
  traceOf,
  WORKING_SPEEDS,
} from './simulation/sweep.js';
export type { PointJob, Sensitivity, Settled, SweepPoint } from './simulation/sweep.js';
export * from './simulation/ranges.js';
export * from './simulation/difference.js';
export * from './simulation/cycle.js';
export * from './simulation/power.js';
export * from './simulation/crank.js';
export * from './simulation/whatIf.js';
export * from './simulation/holdback.js';
export * from './simulation/portSize.js';
export * from './simulation/camSearch.js';
export * from './simulation/moreCam.js';
export * from './change/operations.js';
export * from './change/window.js';
export * from './change/gain.js';
export * from './change/usual.js';
export * from './change/machining.js';
export * from './change/stops.js';
export * from './change/split.js';
export * from './change/nextCut.js';
export * from './decide/cost.js';
export * from './decide/choice.js';
export * from './decide/plan.js';
export * from './words/change.js';
export * from './words/arrival.js';
export * from './words/bench.js';
export * from './words/claim.js';
export * from './words/compare.js';
export * from './words/listed.js';
export * from './words/match.js';
export * from './words/verdict.js';
export * from './words/survey.js';
export * from './words/pull.js';
export * from './words/loop.js';
export * from './words/simulation.js';
export * from './catalogue.js';
