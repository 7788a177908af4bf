/** Rounds of practice for the trained eye, made of the shop's own heads: a question, its answer, and the working behind it. */
import {
  SAME_LIFT,
  comparable,
  degreeWords,
  evaluateSurvey,
  evaluateTarget,
  matchWords,
  oddsBetter,
  random,
  seedOf,
  throatArea,
  type Build as CoreBuild,
  type Say,
  type Side,
  type SurveyResult,
  type TargetResult,
  Refusal,
} from '@alluvium/core';
import type { WholeHead } from '../api.js';
import { conditionsOf } from '../claims/conditions.js';
import { evaluateHead, type HeadEvaluation, type JudgingContext } from '../evaluateHead.js';
import type { Build } from '../nouns/build.js';
import type { ROUND_KINDS, Round } from '../nouns/dyno.js';
import type { Sheet } from '../nouns/sheet.js';
import { measuresAt, surveyAt } from '../select.js';
import { toCoreSections } from '../sections.js';
import { measured, toCoreBuild } from '../toCore.js';

// find()!, evaluation.result!, at()!: rounds are asked of what was evaluated.
// names[]!, text[]!, may[]!, rows[]!, r[]!, differs[]!, sorted[]!: as many as were asked for.
// swapped()!, last.get()!: chosen from those that have one.

export type RoundKind = (typeof ROUND_KINDS)[number];

export interface Asked {
  readonly kind: RoundKind;
  /** The same question bears the same name. */
  readonly name: string;
  readonly asks: string;
  /** What is given, line by line. */
  readonly given: readonly string[];
  /** Photos of the head at that stage, by their names in the library, and its port as it was measured along its length. */
  readonly photos?: readonly string[];
  readonly survey?: SurveyResult | undefined;
  /** A table that belongs to it. */
  readonly table?: { readonly head: readonly string[]; readonly rows: readonly (readonly string[])[] };
  /** Answers to choose from; without any a figure is asked. */
  readonly choices?: readonly string[];
  /** Which of the choices; or the figure in the unit named, and how near counts as known. */
  readonly answer: number;
  readonly near?: number;
  readonly unit?: string;
  /** The working: why it is so. */
  readonly because: readonly string[];
}

export interface PracticeFacts {
  readonly wholes: readonly WholeHead[];
  readonly builds: readonly Build[];
  readonly context: JudgingContext;
  readonly say: Say;
}

interface Judged {
  readonly whole: WholeHead;
  readonly stageId: string;
  readonly sheet: Sheet;
  readonly evaluation: HeadEvaluation;
}

const nameOf = (j: Pick<Judged, 'whole' | 'stageId'>): string => {
  const stage = j.whole.stages.find((s) => s.id === j.stageId)!;
  return j.whole.stages.length > 1 ? `${j.whole.head.name}, ${stage.name}` : j.whole.head.name;
};

/** Fixtures further from the engine's bore than this are of another engine; common practice, no source. */
const SAME_ENGINE = 0.05;
/** Every measured stage of the heads against one build. */
function judgedOf({ wholes, context }: PracticeFacts, build: Build, core: CoreBuild, target: TargetResult): Judged[] {
  return wholes.flatMap((whole) =>
    whole.stages.flatMap((stage): Judged[] => {
      if (!whole.sheets.some((s) => s.stageId === stage.id && s.kind === 'measured')) return [];
      const evaluation = evaluateHead(build, core, target, whole, stage.id, null, context);
      // A head that was tested on another bore is of another engine: it is asked about where it belongs.
      const bore = evaluation.sheet?.setup.bore?.si;
      const elsewhere = core.bore !== undefined && bore !== undefined && Math.abs(bore / core.bore - 1) > SAME_ENGINE;
      return evaluation.sheet && evaluation.match.intake && !elsewhere
        ? [{ whole, stageId: stage.id, sheet: evaluation.sheet, evaluation }]
        : [];
    }),
  );
}

