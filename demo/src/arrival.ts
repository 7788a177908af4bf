/** What the shop found when the heads of the six came in: checklists, findings, seats. */
import { checklistFor, type ChecklistKind } from '@alluvium/records';
import { head, lists, measures, own, sheet, type Json } from './tables.js';

/** Title of a checklist's line → its state and note; `open` ones are not listed. */
type Looked = Readonly<Record<string, readonly [state: 'fine' | 'unsure' | 'skipped' | 'open', note?: string]>>;

const idOf = (headId: string, title: string) =>
  `${headId}-${title
    .toLowerCase()
    .replace(/[^a-z]+/g, '-')
    .slice(0, 30)
    .replace(/-$/, '')}`;

/** A head's whole checklist; lines not named are fine, or still open when `rest` says so. */
function checklist(headId: string, kind: ChecklistKind, looked: Looked = {}, rest: 'fine' | 'open' = 'fine'): void {
  checklistFor(kind, { intakeValves: 1, exhaustValves: 1 }).forEach((line, position) => {
    const [state, note = ''] = looked[line.title] ?? [rest];
    lists.inspections.push({ id: idOf(headId, line.title), headId, position, ...line, state, note });
  });
}

function finding(headId: string, stageId: string, title: string, fields: Json): void {
  lists.findings.push({
    id: `${idOf(headId, title)}-f${lists.findings.length + 1}`,
    headId,
    stageId,
    inspectionId: idOf(headId, title),
    ...fields,
  });
}

/** Both seats of every cylinder, with what each held of 20 inHg after 10 seconds. */
function seats(
  stageId: string,
  date: string,
  ringMaterial: string,
  held: Record<'intake' | 'exhaust', readonly number[]>,
): void {
  for (const side of ['intake', 'exhaust'] as const) {
    held[side].forEach((vacuum, i) =>
      lists.seats.push({
        id: `${stageId}-seat-${side[0]}${i + 1}`,
        stageId,
        side,
        cylinder: i + 1,
        result: vacuum > 15 ? 'seals' : 'leaks',
        drawn: '20 inHg',
        held: `${vacuum} inHg`,
        seconds: 10,
        ringMaterial,
        date,
      }),
    );
  }
}

const perPort = (headId: string, stage: string, side: 'intake' | 'exhaust', item: string, values: readonly string[]) =>
  values.forEach((value, i) =>
    lists.measures.push({
      id: `${stage}-${side[0]}${i + 1}-${item.replace(/[^a-z]+/g, '-')}`,
      stageId: stage,
      portId: `${headId}-${side[0]}${i + 1}`,
      side,
      item,
      value,
    }),
  );
/** Metal showing inside the gasket at one port: roof, floor, front, rear. */
function gasketSteps(
  headId: string,
  stage: string,
  port: number,
  steps: readonly [string, string, string, string],
): void {
  (['roof', 'floor', 'front', 'rear'] as const).forEach((at, i) =>
    lists.measures.push({
      id: `${stage}-i${port}-step-${at}`,
      stageId: stage,
      portId: `${headId}-i${port}`,
      side: 'intake',
      item: `gasket step, ${at}`,
      value: steps[i],
    }),
  );
}

