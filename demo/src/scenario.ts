/**
 * The demo scenario: everything in it is invented. It is written as plain tables here and comes out as a bundle
 * (demo/bundle.json), which the program imports as it would a user's.
 */
import { arrivals } from './arrival.js';
import { surveys } from './surveys.js';
import { bench } from './bench.js';
import { change } from './change.js';
import { claims } from './claims.js';
import { decide, decision } from './decide.js';
import { decidedContent } from './decided.js';
import { dyno } from './dyno.js';
import { paper } from './paper.js';
import { head, lists, measures, own, sheet, type Json } from './tables.js';

/** Ports of a head of the six. */
const SIX = [1, 2, 3, 4, 5, 6];

const SOURCES: [id: string, name: string, kind: string, note: string][] = [
  ['bench-1', 'Bench 1', 'own bench', 'Our own. Reads percent of range.'],
  ['quayside', 'Quayside Flow Room', 'other bench', 'Reads about 3 % above our bench.'],
  ['pellam-catalogue', 'Pellam catalogue', 'maker', 'States no conditions.'],
  ['ferrule-sheet', 'Ferrule & Dray sheet', 'maker', '28 in, 4.125 in bore, exhaust with a pipe.'],
  ['ottermoor-flyer', 'Ottermoor flyer', 'maker', 'Does not state the depression.'],
  ['mire-lane', 'Mire Lane Motors', 'other bench', 'Tests at 10 in of water.'],
];
for (const [id, name, kind, note] of SOURCES) lists.sources.push({ id, name, kind, note });

// ── The Slate Six and its heads ──────────────────────────────────────────────────────────────────────────────────────

lists.builds.push({
  id: 'slate-six',
  name: 'Corrow Slate Six',
  note: 'River-marathon jet boat. Pulls cleanly from 2800.',
  bore: '98.0 mm',
  stroke: '93.0 mm',
  cylinders: 6,
  rod: '150 mm',
  compression: '9.5:1',
  fuel: 'petrol',
  use: 'marine',
  power: '290 hp',
  speed: '5600 rpm',
  budget: '3,200',
  due: '2027-04-15',
  cam: {
    kind: 'flat tappet, hydraulic',
    intakeLift: '.480 in',
    exhaustLift: '.480 in',
    intakeDuration: '224°',
    exhaustDuration: '224°',
    lobeSeparation: '110°',
    intakeCentreline: '106°',
    rockerRatio: '1.5',
  },
  fixed: 'Block, pistons and cam stay. The exhaust must keep the marine riser’s flange.',
});