/** What may be told of a head's sizes before its flow is. */
function sizesOf({ whole, stageId }: Pick<Judged, 'whole' | 'stageId'>, say: Say): string[] {
  const measures = measuresAt(whole, stageId);
  return (
    [
      ['valve diameter', 'intake valve', 'length'],
      ['throat', 'intake throat', 'length'],
      ['pinch', 'pinch', 'area'],
      ['window', 'window over the short turn', 'area'],
      ['port volume', 'intake port', 'volume'],
    ] as const
  ).flatMap(([item, label, kind]) => {
    const v = measured(measures, item, 'intake');
    return v === undefined ? [] : [`${label} ${say.of(v, kind)}`];
  });
}

/** Pictures of a head at a stage that were taken of the head itself: what a finding or a bench shows would give too much away. */
const photosOf = ({ whole, stageId }: Pick<Judged, 'whole' | 'stageId'>): string[] =>
  whole.attachments
    .filter((a) => !a.sourceId && !a.findingId && (a.stageId === null || a.stageId === stageId))
    .slice(0, MOST_PHOTOS)
    .map((a) => a.id);
const MOST_PHOTOS = 4;

/** The intake port along its length; undefined where fewer than two sections were measured. */
function portOf({ whole, stageId, sheet }: Judged): SurveyResult | undefined {
  const survey = surveyAt(whole, stageId, 'intake', sheet.intakePortId);
  const found = survey && evaluateSurvey(toCoreSections(survey));
  return found && found.stations.length > 1 ? found : undefined;
}

const rowsOf = (j: Judged, side: Side, say: Say): (readonly [string, string, number])[] =>
  (j.evaluation.result?.[side].points ?? []).map(
    (p) => [say.of(p.lift, 'lift'), say.of(p.flow.value, 'flow'), p.flow.value] as const,
  );

function whichWins(
  a: Judged,
  b: Judged,
  build: Build,
  core: CoreBuild,
  target: TargetResult,
  say: Say,
): Asked | undefined {
  const odds = oddsBetter(a.evaluation.verdict, b.evaluation.verdict);
  // Two that cannot be told apart are no question.
  if (odds === undefined || Math.abs(odds - 0.5) < 0.3) return undefined;
  const at = (j: Judged, lift: number) =>
    j.evaluation.result!.intake.points.find((p) => Math.abs(p.lift - lift) < SAME_LIFT);
  const lifts = a.evaluation.result!.intake.points.filter((p) => at(b, p.lift)).map((p) => p.lift);
  if (lifts.length < 3) return undefined;
  const names = [nameOf(a), nameOf(b)];
  const words = (j: Judged) =>
    `${nameOf(j)}: ${degreeWords(j.evaluation.verdict)}. ${matchWords(j.evaluation.match, j.evaluation.verdict, target, core.speed, core.cam?.lobeSeparation, say).join(' ')}`;
  return {
    kind: 'which wins',
    name: `which wins ${build.id} ${a.stageId} ${b.stageId}`,
    asks: `Which of these two carries ${say.of(core.power, 'power', { digits: 0 })} at ${say.of(core.speed, 'rotation')} better in the ${build.name}, and why?`,
    given: [
      `${names[0]}: ${sizesOf(a, say).join(', ')}`,
      `${names[1]}: ${sizesOf(b, say).join(', ')}`,
      ...(target.usefulLift === undefined ? [] : [`the cam lifts ${say.of(target.usefulLift, 'lift')}`]),
    ],
    table: {
      head: ['lift', names[0]!, names[1]!],
      rows: lifts.map((l) => [
        say.of(l, 'lift'),
        say.of(at(a, l)!.flow.value, 'flow'),
        say.of(at(b, l)!.flow.value, 'flow'),
      ]),
    },
    choices: names,
    answer: odds > 0.5 ? 0 : 1,
    because: [
      words(a),
      words(b),
      `Odds that ${names[0]} is the better one: ${say.of(odds, 'percent', { digits: 0 })}.`,
    ],
  };
}