/** The second casting of the 417: cast with its core shifted, so it is refused. */
function shiftedCasting(): void {
  const id = 'corrow-417-b';
  const stage = '417b-received';
  head(
    id,
    {
      name: '417 early, second casting',
      maker: 'Corrow',
      catalogueNumber: '417',
      cylinders: 6,
      kind: 'production',
      material: 'iron',
      price: '250',
      note: 'Same number as the first, another casting date.',
    },
    [[stage, 'as received', '2026-02-04']],
    [1, 2, 3, 4, 5, 6],
  );
  measures(stage, 'intake', { 'valve diameter': '1.850 in', 'stem diameter': '.341 in', throat: '1.630 in' });
  measures(stage, 'exhaust', { 'valve diameter': '1.500 in', 'stem diameter': '.341 in', throat: '1.305 in' });
  gasketSteps(id, stage, 1, ['0.4 mm', '0.6 mm', '3.1 mm', '-2.0 mm']);
  gasketSteps(id, stage, 6, ['0.5 mm', '0.4 mm', '2.9 mm', '-1.8 mm']);
  perPort(id, stage, 'intake', 'short turn height', ['27.6 mm']);
  lists.measures.push({
    id: `${stage}-i6-short-turn-height`,
    stageId: stage,
    portId: `${id}-i6`,
    side: 'intake',
    item: 'short turn height',
    value: '25.9 mm',
  });
  sheet({
    id: '417b-received-p3',
    stage,
    source: 'bench-1',
    title: 'Bench 1, port 3',
    date: '2026-02-07',
    setup: own,
    intakePort: `${id}-i3`,
    exhaustPort: `${id}-e3`,
    intake: [53, 105, 146, 167, 171, 173, 174, 174],
    exhaust: [40, 81, 110, 126, 130, 132, 133, 133],
    note: 'Flowed once before the sonic test, to know what the shift costs.',
  });
  checklist(id, 'production core', {
    'Both heads of a pair alike': ['skipped', 'A single head: an in-line six.'],
    'Clearance of each guide': ['skipped', 'Refused before it came to that.'],
    'Seat force and rate': ['skipped', 'Refused before it came to that.'],
  });
  finding(id, stage, 'Pushrod side wall', {
    part: 'pinch',
    side: 'intake',
    severity: 'reject',
    text: 'The core lay 2.5 mm to the rear: 1.9 mm of metal at the pushrod of every port, by sonic test.',
    date: '2026-02-09',
  });
  finding(id, stage, 'Port against gasket, all round', {
    cylinder: 1,
    side: 'intake',
    part: 'port',
    severity: 'note',
    text: 'Ports stand to the rear of the gasket by half a wall.',
    date: '2026-02-08',
  });
}

