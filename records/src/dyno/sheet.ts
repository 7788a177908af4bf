/** A pull as it stands on paper: its facts, and its rows thinned to what one page holds. */
import { formatNumber, unitFor, type Kind, type Say } from '@alluvium/core';
import { PULL_KINDS, PULL_READS, type Pull } from '../nouns/dyno.js';

export interface PullSheet {
  readonly facts: readonly (readonly [what: string, said: string])[];
  readonly head: readonly string[];
  readonly rows: readonly (readonly string[])[];
  /** One in so many rows is printed. */
  readonly every: number;
}

/** Rows of one page beside a chart and its estimates. */
const MOST_ROWS = 26;

const QUANTITIES = [
  ['compression', 'compression', 'compression'],
  ['lobe separation', 'lobeSeparation', 'angle'],
  ['intake centreline', 'intakeCentreline', 'angle'],
  ['duration, intake', 'duration', 'angle'],
  ['ignition', 'ignition', 'angle'],
] as const satisfies readonly (readonly [string, keyof Pull['setup'], Kind])[];

/** `head` is the head's name and stage as the shop calls it. What nobody noted is left out, but for air and standard. */
export function pullSheetOf(pull: Pull, head: string, say: Say): PullSheet {
  const { setup } = pull;
  const air = [
    // As it was typed: barometers are read in their own units.
    pull.pressure?.typed,
    pull.temperature?.typed,
    pull.humidity && `${say.of(pull.humidity.si, 'percent', { digits: 0 })} humidity`,
  ].filter(Boolean);
  const said: (readonly [string, string])[] = [
    ['pulled on', pull.date ?? 'no day noted'],
    ['head', head || 'not noted'],
    ['taken on', pull.cell ? `${pull.dyno}, ${pull.cell}` : pull.dyno],
    ['figures by', pull.correction ?? 'nobody says which standard'],
    ['air', air.length > 0 ? air.join(', ') : 'not noted'],
    ...QUANTITIES.map(([what, key, kind]) => [what, setup[key] ? say.of(setup[key].si, kind) : ''] as const),
    ...(['manifold', 'exhaust', 'fuel', 'tune'] as const).map((key) => [key, setup[key]] as const),
    ['note', pull.note],
  ];
  const read = PULL_READS.filter((c) => pull.rows.some((r) => r[c]));
  const every = Math.ceil(pull.rows.length / MOST_ROWS);
  return {
    facts: said.filter(([, text]) => text !== ''),
    head: read.map((c) => {
      const { symbol } = unitFor(PULL_KINDS[c], say.system);
      return symbol ? `${c}, ${symbol}` : c;
    }),
    rows: pull.rows
      .filter((_, i) => i % every === 0)
      .map((r) => read.map((c) => (r[c] ? formatNumber(r[c].si, PULL_KINDS[c], say.system) : ''))),
    every,
  };
}
