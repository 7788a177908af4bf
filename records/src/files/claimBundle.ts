/**
 * A table of claims as a bundle, so that it goes through the same door as every other file: looked at first, then all or
 * nothing.
 */
import {
  MOST_LIFT_RATIO,
  claimQuestions,
  parseQuantity,
  type Kind,
  type Quantity,
  type Say,
  type Side,
  type System,
} from '@alluvium/core';
import type { WholeHead } from '../api.js';
import { MEASURE_ITEMS, MEASURE_ITEM_NAMES } from '../nouns/measureItems.js';
import { Setup, readingSchema } from '../nouns/sheet.js';
import type { Source } from '../nouns/source.js';
import { BUNDLE_FORMAT, BUNDLE_VERSION, type BundleProblem } from './bundle.js';
import type { ClaimColumn, ClaimTable } from './claimTable.js';
import { sentence, sentenceOf, firstRefused, type CodedSentence } from '../refusal.js';

// to.side!, side!: what stands on a side says which.
// power!, speed!, displacement!: looked for in front of it.
// pulls[]!: a side that is there has one.

/** Which heads and sources are in the library already, so that a claim is put on them. */
export interface KnownHere {
  readonly sources: readonly Pick<Source, 'id' | 'name'>[];
  readonly heads: readonly Pick<WholeHead, 'head' | 'stages' | 'ports' | 'measures'>[];
}

export interface ClaimBundle {
  /** The file as a bundle, to be previewed and brought in like any other. */
  readonly text: string;
  readonly problems: readonly BundleProblem[];
  /** What is asked about the claims; nothing of it keeps them out. */
  readonly questions: readonly string[];
}

/** An id that the same text always gets, so that a file brought in twice makes no doubles. FNV-1a, 64 bit. */
export function idOf(what: string, ...parts: readonly (string | number | null)[]): string {
  let hash = 0xcbf29ce484222325n;
  for (const code of new TextEncoder().encode(parts.map((p) => String(p ?? '').toLowerCase()).join('\u0000')))
    hash = ((hash ^ BigInt(code)) * 0x100000001b3n) & 0xffffffffffffffffn;
  return `${what}-${hash.toString(16).padStart(16, '0')}`;
}

const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

interface Row {
  lift: string;
  intake: { pulls: string[] } | null;
  exhaust: { pulls: string[] } | null;
}

/** The records a table makes, by id. */
const blank = () => ({
  sources: new Map<string, object>(),
  heads: new Map<string, object>(),
  stages: new Map<string, object>(),
  ports: new Map<string, object>(),
  sheets: new Map<string, { rows: Row[]; [key: string]: unknown }>(),
  measures: new Map<string, object>(),
  reports: new Map<string, object>(),
});
type Made = ReturnType<typeof blank>;

/** One line being read: its cells, and the complaints about them. */
class Line {
  sound = true;
  constructor(
    readonly cells: Readonly<Record<ClaimColumn, string>>,
    private readonly number: number,
    private readonly problems: BundleProblem[],
    private readonly system: System,
  ) {}

  complain(field: ClaimColumn, why: CodedSentence): void {
    this.sound = false;
    this.problems.push({ place: `line ${this.number}, ${field}`, ...why });
  }
  /** The quantity in a cell; undefined, with `missing` as the complaint, where it is empty or cannot be read. */
  quantity(field: ClaimColumn, kind: Kind, missing: CodedSentence): Quantity | undefined {
    if (!this.cells[field]) this.complain(field, missing);
    else {
      const parsed = parseQuantity(this.cells[field], kind, this.system);
      if (parsed.ok) return parsed.quantity;
      this.complain(field, sentenceOf(parsed.refusal));
    }
    return undefined;
  }
}

/** What a line's claim is put on. */
interface Target {
  readonly sourceId: string;
  readonly headId: string;
  readonly stageId: string;
  readonly side: Side | undefined;
  readonly date: string | null;
  readonly portFor: (side: Side) => string | null;
  /** Diameter of a valve that is known, m. */
  readonly valve: (side: Side) => number | undefined;
}

