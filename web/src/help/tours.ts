/** Short ways round a page: what to look at, in the order one needs it. A stop that is not on the page is passed over. */
export interface Stop {
  readonly at: string;
  readonly title: string;
  readonly says: string;
}
export interface Tour {
  readonly page: string;
  readonly title: string;
  readonly stops: readonly Stop[];
}

const COURSE: Stop = {
  at: '.frame-course',
  title: 'The course of the work',
  says: 'From the engine to the dyno. Begin anywhere: a head can be measured and flowed before there is an engine.',
};

export const TOURS: readonly Tour[] = [
  {
    page: 'shop',
    title: 'The shop at a glance',
    stops: [
      COURSE,
      {
        at: '.frame-strip',
        title: 'The engine at hand',
        says: 'What it is, what it must make, and what each port must carry for that. Every page is read against it.',
      },
      {
        at: 'main .river, main .first',
        title: 'Every engine on its line',
        says: 'Target, day, what the heads of its lineup amount to in words, and what is still owed.',
      },
      {
        at: 'main .notes',
        title: 'What waits',
        says: 'Drafts, open sessions, heads to mend, questions, the last backup. Each leads to its place.',
      },
      {
        at: '.frame-lineup',
        title: 'The lineup',
        says: 'The heads held against each other for this engine. Its first is the baseline; a number key hides or shows one.',
      },
    ],
  },
  {
    page: 'target',
    title: 'Say which engine it is',
    stops: [
      {
        at: 'main form',
        title: 'Type it as it is written',
        says: '4.125 in, 104.8 mm or 5.0 L: the unit you type is kept. Fields with a star are needed.',
      },
      {
        at: 'main .follows',
        title: 'What follows from it',
        says: 'The flow a port must carry, the least choke, the lifts that count. Press a figure and it shows its working.',
      },
    ],
  },
  {
    page: 'head',
    title: 'A head and its sheets',
    stops: [
      {
        at: 'main header.head',
        title: 'The head',
        says: 'Edit, pin, archive; and the steps that work on it: Arrival, Measure, Bench, Claims, Change.',
      },
      {
        at: 'main table',
        title: 'Sheets and sizes',
        says: 'A sheet is one test of one stage. Type it, paste a block from a spreadsheet, or drop a file.',
      },
      {
        at: 'main .owed',
        title: 'What is still owed',
        says: 'What nobody noted yet, and why it would matter. One press leads to the field; what cannot be known is excused.',
      },
    ],
  },
  {
    page: 'bench',
    title: 'A test on the bench',
    stops: [
      {
        at: 'main .panes',
        title: 'Sessions, calibration, instruments',
        says: 'A session keeps every raw reading. The bench’s own factor comes from its calibration.',
      },
      {
        at: 'main table',
        title: 'Plan, set-up, run',
        says: 'Say which ports and lifts, what the bench stands at, then read lift by lift; Space records.',
      },
    ],
  },
  {
    page: 'compare',
    title: 'Heads side by side',
    stops: [
      {
        at: 'main .two svg',
        title: 'Flow over lift',
        says: 'Every curve at 28 in of water, each point as read. The target’s demand is the line across.',
      },
      {
        at: 'main .key',
        title: 'Gain and loss',
        says: 'Against the baseline, with what the measurement itself can tell apart. Press a figure for its working.',
      },
      {
        at: 'main .reading',
        title: 'The reading',
        says: 'What the picture says in words, and what it does not say.',
      },
    ],
  },
  {
    page: 'match',
    title: 'Which head fits',
    stops: [
      {
        at: 'main .best',
        title: 'The verdict',
        says: 'Meets it, marginal or falls short, with the odds. How sure it is rests on what was measured.',
      },
      {
        at: 'main table',
        title: 'What it rests on',
        says: 'Flow, window, choke, velocity, Mach index: each with the figure it needs and the one it has.',
      },
    ],
  },
];
