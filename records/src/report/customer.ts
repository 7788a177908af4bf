/** The customer's page: what is proposed, what it costs, what it does in this engine, what is not sure. */
import { evidenceWords, isWorthIt, settlingsOf, type Say } from '@alluvium/core';
import { uncertaintyIn } from '../change/stageGain.js';
import { reasonsOf } from '../decide/words.js';
import { headText, moneyText, type WayRead } from '../decide/ways.js';
import type { Build } from '../nouns/build.js';
import { list, table, text, type Block, type ReportSection } from './blocks.js';
import { curvesSvg, type DrawnCurve } from './drawing.js';
import type { ReportFacts, ReportOptions } from './report.js';

// ways[]!: there is one at least.

/** Most sentences of a list on the customer's one page. */
const MOST = 4;
/** Curves that can be told apart on paper. */
const MOST_CURVES = 4;

const costText = (w: WayRead, build: Build, say: Say): string =>
  w.cost.lines.length === 0
    ? 'not priced'
    : `${moneyText(w.cost.sum.value, build, say)}${w.cost.u > 0 ? ` ± ${say.of(2 * w.cost.u, 'money')}` : ''}`;
function powerText(w: WayRead, say: Say): string {
  if (!w.power) return '–';
  const u = uncertaintyIn(w.power, w.book);
  return `${say.of(w.power.value, 'power', { digits: 0 })}${u > 0 ? ` ± ${say.of(2 * u, 'power', { digits: 0 })}` : ''}`;
}

/** The engine and what is wanted, in one sentence. */
function wantedText(build: Build, say: Say): string {
  const size = build.displacement ? say.of(build.displacement.si, 'displacement') : undefined;
  const bore = build.bore && build.stroke ? `${build.bore.typed} bore, ${build.stroke.typed} stroke` : undefined;
  const wanted = build.power ? say.of(build.power.si, 'power', { digits: 0 }) : build.torque ? build.torque.typed : '';
  const engine = [`${build.cylinders} cylinders`, size ?? bore].filter(Boolean).join(', ');
  const money = build.budget ? `, within ${moneyText(build.budget.si, build, say)}` : '';
  return `${engine}: ${wanted} at ${say.of(build.speed.si, 'rotation')}${money}${build.due ? `, by ${say.day(build.due)}` : ''}.`;
}

/** Curves of a side as the ways' heads flow, the reported one first; each head at a stage once. */
function curvesOf(ways: readonly WayRead[], side: 'intake' | 'exhaust'): DrawnCurve[] {
  const seen = new Set<string>();
  return ways
    .flatMap((w): DrawnCurve[] => {
      const key = `${w.way.stageId} ${w.way.gain?.si ?? 0}`;
      const points = w.evaluation?.result?.[side].points ?? [];
      if (points.length < 2 || seen.has(key)) return [];
      seen.add(key);
      return [{ name: w.way.name, points: points.map(({ lift, flow }) => ({ lift, flow: flow.value })) }];
    })
    .slice(0, MOST_CURVES);
}

/** Differences in per cent of the last curve at each of its lifts that the others have too. */
function shapeTable(curves: readonly DrawnCurve[], say: Say): Block[] {
  const base = curves.at(-1);
  if (!base || curves.length < 2) return [];
  const at = (c: DrawnCurve, lift: number) => c.points.find((p) => Math.abs(p.lift - lift) < 5e-6)?.flow;
  const rows = base.points
    .filter((p) => p.flow > 0 && curves.some((c) => c !== base && at(c, p.lift) !== undefined))
    .map((p) => [
      say.of(p.lift, 'lift'),
      ...curves.slice(0, -1).map((c) => {
        const flow = at(c, p.lift);
        return flow === undefined ? '–' : say.of(flow / p.flow - 1, 'percent', { digits: 1, signed: true });
      }),
    ]);
  return table(['lift', ...curves.slice(0, -1).map((c) => c.name)], rows, {
    numeric: curves.map((_, i) => i),
    wide: curves.map((_, i) => i),
  });
}

/** The reported way first, the first of all ways last: what the curves are held against. */
const inOrder = (ways: readonly WayRead[], way: WayRead): WayRead[] => {
  const base = ways[0]!;
  const others = ways.filter((w) => w !== way && w !== base);
  return [way, ...others, ...(base === way ? [] : [base])];
};

function proposal(facts: ReportFacts, way: WayRead, hidden: boolean): Block[] {
  const { build, say, decision, ways } = facts;
  const at = ways.indexOf(way);
  const reasons = reasonsOf(ways, at, build, say);
  const days = way.way.days === null ? '' : `, here in ${way.way.days} days`;
  const head = way.whole ? ` (${headText(way)})` : '';
  return [
    text(`${way.way.name}${head}: ${costText(way, build, say)}${days}.`, 'lead'),
    ...(decision?.reasons
      ? [text(decision.reasons)]
      : hidden
        ? []
        : [text(`For it: ${reasons.for}. Against it: ${reasons.against}.`)]),
    ...(decision?.rejected ? [text(`Not the others: ${decision.rejected}`, 'note')] : []),
  ];
}

