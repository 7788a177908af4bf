/** The workshop's pages: conditions, sizes, sheets, work list, costs, fit, what matters; and the workings behind the figures. */
import {
  format,
  formatNumber,
  isWorking,
  noteOf,
  unitFor,
  valueOf,
  type Kind,
  type Say,
  type Working,
} from '@alluvium/core';
import { measuresAt, portName } from '../select.js';
import { setupLines } from '../files/table.js';
import { uncertaintyIn } from '../change/stageGain.js';
import { matrixOf } from '../decide/matters.js';
import { edgeOf, moneyText, type WayRead } from '../decide/ways.js';
import { costOfLines, lineName } from '../decide/cost.js';
import { priceSvg } from './drawing.js';
import { list, table, text, type Block, type ReportSection } from './blocks.js';
import type { ReportFacts, ReportOptions } from './report.js';

// key!: a line begins with one.
// edge[]!: one for each.
// f.measured!: contradicted by it.
// whole!: measures of a head.
// working.method.inputs[]!: inputs of the method itself.

/** `exhaustPipe` as it is said: exhaust pipe. */
const spoken = (key: string): string => key.replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`);

function sheetBlocks(way: WayRead, say: Say, hidden: boolean): ReportSection[] {
  const { evaluation } = way;
  if (!evaluation?.sheet || !evaluation.result || hidden) return [];
  const { sheet, result } = evaluation;
  const planned = way.way.gain !== null;
  const lifts = [...new Set([...result.intake.points, ...result.exhaust.points].map((p) => p.lift))].sort(
    (a, b) => a - b,
  );
  const at = (side: 'intake' | 'exhaust', lift: number) => {
    const point = result[side].points.find((p) => p.lift === lift);
    return point ? formatNumber(point.flow.value, 'flow', say.system, { digits: 1 }) : '–';
  };
  const unit = unitFor('flow', say.system).symbol;
  return [
    {
      title: `Flow sheet: ${sheet.title}`,
      blocks: [
        ...(planned ? [text('Raised by what is planned: these are not readings.', 'caution')] : []),
        ...table(
          ['lift', `intake, ${unit}`, `exhaust, ${unit}`],
          lifts.map((l) => [say.of(l, 'lift'), at('intake', l), at('exhaust', l)]),
          { numeric: [0, 1, 2], wide: [0, 1, 2] },
        ),
        text('At 28 in of water, standard air.', 'note'),
      ],
    },
    {
      title: 'How it was tested',
      blocks: table(
        ['what', 'as noted'],
        setupLines(sheet).map(([key, ...values]) => [spoken(key!), values.filter(Boolean).join(' · ')]),
        { wide: [1] },
      ),
    },
  ];
}

/** Sections of one way, for who does the work. */
export function workshopSections(
  facts: ReportFacts,
  way: WayRead | undefined,
  { hidden }: ReportOptions,
): ReportSection[] {
  if (!way) return [];
  const { build, say, ways } = facts;
  const { whole } = way;
  const priced = way.way.lines.filter((l) => l.price);
  const measures = whole && way.way.stageId ? measuresAt(whole, way.way.stageId) : [];
  const tasks = whole?.tasks ?? [];
  const matrix = matrixOf(ways, build, say);
  const unchecked = way.fit.filter((f) => f.state === 'unknown').map((f) => f.item);
  const edge = edgeOf(ways);
  const pricedWays = ways.flatMap((w, i) =>
    w.power && w.cost.lines.length > 0
      ? [
          {
            name: w.way.name,
            cost: w.cost.sum.value,
            costU: w.cost.u,
            power: w.power.value,
            powerU: uncertaintyIn(w.power, w.book),
            edge: edge[i]!,
          },
        ]
      : [],
  );
  const costs = costOfLines(way, build);
  const lines = way.way.lines.map((l, i) => {
    const cost = costs[i];
    return [
      lineName(l) === l.kind ? l.kind : `${l.kind}: ${l.text}`,
      String(l.quantity),
      l.price ? `${l.price.typed} ${l.currency || build.currency}`.trim() : 'to be asked for',
      l.tax === 'included' ? 'tax in it' : l.tax === 'added' ? 'plus tax' : 'no tax',
      l.guess ? `guess, ± ${l.guess.typed}` : l.supplier || 'quoted',
      cost ? say.of(cost.value, 'money') : '–',
    ];
  });
  return [
    {
      title: `What it costs: ${way.way.name}`,
      page: priced.length > 0,
      blocks: [
        ...table(
          ['for', 'pieces or hours', 'price of one', 'tax', 'from whom', `cost, ${build.currency || 'as typed'}`],
          lines,
          {
            numeric: [1, 2, 5],
            wide: [0],
          },
        ),
        text(
          `Together ${moneyText(way.cost.sum.value, build, say)}${way.open.length > 0 ? `, short of: ${way.open.join(' ')}` : ''}.`,
        ),
        ...(build.rates.length > 0
          ? [
              text(
                `Exchange rates: ${build.rates.map((r) => `1 ${r.currency} = ${r.rate} ${build.currency} (${r.date})`).join('; ')}.`,
                'note',
              ),
            ]
          : []),
        ...(pricedWays.length > 1 && !hidden
          ? [
              {
                kind: 'picture' as const,
                title: 'Price against power',
                svg: priceSvg(pricedWays, 'Price against power', say, build.currency),
              },
            ]
          : []),
      ],
    },
    {
      title: 'Does it fit',
      blocks: [
        ...table(
          ['item', 'answer', 'because'],
          way.fit
            .filter((f) => f.state !== 'unknown')
            .map((f) => [f.item, f.state, f.contradicted ? `${f.note} But ${f.measured!.text}.`.trim() : f.note]),
          { wide: [2] },
        ),
        ...(unchecked.length > 0 ? [text(`Not checked yet: ${unchecked.join(', ')}.`, 'caution')] : []),
      ],
    },
    ...(tasks.length > 0
      ? [
          {
            title: 'Work list',
            blocks: table(
              ['cut', 'where', 'to', 'never past', 'tool', 'done'],
              tasks.map((t) => [
                t.kind === 'keep out' ? `do not touch: ${t.place}` : [t.side, t.operation].filter(Boolean).join(' '),
                t.place,
                t.wanted?.typed ?? '',
                t.limit?.typed ?? '',
                t.tool,
                t.done ?? '',
              ]),
              { wide: [0, 1] },
            ),
          },
        ]
      : []),
    ...(measures.length > 0
      ? [
          {
            title: 'Sizes',
            blocks: table(
              ['size', 'side', 'port', 'value', 'known how'],
              measures
                .filter((m) => m.item !== 'price')
                .map((m) => [
                  m.item,
                  m.side ?? '',
                  portName(whole!.ports, m.portId) ?? '',
                  m.value.typed,
                  m.sourceId ? 'as stated' : 'measured',
                ]),
              { numeric: [3], wide: [0, 4] },
            ),
          },
        ]
      : []),
    ...sheetBlocks(way, say, hidden),
    {
      title: 'What matters, and on what evidence',
      blocks: table(
        ['what matters', 'weight', ...ways.map((w) => w.way.name)],
        hidden
          ? []
          : matrix.map((row) => [row.name, String(row.weight), ...row.cells.map((c) => `${c.text} (${c.evidence})`)]),
        { numeric: [1], wide: ways.map((_, i) => i + 2) },
      ),
    },
    ...(facts.words.length > 0 && !hidden ? [{ title: 'Reading of the ways', blocks: list(facts.words) }] : []),
  ].filter((s) => s.blocks.length > 0);
}

/** One given figure of a working, in words: `bore 98.0 mm`. */
function givenText(working: Working, name: string, say: Say): string {
  const spec = working.method.inputs[name]!;
  const given = working.given[name];
  const value = valueOf(given);
  const note = noteOf(given);
  const said =
    spec.kind === 'curve' || spec.kind === 'cam'
      ? 'as measured'
      : Array.isArray(value)
        ? value.map((v) => say.of(v as number, spec.kind as Kind)).join(' + ')
        : say.of(value as number, spec.kind);
  return `${spec.label} ${said}${note ? ` (${note})` : ''}`;
}

/** A working and those it stands on, the figure itself first; each method's working once. */
function chain(working: Working, seen = new Set<Working>()): Working[] {
  if (seen.has(working)) return [];
  seen.add(working);
  return [working, ...Object.values(working.given).flatMap((g) => (isWorking(g) ? chain(g, seen) : []))];
}

const resultText = ({ method, value }: Working, say: Say): string => {
  const { kind } = method.result;
  return format(value, kind, say.system, kind === 'money' && Math.abs(value) < 100 ? { digits: 1 } : {});
};

/** Workings of the figures that decide. */
export function appendixSections(facts: ReportFacts, way: WayRead, { hidden }: ReportOptions): ReportSection[] {
  const { say } = facts;
  const roots = [way.cost.sum, ...(hidden ? [] : [way.power, way.perPower, way.perGain, way.perFlow])].filter(
    (w) => w !== undefined,
  );
  const seen = new Set<Working>();
  const all = roots.flatMap((r) => chain(r, seen));
  const blocks = all.flatMap((w): Block[] => [
    text(`${w.method.title}: ${resultText(w, say)}`, 'lead'),
    text(
      `from ${Object.keys(w.given)
        .map((name) => givenText(w, name, say))
        .join('; ')}.`,
    ),
    text(`Source: ${w.method.source}${w.method.caution ? ` Mind: ${w.method.caution}` : ''}`, 'note'),
  ]);
  return blocks.length > 0 ? [{ title: 'Workings', page: true, blocks }] : [];
}
