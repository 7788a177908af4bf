/** Claims of the demo: what sources state of all their tests, a rumour, two articles that may be one, powers, questions. */
import { head, lists, measures, own, sheet, type Json } from './tables.js';

/** What each source states of all its figures; the others state nothing. */
const STATED: Record<string, Json> = {
  quayside: {
    bench: 'a bench of their own, water manometers',
    stated: { depression: '28 inH2O', entry: 'radius', exhaustPipe: 'bare', valve: 'own' },
    date: '2025-11-01',
  },
  'ferrule-sheet': {
    stated: {
      depression: '28 inH2O',
      bore: '4.125 in',
      entry: 'radius',
      exhaustPipe: 'piped',
      pipeDiameter: '1.750 in',
      pipeLength: '5 in',
    },
    link: 'Sheet packed with each head',
    date: '2025-09-15',
  },
  'mire-lane': { stated: { depression: '10 inH2O' } },
};

/** Sizes of the two small Pellam heads: the second article is the first with another number on its box. */
const SMALL: [id: string, name: string, price: string, intakeThroat: string, pinch: string, chamber: string][] = [
  ['pellam-190', 'P6-190', '1,290', '1.688 in', '1.82 in²', '64.6 cc'],
  ['pellam-190r', 'P6-190R', '1,460', '1.691 in', '1.83 in²', '64.9 cc'],
];
const SMALL_FLOWS: Record<string, { intake: number[]; exhaust: number[]; date: string }> = {
  'pellam-190': {
    date: '2026-04-14',
    intake: [54, 109, 153, 176, 181, 183, 183, 183],
    exhaust: [43, 87, 119, 138, 143, 145, 146, 146],
  },
  'pellam-190r': {
    date: '2026-04-15',
    intake: [54, 109, 154, 177, 181, 183, 184, 183],
    exhaust: [43, 87, 119, 139, 143, 145, 146, 146],
  },
};

export function claims(): void {
  for (const source of lists.sources) Object.assign(source, STATED[String(source.id)] ?? {});
  lists.sources.push(
    {
      id: 'slackwater-board',
      name: 'Slackwater board',
      kind: 'forum',
      note: 'Somebody’s post, passed on without his conditions.',
    },
    {
      id: 'corrow-parts-list',
      name: 'Corrow parts list',
      kind: 'maker',
      note: 'Gives one replacement number for both castings.',
    },
  );

  for (const [id, name, price, throat, pinch, chamber] of SMALL) {
    const stage = `${id}-received`;
    head(
      id,
      {
        name,
        maker: 'Pellam',
        catalogueNumber: name,
        cylinders: 6,
        kind: 'aftermarket',
        material: 'aluminium',
        class: 'standard spacing',
        price,
      },
      [[stage, 'as received', '2026-04-10']],
      [3],
    );
    measures(stage, 'intake', {
      'valve diameter': '1.880 in',
      'stem diameter': '.3415 in',
      'seat width': '1.5 mm',
      'seat angle': '45°',
      throat,
      pinch,
    });
    measures(stage, 'exhaust', {
      'valve diameter': '1.550 in',
      'stem diameter': '.3415 in',
      'seat width': '1.7 mm',
      'seat angle': '45°',
      throat: '1.366 in',
    });
    measures(stage, null, { 'chamber volume': chamber });
    const { intake, exhaust, date } = SMALL_FLOWS[id]!;
    sheet({
      id: `${id}-p3`,
      stage,
      source: 'bench-1',
      title: 'Bench 1, port 3',
      date,
      setup: own,
      intakePort: `${id}-i3`,
      exhaustPort: `${id}-e3`,
      intake,
      exhaust,
    });
  }
  // The catalogue reads about as high on this head as on the larger one: it is the source, not the head.
  sheet({
    id: '190-catalogue',
    stage: 'pellam-190-received',
    source: 'pellam-catalogue',
    kind: 'claim',
    title: 'Catalogue figures',
    setup: { reads: 'flow' },
    intake: [57, 115, 162, 186, null, 194, null, 194],
    exhaust: [45, 91, 124, 144, null, 152, null, 153],
  });
  measures(
    'pellam-190-received',
    null,
    { 'chamber volume': '64.0 cc', price: '1,290' },
    { sourceId: 'pellam-catalogue', note: 'As the catalogue states it.' },
  );
  // A post with the better of two runners, and nothing said of which.
  sheet({
    id: '417-board',
    stage: '417-received',
    source: 'slackwater-board',
    kind: 'claim',
    title: 'Posted figures',
    setup: { reads: 'flow', depression: '28 inH2O', exhaustPipe: 'bare' },
    intake: [53, 107, 150, 173, null, 180, null, 181],
    exhaust: [40, 81, 110, 127, null, 132, null, 133],
  });

  lists.reports.push(
    {
      id: 'om-flyer-power',
      stageId: 'om-received',
      sourceId: 'ottermoor-flyer',
      buildId: 'slate-six',
      power: '395 hp',
      speed: '6000 rpm',
      taken: 'unknown',
      note: 'Printed beside the flow figures.',
    },
    {
      id: 'p6-catalogue-power',
      stageId: 'p6-received',
      sourceId: 'pellam-catalogue',
      buildId: 'slate-six',
      power: '295 hp',
      speed: '5600 rpm',
      taken: 'engine dyno',
    },
  );

  lists.questions.push(
    {
      id: 'one-number',
      text: 'The 522 is the same head as the 417: the parts list gives both one replacement number.',
      sourceId: 'corrow-parts-list',
      headId: 'corrow-522',
      opened: '2026-02-11',
      state: 'false',
      reasons:
        'Chamber, throat and valve job differ by several times what measuring twice would give, and the curves part from .300 up. It bolts on; it is not the same head.',
      closed: '2026-02-13',
      evidence: [
        { noun: 'sheet', id: '522-received-p3' },
        { noun: 'sheet', id: '417-received-p3' },
        { noun: 'measure', id: '522-received-both-chamber-volume' },
        { noun: 'measure', id: '417-received-both-chamber-volume' },
      ],
    },
    {
      id: 'flyer-flowed-with',
      text: 'Ottermoor flowed its head with the runner clayed out and another valve.',
      sourceId: 'quayside',
      headId: 'ottermoor-230',
      opened: '2026-03-12',
      state: 'open',
    },
    {
      id: 'one-casting',
      text: 'P6-190 and P6-190R are one casting in two boxes.',
      sourceId: 'slackwater-board',
      headId: 'pellam-190r',
      opened: '2026-04-16',
      state: 'unproven',
      reasons:
        'Not told apart by sizes or flow, which does not make them one casting: the casting marks were ground off.',
      closed: '2026-04-20',
      evidence: [
        { noun: 'sheet', id: 'pellam-190-p3' },
        { noun: 'sheet', id: 'pellam-190r-p3' },
      ],
    },
  );
}
