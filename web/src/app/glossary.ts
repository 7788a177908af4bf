/** The trade's words as this program uses them: one word for one thing, everywhere. */
export const GLOSSARY: readonly (readonly [term: string, meaning: string])[] = [
  ['Advance', 'How far the intake lobe’s centreline stands ahead of the lobe separation, degrees of the crank.'],
  [
    'Assumption',
    'What is taken of an uncertainty until something better is known; the shop may put its own in its place.',
  ],
  ['Back-cut', 'A narrow cut on the valve’s back, inside the seat, that eases the turn at low lift.'],
  ['Backs up', 'Flow falls as the valve opens further: the stream breaks away from a wall.'],
  ['Baseline', 'The first head of the lineup; every difference is taken from it.'],
  ['BMEP', 'Brake mean effective pressure: torque over displacement, the fair measure of how hard an engine works.'],
  ['Bore fixture', 'The sleeve the head stands on during a test. A smaller one crowds the valves.'],
  ['Bowl', 'The pocket under the seat, between throat and short turn.'],
  ['Budget', 'What makes a figure unsure, each thing with its share of the variance.'],
  [
    'C min',
    'Flow coefficient on the least area of a port: what share of the flow that area could pass at this depression does pass.',
  ],
  ['Call', 'What somebody expects of a test, written before the first reading and scored after the last.'],
  ['Centreline', 'Crank angle of full intake lift, after top dead centre.'],
  ['Choke', 'The least area of a port; it rules the velocity.'],
  ['Claim', 'Somebody’s figures, whose conditions may be unknown. Unknown stays unknown.'],
  ['Class', 'What kind of head it is: standard spacing, raised runner, canted, symmetrical, four-valve.'],
  [
    'Closure',
    'How well two ways of measuring one thing agree: sections against liquid, speed times area against flow.',
  ],
  ['Coil bind', 'The height at which a spring is squeezed solid.'],
  ['Column map', 'What each column of a dyno’s files is, laid down by hand and known again by its headings.'],
  ['Compression', 'Volume over the piston at the bottom of its stroke over that at the top.'],
  ['Control head', 'A head whose flow is agreed on; it ties one bench to another.'],
  ['Core sample', 'A head’s stages drawn as layers, each as thick as what it bought.'],
  [
    'Core shift',
    'The sand core moved in its mould: port and casting no longer share their middle, and one wall is thin.',
  ],
  [
    'Correction',
    'What brings the power of a day to the air of a standard. Two standards differ by some 4 % in the same air.',
  ],
  ['Curtain area', 'Valve circumference times lift: the cylinder the air crosses.'],
  ['Decision', 'The way chosen, with its reasons and the figures as they stood that day.'],
  ['Deck', 'Distance of the piston’s crown from the block’s face at top dead centre; above it counts as negative.'],
  ['Demand', 'The flow each port must carry for the target, at 28 in of water.'],
  ['Depression', 'The pressure drop the bench holds across the port. 28 in of water is where sheets meet.'],
  ['Discharge coefficient', 'Flow over what an ideal stream through the same area would carry.'],
  ['Displacement', 'What all pistons sweep in one stroke.'],
  ['Divided', 'A port with a wall in it, so that it is two ports for part of its length.'],
  ['Duration', 'Degrees of the crank for which a valve stands open beyond a given lift.'],
  ['Dwell', 'How long the valve stays at a lift, from the cam’s lift curve.'],
  ['E/I', 'Exhaust flow over intake flow.'],
  ['Edge', 'The ways for which no other is as cheap and as strong.'],
  ['Family', 'Sheets of one port that differ in one thing alone: the bore, the valve, a notch, the pipe.'],
  ['Finding', 'Something on a head that is not as it should be; it stands until the stage at which it was mended.'],
  ['Flip', 'The smallest change of one thing alone that turns a verdict.'],
  ['Flow coefficient', 'Measured flow over what an ideal nozzle of the same area passes at that depression.'],
  ['Forecast', 'What a cut is expected to buy, kept before it is made and scored after the port is flowed again.'],
  ['Full scale', 'What 100 % of a bench range means, in flow; one per range and per direction.'],
  ['Heat soak', 'Each pull makes a little less than the one before it, because the engine and the cell stay warm.'],
  ['Installed height', 'Spring seat to underside of the retainer with the valve shut.'],
  ['Knee', 'The lift beyond which a port gains little more.'],
  ['L/D', 'Lift over valve diameter; heads of unlike valves are compared at the same L/D.'],
  ['Ledger', 'A head’s stages with what each cost and gave, added up.'],
  ['Lineup', 'The heads held against each other for one engine, the baseline first.'],
  ['Lobe separation', 'Angle between the intake and the exhaust lobe, in degrees of the cam.'],
  [
    'Long runner',
    'Of a head whose ports differ in length, the longer kind; each kind is flowed, measured and judged by itself.',
  ],
  [
    'Margin',
    'How far a figure lies over or under what is wanted, in its own unit and in multiples of its uncertainty.',
  ],
  ['Mean inlet Mach index', 'Piston speed against what the valves can pass; beyond about 0.6 an engine stops filling.'],
  [
    'Metal budget',
    'How far each wall may go back before it is down to the least metal to leave, and what the port then carries.',
  ],
  ['Notch', 'Metal taken from the top of the bore beside a valve, so that the wall crowds it less.'],
  ['Odds', 'In how many of a hundred draws of all that is not known exactly the head carries the target.'],
  ['Overlap', 'Degrees of the crank for which both valves stand open.'],
  ['Pair', 'The two heads of a vee or a flat engine: judged together, the worst port of either decides.'],
  ['Pattern port', 'The port that is cut first and that the others follow.'],
  ['Pinch', 'The narrow place of a port beside the pushrod.'],
  ['Pitot', 'A tube facing the stream: its pressure over the pressure around it gives the velocity.'],
  ['Plenum', 'The room of the manifold that the runners draw from.'],
  ['Plug reach', 'How far the end of the spark plug stands into the chamber.'],
  ['Port', 'The passage in the head, from flange to valve. The runner is the whole way, manifold and port.'],
  ['Port velocity', 'Mean air speed at the least area of a port, worked out at the engine’s speed.'],
  ['Port-to-port spread', 'The best port’s flow less the worst one’s at a lift.'],
  ['Practice', 'Rounds of questions from the shop’s own heads; what was missed comes again.'],
  ['Price list', 'What the shop usually charges and pays, line by line; lines of one set are taken together.'],
  [
    'Pull',
    'On the bench one reading of one point, on a dyno one run through the speeds; several give a mean and a spread.',
  ],
  ['Raw reading', 'What the bench showed at one moment, as it came. It is never changed, only set aside.'],
  ['Repeatability', 'How far the bench differs from itself. A difference counts beyond 2σ√2.'],
  ['Residuals', 'Burned gas left in the cylinder when both valves are shut, as a share of what is in it.'],
  ['Reversion', 'Gas that runs back out of the cylinder into the intake.'],
  ['Ring land', 'The wall of the bore above the top ring; a notch must not reach it.'],
  ['Runner', 'The pipe between plenum and head, or the port itself as one of its two kinds.'],
  ['Seat', 'The faces on which valve and head meet.'],
  ['Section', 'The outline of a port at one station, with the metal round it.'],
  ['Session', 'One visit to the bench with one head at one stage.'],
  ['Set aside', 'A sheet that is kept and not read, because another of the same port is believed.'],
  ['Sheet', 'A table of flow over lift, with how it was tested.'],
  ['Short runner', 'Of a head whose ports differ in length, the shorter kind.'],
  ['Short turn', 'The inside of the bend, from port floor to seat.'],
  ['Shrouding', 'The bore wall crowding the valve, so that part of the curtain carries less.'],
  ['Siblings', 'Curves of one published table, kept as sheets of their own that belong together.'],
  ['Source offset', 'How far a source reads from your own bench, from heads that both tested.'],
  ['Specimen', 'One of several heads of the same article.'],
  ['Stability', 'Flow at the last lift tested over peak flow.'],
  ['Stage', 'A state of work of a head: as received, valve job, first cut.'],
  ['Survey', 'A port measured section by section, like a river.'],
  ['Swap', 'Two heads pulled in turns, A, B, A, so that what drifts is told from what was changed.'],
  ['Swirl', 'Air turning about the axis of the bore, with its sign.'],
  ['Throat', 'The least diameter under the seat.'],
  ['Tied', 'A simulation whose friction and combustion were moved, within what is believed, until it lies on a pull.'],
  ['Told apart', 'Two heads differ by more than measuring one of them twice would give.'],
  ['Top cut', 'The cut of a seat above the one the valve sits on, towards the chamber.'],
  [
    'Uncertainty',
    'One standard deviation of what is believed of a figure; about twice it holds nineteen times in twenty.',
  ],
  ['Uniformity', 'How evenly air passes a section: 1 is even, 0 all of it through one point.'],
  [
    'Valve float',
    'The valve leaves its cam because the springs cannot slow its mass: power falls suddenly above that speed.',
  ],
  [
    'Valve train mass',
    'What the springs must slow, brought to the valve: valve, retainer, locks, a third of the spring, the rest by the rocker ratio squared.',
  ],
  ['Valve-out pull', 'A reading with the valve out and a radiused plug in the seat: nearly the port by itself.'],
  ['Velocity map', 'Velocities on a grid across one place of a port, at one lift.'],
  [
    'Verdict',
    'Carries, probably carries, can’t be told, probably short, falls short: from the odds, held back by the evidence.',
  ],
  ['Volumetric efficiency', 'Fresh charge kept over what the displacement holds of the air outside.'],
  ['Watch lifts', 'The few lifts you care most about.'],
  ['Way to go', 'A head at a stage, real or planned, with its price and its fit: one of the choices of a build.'],
  ['Window', 'The area over the short turn.'],
  ['Work list', 'What is to be cut where, to which size, and where to stop.'],
  ['Working speeds', 'The engine speeds between which it does its work; torque is averaged over them.'],
];

const plain = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^\p{L}\p{N}/ -]+/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim();
const WORDS = GLOSSARY.map(([term]) => ({ term, word: ` ${plain(term)} ` })).sort(
  (a, b) => b.word.length - a.word.length,
);

/** The word of the glossary a short text is about: the longest that stands in it whole, also in the plural. */
export function termIn(text: string): string | undefined {
  const said = plain(text);
  if (said === '' || said.length > 60) return undefined;
  const singular = said.replace(/s\b/g, '');
  return WORDS.find(({ word }) => ` ${said} `.includes(word) || ` ${singular} `.includes(word.replace(/s (?=$)/, ' ')))
    ?.term;
}