function whatFlows(j: Judged, say: Say): Asked | undefined {
  const given = sizesOf(j, say);
  const best = j.evaluation.match.intake?.best;
  const survey = portOf(j);
  if (given.length < (survey ? 1 : 3) || !best) return undefined;
  const unit = say.of(best.flow, 'flow').split('\u00a0')[1] ?? '';
  const figure = Number(say.of(best.flow, 'flow', { digits: 1 }).split('\u00a0')[0]);
  return {
    kind: 'what it flows',
    name: `what it flows ${j.stageId}`,
    asks: `What does the best intake of this port flow at ${say.of(best.lift, 'lift')}, at 28 in of water?`,
    given,
    photos: photosOf(j),
    survey,
    answer: figure,
    near: 0.08,
    unit,
    because: [
      `${nameOf(j)} was measured at ${say.of(best.flow, 'flow')} on “${j.sheet.title}”.`,
      ...rowsOf(j, 'intake', say).map(([lift, flow]) => `${lift}: ${flow}`),
    ],
  };
}

/** A figure whose last two digits changed places, where that makes another figure. */
const swapped = (v: number): number | undefined => {
  const text = String(Math.round(v));
  if (text.length < 3) return undefined;
  const turned = Number(text[0]! + text[2]! + text[1]!);
  return Math.abs(turned / v - 1) > 0.06 ? turned : undefined;
};

function whichSlips(j: Judged, say: Say, u: () => number): Asked | undefined {
  const rows = rowsOf(j, 'intake', say);
  const number = (text: string) => Number(text.split('\u00a0')[0]);
  const may = rows.flatMap(([, flow], i) =>
    i > 0 && i < rows.length - 1 && swapped(number(flow)) !== undefined ? [i] : [],
  );
  if (rows.length < 5 || may.length === 0) return undefined;
  const at = may[Math.floor(u() * may.length)]!;
  const wrong = swapped(number(rows[at]![1]))!;
  const unit = rows[at]![1].split('\u00a0')[1] ?? '';
  const shown = rows.map(([lift, flow], i) => [lift, i === at ? `${wrong} ${unit}` : flow]);
  return {
    kind: 'which figure slips',
    name: `which figure slips ${j.sheet.id} ${at}`,
    asks: 'One figure of this sheet was copied wrongly. At which lift?',
    given: [nameOf(j)],
    table: { head: ['lift', 'intake'], rows: shown },
    choices: shown.map((r) => r[0]!),
    answer: at,
    because: [
      `At ${rows[at]![0]} the sheet reads ${rows[at]![1]}; ${wrong} has two of its digits the other way round.`,
      'A flow curve rises smoothly: a figure that leaves the line of its neighbours is read again before it is believed.',
    ],
  };
}

function addedUp(u: () => number): Asked {
  const loss = -(5 + Math.floor(u() * 20));
  const gain = 10 + Math.floor(u() * 25);
  const right = u() < 0.5;
  const sum = loss + gain;
  const stated = right ? sum : sum - 5;
  return {
    kind: 'which figure slips',
    name: `which figure slips sum ${loss} ${gain} ${stated}`,
    asks: `A report says: the cam lost ${-loss}, the head gained ${gain}, together ${stated > 0 ? 'a gain' : 'a loss'} of ${Math.abs(stated)}. Is the sum right?`,
    given: [],
    choices: ['it is right', 'it is wrong'],
    answer: right ? 0 : 1,
    because: [`${loss} and +${gain} make ${sum > 0 ? '+' : ''}${sum}.`],
  };
}

function notEqual(whole: WholeHead, a: Sheet, b: Sheet): Asked | undefined {
  const { aspects } = comparable(
    conditionsOf(a, whole.ports, 'intake'),
    conditionsOf(b, whole.ports, 'intake'),
    'intake',
  );
  const differs = aspects.filter((x) => x.state === 'differs');
  const same = aspects.filter((x) => x.state === 'same');
  if (differs.length === 0 || same.length === 0) return undefined;
  const choices = aspects.filter((x) => x.state !== 'unknown').map((x) => x.what);
  const lines = (s: Sheet) =>
    [
      s.setup.depression && `depression ${s.setup.depression.typed}`,
      s.setup.bore && `bore ${s.setup.bore.typed}`,
      `entry ${s.setup.entry}`,
      `exhaust ${s.setup.exhaustPipe}`,
      `valve ${s.setup.valve}`,
    ]
      .filter(Boolean)
      .join(', ');

  return {
    kind: 'what is not equal',
    name: `what is not equal ${a.id} ${b.id}`,
    asks: `Two intake tests of ${whole.head.name}: what alone forbids to hold them against each other?`,
    given: [`${a.title}: ${lines(a)}`, `${b.title}: ${lines(b)}`],
    choices,
    answer: choices.indexOf(differs[0]!.what),
    because: [...differs, ...aspects.filter((x) => x.state === 'convertible')].map((x) => x.sentence),
  };
}

