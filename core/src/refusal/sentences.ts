/** The sentences of the computation's refusals, by code. */
export const SENTENCES = {
  // Any of them.
  notAboveZero: (what: string) => `The ${what} must be above zero.`,
  outOfReach: (what: string, low: string, high: string) => `${what} must lie between ${low} and ${high}.`,
  noAnswer: (method: string) => `${method}: no answer for these figures.`,
  noUncertainty: 'Neither uncertainty is known.',
  shareOutOfReach: 'A share lies between 0 and 1.',
  freedomUnderOne: 'Student’s distribution has at least one degree of freedom.',
  spreadOfOne: 'A spread needs two values at least.',
  oneReading: 'One reading has no scatter.',
  // What was typed.
  nothingTyped: (kind: string) => `Type ${kind}.`,
  notThisKind: (typed: string, kind: string, like: string) => `“${typed}” is not ${kind}. ${like}`,
  notAUnit: (typed: string, kind: string, like: string) => `“${typed}” is not a unit of ${kind}. ${like}`,
  readTwoWays: (figure: string, one: string, other: string) =>
    `“${figure}” can be read as ${one} or as ${other}: type it as one of these.`,
  decimalsMixed: (point: string, comma: string) =>
    `“${point}” has a decimal point and “${comma}” a decimal comma: write all figures of a table in one way.`,
  // Sheets and curves.
  liftTwice: 'Two rows share a lift.',
  liftBeyondSheet: 'The sheet does not reach this lift.',
  baselineWithoutFlow: 'The first head does not flow here.',
  pressureNegative: 'A differential pressure cannot be negative.',
  noFullScale: 'A percent reading needs the full scale of its range, in this direction.',
  sheetWithoutRow: 'The sheet has no row.',
  sheetShortOfCam: 'The sheet stops short of this cam’s lift.',
  // Valve and ring.
  stemFillsThroat: 'The stem cannot be as wide as the throat.',
  seatOverValve: 'The seat is wider than the valve.',
  ringInsideOut: 'The inside of a ring is smaller than its outside.',
  valveOutsideBore: 'The valve’s centre lies outside the bore.',
  gapOverCentre: 'This gap is wider than a valve in the middle of the bore would leave.',
  // Sections, moulds and the loft.
  cornerOverSide: 'The corner radius is more than half the shorter side.',
  dTooFlat: 'A D is at least half as high as it is wide; use oval.',
  outlineWithoutArea: 'This outline encloses nothing.',
  loftOfOne: 'A loft needs at least two sections.',
  spareNegative: 'The spare cannot be negative.',
  packYieldsNothing: 'A pack yields more than nothing.',
  // The chamber.
  nothingMilled: 'What was milled off must be above zero.',
  chamberGrows: 'A chamber gets smaller when its face is milled.',
  chamberMilledAway: 'That mills the whole chamber away.',
  compressionUnderOne: 'A compression ratio is above 1.',
  // The engine and its target.
  noDisplacement: 'Give bore and stroke, or the displacement.',
  rodTooShort: 'The rod is too short for this stroke.',
  nitrousAloneEnough: 'The nitrous alone makes more than the wanted power.',
  noGainToPrice: 'There is no power to divide the price by.',
  // The cam.
  camUnderHeight: 'The cam never lifts to its checking height: lift, rocker ratio or height is wrong.',
  camUnderSecondHeight: 'The cam never lifts to its second checking height.',
  durationOutOfReach: 'The duration must lie between 0° and 360°.',
  durationsSwapped: 'The duration at the greater height must be the shorter one.',
  durationsAtOdds: 'No smooth cam has both durations: check the second height and its duration.',
  // The bench.
  plateWithoutSize: 'A plate and its pipe have sizes above zero.',
  plateTooSmall: 'The standard begins at a hole of 12.5 mm.',
  pipeOutOfStandard: 'The standard covers pipes of 50 mm to 1 m.',
  holeOutOfStandard: (ratio: number) =>
    `The hole must be between 0.10 and 0.75 of the pipe's bore; this one is ${ratio.toFixed(2)}.`,
  plateWithoutHole: 'A plate has a hole above zero.',
  depressionOutOfReach: 'The depression must lie above zero and under a quarter of an atmosphere.',
  liftStepTooSmall: 'A step of lift must be at least .005 in.',
  lastLiftUnderStep: 'The last lift must be at least one step.',
  tooManyLifts: (most: number) => `A run has at most ${most} lifts.`,
  noSuchRange: (range: string) => `The bench has no range ${range} in this direction.`,
  mapWithoutAir: 'No air moves in this map.',
  // Claims.
  axisOfOnePoint: (axis: string) => `The two points of the ${axis} axis lie on top of each other.`,
  axisOfOneValue: (axis: string) => `The two points of the ${axis} axis need different values.`,
  axesParallel: 'The lift axis and the flow axis run the same way: set their points anew.',
  netApart: 'The net of sources does not hang together.',
  spreadOfOnePublication: 'A spread needs two publications.',
  nothingPulledTwice: 'A repeatability needs a point pulled at least twice.',
  repeatsWithoutSpread: 'What measuring twice gives must be above zero.',
  // The simulation.
  buildWithoutCam: 'The build has no cam yet: without lift and duration nothing breathes.',
  camWithoutDuration: 'The cam has no duration yet.',
  intakeNotFlowed: 'Nothing was flowed on the intake side.',
  throatOverBore: (port: string, bore: number) =>
    `${port}: the throat is too large for a bore of ${(bore * 1e3).toFixed(1)} mm.`,
  pipeNotRising: 'A pipe needs areas above zero at rising distances.',
  pipeWithoutLength: 'A pipe must have a length.',
  steadyFlowBroken: 'The flow of the port came to no state of matter.',
  steadyFlowUnsettled: 'The flow of the port did not come to rest.',
  pipeBroken: 'The gas in a pipe reached no state of matter.',
  waveTooSteep: 'A wave in a pipe was too steep for the smallest step.',
  cycleWithoutFigure: 'The cycle came to no figure.',
  unsettled: (cycles: number) => `It did not settle in ${cycles} cycles.`,
  noBoost: 'Give a pressure ratio first: without boost the charge is the air around.',
  // Change.
  stageWithoutCurve: 'Each stage needs a curve of two rows at least.',
  openingClosed: 'An opening must stay open.',
  lossShareOutOfReach: 'The share of the loss lies between 0 and 1.',
  boreShrinks: 'A bore only grows.',
  ringNearDeck: 'The ring stands too near the deck: no notch.',
  costNegative: 'Hours and money cannot be negative.',
  noHours: 'No hours were noted.',
  noCost: 'No cost was noted.',
  // Decide.
  quantityNegative: 'A quantity cannot be negative.',
  exchangeNotAboveZero: 'An exchange rate must be above zero.',
  gainsNothing: (lacks: string) => `It ${lacks} than the way it is held against.`,
  costsNothing: 'It costs nothing.',
  // The dyno.
  pullTooShort: 'A pull of fewer than two rows ties nothing.',
  noAirOfTheDay: 'Without barometer and temperature of the day it cannot be brought to another standard.',
  airBeyondStandard: 'In this air ISO 1585 would correct by more than 7 %: it does not hold there.',
  airBeyondDieselStandard: 'In this air ISO 1585 would correct a diesel by more than 10 %: it does not hold there.',
  fuelNotAboveZero: 'Fuel and pressure ratio must be above zero.',
  standardUnsureForDiesel: (standard: string) =>
    `It is not sure which form of ${standard} applies to a diesel engine: ISO 1585 has one of its own.`,
  standardUnsureForBoost: (standard: string) =>
    `It is not sure which form of ${standard} applies to a boosted engine: compare what was observed.`,
  noFuelPerCycle: 'ISO 1585 asks a diesel’s fuel of a cycle, in mg for each litre: note it with the pull.',
  chargingUnknown:
    'ISO 1585 corrects a turbocharged diesel otherwise than a mechanically charged one: say which it is.',
  dryPressureMatters:
    'Whether DIN 70020 means the total or the dry pressure is told differently, and in this air it matters.',
  noDifferenceExpected: 'No difference is expected: no number of pulls shows it.',
  pullRepeatsWithoutSpread: 'How well a pull repeats must be above zero.',
} as const;
