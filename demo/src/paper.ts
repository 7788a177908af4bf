/** What was typed from paper and taken by hand beside the bench's runs: full scales, walls, gaps, differences, lifts by name. */
import { BENCH_1, BENCH_1_SINCE, lists } from './tables.js';

/** Goes last: it says more of records that stand already. */
export function paper(): void {
  Object.assign(
    lists.sources.find((s) => s.id === 'bench-1')!,
    {
      meter: 'Orifice plates, slanted water gauge.',
      scales: [{ since: BENCH_1_SINCE, ranges: BENCH_1 }],
    },
  );
  lists.watchSets.push(
    { id: 'watch-river', name: 'river', lifts: ['.200 in', '.300 in', '.400 in', '.480 in'] },
    { id: 'watch-shop', name: 'as always', lifts: ['.300 in', '.400 in', '.500 in', '.600 in'] },
  );
  lists.templates.push(
    {
      id: 'template-river-iron',
      name: 'river six, iron core',
      of: 'head',
      content: { kind: 'production', material: 'iron', intake: '1.85 in', exhaust: '1.50 in', stage: 'as received' },
    },
    {
      id: 'template-bench-1',
      name: 'Bench 1, as always',
      of: 'set-up',
      content: {
        depression: '28 inH2O',
        bore: '98.0 mm',
        entry: 'radius',
        exhaustPipe: 'bare',
        holesClosed: 'yes',
        springs: 'light',
        valve: 'own',
        gasket: 'on',
      },
    },
  );
  lists.springLimits.push({
    id: 'springs-flat-hydraulic',
    camKind: 'flat tappet, hydraulic',
    seat: '130 lb',
    open: '330 lb',
  });
  const walls: [place: string, value: string, least: string, x: number, y: number][] = [
    ['intake 3, behind the pushrod', '4.6 mm', '3.0 mm', 0.43, 0.3],
    ['exhaust 3, floor', '5.1 mm', '4.5 mm', 0.47, 0.7],
    ['between 2 and 3, deck', '8.2 mm', '7.0 mm', 0.34, 0.5],
  ];
  for (const [i, [place, value, least, x, y]] of walls.entries())
    lists.measures.push({
      id: `417-wall-${i + 1}`,
      stageId: '417-received',
      side: null,
      item: 'wall thickness',
      value,
      place,
      least,
      spot: { x, y },
      instrument: 'sonic tester',
      date: '2026-03-02',
    });
  lists.measures.push({
    id: '417-weight',
    stageId: '417-received',
    side: null,
    item: 'casting weight',
    value: '24.6 kg',
    instrument: 'platform scale',
    date: '2026-03-02',
  });
  for (const [lift, gap] of [
    ['.200 in', '5.1 mm'],
    ['.400 in', '4.9 mm'],
  ] as const)
    lists.measures.push({
      id: `417-gap-${lift.slice(1, 4)}`,
      stageId: '417-received',
      side: 'intake',
      item: 'edge to wall',
      lift,
      value: gap,
      instrument: 'gap gauges',
      date: '2026-03-02',
    });
  lists.sheets.push({
    id: '417-old-card',
    stageId: '417-valve-job',
    sourceId: 'bench-1',
    title: 'Old card, gains only',
    kind: 'measured',
    date: null,
    baselineId: '417-received-p3',
    setup: { reads: 'difference', depression: '28 inH2O' },
    rows: [
      ['.200 in', '19 cfm', 'The back-cut shows here.'],
      ['.300 in', '10 cfm', ''],
      ['.400 in', '0 cfm', ''],
      ['.500 in', '-3 cfm', ''],
    ].map(([lift, gain, note]) => ({ lift, intake: { pulls: [gain] }, exhaust: null, note })),
    note: 'From a card in the drawer: what the valve job gave, and nothing else.',
  });
}