/** The source, head, stage and side a line names, made anew where they are not here yet. */
function targetOf(line: Line, here: KnownHere, made: Made): Target | undefined {
  const { cells } = line;
  if (!cells.source) line.complain('source', sentence('claimWithoutSource'));
  if (!cells.head) line.complain('head', sentence('claimWithoutHead'));
  if (!line.sound) return undefined;
  const source = here.sources.find((s) => same(s.name, cells.source));
  const sourceId = source?.id ?? idOf('source', cells.source);
  if (!source) made.sources.set(sourceId, { id: sourceId, name: cells.source, kind: 'maker' });
  const known = here.heads.find(
    (h) => same(h.head.name, cells.head) && (!cells.maker || same(h.head.maker, cells.maker)),
  );
  const headId = known?.head.id ?? idOf('head', cells.head, cells.maker);
  if (!known) made.heads.set(headId, { id: headId, name: cells.head, maker: cells.maker, kind: 'aftermarket' });
  const stages = [...(known?.stages ?? [])].sort((a, b) => a.position - b.position);
  const stage = cells.stage ? stages.find((s) => same(s.name, cells.stage)) : stages[0];
  const name = cells.stage || 'as received';
  const stageId = stage?.id ?? idOf('stage', headId, name);
  if (!stage) made.stages.set(stageId, { id: stageId, headId, name, position: (stages.at(-1)?.position ?? -1) + 1 });
  const word = cells.side.toLowerCase();
  const side: Side | undefined = word.startsWith('in') ? 'intake' : word.startsWith('ex') ? 'exhaust' : undefined;
  if (word && !side) line.complain('side', sentence('sideUnknown', cells.side));
  if (cells.date && !/^\d{4}-\d{2}-\d{2}$/.test(cells.date)) line.complain('date', sentence('notADate'));
  const number = Number(/^(?:port\s*)?(\d+)$/i.exec(cells.port)?.[1] ?? 0);
  if (cells.port && (number < 1 || number > 48)) line.complain('port', sentence('notAPort', cells.port));
  return {
    sourceId,
    headId,
    stageId,
    side,
    date: cells.date || null,
    portFor: (of) => {
      if (!cells.port) return null;
      const port = known?.ports.find((p) => p.side === of && p.number === number);
      const id = port?.id ?? idOf('port', headId, of, number);
      if (!port) made.ports.set(id, { id, headId, side: of, number });
      return id;
    },
    valve: (of) => known?.measures.find((m) => m.item === 'valve diameter' && m.side === of)?.value.si,
  };
}

/** The conditions a line states; what it does not state stays unknown. */
function setupOf(line: Line, system: System): Record<string, unknown> {
  const { cells } = line;
  const setup: Record<string, unknown> = {};
  const put = (field: ClaimColumn, key: keyof Setup, kind?: Kind) => {
    if (!cells[field] || same(cells[field], 'unknown')) return;
    const parsed = kind && parseQuantity(cells[field], kind, system);
    const value = parsed?.ok ? parsed.quantity.typed : kind ? cells[field] : cells[field].toLowerCase();
    const trial = Setup.shape[key].safeParse(value);
    if (trial.success) setup[key] = value;
    else line.complain(field, firstRefused(trial.error));
  };
  put('depression', 'depression', 'depression');
  put('bore', 'bore', 'length');
  put('entry', 'entry');
  put('pipe', 'exhaustPipe');
  put('valve', 'valve');
  return setup;
}

/** Flows at one lift go onto the sheet of their source, stage and conditions. */
function takeFlows(line: Line, to: Target, flows: readonly [Side, ClaimColumn][], made: Made, system: System): number {
  const { cells } = line;
  const lift = line.quantity('lift', 'lift', sentence('flowWithoutLift'));
  const setup = setupOf(line, system);
  const read = flows.flatMap(([side, field]) => {
    const flow = line.quantity(field, 'flow', sentence('whichFlow'));
    const checked = flow && readingSchema('flow').safeParse(flow);
    if (checked?.success === false) line.complain(field, firstRefused(checked.error));
    return flow ? [[side, flow.typed] as const] : [];
  });
  if (!line.sound || !lift) return 0;
  const title = cells.title || cells.source;
  const id = idOf('claim', to.stageId, to.sourceId, JSON.stringify(setup), cells.port, to.date, title);
  const sheet = made.sheets.get(id) ?? {
    id,
    stageId: to.stageId,
    sourceId: to.sourceId,
    title,
    kind: 'claim',
    date: to.date,
    intakePortId: null,
    exhaustPortId: null,
    setup,
    rows: [],
    note: cells.note,
  };
  made.sheets.set(id, sheet);
  let row = sheet.rows.find((r) => r.lift === lift.typed);
  if (!row) sheet.rows.push((row = { lift: lift.typed, intake: null, exhaust: null }));
  for (const [side, typed] of read) {
    sheet[`${side}PortId`] = to.portFor(side);
    if (row[side]) line.complain(side, sentence('claimTwice', side, lift.typed));
    row[side] = { pulls: [typed] };
  }
  return lift.si;
}

