import { recordOf } from '@alluvium/core';
import { z } from 'zod';
import { inspectionNoun, findingNoun, seatNoun, attachmentNoun, checklistNoun } from './arrival.js';
import { assumptionNoun, frozenVerdictNoun } from './assumption.js';
import {
  sessionNoun,
  callNoun,
  rawReadingNoun,
  velocityMapNoun,
  wetFlowNoun,
  planTemplateNoun,
  calibrationNoun,
} from './bench.js';
import { buildNoun } from './build.js';
import { operationNoun, taskNoun, forecastNoun } from './change.js';
import { reportNoun, questionNoun } from './claim.js';
import { wayNoun, decisionNoun } from './decide.js';
import { pullNoun, powerForecastNoun, columnMapNoun, ownFactorNoun, roundNoun } from './dyno.js';
import { headNoun, stageNoun, portNoun } from './head.js';
import { measureNoun, toleranceNoun } from './measure.js';
import { sheetNoun, lineupEntryNoun } from './sheet.js';
import { listPriceNoun, letterheadNoun, watchSetNoun, springLimitNoun } from './shop.js';
import { sourceNoun } from './source.js';
import { surveyNoun } from './survey.js';
import { templateNoun } from './template.js';
import type { Described } from './descriptor.js';

/** Every stored noun, in an order in which no record comes before one it refers to. Its name is that of its table. */
export const DESCRIPTORS = {
  build: buildNoun,
  source: sourceNoun,
  head: headNoun,
  stage: stageNoun,
  port: portNoun,
  sheet: sheetNoun,
  operation: operationNoun,
  measure: measureNoun,
  survey: surveyNoun,
  inspection: inspectionNoun,
  finding: findingNoun,
  seat: seatNoun,
  session: sessionNoun,
  call: callNoun,
  reading: rawReadingNoun,
  attachment: attachmentNoun,
  velocitymap: velocityMapNoun,
  wetflow: wetFlowNoun,
  lineup: lineupEntryNoun,
  checklist: checklistNoun,
  tolerance: toleranceNoun,
  plan: planTemplateNoun,
  calibration: calibrationNoun,
  report: reportNoun,
  question: questionNoun,
  assumption: assumptionNoun,
  verdict: frozenVerdictNoun,
  pull: pullNoun,
  task: taskNoun,
  way: wayNoun,
  decision: decisionNoun,
  listprice: listPriceNoun,
  powerforecast: powerForecastNoun,
  columnmap: columnMapNoun,
  ownfactor: ownFactorNoun,
  round: roundNoun,
  letterhead: letterheadNoun,
  watchset: watchSetNoun,
  springlimit: springLimitNoun,
  template: templateNoun,
  forecast: forecastNoun,
} as const;
type Descriptors = typeof DESCRIPTORS;
export type Noun = keyof Descriptors;
export const NOUN_NAMES = Object.keys(DESCRIPTORS) as Noun[];
/** What is said of a noun, whichever it is. */
export const describedAs = (noun: Noun): Described => DESCRIPTORS[noun];

/** Fields of a noun that name another record, by its noun. */
export const refersOf = (noun: Noun): Readonly<Record<string, Noun>> =>
  (describedAs(noun).refers ?? {}) as Readonly<Record<string, Noun>>;

const each = <V>(of: (described: Described, noun: Noun) => V) =>
  recordOf(NOUN_NAMES, (noun) => of(describedAs(noun), noun));

/** Schema of each noun. */
export const NOUNS = each((d) => d.schema) as { readonly [N in Noun]: Descriptors[N]['schema'] };
export type RecordOf<N extends Noun> = z.infer<(typeof NOUNS)[N]>;

/** What each noun is called before a reader. */
export const NOUN_WORDS: Readonly<Record<Noun, { readonly one: string; readonly many: string }>> = DESCRIPTORS;

/** Key of each noun's list, in a file and in what comes with a head. */
export const LIST_KEYS = each((d) => d.key) as { readonly [N in Noun]: Descriptors[N]['key'] };

type Lists<N extends Noun> = { [K in N as Descriptors[K]['key']]: z.ZodArray<Descriptors[K]['schema']> };
/** Nouns that come with a whole head: by the head itself, or by one of its stages. */
export type OfHead = { [N in Noun]: Descriptors[N] extends { readonly of: 'head' | 'stage' } ? N : never }[Noun];
export const OF_HEAD = NOUN_NAMES.filter((noun): noun is OfHead => describedAs(noun).of !== undefined);

/** A list schema for each of some nouns, by its key. */
export const listsOf = <N extends Noun>(nouns: readonly N[]): Lists<N> =>
  Object.fromEntries(nouns.map((noun) => [LIST_KEYS[noun], z.array(NOUNS[noun])])) as unknown as Lists<N>;

export * from './arrival.js';
export * from './assumption.js';
export * from './bench.js';
export * from './change.js';
export * from './currency.js';
export * from './decide.js';
export * from './build.js';
export * from './claim.js';
export * from './common.js';
export * from './descriptor.js';
export * from './dyno.js';
export * from './head.js';
export * from './measure.js';
export * from './measureItems.js';
export * from './sheet.js';
export * from './shop.js';
export * from './source.js';
export * from './survey.js';
export * from './template.js';
