import type { Checklist, InspectionGroup } from '../nouns/arrival.js';
import type { Head } from '../nouns/head.js';
import type { MeasureItem } from '../nouns/measureItems.js';

/** What came in: a core from a running engine, a new aftermarket head, an aftermarket head that has run or was ported. */
export const CHECKLIST_KINDS = ['production core', 'aftermarket new', 'used aftermarket'] as const;
export type ChecklistKind = (typeof CHECKLIST_KINDS)[number];

export type ChecklistLine = Checklist['lines'][number];

interface Line {
  readonly title: string;
  readonly hint: string;
  readonly sizes?: readonly MeasureItem[];
  /** Only for these kinds; for all when missing. */
  readonly kinds?: readonly ChecklistKind[];
  /** Only for heads with two valves a cylinder, or only for those with more. */
  readonly valves?: 'two' | 'more';
}

const ran = ['production core', 'used aftermarket'] as const;
const bought = ['aftermarket new', 'used aftermarket'] as const;
const COMMON = '(common practice, no source)';

/** Every line the program knows, by group. What is usual is common practice without a source, and says so. */
const LINES: Readonly<Record<Exclude<InspectionGroup, 'own'>, readonly Line[]>> = {
  identity: [
    {
      title: 'Casting marks',
      hint: 'Write the number and date code as they stand; a mark that cannot be read: unsure, with a photo.',
    },
    {
      title: 'Which variant',
      hint: 'Chamber, valve sizes and bosses against the parts list. One number can hide two castings.',
    },
    {
      title: 'Both heads of a pair alike',
      hint: 'Same marks, same chamber, same ports? A pair from two engines is no pair.',
      kinds: ran,
    },
    {
      title: 'Box against order',
      hint: 'Number on the box, number on the head, number on the invoice.',
      kinds: ['aftermarket new'],
    },
    {
      title: 'Porting or repair by others',
      hint: 'Blended ports, sleeved guides, welds, helicoils. Mark a touched port: it is no baseline.',
      kinds: ran,
    },
  ],
  'strip and clean': [
    { title: 'Valves out, kept in order', hint: 'Mark each valve with its place before it comes out.' },
    { title: 'Degreased', hint: 'Hot tank or solvent, plugs and gallery screws out.', kinds: ran },
    {
      title: 'Carbon and scale off',
      hint: 'Down to bare metal where cracks start: between seats, round the plug.',
      kinds: ran,
    },
    {
      title: 'Preservative and swarf washed out',
      hint: 'New heads carry both, in the galleries too.',
      kinds: ['aftermarket new'],
    },
  ],
  'crack check': [
    {
      title: 'Chambers and seats',
      hint: 'Dye on alloy, magnetic powder on iron: between the seats, seat to plug, bolt to water.',
    },
    { title: 'Deck and bolt bosses', hint: 'Cracks run from water holes to bolt holes.' },
    { title: 'Ports and spring seats', hint: 'Under the spring seat where the casting is thin.', kinds: ran },
    {
      title: 'Pressure test of the water jacket',
      hint: 'Warm, under the pressure the cap gives; leave it standing.',
      kinds: ran,
    },
  ],
  look: [
    { title: 'Ridge under the seat', hint: 'A step where the ring ends and the casting begins costs low lift.' },
    { title: 'Throat to bowl step', hint: 'Feel with a bent wire all round; worst under the short turn.' },
    { title: 'Tool paths that do not meet', hint: 'Two cutters that left a wall between them.', kinds: bought },
    { title: 'Blend that nicked a seat', hint: 'One touch of the stone on the seat and it will not seal.' },
    { title: 'Ledge at the chamber', hint: 'Where the cutter for the valve stopped beside the chamber wall.' },
    { title: 'Lumps in the port', hint: 'Draw a finger along floor and roof; mark what can go.' },
    { title: 'Casting flash', hint: 'Parting line in port, water and oil return.' },
    { title: 'Guide boss', hint: 'How far it stands into the port, and whether all stand alike.' },
    { title: 'Bolt boss bump', hint: 'Where the port bends round a bolt; the same in every port?' },
    { title: 'Chamber roof and plug', hint: 'Type of chamber, plug reach and thread, sharp edges.' },
    { title: 'Threads', hint: 'Run a bolt by hand into each: manifold, exhaust, rockers, plugs.' },
  ],
  'core shift': [
    {
      title: 'Port against gasket, all round',
      hint: 'Metal that shows inside the gasket’s edge at roof, floor, front and rear; negative where the port is wider.',
      sizes: ['gasket step, roof', 'gasket step, floor', 'gasket step, front', 'gasket step, rear'],
    },
    {
      title: 'Seat to top of the short turn, both ends',
      hint: 'Depth from the seat to the top of the short turn, first and last cylinder.',
      sizes: ['short turn height'],
    },
    {
      title: 'Pushrod side wall',
      hint: 'Tap and listen, then sonic-test: the thin side is where the core went.',
      valves: 'two',
    },
    { title: 'Chambers against the bore gasket', hint: 'Lay the gasket on the deck: is each chamber in its middle?' },
  ],
  guides: [
    {
      title: 'Clearance of each guide',
      hint: `Usual .0010 to .0025 in intake, .0015 to .0030 in exhaust ${COMMON}; the maker’s figure decides.`,
      sizes: ['guide clearance'],
    },
    {
      title: 'Guide concentric with the seat',
      hint: 'Dial round the seat on a pilot; usual within .002 in ' + COMMON + '.',
    },
    { title: 'Guide height and seal boss', hint: 'All alike; the seal sits square.' },
    { title: 'Two guides of one port parallel', hint: 'Pilots in both: they must not cross.', valves: 'more' },
  ],
  stems: [
    {
      title: 'Stem diameter',
      hint: 'At top, middle and bottom of where it runs; the least counts.',
      sizes: ['stem diameter'],
    },
    { title: 'Nicks and keeper grooves', hint: 'A burr at the groove scores the guide when the valve is pushed out.' },
    { title: 'Scuffing', hint: 'Bright streaks on one side: guide too tight, or rocker pushing sideways.' },
    { title: 'Valve face and margin', hint: `Usual margin above .040 in ${COMMON}; a bent valve shows on the lathe.` },
    { title: 'Tip', hint: 'Worn hollow or mushroomed: never drive it through the guide.', kinds: ran },
  ],
  springs: [
    {
      title: 'Installed height',
      hint: 'Spring seat to underside of the retainer, valve shut, every valve.',
      sizes: ['spring installed height'],
    },
    {
      title: 'Seat force and rate',
      hint: 'On the tester, at the installed height, and again at full lift.',
      sizes: ['spring seat force', 'spring rate'],
    },
    { title: 'Coil bind', hint: 'Squeeze until solid.', sizes: ['spring coil-bind height'] },
    { title: 'Retainer to seal', hint: 'Valve shut, locks in.', sizes: ['retainer to seal'] },
    { title: 'Springs square, unbroken, alike', hint: 'Stand them side by side against a square.' },
  ],
  seats: [
    {
      title: 'Every seat seals',
      hint: 'Vacuum on the port, valve wiped and held by a light spring. New heads do fail.',
    },
    {
      title: 'Seat width and place',
      hint: 'Ink and turn once: width, and where it lies on the valve’s face.',
      sizes: ['seat width'],
    },
    {
      title: 'Ring material and size',
      hint: 'Which metal decides how it may be cut. What is not known is treated as the worst.',
      sizes: ['ring outside diameter', 'ring inside diameter'],
    },
    { title: 'Rings tight in the head', hint: 'Tap round: a loose ring sounds dull. A dark line means it moved.' },
    { title: 'Seats sunk alike', hint: 'Stem heights within .010 in of each other ' + COMMON + '.', kinds: ran },
  ],
  flatness: [
    {
      title: 'Deck flatness',
      hint: `Straight edge and feeler, along, across and crosswise. Usual within .004 in over the length ${COMMON}.`,
      sizes: ['deck flatness'],
    },
    { title: 'Flange flatness', hint: 'Intake and exhaust face.', sizes: ['flange flatness'] },
    {
      title: 'Divider thickness',
      hint: 'Wall between neighbouring ports at the flange: what the gasket has to seal on.',
      sizes: ['divider thickness'],
    },
    { title: 'Deck finish', hint: 'As the gasket’s maker asks for.' },
  ],
  fits: [
    { title: 'Bolts and dowels', hint: 'Size, reach, place; washers under every bolt head.' },
    { title: 'Manifold pattern', hint: 'Lay the gasket on: bolts, ports, water.' },
    {
      title: 'Exhaust pattern',
      hint: 'Flange, bolt circle, and whether the port was raised against the pipe or riser.',
    },
    { title: 'Accessories', hint: 'Bosses for bracket, alternator, cover, fuel pump.' },
    {
      title: 'Valve spacing against piston pockets',
      hint: 'Centre to centre, and the valve’s place across the bore.',
      sizes: ['valve spacing'],
    },
    {
      title: 'Pushrod clearance',
      hint: 'At rest and through the whole lift, both sides.',
      sizes: ['pushrod clearance'],
      valves: 'two',
    },
    { title: 'Water passages', hint: 'Against block and gasket: open where it must be, closed where it must be.' },
    {
      title: 'Rocker, stud and guide plate',
      hint: 'Pattern on the tip through the lift, stud thread, guide plate.',
      valves: 'two',
    },
    { title: 'Cam carrier and bearings', hint: 'Caps numbered, bores in line, oil feed.', valves: 'more' },
  ],
};