head(
  'corrow-417',
  {
    name: '417 early',
    maker: 'Corrow',
    catalogueNumber: '417',
    cylinders: 6,
    kind: 'production',
    material: 'iron',
    class: 'standard spacing',
    price: '250',
    note: 'Two castings of it stand on the shelf.',
  },
  [
    ['417-received', 'as received', '2026-02-03'],
    ['417-valve-job', 'valve job and back-cut', '2026-02-17'],
    ['417-bowl', 'bowl blend', '2026-03-02'],
    ['417-pinch', 'pinch opened', '2026-03-16', 'Pushrod side taken to 3.9 mm of metal. Sonic-tested first.'],
  ],
  SIX,
);
measures('417-received', 'intake', {
  'valve diameter': '1.850 in',
  'stem diameter': '.341 in',
  'seat width': '1.6 mm',
  'seat angle': '45°',
  throat: '1.628 in',
  bowl: '1.780 in',
  pinch: '1.74 in²',
  window: '2.00 in²',
  'port length': '91 mm',
  'port volume': '121.5 cc',
});
measures('417-received', 'exhaust', {
  'valve diameter': '1.500 in',
  'stem diameter': '.341 in',
  'seat width': '1.8 mm',
  'seat angle': '45°',
  throat: '1.305 in',
  'port length': '70 mm',
  'port volume': '62.0 cc',
});
measures('417-received', null, {
  'chamber volume': '66.8 cc',
  'gasket volume': '9.0 cc',
  'deck volume': '4.0 cc',
  'piston dish': '3.0 cc',
});
measures('417-valve-job', 'intake', { throat: '1.665 in' });
measures('417-bowl', 'intake', { bowl: '1.810 in', window: '2.08 in²', 'port volume': '124.0 cc' });
measures('417-pinch', 'intake', { pinch: '1.87 in²', 'port volume': '127.6 cc' });
sheet({
  id: '417-received-p3',
  stage: '417-received',
  source: 'bench-1',
  title: 'Bench 1, port 3',
  date: '2026-02-05',
  intakePort: 'corrow-417-i3',
  exhaustPort: 'corrow-417-e3',
  intake: [53, 106, 149, 172, 177, 179, 180, 180],
  exhaust: [40, 81, 110, 126, 130, 132, 133, 133],
});
sheet({
  id: '417-received-p1',
  stage: '417-received',
  source: 'bench-1',
  title: 'Bench 1, port 1',
  date: '2026-02-05',
  intakePort: 'corrow-417-i1',
  exhaustPort: 'corrow-417-e1',
  intake: [53, 105, 147, 168, 172, 174, 174, 174],
  exhaust: [40, 80, 109, 124, 128, 129, 130, 130],
  note: 'The end port: its pinch is the tightest.',
});
sheet({
  id: '417-received-965',
  stage: '417-received',
  source: 'bench-1',
  title: 'Bench 1, 96.5 mm fixture',
  date: '2026-02-06',
  setup: { ...own, bore: '96.5 mm' },
  intakePort: 'corrow-417-i3',
  intake: [52, 103, 143, 164, 169, 171, 172, 172],
  note: 'Same port, smaller fixture: what the bore wall costs.',
});
sheet({
  id: '417-quayside',
  stage: '417-received',
  source: 'quayside',
  title: 'Quayside, port 3',
  date: '2026-01-12',
  setup: {
    reads: 'flow',
    depression: '28 inH2O',
    bore: '98.0 mm',
    entry: 'radius',
    exhaustPipe: 'bare',
    holesClosed: 'yes',
    valve: 'own',
  },
  intakePort: 'corrow-417-i3',
  exhaustPort: 'corrow-417-e3',
  times: 1.03,
  intake: [53, 106, 149, 172, 177, 179, 180, 180],
  exhaust: [40, 81, 110, 126, 130, 132, 133, 133],
});
sheet({
  id: '417-valve-job-p3',
  stage: '417-valve-job',
  source: 'bench-1',
  title: 'Bench 1, port 3',
  date: '2026-02-18',
  intakePort: 'corrow-417-i3',
  exhaustPort: 'corrow-417-e3',
  intake: [56, 113, 155, 177, 182, 184, 185, 185],
  exhaust: [42, 84, 114, 129, 133, 135, 136, 136],
});
sheet({
  id: '417-bowl-p3',
  stage: '417-bowl',
  source: 'bench-1',
  title: 'Bench 1, port 3',
  date: '2026-03-03',
  intakePort: 'corrow-417-i3',
  exhaustPort: 'corrow-417-e3',
  intake: [56, 113, 158, 183, 190, 194, 196, 196],
  exhaust: [42, 85, 118, 136, 141, 144, 145, 145],
});
sheet({
  id: '417-pinch-p3',
  stage: '417-pinch',
  source: 'bench-1',
  title: 'Bench 1, port 3',
  date: '2026-03-18',
  intakePort: 'corrow-417-i3',
  exhaustPort: 'corrow-417-e3',
  intake: [55, 113, 159, 186, 195, 201, 204, 205],
  exhaust: [42, 85, 118, 136, 141, 144, 145, 145],
});

