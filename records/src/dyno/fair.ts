/** What else changed between two pulls beside the head. */
import { mean, type Kind, type Say } from '@alluvium/core';
import type { Pull } from '../nouns/dyno.js';
import { airOf } from './pulls.js';

export interface Differing {
  readonly what: string;
  readonly a: string;
  readonly b: string;
  /** It is known to differ; else one of the two did not say. */
  readonly known: boolean;
  /** It alone can make the difference: a fair swap has none of these. */
  readonly matters: boolean;
}

/** Airs closer than this are corrected well enough: a share of the pressure, and kelvin. Common practice, no source. */
const AIR_APART = 0.02;
const WARMTH_APART = 8;

const QUANTITIES = [
  ['compression', 'compression', 'compression', 0.01],
  ['lobe separation', 'lobeSeparation', 'angle', 0.009],
  ['intake centreline', 'intakeCentreline', 'angle', 0.009],
  ['duration', 'duration', 'angle', 0.02],
  ['ignition', 'ignition', 'angle', 0.009],
] as const satisfies readonly (readonly [string, keyof Pull['setup'], Kind, number])[];
const TEXTS = [
  ['manifold', 'manifold'],
  ['exhaust', 'exhaust'],
  ['fuel', 'fuel'],
  ['tune', 'tune'],
] as const satisfies readonly (readonly [string, keyof Pull['setup']])[];

const plain = (text: string) => text.trim().toLowerCase().replace(/\s+/g, ' ');

/** Mean lambda over a pull's rows; undefined where none was logged. */
export function meanLambda(pull: Pick<Pull, 'rows'>): number | undefined {
  const own = pull.rows.flatMap((r) => (r.lambda ? [r.lambda.si] : []));
  return own.length > 0 ? mean(own) : undefined;
}

/** Everything that differs between two pulls, what matters first; what only one of them says is named as unknown. */
export function changedBetween(a: Pull, b: Pull, say: Say): Differing[] {
  const found: Differing[] = [];
  const put = (what: string, x: string, y: string, known: boolean, matters = true) =>
    found.push({ what, a: x || 'not noted', b: y || 'not noted', known, matters });
  for (const [what, key, kind, apart] of QUANTITIES) {
    const [x, y] = [a.setup[key], b.setup[key]];
    if (x && y) {
      const far = kind === 'compression' ? Math.abs(x.si / y.si - 1) : Math.abs(x.si - y.si);
      if (far > apart) put(what, say.of(x.si, kind), say.of(y.si, kind), true);
    } else if (x || y) put(what, x ? say.of(x.si, kind) : '', y ? say.of(y.si, kind) : '', false);
  }
  for (const [what, key] of TEXTS) {
    const [x, y] = [a.setup[key], b.setup[key]];
    if (plain(x) === plain(y)) continue;
    put(what, x, y, x !== '' && y !== '');
  }
  const [la, lb] = [meanLambda(a), meanLambda(b)];
  if (la !== undefined && lb !== undefined && Math.abs(la - lb) > 0.03)
    put('mixture', `lambda ${say.number(la, 2)}`, `lambda ${say.number(lb, 2)}`, true);
  if (a.dyno !== b.dyno) put('dyno', a.dyno, b.dyno, true);
  if (plain(a.cell) !== plain(b.cell)) put('cell', a.cell, b.cell, a.cell !== '' && b.cell !== '');
  if (a.correction !== b.correction) put('correction', a.correction ?? '', b.correction ?? '', true);
  if (a.date !== b.date) put('day', a.date ?? '', b.date ?? '', a.date !== null && b.date !== null, false);
  const [x, y] = [airOf(a), airOf(b)];
  if (x && y) {
    const far =
      Math.abs(x.pressure / y.pressure - 1) > AIR_APART || Math.abs(x.temperature - y.temperature) > WARMTH_APART;
    const words = (air: typeof x) => `${say.of(air.pressure, 'pressure')}, ${say.of(air.temperature, 'temperature')}`;
    if (far) put('air of the day', words(x), words(y), true, false);
  } else put('air of the day', x ? 'noted' : '', y ? 'noted' : '', false, false);
  return found.sort((p, q) => Number(q.matters) - Number(p.matters) || Number(q.known) - Number(p.known));
}

/** Whether two pulls compare the heads alone: no known difference that matters, and how much is not known. */
export interface Fairness {
  readonly fair: boolean;
  readonly sure: boolean;
  readonly words: string;
}
export function fairnessOf(changed: readonly Differing[]): Fairness {
  const known = changed.filter((c) => c.known && c.matters);
  const open = changed.filter((c) => !c.known && c.matters);
  if (known.length > 0)
    return {
      fair: false,
      sure: true,
      words: `This is no test of the heads alone: ${known.map((c) => c.what).join(', ')} changed too.`,
    };
  if (open.length > 0)
    return {
      fair: true,
      sure: false,
      words: `Nothing else is known to have changed, but only one of them says: ${open.map((c) => c.what).join(', ')}.`,
    };
  return {
    fair: true,
    sure: true,
    words: 'Nothing else is noted to have changed: a fair swap, as far as the notes go.',
  };
}
