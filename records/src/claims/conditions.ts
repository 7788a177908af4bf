/** How a table or a size came about, as the rule book of claims reads it. */
import { comparableSizes, type Comparison, type Conditions, type Side } from '@alluvium/core';
import type { WholeHead } from '../api.js';
import type { Port } from '../nouns/head.js';
import type { Measure } from '../nouns/measure.js';
import type { Setup, Sheet } from '../nouns/sheet.js';
import type { SourceStated } from '../nouns/source.js';
import { valveOn } from '../repeats.js';
import { portName } from '../select.js';

const known = (word: string): string | undefined => (word === 'unknown' || word === '' ? undefined : word);

/** The port a sheet was taken on, on one side. */
export const portIdOf = (sheet: Sheet, side: Side): string | null =>
  side === 'intake' ? sheet.intakePortId : sheet.exhaustPortId;

/** The conditions of a sheet as the rule book reads them. */
export const conditionsOf = (sheet: Sheet, ports: readonly Port[], side: Side): Conditions => ({
  depression: sheet.setup.depression?.si,
  bore: sheet.setup.bore?.si,
  entry: known(sheet.setup.entry),
  exhaustPipe: known(sheet.setup.exhaustPipe),
  valve: known(valveOn(sheet.setup, side)),
  flowValve: sheet.setup[`${side}FlowValve`]?.si,
  pipeDiameter: sheet.setup.pipeDiameter?.si,
  pipeLength: sheet.setup.pipeLength?.si,
  port: portName(ports, portIdOf(sheet, side)),
});

/** Whether a stated and a found size may be held against each other. */
export function sizesComparable(
  whole: Pick<WholeHead, 'stages' | 'ports'>,
  stated: Measure,
  found: Measure,
): Comparison {
  const of = (m: Measure) => ({
    stage: whole.stages.find((s) => s.id === m.stageId)?.name,
    // A size of the head as a whole has no port to differ by.
    port: m.side === null ? 'the head' : portName(whole.ports, m.portId),
    instrument: known(m.instrument),
  });
  return comparableSizes(of(stated), of(found));
}

/** The conditions of a claim with what its source states of all its tests, and the names of what was taken over. */
export function withStated(
  setup: Setup,
  stated: SourceStated,
): { readonly setup: Setup; readonly taken: readonly string[] } {
  const taken: Record<string, unknown> = {};
  for (const field of STATED_FIELDS) {
    const here = setup[field];
    const there = stated[field];
    if ((here === null || here === 'unknown') && there !== null && there !== 'unknown') taken[field] = there;
  }
  return {
    setup: { ...setup, ...taken } as Setup,
    taken: STATED_FIELDS.filter((f) => f in taken).map((f) => STATED_WORDS[f]),
  };
}
const STATED_WORDS = {
  depression: 'depression',
  bore: 'bore',
  entry: 'intake entry',
  exhaustPipe: 'exhaust',
  pipeDiameter: 'pipe diameter',
  pipeLength: 'pipe length',
  valve: 'valves',
} as const;
const STATED_FIELDS = Object.keys(STATED_WORDS) as (keyof typeof STATED_WORDS)[];