function possible(j: Judged, say: Say, u: () => number): Asked | undefined {
  const measures = measuresAt(j.whole, j.stageId);
  const valve = measured(measures, 'valve diameter', 'intake');
  const points = j.evaluation.result?.intake.points ?? [];
  const point = points[Math.max(0, Math.floor(u() * Math.min(3, points.length)))];
  const coefficient = point?.coefficients.minimum?.value;
  if (!point || valve === undefined || coefficient === undefined) return undefined;
  const real = u() < 0.5;
  const factor = real ? 1 : (1.04 + 0.1 * u()) / coefficient;
  const flow = point.flow.value * factor;
  return {
    kind: 'possible or not',
    name: `possible or not ${j.sheet.id} ${point.lift.toFixed(6)} ${real ? 'as measured' : 'raised'}`,
    asks: `A claim: ${say.of(flow, 'flow')} at ${say.of(point.lift, 'lift')} through an intake valve of ${say.of(valve, 'length')}, at 28 in of water. Is it possible?`,
    given: [],
    choices: ['it is possible', 'it is impossible'],
    answer: real ? 0 : 1,
    because: [
      `The least area under that valve at ${say.of(point.lift, 'lift')} passes ${say.of(point.flow.value / coefficient, 'flow')} with no loss at all.`,
      real
        ? `The claim asks ${say.of(coefficient, 'percent', { digits: 0 })} of it: what a good valve does.`
        : `The claim asks ${say.of(flow / (point.flow.value / coefficient), 'percent', { digits: 0 })} of it: more than there is.`,
    ],
  };
}

function whereChokes(j: Judged, say: Say): Asked | undefined {
  const measures = measuresAt(j.whole, j.stageId);
  const of = (item: 'pinch' | 'window' | 'opening' | 'throat' | 'stem diameter') => measured(measures, item, 'intake');
  const throat = of('throat');
  const stem = of('stem diameter');
  const areas: [string, number, string][] = [];
  for (const item of ['pinch', 'window', 'opening'] as const) {
    const v = of(item);
    if (v !== undefined) areas.push([item, v, `${item} ${say.of(v, 'area')}`]);
  }
  if (throat !== undefined && stem !== undefined)
    areas.push([
      'throat',
      throatArea.compute({ throat, stem, valves: 1 }),
      `throat ${say.of(throat, 'length')} across, stem ${say.of(stem, 'length')}`,
    ]);
  if (areas.length < 3) return undefined;
  const sorted = [...areas].sort((a, b) => a[1] - b[1]);
  if (sorted[1]![1] / sorted[0]![1] < 1.03) return undefined;
  return {
    kind: 'where it chokes',
    name: `where it chokes ${j.stageId}`,
    asks: 'Where does this intake port choke?',
    given: areas.map((a) => a[2]),
    photos: photosOf(j),
    choices: areas.map((a) => a[0]),
    answer: areas.indexOf(sorted[0]!),
    because: areas.map((a) => `${a[0]}: ${say.of(a[1], 'area')}`),
  };
}

function whichCam(j: Judged, core: CoreBuild, say: Say, u: () => number): Asked | undefined {
  const wanted = j.evaluation.match.lobeSeparation;
  const valve = measured(measuresAt(j.whole, j.stageId), 'valve diameter', 'intake');
  if (!wanted || valve === undefined) return undefined;
  const degree = Math.PI / 180;
  const near = Math.round(wanted.value / degree);
  // The right one stands anywhere among them.
  const answer = Math.floor(3 * u());
  const choices = [0, 1, 2].map((i) => `${near + 5 * (i - answer)}°`);
  return {
    kind: 'which cam',
    name: `which cam ${j.stageId} ${core.speed.toFixed(3)}`,
    asks: 'Which lobe separation does the usual rule give this engine with this head?',
    given: [
      `intake valve ${say.of(valve, 'length')}`,
      `compression ${core.compression === undefined ? 'not stated' : say.of(core.compression, 'compression')}`,
      ...(core.bore && core.stroke
        ? [`bore ${say.of(core.bore, 'length')}, stroke ${say.of(core.stroke, 'length')}`]
        : []),
    ],
    choices,
    answer,
    because: [
      `The rule gives ${say.of(wanted.value, 'angle', { digits: 1 })}: displacement of a cylinder for each inch of valve. ${wanted.method.source}`,
      'It is a rule of thumb: no cam is told finer than 3°.',
    ],
  };
}

