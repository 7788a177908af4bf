/** What happened on the bench: sessions with every raw reading, calibrations, calls, velocity maps, swirl. */
import { lists, sheet, type Json } from './tables.js';

const SETUP: Json = {
  depression: '28 inH2O',
  bore: '98.0 mm',
  entry: 'radius',
  exhaustPipe: 'bare',
  holesClosed: 'yes',
  springs: 'light',
  valve: 'own',
  portKind: 'long runner',
  gasket: 'on',
  leakTest: 'done',
  leaks: [
    { side: 'intake', depression: '28 inH2O', flow: '0.0 cfm' },
    { side: 'exhaust', depression: '28 inH2O', flow: '0.0 cfm' },
  ],
  reads: 'percent',
};
/** What the gate adds to a sheet's own set-up. */
const GATE = { springs: 'light', gasket: 'on', portKind: 'long runner' };

const PLATES: [id: string, date: string, measured: string, note?: string][] = [
  ['bench-1-autumn', '2025-10-06', '217.8 cfm'],
  ['bench-1-winter', '2026-01-19', '218.7 cfm'],
  ['bench-1-spring', '2026-04-20', '219.4 cfm'],
  ['bench-1-summer', '2026-06-12', '222.0 cfm', 'Filter under the meter was dusty; cleaned after this.'],
];

type Row = { lift: string; intake: Json | null; exhaust: Json | null };
const listed = (id: string) => lists.sheets.find((s) => s.id === id)!;

interface SessionSpec {
  readonly id: string;
  readonly head: string;
  readonly sheets: readonly string[];
  readonly title: string;
  readonly begun: string;
  readonly calibration: string;
  readonly plan?: Json;
  readonly setup?: Json;
  readonly source?: string;
  /** Who calls, and what. */
  readonly call?: readonly [who: string, intake: string, exhaust: string, worst: string];
  /** Only so many rows of the first sheet were recorded; the session is open. */
  readonly rows?: number;
  readonly stopped?: string;
  readonly excused?: Readonly<Record<string, string>>;
  readonly note?: string;
  /** Swirl in rpm by lift, at the intake. */
  readonly swirl?: readonly number[];
}

/** A session over sheets that stand already: a raw reading behind each of their figures, half a minute apart. */
function session(s: SessionSpec): void {
  const first = listed(s.sheets[0]!);
  const numbers = s.sheets.map((id) => Number(/\d+$/.exec(String(listed(id).intakePortId))![0]));
  lists.sessions.push({
    id: s.id,
    headId: s.head,
    stageId: first.stageId,
    sourceId: s.source ?? 'bench-1',
    title: s.title,
    date: s.begun.slice(0, 10),
    plan: {
      sides: ['intake', 'exhaust'],
      ports: numbers.map((number, i) => ({ number, hard: i === 0 && numbers.length > 1 })),
      list: (first.rows as Row[]).map((r) => r.lift),
      ...s.plan,
    },
    setups: [
      {
        ...SETUP,
        ranges: (first.setup as Json).ranges ?? [],
        scales: (first.setup as Json).scales ?? null,
        ...s.setup,
        calibration: s.calibration,
      },
    ],
    finished: s.rows === undefined,
    stopped: s.stopped ?? '',
    excused: s.excused ?? {},
    note: s.note ?? '',
  });
  if (s.call) {
    const [who, intakePeak, exhaustPeak, worst] = s.call;
    lists.calls.push({
      id: `${s.id}-call`,
      sessionId: s.id,
      who,
      intakePeak,
      exhaustPeak,
      worst,
      date: s.begun.slice(0, 10),
    });
  }
  let at = Date.parse(s.begun);
  s.sheets.forEach((sheetId, k) => {
    const own = listed(sheetId);
    if (own.setup && (own.setup as Json).reads === 'percent') own.setup = { ...(own.setup as Json), ...GATE };
    for (const side of ['intake', 'exhaust'] as const) {
      if (s.rows !== undefined && side === 'exhaust') continue;
      (own.rows as Row[]).slice(0, s.rows ?? 99).forEach((row, i) => {
        const reading = row[side] as { pulls: string[]; range?: string } | null;
        if (!reading) return;
        at += 28_000 + ((i * 7919) % 9) * 1000;
        const percent = reading.pulls[0]!.endsWith('%');
        const swirl = side === 'intake' ? s.swirl?.[i] : undefined;
        lists.readings.push({
          id: `${s.id}-${numbers[k]}${side[0]}${i + 1}`,
          sessionId: s.id,
          sheetId,
          setup: 0,
          number: numbers[k]!,
          side,
          lift: row.lift,
          [percent ? 'percent' : 'flow']: reading.pulls[0]!,
          ...(reading.range ? { range: reading.range } : {}),
          ...(swirl === undefined ? {} : { swirl: `${swirl} rpm` }),
          spread: 0.0021 + ((i * 31) % 7) * 0.0002,
          seconds: 2,
          at: new Date(at).toISOString(),
        });
      });
      at += 240_000;
    }
    if (s.swirl) own.swirl = (own.rows as Row[]).map((r, i) => ({ lift: r.lift, speed: [`${s.swirl![i]} rpm`] }));
  });
}