function inThisEngine(facts: ReportFacts, way: WayRead): Block[] {
  const { build, say } = facts;
  const speed = say.of(build.speed.si, 'rotation');
  const power = way.power
    ? `Its intake carries about ${powerText(way, say)} at ${speed} by the rule of peak flow: a ceiling of the breathing, not a promise.`
    : 'Nothing is known yet of the power its flow can carry.';
  const degree = way.degree
    ? ` Against the target: ${way.degree}${way.odds === undefined ? '' : ` (${say.of(way.odds, 'percent', { digits: 0 })})`}.`
    : '';
  const torque = way.torque
    ? ` Run in the engine by simulation it makes ${say.of(way.torque.value, 'torque', { digits: 0 })} on average over the speeds it works at.`
    : '';
  return [text(power + degree + torque)];
}

function unsure(facts: ReportFacts, way: WayRead): string[] {
  const { say, decision } = facts;
  const { verdict } = way.evaluation ?? {};
  const evidence = verdict?.evidence.map((e) => evidenceWords(e, say)) ?? [];
  const settle = verdict
    ? settlingsOf(verdict)
        .filter(isWorthIt)
        .slice(0, 2)
        .map((s) => `It would be surer if we could: ${s.act}.`)
    : [];
  const guesses = way.way.lines.filter((l) => l.guess && l.price);
  return [
    ...(decision?.risks ? [decision.risks] : []),
    ...way.stops.map((s) => `It cannot go as it is: ${s}.`),
    ...way.open,
    ...(way.way.gain
      ? [
          `${way.way.gain.typed} of its flow is planned, give or take ${way.way.gainBand?.typed ?? ''}: not measured yet.`,
        ]
      : []),
    ...evidence,
    ...(guesses.length > 0
      ? [
          `${guesses.length} of its ${way.way.lines.length} prices ${guesses.length === 1 ? 'is a guess' : 'are guesses'}.`,
        ]
      : []),
    ...settle,
  ].slice(0, MOST + 2);
}

/** Said under every report. */
const CAUTIONS: readonly string[] = [
  'Power is a forecast from measured air and stated assumptions; only a dyno measures it.',
  'Valve-to-piston room, spring travel and retainer room are checked on the engine itself before it is first turned over.',
  'Local law on noise, exhaust and registration decides over anything said here, as do the engine maker’s limits and licensed practice.',
];

export function customerSections(
  facts: ReportFacts,
  way: WayRead | undefined,
  options: ReportOptions,
): ReportSection[] {
  const { build, ways, ranked, say } = facts;
  if (!way)
    return [
      { title: 'What was asked', blocks: [text(wantedText(build, say)), text('No way to go is written down yet.')] },
    ];
  const curves = curvesOf(inOrder(ways, way), 'intake');
  const title = 'Intake flow over valve lift';
  const rows = ways.map((w, i) => [
    w.way.name,
    costText(w, build, say),
    options.hidden ? '–' : powerText(w, say),
    w.stops.length > 0 ? 'cannot go as it is' : (w.degree ?? 'nothing known'),
    w.way.days === null ? '–' : String(w.way.days),
    say.of(ranked.wins[i] ?? 0, 'percent', { digits: 0 }),
  ]);
  return [
    { title: 'What was asked', blocks: [text(wantedText(build, say))] },
    { title: 'What we propose', blocks: proposal(facts, way, options.hidden) },
    {
      title: 'What it does in this engine',
      blocks: [
        ...(options.hidden ? [] : inThisEngine(facts, way)),
        ...(curves.length > 0
          ? [
              {
                kind: 'picture' as const,
                title,
                svg: curvesSvg(curves, title, say, { hidden: options.hidden, lift: build.cam?.intakeLift.si }),
              },
            ]
          : []),
        ...(options.hidden
          ? [
              text(`Shape and differences only; per cent against ${curves.at(-1)?.name ?? ''}.`, 'note'),
              ...shapeTable(curves, say),
            ]
          : []),
      ],
    },
    {
      title: 'The ways side by side',
      blocks: [
        ...table(['way', 'price', 'power', 'against the target', 'days', 'comes first'], rows, {
          numeric: [1, 2, 4, 5],
          wide: [0, 3],
        }),
        text(
          'A price is given with twice its standard uncertainty, from what is guessed of it. “Comes first” is how often a way leads when the weights of what matters and every figure vary within what is not known of them.',
          'note',
        ),
      ],
    },
    { title: 'What is not sure', blocks: list(unsure(facts, way)) },
    { title: 'Mind', blocks: list(CAUTIONS) },
  ];
}
