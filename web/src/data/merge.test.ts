import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { differences, merged } from './merge.js';

const q = (si: number, typed = String(si)) => ({ si, typed });
const row = (lift: number, intake: number | null) => ({
  lift: q(lift),
  intake: intake === null ? null : { pulls: [q(intake)], range: null },
  note: '',
});
const sheet = (more: object = {}) => ({
  id: 's',
  version: 3,
  title: 'Port 3',
  note: '',
  setup: { depression: q(28), bore: null as unknown },
  rows: [row(0.1, 63), row(0.2, 120), row(0.3, 157)],
  ...more,
});

describe('two versions of one record', () => {
  it('are told apart cell by cell, and by whom', () => {
    const base = sheet();
    const mine = sheet({ title: 'Port 3, again', rows: [row(0.1, 63), row(0.2, 121), row(0.3, 157)] });
    const theirs = sheet({
      version: 4,
      setup: { depression: q(28), bore: q(96.5) },
      rows: [row(0.1, 64), row(0.2, 122), row(0.3, 157)],
    });
    const found = differences(base, mine, theirs).map((d) => [d.path.join(' '), d.by]);
    expect(found).toEqual([
      ['title', 'mine'],
      ['setup bore', 'theirs'],
      ['rows 0.100000 intake pulls', 'theirs'],
      ['rows 0.200000 intake pulls', 'both'],
    ]);
  });

  it('become one with what each changed, rows added and taken out among it', () => {
    const base = sheet();
    const mine = sheet({ note: 'mine', rows: [row(0.1, 63), row(0.2, 120), row(0.3, 157), row(0.4, 172)] });
    const theirs = sheet({ version: 4, title: 'theirs', rows: [row(0.2, 120), row(0.3, 158)] });
    const chosen = differences(base, mine, theirs)
      .filter((d) => d.by !== 'theirs')
      .map((d) => d.path);
    expect(merged(mine, theirs, chosen)).toEqual({
      ...theirs,
      note: 'mine',
      rows: [row(0.2, 120), row(0.3, 158), row(0.4, 172)],
    });
  });

  it('mine or theirs, whole, come of choosing everything or nothing: any record', () => {
    const record = fc.record({
      title: fc.string(),
      note: fc.option(fc.string()),
      setup: fc.record({ bore: fc.option(fc.integer().map((n) => q(n))), entry: fc.constantFrom('bare', 'clay') }),
      tags: fc.array(fc.string(), { maxLength: 3 }),
      rows: fc
        .uniqueArray(fc.tuple(fc.integer({ min: 1, max: 9 }), fc.option(fc.integer())), {
          selector: ([lift]) => lift,
          maxLength: 6,
        })
        .map((rows) => rows.sort(([a], [b]) => a - b).map(([lift, flow]) => row(lift, flow))),
    });
    const sorted = (r: { rows: { lift: { si: number } }[] }) => ({
      ...r,
      rows: [...r.rows].sort((a, b) => a.lift.si - b.lift.si),
    });
    fc.assert(
      fc.property(record, record, record, (base, mine, theirs) => {
        const found = differences(base, mine, theirs);
        expect(
          sorted(
            merged(
              mine,
              theirs,
              found.map((d) => d.path),
            ),
          ),
        ).toEqual(mine);
        expect(merged(mine, theirs, [])).toEqual(theirs);
        expect(differences(base, mine, mine)).toEqual([]);
      }),
      { numRuns: 300 },
    );
  });
});
