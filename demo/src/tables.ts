import { LIST_KEYS, type Noun } from '@alluvium/records';

/** The lists of the demo bundle, and the short ways in which its tables are written. */
export type Json = Record<string, unknown>;

const INCH_LIFTS = ['.100', '.200', '.300', '.400', '.450', '.500', '.550', '.600'];
const MM_LIFTS = ['2', '4', '6', '8', '10'];

type Lists = Record<(typeof LIST_KEYS)[Noun], Json[]>;
export const lists = Object.fromEntries(Object.values(LIST_KEYS).map((key) => [key, [] as Json[]])) as Lists;

/** Bench 1's full scales at 28 in, cfm: one per range and per direction. */
export const BENCH_1_SINCE = '2025-09-01';
export const BENCH_1 = [
  { name: '2', intake: '98.6 cfm', exhaust: '104.2 cfm' },
  { name: '3', intake: '147.8 cfm', exhaust: '157.4 cfm' },
  { name: '4', intake: '295.6 cfm', exhaust: '317.5 cfm' },
];
export const own = {
  reads: 'percent',
  depression: '28 inH2O',
  bore: '98.0 mm',
  entry: 'radius',
  exhaustPipe: 'bare',
  holesClosed: 'yes',
  valve: 'own',
  scales: BENCH_1_SINCE,
  ranges: BENCH_1,
};

/** The smallest range that holds the flow, and the percent the bench would show there. */
export function percentOf(flow: number, side: 'intake' | 'exhaust') {
  const range = BENCH_1.find((r) => Number.parseFloat(r[side]) * 0.98 >= flow) ?? BENCH_1[2]!;
  return { pulls: [`${((100 * flow) / Number.parseFloat(range[side])).toFixed(1)} %`], range: range.name };
}

interface SheetSpec {
  id: string;
  stage: string;
  source: string;
  title: string;
  intake?: (number | null)[];
  exhaust?: (number | null)[];
  lifts?: string[];
  unit?: 'in' | 'mm';
  setup?: Json;
  kind?: 'measured' | 'claim';
  date?: string;
  intakePort?: string;
  exhaustPort?: string;
  stopped?: string;
  note?: string;
  /** Multiplies every flow: a bench that reads high, a lower depression. */
  times?: number;
}

export function sheet(s: SheetSpec): void {
  const setup = s.setup ?? own;
  const asPercent = setup.reads === 'percent';
  const reading = (flow: number | null | undefined, side: 'intake' | 'exhaust') => {
    if (flow === null || flow === undefined) return null;
    const shown = flow * (s.times ?? 1);
    return asPercent ? percentOf(shown, side) : { pulls: [`${shown.toFixed(s.times ? 1 : 0)} cfm`] };
  };
  const lifts = s.lifts ?? (s.unit === 'mm' ? MM_LIFTS : INCH_LIFTS);
  const rows = lifts.flatMap((lift, i) => {
    const intake = reading(s.intake?.[i], 'intake');
    const exhaust = reading(s.exhaust?.[i], 'exhaust');
    return intake || exhaust ? [{ lift: `${lift} ${s.unit ?? 'in'}`, intake, exhaust }] : [];
  });
  lists.sheets.push({
    id: s.id,
    stageId: s.stage,
    sourceId: s.source,
    title: s.title,
    kind: s.kind ?? 'measured',
    date: s.date ?? null,
    setup,
    rows,
    ...(s.intakePort ? { intakePortId: s.intakePort } : {}),
    ...(s.exhaustPort ? { exhaustPortId: s.exhaustPort } : {}),
    ...(s.stopped ? { stopped: s.stopped } : {}),
    ...(s.note ? { note: s.note } : {}),
  });
}

export function head(
  id: string,
  fields: Json,
  stages: [id: string, name: string, date: string | null, note?: string][],
  ports: number[] = [],
): void {
  lists.heads.push({ id, ...fields });
  stages.forEach(([stage, name, date, note], i) =>
    lists.stages.push({
      id: stage,
      headId: id,
      parentId: i ? stages[i - 1]![0] : null,
      name,
      position: i,
      date,
      ...(note ? { note } : {}),
    }),
  );
  for (const number of ports)
    for (const side of ['intake', 'exhaust'])
      lists.ports.push({ id: `${id}-${side[0]}${number}`, headId: id, side, number });
}

export function measures(
  stage: string,
  side: 'intake' | 'exhaust' | null,
  items: Record<string, string>,
  extra: Json = {},
): void {
  for (const [item, value] of Object.entries(items)) {
    lists.measures.push({
      id: `${stage}-${side ?? 'both'}-${item.replace(/[^a-z]+/g, '-')}${extra.sourceId ? '-stated' : ''}`,
      stageId: stage,
      side,
      item,
      value,
      ...extra,
    });
  }
}
