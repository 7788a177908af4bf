import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Port, Sheet, Source } from './nouns/index.js';
import { sheetName } from './sheetName.js';

const ports = [1, 3].flatMap((number) =>
  (['intake', 'exhaust'] as const).map((side) => Port.parse({ id: `${side[0]}${number}`, headId: 'h', side, number })),
);
const sources = [
  Source.parse({ id: 'own', name: 'Bench 1', kind: 'own bench' }),
  Source.parse({ id: 'quay', name: 'Quayside Flow Room', kind: 'other bench' }),
];
const sheet = (more: object = {}) =>
  Sheet.parse({ id: 's', stageId: 'x', title: 'Flow sheet', setup: {}, rows: [], ...more });

describe('the name of a sheet in a list', () => {
  it('adds what its title does not say: port, bore, source, date', () => {
    expect(
      sheetName(
        sheet({
          title: 'Bench 1, port 3',
          sourceId: 'own',
          intakePortId: 'i3',
          exhaustPortId: 'e3',
          date: '2026-05-02',
          setup: { bore: '98 mm' },
        }),
        ports,
        sources,
      ),
    ).toBe('Bench 1, port 3 · 98 mm bore · 2026-05-02');
    expect(sheetName(sheet({ kind: 'claim', sourceId: 'quay', exhaustPortId: 'e1' }), ports, sources)).toBe(
      'Flow sheet · exhaust port 1 · Quayside Flow Room · claim',
    );
  });

  it('tells any two sheets apart that differ in one of them', () => {
    const facts = fc.record({
      intakePortId: fc.constantFrom(null, 'i1', 'i3'),
      sourceId: fc.constantFrom(null, 'own', 'quay'),
      date: fc.constantFrom(null, '2026-05-02', '2026-05-03'),
      bore: fc.constantFrom(null, '96.5 mm', '98 mm'),
    });
    const named = ({ bore, ...f }: { bore: string | null }) =>
      sheetName(sheet({ ...f, setup: { bore } }), ports, sources);
    fc.assert(
      fc.property(facts, facts, (a, b) => {
        expect(named(a) === named(b)).toBe(JSON.stringify(a) === JSON.stringify(b));
      }),
    );
  });
});
