/** The sentences of what is refused of records and files, where Zod's own issues do not say it, by code. */
import { CORE_SENTENCES, format, type Kind } from '@alluvium/core';

const both = (si: number, kind: Kind): string => `${format(si, kind, 'inch')} (${format(si, kind, 'metric')})`;
/** What was typed, no longer than a line has room for. */
const short = (text: string): string => text.trim().slice(0, 40);

export const SENTENCES = {
  // Any record.
  needed: 'This is needed.',
  missing: (what: string) => `Give the ${what}.`,
  idTwice: (id: string) => `The id “${id}” stands twice.`,
  noSuchRecord: (noun: string, id: string) => `There is no ${noun} “${id}”.`,
  textAgainstValue: (typed: string, value: number) => `The text “${typed}” and the value ${value} do not agree.`,
  /** `bounds`: the sentence of the field's own limits. */
  unbelievable: (typed: string, bounds?: string) => bounds ?? `“${typed}” lies outside what is believable here.`,
  yearOfDay: 'Write the year in full: 2026-05-31.',
  yearOfMoment: 'Write the year in full: 2026-05-31T14:05:00Z.',
  // A bundle.
  notABundle: (format: string) => `This is no Alluvium bundle: it does not say "format": "${format}".`,
  bundleTooNew: (version: number, reads: number) =>
    `This bundle is of version ${version}; this program reads version ${reads}. Update the program.`,
  notJson: 'This is not well-formed JSON.',
  nestedTooDeep: 'This is nested deeper than any bundle.',
  tooManyParts: 'This file holds more objects and lists than any shop has: over six million. It is read as no bundle.',
  bundleWithoutVersion: (reads: number) =>
    `This bundle does not say which version it is; "version": ${reads} is expected.`,
  listTooLong: (key: string, here: number, most: number) =>
    `“${key}” holds ${here} records; at most ${most} are read from one file.`,
  notAList: (key: string) => `“${key}” must be a list.`,
  notOfABundle: (key: string) => `“${key}” is not part of a bundle.`,
  photoNotInFile: (name: string) => `The content of photo “${name}” is not in this file.`,
  filesNotByHash: '“files” must hold the photos’ content by hash, as base64 text.',
  stageOfItself: 'This stage comes from itself.',
  // Tables that are read.
  unknownColumn: (heading: string) => `The column “${short(heading)}” is not known.`,
  columnLeftOut: (heading: string) => `The column “${short(heading)}” is not known and was left out.`,
  lineUnknown: (line: string) => `“${short(line)}” is neither a set-up line nor a column heading.`,
  noneOf: (typed: string, words: readonly string[]) => `“${typed}” is none of ${words.join(', ')}.`,
  unitsMixed: (some: string, others: string) =>
    `Some figures are in ${some}, others have no unit and would be read as ${others}: write the unit with each, or in the heading.`,
  cellUnread: (column: string, why: string) => `${column}: ${why}`,
  noClaims: 'There is no claim below the heading.',
  noFlowRows: 'There are no rows of lift and flow here.',
  flowTableTooLong: (lines: number) => `This has ${lines} lines; a flow sheet has at most 400 rows.`,
  pullTableTooLong: (lines: number, most: number) => `This has ${lines} lines; a dyno sheet has at most ${most}.`,
  noPullRows: 'There are no rows of engine speed and power here.',
  noSpeedColumn: 'Nobody knows which column is the engine speed: lay the columns down by hand.',
  noPowerColumn: 'There is no column of power or torque here.',
  rowWithoutSpeed: 'This row has no engine speed.',
  rowWithoutPower: 'This row has neither power nor torque.',
  // The build.
  noDisplacement: CORE_SENTENCES.noDisplacement,
  displacementAtOdds: (volume: number) =>
    `Bore, stroke and cylinders make ${both(volume, 'displacement')}: one of them is mistyped.`,
  oneEndOfSpeeds: 'Give both ends of the working speeds, or neither.',
  speedsSwapped: 'The working speeds end above where they begin.',
  nothingWanted: 'Say which power or torque is wanted.',
  torqueAtOdds: (torque: number) =>
    `At that speed the power is ${format(torque, 'torque', 'inch')} of torque (${format(torque, 'torque', 'metric')}): leave one of them out.`,
  // Heads, arrival and their pictures.
  skippedWithoutReason: 'Say why this is skipped.',
  heldOverDrawn: 'What was held cannot exceed what was drawn.',
  ringInsideOut: CORE_SENTENCES.ringInsideOut,
  markOffPicture: 'The mark must lie on the picture.',
  photoOfNothing: 'A photo belongs to a head or to a source.',
  // Measure.
  sideOfTwo: (item: string) => `Say whether this ${item} is intake or exhaust.`,
  sideOfNone: (item: string) => `The ${item} belongs to no side.`,
  sizeWithoutLift: (item: string) => `Say at which lift the ${item} was taken.`,
  wallWithoutPoint: 'Name the point of the wall.',
  outlineTooShort: 'An outline needs at least three points.',
  outlineCrosses: (x: string, y: string, first: number, second: number) =>
    `The outline crosses itself at ${x}, ${y} mm, between points ${first} and ${second}.`,
  outlineWithoutArea: CORE_SENTENCES.outlineWithoutArea,
  sectionWithout: (shape: string, field: string) => `A ${shape} section needs its ${field}.`,
  noStation: 'Say how far along the port this is.',
  stationTwice: (station: string, row: number) => `Station ${station} stands in row ${row} too.`,
  branchUnknown: 'A branch is 1 or 2, or empty while the port is one.',
  notALength: (typed: string) => `“${typed}” is not a length.`,
  notAnAngle: (typed: string) => `“${typed}” is not an angle.`,
  wallWithoutUnit: (typed: string, beside: string, own: string) =>
    `The other sizes of this section are in ${beside}: is the wall ${typed} ${beside} or ${typed} ${own}? Write its unit.`,
  notAWall: (typed: string) => `“${typed}” is no wall. Type it like 3.9, or 3.9 pushrod.`,
  // The sheet and its bench.
  tooManyRows: (most: number, here: number) => `A sheet has at most ${most} rows; here are ${here}.`,
  readingTooLong: 'This is too long for a reading.',
  liftTwice: (lift: string, row: number) =>
    `Lift ${lift} stands in row ${row} too: take one out, or enter both as pulls of one row.`,
  valveOutTwice: 'There is a row with the valve out already: enter both as pulls of one row.',
  nameTheRange: (side: string) => `Name the range, and give its full scale in the ${side} direction.`,
  noRange: 'Name at least one range.',
  rangeTwice: (range: string) => `Range ${range} is named twice.`,
  scalesTwice: (day: string) => `Two sets of full scales begin on ${day}.`,
  portTwice: (port: string | number) => `Port ${port} is chosen twice.`,
  noLastLift: 'Say to which lift, and in which steps.',
  readingWithoutValue: 'A reading needs a value, or a reason to skip it.',
  readingOfTwo: 'A reading is a flow or a percent.',
  cellOutside: 'This cell lies outside the grid.',
  cellTwice: 'This cell stands twice.',
  readingsSwapped: 'Of a bouncing reading give the lower figure first.',
  flowNotAboveZero: 'A flow must be above zero.',
  measuredNotAboveZero: 'The flow measured must be above zero.',
  noAgreedFlow: 'Say which flow is agreed for the control head.',
  // Claims.
  claimWithoutSource: 'A claim needs its source.',
  claimWithoutHead: 'Say which head the claim is about.',
  sideUnknown: (typed: string) => `“${typed}” is neither intake nor exhaust.`,
  notADate: 'Write the date as 2026-05-31.',
  notAPort: (typed: string) => `“${typed}” is no port: write its number, 1 to 48.`,
  flowWithoutLift: 'A flow without its lift claims nothing: at which lift?',
  liftWithoutFlow: 'A lift without a flow claims nothing.',
  lineWithoutClaim: 'This line claims no flow, size or power.',
  claimTwice: (side: string, lift: string) => `This source claims a ${side} flow at lift ${lift} twice.`,
  sizeUnknown: (typed: string) => `“${typed}” is no size this program knows.`,
  whichFlow: 'Which flow?',
  whichSize: (item: string) => `Say which ${item} is claimed.`,
  whichPower: 'Which power?',
  whichSpeed: 'At which engine speed?',
  whichDisplacement: 'Of which displacement?',
  howManyCylinders: 'How many cylinders?',
  noEngineOfIt: (field: string) => `Say which build it is of, or give the engine’s ${field}.`,
  closedWithoutReason: 'Say why it is closed like this.',
  closedWithoutEvidence: 'True or false needs evidence: name what shows it, or close it as unproven.',
  // Change, decide and the dyno.
  operationWithoutSide: (kind: string) => `Say whether the ${kind} was on the intake or the exhaust.`,
  overThinLimit: 'This is thinner than the limit.',
  overLargeLimit: 'This is larger than the limit.',
  gainWithoutBand: 'Say how far the planned gain may be off.',
  itemTwice: (item: string) => `“${item}” stands twice.`,
  likelyOutside: 'The likeliest lies between the least and the most.',
  // The shop.
  noCamKind: 'Say which kind of cam.',
  noSpringLimit: 'Give a limit on the seat, or open.',
  // Matching and simulation.
  nothingFlowed: 'Nothing was flowed at this stage.',
  valveNotMeasured: 'The intake valve was not measured: its size decides the port behind it.',
  toleranceUnread: (item: string, why: string) => `The tolerance of ${item} cannot be read: ${why}`,
} as const;