function takeSize(line: Line, to: Target, made: Made): { side: Side; valve: number } | undefined {
  const { cells } = line;
  const item = MEASURE_ITEM_NAMES.find((n) => same(n, cells.item));
  if (!item) return void line.complain('item', sentence('sizeUnknown', cells.item));
  const { kind, sided } = MEASURE_ITEMS[item];
  const value = line.quantity('value', kind, sentence('whichSize', item));
  if (sided && !cells.side) line.complain('side', sentence('sideOfTwo', item));
  if (!line.sound || !value || (sided && !to.side)) return undefined;
  const { stageId, sourceId, date } = to;
  const side = sided ? to.side! : null;
  const portId = side && to.portFor(side);
  const id = idOf('claim', stageId, sourceId, item, side, portId, value.typed);
  made.measures.set(id, { id, stageId, sourceId, item, side, portId, date, value: value.typed, note: cells.note });
  return item === 'valve diameter' ? { side: side!, valve: value.si } : undefined;
}

function takePower(line: Line, to: Target, made: Made): void {
  const { cells } = line;
  const power = line.quantity('power', 'power', sentence('whichPower'));
  const speed = line.quantity('speed', 'rotation', sentence('whichSpeed'));
  const displacement = line.quantity('displacement', 'displacement', sentence('whichDisplacement'));
  if (!/^\d{1,2}$/.test(cells.cylinders)) line.complain('cylinders', sentence('howManyCylinders'));
  if (!line.sound) return;
  const { stageId, sourceId, date } = to;
  const id = idOf('claim', stageId, sourceId, 'power', power!.typed, speed!.typed);
  made.reports.set(id, {
    id,
    stageId,
    sourceId,
    date,
    power: power!.typed,
    speed: speed!.typed,
    displacement: displacement!.typed,
    cylinders: Number(cells.cylinders),
    note: cells.note,
  });
}

/** The claims of a table as a bundle, put on heads and sources that are here already where their names agree. */
export function claimBundle(table: ClaimTable, here: KnownHere, system: System, say: Say): ClaimBundle {
  const problems: BundleProblem[] = [...table.problems];
  const made = blank();
  const valves = new Map<string, number>();
  const lifts: { head: string; of: string; lift: number; known: number | undefined }[] = [];
  for (const { line: number, cells } of table.lines) {
    const line = new Line(cells, number, problems, system);
    const to = targetOf(line, here, made);
    if (!to) continue;
    const flows: [Side, ClaimColumn][] = [];
    if (cells.flow && !cells.side) line.complain('side', sentence('sideOfTwo', 'flow'));
    if (cells.flow && to.side) flows.push([to.side, 'flow']);
    for (const side of ['intake', 'exhaust'] as const) if (cells[side]) flows.push([side, side]);
    if (flows.length > 0) {
      const lift = takeFlows(line, to, flows, made, system);
      for (const [side] of flows) lifts.push({ head: cells.head, of: to.headId + side, lift, known: to.valve(side) });
    } else if (line.sound && !cells.item && !cells.power)
      line.complain(cells.lift ? 'flow' : 'item', sentence(cells.lift ? 'liftWithoutFlow' : 'lineWithoutClaim'));
    if (cells.item) {
      const valve = takeSize(line, to, made);
      if (valve) valves.set(to.headId + valve.side, valve.valve);
    }
    if (cells.power) takePower(line, to, made);
  }
  const beyond = lifts.filter((l) => l.lift > MOST_LIFT_RATIO * (valves.get(l.of) ?? l.known ?? Infinity));
  const questions = [...new Set(beyond.map((l) => l.head))].map((head) => {
    const beyondValve = [...new Set(beyond.filter((l) => l.head === head).map((l) => l.lift))];
    return `${head}: ${claimQuestions({ beyondValve, exhaustAhead: [] }, say)[0]}`;
  });
  for (const sheet of made.sheets.values()) {
    const exhaustAhead = exhaustLead(sheet.rows, system);
    for (const q of claimQuestions({ beyondValve: [], exhaustAhead }, say))
      questions.push(`${String(sheet.title)}: ${q}`);
  }
  const records = Object.fromEntries(Object.entries(made).map(([key, map]) => [key, [...map.values()]]));
  return {
    text: JSON.stringify({ format: BUNDLE_FORMAT, version: BUNDLE_VERSION, ...records }),
    problems,
    questions,
  };
}

/** Lifts (m) at which the exhaust of a claim flows more than its intake. */
function exhaustLead(rows: readonly Row[], system: System): number[] {
  const si = (typed: string, kind: Kind) => {
    const parsed = parseQuantity(typed, kind, system);
    return parsed.ok ? parsed.quantity.si : 0;
  };
  return rows
    .filter((r) => r.intake && r.exhaust && si(r.exhaust.pulls[0]!, 'flow') > si(r.intake.pulls[0]!, 'flow'))
    .map((r) => si(r.lift, 'lift'));
}
