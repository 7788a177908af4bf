import { COMMON_PRACTICE as P } from '../method/method.js';
import { feetPerSecond, horsepowerPerCfm, inches } from '../quantity/units.js';
import { USUAL_POWER_PER_FLOW } from '../power/schools.js';

/**
 * What is taken of an uncertainty as long as nothing better is known; each a standard uncertainty as a share unless it
 * says otherwise. A shop may put its own figures in their place.
 */
export interface Assumptions {
  /** One reading against the next in one set-up, until there are pulls. */
  readonly repeatability: number;
  /** One set-up against the next: the head taken off and put on again. */
  readonly setup: number;
  /** Half of the range within which the lift's zero lies, m. */
  readonly liftZero: number;
  /** What a bench of our own reads off when it was checked; when it was not. */
  readonly checkedBench: number;
  readonly uncheckedBench: number;
  /** What another's bench reads off ours. */
  readonly otherBench: number;
  /** What a published claim reads off. */
  readonly claim: number;
  /** Flow between two rows, for each inch to the nearer one beyond `rowReach`. */
  readonly betweenRows: number;
  readonly rowReach: number;
  /** Flow in another bore, for each share the fixture is off the engine's. */
  readonly fixture: number;
  /** Power per flow: least, likeliest, most, W per m³/s. */
  readonly powerPerFlow: readonly [number, number, number];
  /** Half the range of a factor stated for this build. */
  readonly statedFactor: number;
  /** Half the range of the port velocity not to pass. */
  readonly velocityLimit: number;
  /** Half the range of peak against mean piston speed where the rod is unknown. */
  readonly pistonRatio: number;
  /** A section taken by template or calipers; a volume poured; a length by wire. */
  readonly area: number;
  readonly volume: number;
  readonly length: number;
  /** Least area against the mean one: from this share up to all of it. */
  readonly chokeShare: number;
  /** Charge density under boost; half the range of what nitrous adds. */
  readonly charge: number;
  readonly nitrous: number;
  /** A size somebody else states, times as uncertain as one taken here. */
  readonly statedSize: number;
  /** What an hour of the shop costs; 0 as long as nobody said. Money. */
  readonly hourRate: number;
  /** How well the spreads of set-ups and of benches are known, in degrees of freedom; as usual where left out. */
  readonly freedom?: SpreadFreedom;
  /** What is taken of a head whose exhaust or least area nobody measured; as usual where left out. */
  readonly priors?: HeadPriors;
}

/** What a quantity usually is: mean of its natural logarithm, and standard deviation of that. */
export interface Prior {
  readonly mean: number;
  readonly u: number;
}
export interface HeadPriors {
  /** Best exhaust flow over best intake flow. */
  readonly exhaust: Prior;
  /** Mean speed of the air at the least port area at 28 in, m/s. */
  readonly speed: Prior;
}

/**
 * Heads nothing more is known of. Common practice, no source: exhausts of 70 to 80 % of the intake; 2.95 in² of window for about
 * 295 cfm is 240 ft/s at 28 in of water, and a port that is worked hard runs over 300.
 */
export const USUAL_PRIORS: HeadPriors = {
  exhaust: { mean: Math.log(0.74), u: 0.09 },
  speed: { mean: Math.log(feetPerSecond(255)), u: 0.12 },
};

/** Degrees of freedom behind the two spreads that are learnt from tests; each over 2. */
export interface SpreadFreedom {
  readonly setup: number;
  readonly bench: number;
}

/**
 * Degrees of freedom of the usual figures. Benches: five control heads, two readings each (137/135, 195/194, 249/258,
 * 290/295, 310/315 cfm), whose differences over √2 are 1.4 %, a standard deviation of 1.8 % once that is known from five
 * differences only. Set-ups: as from four pairs. Common practice, no source.
 */
export const USUAL_FREEDOM: SpreadFreedom = { setup: 4, bench: 5 };

/** The figures of the table; how well they are known is no figure of it, nor what heads usually are. */
export type AssumedFigure = Exclude<keyof Assumptions, 'freedom' | 'priors'>;

export const USUAL_ASSUMPTIONS: Assumptions = {
  repeatability: 0.005,
  setup: 0.01,
  liftZero: inches(0.002),
  checkedBench: 0.01,
  uncheckedBench: 0.018,
  otherBench: 0.018,
  claim: 0.04,
  betweenRows: 0.25,
  rowReach: inches(0.05),
  fixture: 0.25,
  powerPerFlow: [horsepowerPerCfm(0.24), USUAL_POWER_PER_FLOW, horsepowerPerCfm(0.28)],
  statedFactor: 0.04,
  velocityLimit: 0.05,
  pistonRatio: 0.03,
  area: 0.02,
  volume: 0.01,
  length: 0.02,
  chokeShare: 0.75,
  charge: 0.03,
  nitrous: 0.1,
  statedSize: 2,
  hourRate: 0,
};

/** What each of them is called, and where it comes from; the order of the table. */
export const ASSUMPTION_WORDS: Readonly<Record<AssumedFigure, { readonly label: string; readonly source: string }>> = {
  repeatability: { label: 'one reading against the next in one set-up, until there are pulls', source: P },
  setup: { label: 'one set-up against the next', source: P },
  liftZero: { label: 'zero of the lift, within ±', source: `${P} .005 in is 5 % of the flow at .100.` },
  checkedBench: { label: 'what our own bench reads off, checked', source: P },
  uncheckedBench: {
    label: 'what our own bench reads off, never checked',
    source: `${P} Good benches agree on a control head within 3.5 %, nineteen times in twenty.`,
  },
  otherBench: {
    label: 'what another bench reads off',
    source: `${P} Good benches agree on a control head within 3.5 %, nineteen times in twenty.`,
  },
  claim: { label: 'what a published claim reads off', source: P },
  betweenRows: { label: 'flow between rows, a share for each inch to the nearer one', source: P },
  rowReach: { label: 'rows nearer than this lead on to the lift that counts', source: P },
  fixture: {
    label: 'flow in another bore, a share for each share the fixture is off',
    source: `${P} One pair of ports flowed 3.5 % more at .400 on the larger of two bores.`,
  },
  powerPerFlow: { label: 'power per flow: least, likeliest, most', source: `${P} Users use 0.24 to 0.28 hp/cfm.` },
  statedFactor: { label: 'a power per flow stated for the build, within ±', source: P },
  velocityLimit: { label: 'port velocity not to pass, within ±', source: P },
  pistonRatio: {
    label: 'peak against mean piston speed, rod unknown, within ±',
    source: 'Rods of 1.5 to 2.2 strokes: Heywood (1988), eq. 2.11.',
  },
  area: { label: 'a section by template or calipers', source: P },
  volume: { label: 'a volume poured', source: P },
  length: { label: 'a length by wire', source: P },
  chokeShare: { label: 'least port area against the mean one, at least', source: P },
  charge: { label: 'charge density under boost', source: P },
  nitrous: { label: 'what nitrous adds, within ±', source: P },
  statedSize: { label: 'a size somebody else states, times as uncertain as one taken here', source: P },
  hourRate: { label: 'what an hour of the shop costs', source: 'The shop’s own; 0 leaves hours out of the cost.' },
};