head(
  'corrow-522',
  {
    name: '522 late',
    maker: 'Corrow',
    catalogueNumber: '522',
    cylinders: 6,
    kind: 'production',
    material: 'iron',
    class: 'standard spacing',
    price: '310',
    note: 'A parts list gives 417 and 522 one replacement number.',
  },
  [['522-received', 'as received', '2026-02-10']],
  SIX,
);
measures('522-received', 'intake', {
  'valve diameter': '1.880 in',
  'stem diameter': '.341 in',
  'seat width': '1.5 mm',
  'seat angle': '45°',
  throat: '1.680 in',
  bowl: '1.820 in',
  pinch: '1.82 in²',
  window: '2.06 in²',
  'port length': '91 mm',
  'port volume': '125.0 cc',
});
measures('522-received', 'exhaust', {
  'valve diameter': '1.550 in',
  'stem diameter': '.341 in',
  'seat width': '1.8 mm',
  'seat angle': '45°',
  throat: '1.350 in',
});
measures('522-received', null, { 'chamber volume': '64.2 cc' });
sheet({
  id: '522-received-p3',
  stage: '522-received',
  source: 'bench-1',
  title: 'Bench 1, port 3',
  date: '2026-02-11',
  intakePort: 'corrow-522-i3',
  exhaustPort: 'corrow-522-e3',
  intake: [52, 105, 151, 177, 183, 186, 187, 187],
  exhaust: [40, 80, 110, 128, 133, 135, 136, 136],
});
sheet({
  id: '522-mire',
  stage: '522-received',
  source: 'mire-lane',
  title: 'Mire Lane at 10 in',
  date: '2025-11-20',
  setup: {
    reads: 'flow',
    depression: '10 inH2O',
    bore: '98.0 mm',
    entry: 'clay',
    exhaustPipe: 'bare',
    holesClosed: 'yes',
    valve: 'unknown',
  },
  times: 1 / 1.6733,
  intake: [52, 107, 152, 178, null, 187, null, 189],
  exhaust: [40, 81, 111, 128, null, 136, null, 137],
});