/** The program's checklist for a head: what is looked at, in the order of the work. */
export function checklistFor(
  kind: ChecklistKind,
  head: Pick<Head, 'intakeValves' | 'exhaustValves'>,
): readonly ChecklistLine[] {
  const valves = head.intakeValves + head.exhaustValves > 2 ? 'more' : 'two';
  return Object.entries(LINES).flatMap(([group, lines]) =>
    lines
      .filter((l) => (!l.kinds || l.kinds.includes(kind)) && (!l.valves || l.valves === valves))
      .map((l) => ({ group: group as InspectionGroup, title: l.title, hint: l.hint, sizes: [...(l.sizes ?? [])] })),
  );
}

/** Which kind of list a head most likely wants. */
export const likelyKind = (head: Pick<Head, 'kind'>): ChecklistKind =>
  head.kind === 'production' ? 'production core' : head.kind === 'aftermarket' ? 'aftermarket new' : 'used aftermarket';

/** Cautions, by the group of the checklist in which the act is done. */
export const CAUTIONS: { readonly [G in InspectionGroup]?: string } = {
  'strip and clean':
    'Eye protection when valve locks are knocked or compressed out. Solvents and hot tanks: ventilation, gloves, no flame. Blasting and grinding dust: extraction and a respirator.',
  'crack check':
    'Developer and dye: ventilation, gloves. Magnetising: keep it away from pacemakers. Pressure testing: stand aside of the plugs.',
  springs: 'Eye protection: a compressed spring is a loaded one.',
  guides: 'Copper alloys and cast iron reamed dry make dust: oil, extraction.',
  'core shift':
    'What the gasket shows is no wall thickness: sonic-test before metal is taken, and let a licensed machine shop judge where structure is concerned.',
  fits: 'Road use of changed emission parts is regulated: local law decides.',
};

/** Where the ring may hold beryllium: shown above everything else at the seats. */
export const BERYLLIUM_CAUTION =
  'Copper-beryllium seats: the dust can cause lung disease. No dry grinding or blasting; extraction and a respirator; follow the supplier’s safety sheet and local rules.';
export const UNKNOWN_RING_CAUTION =
  'A bronze-coloured ring of unknown metal is treated as copper-beryllium until the maker says otherwise.';