/** Adds what arrival found to the heads of the Slate Six. */
export function arrivals(): void {
  shiftedCasting();

  checklist('corrow-417', 'production core', {
    'Both heads of a pair alike': ['skipped', 'A single head: an in-line six.'],
    'Casting marks': ['fine', '417, date code K 21 4. Legible.'],
  });
  measures('417-received', 'intake', {
    'gasket opening': '1760 mm²',
    'guide diameter': '14.0 mm',
    'ring outside diameter': '49.0 mm',
    'ring inside diameter': '40.6 mm',
    'valve offset, along': '-22.0 mm',
    'valve offset, across': '5.0 mm',
    'valve inclination': '12°',
    'back-cut angle': '30°',
    'top cut width': '1.2 mm',
    'top cut angle': '30°',
  });
  measures('417-received', 'exhaust', { 'valve offset, along': '24.0 mm', 'valve offset, across': '5.0 mm' });
  measures('417-received', null, { 'valve spacing': '46.0 mm', 'chamber width': '97.0 mm' });
  (
    [
      ['a', '122.1 cc'],
      ['b', '121.0 cc'],
    ] as const
  ).forEach(([n, value]) =>
    lists.measures.push({
      id: `417-received-pour-${n}`,
      stageId: '417-received',
      side: 'intake',
      item: 'port volume',
      value,
      date: '2026-02-05',
      instrument: 'burette',
      note: 'Valve in, plug in.',
    }),
  );
  gasketSteps('corrow-417', '417-received', 1, ['0.5 mm', '0.6 mm', '0.8 mm', '0.5 mm']);
  gasketSteps('corrow-417', '417-received', 6, ['0.6 mm', '0.5 mm', '0.7 mm', '0.6 mm']);
  perPort('corrow-417', '417-received', 'intake', 'guide clearance', [
    '.0022 in',
    '.0024 in',
    '.0021 in',
    '.0025 in',
    '.0023 in',
    '.0026 in',
  ]);
  finding('corrow-417', '417-received', 'Ridge under the seat', {
    side: 'intake',
    part: 'throat',
    severity: 'note',
    text: 'A .020 ridge under every intake seat.',
    cost: '0',
    mendedStageId: '417-bowl',
    date: '2026-02-04',
  });
  seats('417-received', '2026-02-04', 'integral', {
    intake: [19, 19, 18.5, 19, 18, 19],
    exhaust: [18, 18.5, 18, 19, 18.5, 18],
  });

  checklist(
    'corrow-522',
    'production core',
    {
      'Casting marks': ['unsure', '522 can be read; the date code is ground off.'],
      'Valves out, kept in order': ['fine'],
      'Which variant': ['open'],
      Degreased: ['fine'],
      'Chambers and seats': ['fine', 'Magnetic powder, nothing.'],
    },
    'open',
  );
  finding('corrow-522', '522-received', 'Porting or repair by others', {
    cylinder: 6,
    side: 'intake',
    part: 'port',
    severity: 'note',
    text: 'Somebody blended port 6 by hand; left out of the baseline.',
    date: '2026-02-11',
  });
  Object.assign(
    lists.ports.find((p) => p.id === 'corrow-522-i6')!,
    { touched: 'blended by hand before it came' },
  );
  sheet({
    id: '522-received-p6',
    stage: '522-received',
    source: 'bench-1',
    title: 'Bench 1, port 6, touched',
    date: '2026-02-12',
    intakePort: 'corrow-522-i6',
    intake: [53, 108, 154, 181, 187, 190, 192, 192],
    note: 'For curiosity: what the blend bought.',
  });

  checklist('pellam-p6', 'aftermarket new');
  finding('pellam-p6', 'p6-received', 'Installed height', {
    part: 'spring',
    severity: 'fix before use',
    text: 'Springs stand at 1.760 against the stated 1.800: seat force 10 lb over, less room to coil bind.',
    cost: '45',
    date: '2026-02-21',
  });
  finding('pellam-p6', 'p6-received', 'Box against order', {
    part: 'chamber',
    severity: 'note',
    text: 'Chambers pour 67.5 cc, the catalogue says 64: compression falls unless it is milled.',
    cost: '60',
    date: '2026-02-21',
  });
  seats('p6-received', '2026-02-21', 'sintered', {
    intake: [19, 19.5, 19, 19, 19.5, 19],
    exhaust: [19, 18.5, 19, 19, 18.5, 19],
  });
  measures('p6-received', 'intake', {
    'retainer to seal': '.590 in',
    'ring outside diameter': '52.0 mm',
    'ring inside diameter': '43.4 mm',
    'valve offset, along': '-23.0 mm',
    'valve offset, across': '6.0 mm',
    'valve inclination': '15°',
    'top cut width': '1.6 mm',
    'top cut angle': '30°',
  });
  measures('p6-received', 'exhaust', { 'valve offset, along': '25.0 mm', 'valve offset, across': '6.0 mm' });
  measures('p6-received', null, {
    'valve spacing': '48.0 mm',
    'chamber width': '96.0 mm',
    'gasket volume': '9.0 cc',
    'deck volume': '4.0 cc',
    'piston dish': '3.0 cc',
  });
  measures(
    'p6-received',
    'intake',
    { 'spring rate': '262 lb/in', 'spring coil-bind height': '1.150 in', 'valve diameter': '1.940 in' },
    { sourceId: 'pellam-catalogue', note: 'As the catalogue states it.' },
  );

  checklist('longreach-212', 'aftermarket new');
  finding('longreach-212', 'longreach-received', 'Exhaust pattern', {
    buildId: 'slate-six',
    side: 'exhaust',
    part: 'flange',
    severity: 'fix before use',
    text: 'The exhaust port is raised 11 mm: the marine riser’s flange does not meet it without an adapter plate.',
    cost: '380',
    date: '2026-03-02',
  });
  seats('longreach-received', '2026-03-02', 'copper-beryllium', {
    intake: [19.5, 19, 19.5, 19.5, 19, 19.5],
    exhaust: [19, 19.5, 19, 6, 19, 19.5],
  });
}