head(
  'pellam-p6',
  {
    name: 'P6-205',
    maker: 'Pellam',
    catalogueNumber: 'P6-205',
    cylinders: 6,
    kind: 'aftermarket',
    material: 'aluminium',
    class: 'standard spacing',
    price: '1,480',
    note: 'As cast. Good at mid lift, its knee comes early.',
  },
  [
    ['p6-received', 'as received', '2026-02-20'],
    ['p6-valve-job', 'valve job and back-cut', '2026-03-05'],
    ['p6-bowl', 'bowl blend', '2026-03-20'],
    ['p6-pinch', 'pinch opened', '2026-04-02'],
  ],
  SIX,
);
measures('p6-received', 'intake', {
  'valve diameter': '1.940 in',
  'stem diameter': '.3415 in',
  'seat width': '1.5 mm',
  'seat angle': '45°',
  throat: '1.740 in',
  bowl: '1.880 in',
  pinch: '1.95 in²',
  window: '2.15 in²',
  'port length': '95 mm',
  'port volume': '139.0 cc',
  'spring installed height': '1.760 in',
  'spring seat force': '150 lb',
  'spring rate': '262 lb/in',
  'spring coil-bind height': '1.150 in',
  'valve train mass': '236 g',
});
measures('p6-received', 'exhaust', {
  'valve diameter': '1.600 in',
  'stem diameter': '.3415 in',
  'seat width': '1.7 mm',
  'seat angle': '45°',
  throat: '1.410 in',
});
measures('p6-received', null, { 'chamber volume': '67.5 cc' });
measures(
  'p6-received',
  'intake',
  { 'spring installed height': '1.800 in', 'spring seat force': '140 lb', 'port volume': '205 cc' },
  {
    sourceId: 'pellam-catalogue',
    note: 'As the catalogue states it; the maker counts the whole runner with its manifold side.',
  },
);
measures(
  'p6-received',
  null,
  { 'chamber volume': '64.0 cc' },
  { sourceId: 'pellam-catalogue', note: 'As the catalogue states it.' },
);
lists.measures = lists.measures.filter((m) => m.id !== 'p6-received-intake-port-volume-stated');
sheet({
  id: 'p6-catalogue',
  stage: 'p6-received',
  source: 'pellam-catalogue',
  kind: 'claim',
  title: 'Catalogue figures',
  setup: { reads: 'flow' },
  intake: [60, 120, 169, 196, null, 205, null, 205],
  exhaust: [47, 94, 129, 151, null, 160, null, 161],
});
sheet({
  id: 'p6-received-p3',
  stage: 'p6-received',
  source: 'bench-1',
  title: 'Bench 1, port 3',
  date: '2026-02-23',
  intakePort: 'pellam-p6-i3',
  exhaustPort: 'pellam-p6-e3',
  intake: [56, 113, 160, 186, 192, 194, 194, 193],
  exhaust: [45, 90, 124, 145, 150, 153, 154, 154],
});
sheet({
  id: 'p6-quayside',
  stage: 'p6-received',
  source: 'quayside',
  title: 'Quayside, port 3',
  date: '2026-02-26',
  setup: {
    reads: 'flow',
    depression: '28 inH2O',
    bore: '98.0 mm',
    entry: 'radius',
    exhaustPipe: 'bare',
    holesClosed: 'yes',
    valve: 'own',
  },
  times: 1.03,
  intake: [56, 113, 160, 186, 192, 194, 194, 193],
});
sheet({
  id: 'p6-valve-job-p3',
  stage: 'p6-valve-job',
  source: 'bench-1',
  title: 'Bench 1, port 3',
  date: '2026-03-06',
  intakePort: 'pellam-p6-i3',
  exhaustPort: 'pellam-p6-e3',
  intake: [58, 116, 163, 189, 195, 197, 197, 196],
  exhaust: [46, 92, 126, 146, 151, 154, 155, 155],
});
sheet({
  id: 'p6-valve-job-p5',
  stage: 'p6-valve-job',
  source: 'bench-1',
  title: 'Bench 1, port 5',
  date: '2026-03-06',
  intakePort: 'pellam-p6-i5',
  exhaustPort: 'pellam-p6-e5',
  intake: [58, 117, 164, 191, 197, 199, 199, 198],
  exhaust: [46, 92, 127, 147, 152, 155, 156, 156],
});
sheet({
  id: 'p6-bowl-p3',
  stage: 'p6-bowl',
  source: 'bench-1',
  title: 'Bench 1, port 3',
  date: '2026-03-23',
  intakePort: 'pellam-p6-i3',
  exhaustPort: 'pellam-p6-e3',
  intake: [58, 117, 166, 194, 201, 204, 205, 205],
  exhaust: [46, 92, 128, 149, 155, 158, 159, 159],
});
sheet({
  id: 'p6-pinch-p3',
  stage: 'p6-pinch',
  source: 'bench-1',
  title: 'Bench 1, port 3',
  date: '2026-04-03',
  intakePort: 'pellam-p6-i3',
  exhaustPort: 'pellam-p6-e3',
  intake: [58, 117, 166, 196, 205, 210, 212, 213],
  exhaust: [46, 92, 128, 149, 155, 158, 159, 159],
});