/** Pitot pressures (inH2O) over a 5 × 5 grid: fast under the roof away from the wall, still at the floor centre. */
function grid(mean: number, dead: number): Json[] {
  const cells: Json[] = [];
  for (let row = 0; row < 5; row++)
    for (let column = 0; column < 5; column++) {
      const [x, y] = [(column + 0.5) / 5, (row + 0.5) / 5];
      const shape = 1.17 - 0.3 * (x - 0.72) ** 2 - 0.25 * (y - 0.25) ** 2;
      const still = dead * Math.exp(-(((x - 0.5) / 0.24) ** 2) - ((y - 1) / 0.26) ** 2);
      const edge = row === 0 || row === 4 || column === 0 || column === 4 ? 0.05 : 0;
      const pressure = mean * (shape - still - edge) ** 2;
      const bounces = still > 0.3;
      cells.push({
        row,
        column,
        low: `${(pressure * (bounces ? 0.6 : 1)).toFixed(1)} inH2O`,
        ...(bounces ? { high: `${(pressure * 1.5).toFixed(1)} inH2O` } : {}),
      });
    }
  return cells;
}

export function bench(): void {
  for (const [id, date, measured, note] of PLATES)
    lists.calibrations.push({
      id,
      sourceId: 'bench-1',
      date,
      against: 'plate',
      diameter: '45.0 mm',
      bore: '98.0 mm',
      depression: '28 inH2O',
      measured,
      ...(note ? { note } : {}),
    });
  lists.plans.push(
    {
      id: 'six-full',
      name: 'Six, full test',
      plan: {
        ports: [{ number: 3 }, { number: 1, hard: true }],
        step: '.100 in',
        to: '.600 in',
        halfBelow: '.100 in',
        pulls: 2,
      },
    },
    {
      id: 'quick',
      name: 'Quick look, intake only',
      plan: { sides: ['intake'], ports: [{ number: 3 }], step: '.100 in', to: '.500 in' },
    },
  );
  session({
    id: 'session-417-received',
    head: 'corrow-417',
    sheets: ['417-received-p1', '417-received-p3'],
    title: 'The early casting, as it came',
    begun: '2026-02-05T14:10:00.000Z',
    calibration: 'bench-1-winter',
    call: ['Wren', '190 cfm', '135 cfm', 'pinch'],
  });
  session({
    id: 'session-p6-received',
    head: 'pellam-p6',
    sheets: ['p6-received-p3'],
    title: 'P6-205 out of the box',
    begun: '2026-02-23T09:40:00.000Z',
    calibration: 'bench-1-winter',
    call: ['Wren', '205 cfm', '150 cfm', 'short turn'],
  });
  session({
    id: 'session-longreach-received',
    head: 'longreach-212',
    sheets: ['longreach-received-p3'],
    title: 'Longreach, as received',
    begun: '2026-03-04T10:05:00.000Z',
    calibration: 'bench-1-winter',
    call: ['Wren', '214 cfm', '162 cfm', 'bowl'],
    plan: { maps: [{ place: 'pinch', lift: '.500 in', rows: 5, columns: 5 }] },
  });
  session({
    id: 'session-om-received',
    head: 'ottermoor-230',
    sheets: ['om-received-p3'],
    title: 'OM-230, as received',
    begun: '2026-03-12T15:20:00.000Z',
    calibration: 'bench-1-winter',
    call: ['Tarn', '235 cfm', '160 cfm', 'roof'],
  });
  session({
    id: 'session-417-pinch',
    head: 'corrow-417',
    sheets: ['417-pinch-p3'],
    title: 'Pinch opened',
    begun: '2026-03-18T11:00:00.000Z',
    calibration: 'bench-1-winter',
    call: ['Wren', '196 cfm', '140 cfm', 'short turn'],
    plan: { maps: [{ place: 'pinch', lift: '.400 in', rows: 5, columns: 5 }] },
  });
  // An open one: the first four lifts are in, the rest waits.
  sheet({
    id: 'p6-pinch-p1',
    stage: 'p6-pinch',
    source: 'bench-1',
    title: 'P6-205, pinch opened, port 1',
    date: '2026-04-04',
    intakePort: 'pellam-p6-i1',
    exhaustPort: 'pellam-p6-e1',
    intake: [57, 116, 165, 186, null, null, null, null],
    note: 'Begun; the rest waits.',
  });
  lists.sheets.at(-1)!.rows = (lists.sheets.at(-1)!.rows as Row[]).slice(0, 4);
  session({
    id: 'session-p6-open',
    head: 'pellam-p6',
    sheets: ['p6-pinch-p1'],
    title: 'P6-205, pinch opened, the end port',
    begun: '2026-04-04T16:30:00.000Z',
    calibration: 'unknown',
    call: ['Wren', '202 cfm', '150 cfm', 'short turn'],
    rows: 4,
    setup: { gasket: 'unknown' },
    plan: { list: [], step: '.100 in', to: '.600 in', swirl: false },
  });
  // The diesel: swirl decides.
  const diesel: [string, number[], number[], number[]][] = [
    ['tarrow-t3', [25, 47, 62, 71, 75], [21, 40, 53, 60, 63], [-90, 60, 310, 520, 640]],
    ['tarrow-t3b', [27, 49, 62, 68, 70], [21, 40, 53, 60, 63], [240, 620, 1080, 1490, 1760]],
  ];
  for (const [id, intake, exhaust, swirl] of diesel) {
    sheet({
      id: `${id}-swirl`,
      stage: `${id}-received`,
      source: 'bench-1',
      title: 'Bench 1 with the swirl meter',
      date: '2026-06-22',
      unit: 'mm',
      setup: {
        reads: 'flow',
        depression: '10 inH2O',
        bore: '112 mm',
        entry: 'clay',
        exhaustPipe: 'bare',
        holesClosed: 'yes',
        valve: 'own',
        ...GATE,
        portKind: id === 'tarrow-t3b' ? 'helical' : 'straight',
      },
      intake,
      exhaust,
      intakePort: `${id}-i1`,
      exhaustPort: `${id}-e1`,
    });
    session({
      id: `session-${id}`,
      head: id,
      sheets: [`${id}-swirl`],
      title: 'Swirl of the tug',
      begun: id === 'tarrow-t3' ? '2026-06-22T13:00:00.000Z' : '2026-06-22T15:10:00.000Z',
      calibration: 'bench-1-summer',
      setup: {
        reads: 'flow',
        depression: '10 inH2O',
        bore: '112 mm',
        entry: 'clay',
        ranges: [],
        scales: null,
        portKind: id === 'tarrow-t3b' ? 'helical' : 'straight',
      },
      plan: { swirl: true },
      swirl,
    });
  }
  const MAPS: [id: string, stage: string, port: string, session: string, lift: string, mean: number, dead: number][] = [
    ['map-417-pinch', '417-pinch', 'corrow-417-i3', 'session-417-pinch', '.400 in', 13.1, 0.9],
    [
      'map-longreach-pinch',
      'longreach-received',
      'longreach-212-i3',
      'session-longreach-received',
      '.500 in',
      12.8,
      0.28,
    ],
  ];
  for (const [id, stageId, portId, sessionId, lift, mean, dead] of MAPS)
    lists.velocityMaps.push({
      id,
      stageId,
      portId,
      sessionId,
      side: 'intake',
      place: 'pinch',
      lift,
      rows: 5,
      columns: 5,
      depression: '28 inH2O',
      wall: 'left',
      cells: grid(mean, dead),
      date: '2026-03-18',
    });
}
