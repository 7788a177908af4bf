import type { z } from 'zod';
import { Assumption, FrozenVerdict } from './assumption.js';
import { Attachment, Checklist, Finding, Inspection, Seat } from './arrival.js';
import { Calibration, Call, PlanTemplate, RawReading, Session, VelocityMap, WetFlow } from './bench.js';
import { Build } from './build.js';
import { Question, Report } from './claim.js';
import { Forecast, Operation, Task } from './change.js';
import { Decision, Way } from './decide.js';
import { ColumnMap, OwnFactor, PowerForecast, Pull, Round } from './dyno.js';
import { Head, Port, Stage } from './head.js';
import { Measure, Tolerance } from './measure.js';
import { LineupEntry, Sheet } from './sheet.js';
import { Letterhead, ListPrice, SpringLimit, WatchSet } from './shop.js';
import { Source } from './source.js';
import { Survey } from './survey.js';
import { Template } from './template.js';

/** Every stored noun with its schema, in an order in which no record comes before one it refers to. */
export const NOUNS = {
  build: Build,
  source: Source,
  head: Head,
  stage: Stage,
  port: Port,
  sheet: Sheet,
  operation: Operation,
  measure: Measure,
  survey: Survey,
  inspection: Inspection,
  finding: Finding,
  seat: Seat,
  session: Session,
  call: Call,
  reading: RawReading,
  attachment: Attachment,
  velocitymap: VelocityMap,
  wetflow: WetFlow,
  lineup: LineupEntry,
  checklist: Checklist,
  tolerance: Tolerance,
  plan: PlanTemplate,
  calibration: Calibration,
  report: Report,
  question: Question,
  assumption: Assumption,
  verdict: FrozenVerdict,
  pull: Pull,
  task: Task,
  way: Way,
  decision: Decision,
  listprice: ListPrice,
  powerforecast: PowerForecast,
  columnmap: ColumnMap,
  ownfactor: OwnFactor,
  round: Round,
  letterhead: Letterhead,
  watchset: WatchSet,
  springlimit: SpringLimit,
  template: Template,
  forecast: Forecast,
} as const;
export type Noun = keyof typeof NOUNS;
export const NOUN_NAMES = Object.keys(NOUNS) as Noun[];
export type RecordOf<N extends Noun> = z.infer<(typeof NOUNS)[N]>;

/** What each noun is called before a reader. */
export const NOUN_WORDS: Record<Noun, { one: string; many: string }> = {
  build: { one: 'build', many: 'builds' },
  source: { one: 'source', many: 'sources' },
  head: { one: 'head', many: 'heads' },
  stage: { one: 'stage', many: 'stages' },
  port: { one: 'port', many: 'ports' },
  sheet: { one: 'flow sheet', many: 'flow sheets' },
  operation: { one: 'piece of work', many: 'pieces of work' },
  measure: { one: 'measure', many: 'measures' },
  survey: { one: 'survey', many: 'surveys' },
  inspection: { one: 'inspection', many: 'inspections' },
  finding: { one: 'finding', many: 'findings' },
  seat: { one: 'look at a seat', many: 'looks at seats' },
  session: { one: 'bench session', many: 'bench sessions' },
  call: { one: 'call', many: 'calls' },
  reading: { one: 'raw reading', many: 'raw readings' },
  attachment: { one: 'photo', many: 'photos' },
  velocitymap: { one: 'velocity map', many: 'velocity maps' },
  wetflow: { one: 'wet-flow look', many: 'wet-flow looks' },
  lineup: { one: 'lineup entry', many: 'lineup entries' },
  checklist: { one: 'checklist', many: 'checklists' },
  tolerance: { one: 'tolerance', many: 'tolerances' },
  plan: { one: 'test plan', many: 'test plans' },
  calibration: { one: 'calibration', many: 'calibrations' },
  report: { one: 'report of power', many: 'reports of power' },
  question: { one: 'question', many: 'questions' },
  assumption: { one: 'assumption', many: 'assumptions' },
  verdict: { one: 'kept verdict', many: 'kept verdicts' },
  pull: { one: 'dyno pull', many: 'dyno pulls' },
  task: { one: 'line of the work list', many: 'lines of the work list' },
  forecast: { one: 'forecast', many: 'forecasts' },
  way: { one: 'way to go', many: 'ways to go' },
  decision: { one: 'decision', many: 'decisions' },
  powerforecast: { one: 'forecast of power', many: 'forecasts of power' },
  columnmap: { one: 'column map', many: 'column maps' },
  ownfactor: { one: 'power per flow of the shop', many: 'powers per flow of the shop' },
  round: { one: 'round of practice', many: 'rounds of practice' },
  listprice: { one: 'line of the price list', many: 'lines of the price list' },
  letterhead: { one: 'letterhead', many: 'letterheads' },
  watchset: { one: 'set of watch lifts', many: 'sets of watch lifts' },
  springlimit: { one: 'limit of a spring', many: 'limits of springs' },
  template: { one: 'template', many: 'templates' },
};

export * from './arrival.js';
export * from './assumption.js';
export * from './bench.js';
export * from './change.js';
export * from './currency.js';
export * from './decide.js';
export * from './build.js';
export * from './claim.js';
export * from './common.js';
export * from './dyno.js';
export * from './head.js';
export * from './measure.js';
export * from './measureItems.js';
export * from './sheet.js';
export * from './shop.js';
export * from './source.js';
export * from './survey.js';
export * from './template.js';