head(
  'longreach-212',
  {
    name: 'Longreach 212',
    maker: 'Ferrule & Dray',
    catalogueNumber: 'LR-212',
    cylinders: 6,
    kind: 'aftermarket',
    material: 'aluminium',
    class: 'standard spacing',
    price: '2,390',
    note: 'Machined ports. The exhaust port is raised: the riser flange does not line up.',
  },
  [
    ['longreach-received', 'as received', '2026-03-01'],
    ['longreach-valve-job', 'valve job and back-cut', '2026-03-24'],
    ['longreach-bowl', 'bowl blend', '2026-04-08'],
  ],
  SIX,
);
measures('longreach-received', 'intake', {
  'valve diameter': '1.940 in',
  'stem diameter': '.3415 in',
  'seat width': '1.4 mm',
  'seat angle': '50°',
  throat: '1.755 in',
  bowl: '1.900 in',
  pinch: '2.08 in²',
  window: '2.26 in²',
  'port length': '97 mm',
  'port volume': '147.5 cc',
});
measures('longreach-received', 'exhaust', {
  'valve diameter': '1.600 in',
  'stem diameter': '.3415 in',
  'seat width': '1.6 mm',
  'seat angle': '45°',
  throat: '1.420 in',
});
measures('longreach-received', null, { 'chamber volume': '64.0 cc' });
sheet({
  id: 'longreach-maker',
  stage: 'longreach-received',
  source: 'ferrule-sheet',
  kind: 'claim',
  title: 'Maker’s sheet',
  setup: { reads: 'flow', depression: '28 inH2O', bore: '4.125 in', exhaustPipe: 'piped', entry: 'radius' },
  intake: [54, 112, 164, 200, null, 219, null, 227],
  exhaust: [48, 99, 142, 168, null, 182, null, 190],
});
sheet({
  id: 'longreach-received-p3',
  stage: 'longreach-received',
  source: 'bench-1',
  title: 'Bench 1, port 3',
  date: '2026-03-04',
  setup: { ...own, exhaustPipe: 'piped', pipeDiameter: '1.75 in', pipeLength: '8 in' },
  intakePort: 'longreach-212-i3',
  exhaustPort: 'longreach-212-e3',
  intake: [52, 109, 160, 195, 206, 213, 218, 221],
  exhaust: [46, 96, 138, 163, 171, 177, 181, 184],
});
sheet({
  id: 'longreach-received-p1',
  stage: 'longreach-received',
  source: 'bench-1',
  title: 'Bench 1, port 1',
  date: '2026-03-04',
  intakePort: 'longreach-212-i1',
  exhaustPort: 'longreach-212-e1',
  intake: [52, 109, 159, 193, 204, 211, 216, 219],
  exhaust: [42, 89, 128, 150, 158, 163, 167, 169],
});
sheet({
  id: 'longreach-valve-job-p3',
  stage: 'longreach-valve-job',
  source: 'bench-1',
  title: 'Bench 1, port 3',
  date: '2026-03-25',
  intakePort: 'longreach-212-i3',
  exhaustPort: 'longreach-212-e3',
  intake: [55, 114, 165, 198, 208, 215, 219, 222],
  exhaust: [43, 92, 130, 152, 159, 164, 168, 170],
});
sheet({
  id: 'longreach-bowl-p3',
  stage: 'longreach-bowl',
  source: 'bench-1',
  title: 'Bench 1, port 3',
  date: '2026-04-09',
  intakePort: 'longreach-212-i3',
  exhaustPort: 'longreach-212-e3',
  intake: [55, 114, 166, 201, 212, 219, 224, 227],
  exhaust: [43, 92, 131, 154, 162, 167, 171, 173],
});

head(
  'ottermoor-230',
  {
    name: 'OM-230',
    maker: 'Ottermoor',
    catalogueNumber: 'OM-230',
    cylinders: 6,
    kind: 'aftermarket',
    material: 'aluminium',
    class: 'raised runner',
    price: '1,950',
    note: 'Big port. Lazy at the target speed.',
  },
  [['om-received', 'as received', '2026-03-10']],
  SIX,
);
measures('om-received', 'intake', {
  'valve diameter': '2.020 in',
  'stem diameter': '.3415 in',
  'seat width': '1.5 mm',
  'seat angle': '45°',
  throat: '1.810 in',
  bowl: '1.960 in',
  pinch: '2.42 in²',
  window: '2.55 in²',
  'port length': '98 mm',
  'port volume': '170.0 cc',
});
measures('om-received', 'exhaust', {
  'valve diameter': '1.600 in',
  'stem diameter': '.3415 in',
  'seat width': '1.7 mm',
  'seat angle': '45°',
  throat: '1.410 in',
});
measures('om-received', null, { 'chamber volume': '65.0 cc' });
const OM_LIFTS = ['.100', '.200', '.300', '.400', '.450', '.500', '.550', '.600', '.650', '.700'];
sheet({
  id: 'om-received-p3',
  stage: 'om-received',
  source: 'bench-1',
  title: 'Bench 1, port 3',
  date: '2026-03-12',
  intakePort: 'ottermoor-230-i3',
  exhaustPort: 'ottermoor-230-e3',
  lifts: OM_LIFTS,
  intake: [52, 109, 158, 189, 201, 210, 217, 221, 214, 206],
  exhaust: [43, 87, 122, 143, 149, 153, 156, 158, 158, 158],
  stopped: 'Backs up beyond .600; noise at .700.',
});
sheet({
  id: 'om-flyer',
  stage: 'om-received',
  source: 'ottermoor-flyer',
  kind: 'claim',
  title: 'Flyer',
  setup: { reads: 'flow' },
  lifts: OM_LIFTS,
  intake: [60, 134, 200, 262, null, 268, null, 271, null, 272],
  exhaust: [48, 98, 140, 163, null, 176, null, 182, null, 183],
});

