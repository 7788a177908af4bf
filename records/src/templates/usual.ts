/** Templates that ship with the program: common practice, no source. Sizes are left to the calipers. */
import { quantity } from '@alluvium/core';
import { BenchSetup } from '../nouns/bench.js';
import {
  BenchTemplate,
  HeadTemplate,
  TEMPLATE_CONTENT,
  type Template,
  type TemplateContent,
  type TemplateOf,
} from '../nouns/template.js';

type Named<T extends TemplateOf> = readonly (readonly [name: string, content: TemplateContent<T>])[];

const depression = quantity('28', 'depression');

const USUAL: { readonly [T in TemplateOf]: Named<T> } = {
  head: [
    ['production, iron, two valves a cylinder', HeadTemplate.parse({ kind: 'production', material: 'iron' })],
    [
      'aftermarket, aluminium, two valves a cylinder',
      HeadTemplate.parse({ kind: 'aftermarket', material: 'aluminium', stage: 'as cast' }),
    ],
    [
      'production, aluminium, four valves a cylinder',
      HeadTemplate.parse({ kind: 'production', material: 'aluminium', intakeValves: 2, exhaustValves: 2 }),
    ],
    [
      'reworked, iron, two valves a cylinder',
      HeadTemplate.parse({ kind: 'reworked', material: 'iron', stage: 'as bought' }),
    ],
  ],
  bench: [
    [
      'our own bench, percent of a range',
      BenchTemplate.parse({ kind: 'own bench', meter: 'orifices, percent of a range' }),
    ],
    ['our own bench, flow shown directly', BenchTemplate.parse({ kind: 'own bench', meter: 'flow shown directly' })],
  ],
  'set-up': [
    [
      '28 in, radius plate, exhaust bare',
      BenchSetup.parse({
        depression,
        entry: 'radius',
        exhaustPipe: 'bare',
        holesClosed: 'yes',
        springs: 'light',
        valve: 'own',
      }),
    ],
    [
      '28 in, radius plate, exhaust piped',
      BenchSetup.parse({
        depression,
        entry: 'radius',
        exhaustPipe: 'piped',
        holesClosed: 'yes',
        springs: 'light',
        valve: 'own',
      }),
    ],
    [
      '28 in, with the manifold',
      BenchSetup.parse({ depression, entry: 'manifold', exhaustPipe: 'bare', holesClosed: 'yes', springs: 'light' }),
    ],
  ],
};

export interface OfferedTemplate<T extends TemplateOf> {
  /** Of a template of the shop; the program's have none. */
  readonly id: string | undefined;
  readonly version: number;
  readonly name: string;
  readonly content: TemplateContent<T>;
}

/** What a new head, bench or set-up can begin from: the shop's own by name, then the program's. */
export function templatesOf<T extends TemplateOf>(of: T, own: readonly Template[]): OfferedTemplate<T>[] {
  const mine = own
    .filter((t) => t.of === of)
    .sort((a, b) => a.name.localeCompare(b.name))
    .flatMap((t): OfferedTemplate<T>[] => {
      const parsed = TEMPLATE_CONTENT[of].safeParse(t.content);
      return parsed.success
        ? [{ id: t.id, version: t.version, name: t.name, content: parsed.data as TemplateContent<T> }]
        : [];
    });
  const usual = USUAL[of] as Named<T>;
  return [...mine, ...usual.map(([name, content]) => ({ id: undefined, version: 0, name, content }))];
}
