import type { SetupFact, Side } from '@alluvium/core';
import { SETUP_FIELDS, portName, setupAnswer, type Source } from '@alluvium/records';
import type { CompareHead } from '../data/comparison.js';

// h.sheet!, heads[]!: the heads here were flowed, one sheet each.

/** What of the set-ups must be alike for a fair comparison of one side; unknown stays undefined. */
export function setupFacts(heads: readonly CompareHead[], side: Side, sources: readonly Source[]): SetupFact[] {
  const sheets = heads.map((h) => h.sheet!);
  const known = (v: string) => (v === 'unknown' ? undefined : v);
  const fact = (what: string, read: (sheet: (typeof sheets)[number], i: number) => string | undefined): SetupFact => ({
    what,
    values: sheets.map(read),
  });
  // What is asked only of those who look for it counts once two sheets say it.
  const further = SETUP_FIELDS.filter((f) => f.unlike === 'both' || f.unlike === side)
    .map((f) =>
      fact(f.ask.toLowerCase(), (s) => {
        const answer = setupAnswer(s.setup, f);
        return answer && `${f.ask.toLowerCase()}: ${answer}`;
      }),
    )
    .filter((f) => f.values.filter((v) => v !== undefined).length > 1);
  return [
    fact('depression', (s) => s.setup.depression?.typed.replace('inH2O', 'in')),
    fact('bore', (s) => (s.setup.bore ? `${s.setup.bore.typed} bore` : undefined)),
    ...(side === 'intake'
      ? [fact('entry', (s) => known(s.setup.entry) && `${s.setup.entry} entry`)]
      : [fact('exhaust', (s) => known(s.setup.exhaustPipe) && `exhaust ${s.setup.exhaustPipe}`)]),
    ...further,
    fact('valve', (s) => known(s.setup.valve) && (s.setup.valve === 'own' ? 'own valves' : 'another valve')),
    fact('port', (s, i) => portName(heads[i]!.whole.ports, side === 'intake' ? s.intakePortId : s.exhaustPortId)),
    fact('bench', (s) => sources.find((x) => x.id === s.sourceId)?.name),
    fact('stage', (_, i) => heads[i]!.stage.name),
  ];
}

/** Whether this head's exhaust was tested like the baseline's: bare and piped are different quantities. */
export const sameExhaust = (a: CompareHead, b: CompareHead): boolean =>
  a.sheet === undefined ||
  b.sheet === undefined ||
  a.sheet.setup.exhaustPipe === b.sheet.setup.exhaustPipe ||
  a.sheet.setup.exhaustPipe === 'unknown' ||
  b.sheet.setup.exhaustPipe === 'unknown';