/** Everything that can be asked of these heads, in a settled order. `seed` turns what is planted in them. */
export function practiceOf(facts: PracticeFacts, seed: number): Asked[] {
  // Of each question its own, whatever heads stand beside it: what was missed is the same question on another visit.
  const planted = (name: string) => random(seedOf(`${seed} ${name}`));
  const { builds, say, wholes } = facts;
  const found: Asked[] = [];
  const put = (q: Asked | undefined) => q && found.push(q);
  for (const build of builds) {
    const core = toCoreBuild(build, facts.context.assumptions);
    let target: TargetResult;
    try {
      target = evaluateTarget(core);
    } catch (error) {
      if (error instanceof Refusal) continue;
      throw error;
    }
    const all = judgedOf(facts, build, core, target);
    all.forEach((b, i) =>
      all.slice(0, i).forEach((a) => a.whole !== b.whole && put(whichWins(a, b, build, core, target, say))),
    );
    for (const j of all) {
      put(whatFlows(j, say));
      put(whichSlips(j, say, planted(`slips ${j.sheet.id}`)));
      put(possible(j, say, planted(`possible ${j.sheet.id}`)));
      put(whereChokes(j, say));
      put(whichCam(j, core, say, planted(`cam ${j.stageId}`)));
    }
  }
  for (const whole of wholes)
    whole.sheets.forEach((b, i) =>
      whole.sheets.slice(0, i).forEach((a) => put(a.stageId === b.stageId ? notEqual(whole, a, b) : undefined)),
    );
  for (let k = 0; k < 3; k++) put(addedUp(planted(`sum ${k}`)));
  // The same head in two builds asks the same of its sizes once.
  return found.filter((q, i) => found.findIndex((o) => o.name === q.name) === i);
}

export const isRight = (q: Asked, answer: number): boolean =>
  q.choices ? answer === q.answer : Math.abs(answer / q.answer - 1) <= (q.near ?? 0);

/** The next question: what was missed last and not known since comes first, then what was never asked, kinds in turn. */
export function nextQuestion(questions: readonly Asked[], rounds: readonly Round[]): Asked | undefined {
  const inOrder = [...rounds].sort((a, b) => a.date.localeCompare(b.date));
  const last = new Map<string, Round>();
  for (const r of inOrder) last.set(r.question, r);
  const recent = new Set(rounds.slice(-2).map((r) => r.question));
  const since = (q: Asked) => inOrder.indexOf(last.get(q.name)!);
  // What waits longest comes first.
  const missed = questions
    .filter((q) => last.get(q.name)?.right === false && !recent.has(q.name))
    .sort((a, b) => since(a) - since(b));
  const fresh = questions.filter((q) => !last.has(q.name));
  const count = (kind: RoundKind) => rounds.filter((r) => r.kind === kind).length;
  const inTurn = [...fresh].sort((a, b) => count(a.kind) - count(b.kind));
  // Every other round goes back to something missed, while there is any.
  const back = missed.length > 0 && (rounds.length % 2 === 1 || inTurn.length === 0);
  return back ? missed[0] : (inTurn[0] ?? missed[0] ?? questions.find((q) => !recent.has(q.name)));
}

export interface Practised {
  readonly kind: RoundKind;
  readonly asked: number;
  readonly right: number;
}
/** How each kind has gone. */
export function practisedOf(rounds: readonly Round[]): Practised[] {
  const kinds = [...new Set(rounds.map((r) => r.kind))];
  return kinds.map((kind) => {
    const own = rounds.filter((r) => r.kind === kind);
    return { kind, asked: own.length, right: own.filter((r) => r.right).length };
  });
}