[
  ['417-received', '417-received-p3'],
  ['522-received', '522-received-p3'],
  ['p6-valve-job', 'p6-valve-job-p3'],
  ['longreach-received', 'longreach-received-p3'],
  ['om-received', 'om-received-p3'],
].forEach(([stageId, sheetId], position) =>
  lists.lineups.push({ id: `slate-${position + 1}`, buildId: 'slate-six', stageId, sheetId, position }),
);

// ── The Vennick Five: four valves, supercharged ──────────────────────────────────────────────────────────────────────

lists.builds.push({
  id: 'vennick-five',
  name: 'Vennick Five',
  note: 'Ice racer.',
  bore: '82.5 mm',
  stroke: '86.0 mm',
  cylinders: 5,
  rod: '144 mm',
  valvesPerCylinder: 4,
  compression: '8.6:1',
  fuel: 'petrol',
  use: 'circuit',
  power: '400 hp',
  speed: '7200 rpm',
  induction: { kind: 'boosted', pressureRatio: '1.8', chargeTemperature: '55 °C', ambientTemperature: '0 °C' },
  cam: {
    intakeLift: '9.6 mm',
    exhaustLift: '9.2 mm',
    intakeDuration: '226°',
    exhaustDuration: '222°',
    lobeSeparation: '112°',
    intakeCentreline: '112°',
    rockerRatio: '1',
  },
  watchLifts: ['4 mm', '6 mm', '8 mm', '10 mm'],
  budget: '4,500',
});
const fiveBench = {
  reads: 'flow',
  depression: '28 inH2O',
  bore: '82.5 mm',
  entry: 'radius',
  exhaustPipe: 'bare',
  holesClosed: 'yes',
  valve: 'own',
};
const FIVE: [string, string, string, Json, string, string, number[], number[]][] = [
  [
    'vennick-v5',
    'V5 standard',
    'Vennick',
    { kind: 'production', material: 'aluminium', class: 'four-valve', price: '600' },
    '32.0 mm',
    '27.5 mm',
    [60, 115, 160, 188, 202],
    [48, 92, 126, 146, 155],
  ],
  [
    'ottermoor-4v',
    'OM-4V',
    'Ottermoor',
    { kind: 'aftermarket', material: 'aluminium', class: 'four-valve', price: '3,650' },
    '33.5 mm',
    '28.5 mm',
    [63, 122, 173, 209, 229],
    [51, 98, 136, 160, 172],
  ],
];
FIVE.forEach(([id, name, maker, fields, intakeValve, exhaustValve, intake, exhaust], position) => {
  head(
    id,
    { name, maker, intakeValves: 2, exhaustValves: 2, ...fields },
    [[`${id}-received`, 'as received', '2026-05-02']],
    [2],
  );
  measures(`${id}-received`, 'intake', {
    'valve diameter': intakeValve,
    'stem diameter': '6 mm',
    'seat width': '1.2 mm',
    'seat angle': '45°',
    throat: position ? '29.8 mm' : '28.2 mm',
    pinch: position ? '1180 mm²' : '1050 mm²',
  });
  measures(`${id}-received`, 'exhaust', {
    'valve diameter': exhaustValve,
    'stem diameter': '6 mm',
    'seat width': '1.4 mm',
    'seat angle': '45°',
    throat: position ? '25.2 mm' : '24.2 mm',
  });
  sheet({
    id: `${id}-p2`,
    stage: `${id}-received`,
    source: 'bench-1',
    title: 'Bench 1, cylinder 2',
    date: '2026-05-04',
    setup: fiveBench,
    unit: 'mm',
    intake,
    exhaust,
    intakePort: `${id}-i2`,
    exhaustPort: `${id}-e2`,
  });
  lists.lineups.push({
    id: `five-${position + 1}`,
    buildId: 'vennick-five',
    stageId: `${id}-received`,
    sheetId: null,
    position,
  });
});

// ── The Tarrow Three: a canal tug's diesel ───────────────────────────────────────────────────────────────────────────

lists.builds.push({
  id: 'tarrow-three',
  name: 'Tarrow Three',
  note: 'Canal tug. Low lift; low-lift flow decides.',
  bore: '112 mm',
  stroke: '130 mm',
  cylinders: 3,
  rod: '225 mm',
  compression: '17:1',
  fuel: 'diesel',
  use: 'marine',
  power: '62 hp',
  speed: '1900 rpm',
  powerPerFlow: '0.200 hp/cfm',
  torquePerVolume: '0.750 lb ft/in³',
  cam: {
    intakeLift: '9.5 mm',
    exhaustLift: '9.5 mm',
    intakeDuration: '186°',
    exhaustDuration: '188°',
    lobeSeparation: '108°',
    intakeCentreline: '108°',
    rockerRatio: '1.4',
  },
  watchLifts: ['2 mm', '4 mm', '6 mm', '8 mm'],
  budget: '900',
});
const tugBench = {
  reads: 'flow',
  depression: '10 inH2O',
  bore: '112 mm',
  entry: 'clay',
  exhaustPipe: 'bare',
  holesClosed: 'yes',
  valve: 'own',
};
const TUG: [string, string, string, string, number[], number[]][] = [
  ['tarrow-t3', 'T3 early', '46.0 mm', '380', [25, 47, 63, 72, 76], [21, 40, 53, 60, 63]],
  ['tarrow-t3b', 'T3 helical', '46.0 mm', '520', [27, 49, 62, 68, 70], [21, 40, 53, 60, 63]],
];
TUG.forEach(([id, name, intakeValve, price, intake, exhaust], position) => {
  head(
    id,
    { name, maker: 'Tarrow', kind: 'production', material: 'iron', price },
    [[`${id}-received`, 'as received', '2026-06-11']],
    [1],
  );
  measures(`${id}-received`, 'intake', {
    'valve diameter': intakeValve,
    'stem diameter': '9 mm',
    'seat width': '2.2 mm',
    'seat angle': position ? '30°' : '45°',
    throat: '40.5 mm',
    pinch: '1150 mm²',
  });
  measures(`${id}-received`, 'exhaust', {
    'valve diameter': '40.0 mm',
    'stem diameter': '9 mm',
    'seat width': '2.4 mm',
    'seat angle': '45°',
    throat: '35.0 mm',
  });
  sheet({
    id: `${id}-p1`,
    stage: `${id}-received`,
    source: 'mire-lane',
    title: 'Mire Lane at 10 in',
    date: '2026-06-15',
    setup: tugBench,
    unit: 'mm',
    intake,
    exhaust,
    intakePort: `${id}-i1`,
    exhaustPort: `${id}-e1`,
  });
  lists.lineups.push({
    id: `tug-${position + 1}`,
    buildId: 'tarrow-three',
    stageId: `${id}-received`,
    sheetId: null,
    position,
  });
});

arrivals();
surveys();
bench();
claims();
dyno();
change();
decide();
paper();

const whole = { format: 'alluvium-bundle', version: 1, ...lists };
// What was decided is kept with what it was decided on: everything before it.
lists.decisions.push(decision(decidedContent(whole, 'slate-six', 'slate-rework')));

/** The whole scenario as a bundle. */
export const scenario = {
  format: 'alluvium-bundle',
  version: 1,
  ...Object.fromEntries(Object.entries(lists).filter(([, records]) => records.length > 0)),
};
