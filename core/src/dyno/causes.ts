/** Why an engine made less than was forecast: causes in the order of what speaks for them, and the test that tells them apart. */

export const CAUSES = [
  'choke',
  'exhaust',
  'cam',
  'valve float',
  'reversion',
  'leaking seat',
  'compression',
  'manifold',
  'mixture or ignition',
  'dyno or correction',
] as const;
export type Cause = (typeof CAUSES)[number];

/** What is known once the pull is in. Shares are fractions; what nobody measured is left out. */
export interface PullFacts {
  /** Made over forecast less one, in the lower, middle and upper third of the speeds. */
  readonly off: { readonly low: number; readonly middle: number; readonly high: number };
  /** Standard uncertainty of the forecast's level, a share. */
  readonly u: number;
  /** A sudden fall of power above a speed, in turns a second, and by how much; null where the rows show none. */
  readonly breaks?: { readonly speed: number; readonly share: number } | null | undefined;
  /** Port velocity at the wanted speed over its limit, and at the foot of the working speeds. */
  readonly velocity?: number | undefined;
  readonly lowVelocity?: number | undefined;
  readonly machIndex?: number | undefined;
  /** Exhaust over intake at their best. */
  readonly exhaustShare?: number | undefined;
  readonly natural: boolean;
  /** How far the cam as installed lies off what this head asks, rad. */
  readonly camOff?: number | undefined;
  /** Force of the springs over what cam and mass ask of them at the highest speed pulled, where that is least. */
  readonly springForce?: number | undefined;
  /** Seats that leak, of those tested. */
  readonly seats?: { readonly leaking: number; readonly tested: number } | undefined;
  readonly compression?: { readonly meant: number; readonly measured: number } | undefined;
  /** Pressure missing in the manifold at the peak, of the air around. */
  readonly manifoldDrop?: number | undefined;
  /** Manifold flow over the head's. */
  readonly manifoldFlow?: number | undefined;
  /** Air over fuel against stoichiometric, at the peak. */
  readonly lambda?: number | undefined;
  readonly correctionKnown: boolean;
  readonly airKnown: boolean;
  readonly chassis: boolean;
}

/** One thing that speaks for or against a cause, in ln of the odds. */
export interface Sign {
  readonly code: SignCode;
  readonly weight: number;
  /** The figure it rests on, where there is one. */
  readonly value?: number;
}
export type SignCode =
  | 'pattern'
  | 'velocity'
  | 'mach index'
  | 'exhaust share'
  | 'cam off'
  | 'break'
  | 'springs'
  | 'low velocity'
  | 'seats'
  | 'compression'
  | 'manifold drop'
  | 'manifold flow'
  | 'lambda'
  | 'correction'
  | 'air'
  | 'chassis';

export interface CauseFound {
  readonly cause: Cause;
  /** Share of the odds, all causes together one. */
  readonly share: number;
  readonly for: readonly Sign[];
  readonly against: readonly Sign[];
  /** Nothing of its own was measured: its share rests on the shape of the curve alone. */
  readonly untested: boolean;
}

/** Where over the speeds a cause takes its power: lower, middle, upper third. Common practice, no source. */
const PATTERNS: Readonly<Record<Cause, readonly [number, number, number]>> = {
  choke: [0, 0.35, 1],
  exhaust: [0.1, 0.5, 1],
  cam: [1, 0.3, -0.4],
  'valve float': [0, 0, 1],
  reversion: [1, 0.15, 0],
  'leaking seat': [1, 0.75, 0.55],
  compression: [1, 1, 1],
  manifold: [0.1, 0.5, 1],
  'mixture or ignition': [1, 1, 1],
  'dyno or correction': [1, 1, 1],
};
/** How unsure the shape of a forecast is, apart from its level. */
const SHAPE = 0.015;
/** No single sign says more than this either way. */
const MOST = 4;

const held = (w: number): number => Math.max(-MOST, Math.min(MOST, w));
/** From −a at `low` to +b at `high`, straight between and beyond up to the most. */
const between = (v: number, low: number, high: number, a: number, b: number): number =>
  held(-a + ((a + b) * (v - low)) / (high - low));

/** How much better a pattern explains the shortfall than nothing does: level and shape are unsure apart. */
function patternWeight(off: readonly number[], u: number, pattern: readonly number[]): number {
  // Inverse of s²I + u²11ᵀ (Sherman and Morrison).
  const s2 = SHAPE ** 2;
  const k = u ** 2 / (s2 + off.length * u ** 2);
  const dot = (a: readonly number[], b: readonly number[]) => {
    const plain = a.reduce((sum, v, i) => sum + v * b[i]!, 0);
    const sums = a.reduce((x, y) => x + y, 0) * b.reduce((x, y) => x + y, 0);
    return (plain - k * sums) / s2;
  };
  const pp = dot(pattern, pattern);
  const po = dot(pattern, off);
  // A cause takes power; a cam that is off may take it at either end.
  const amplitude = pattern.some((p) => p < 0) ? po / pp : Math.min(0, po / pp);
  // A shortfall of three shapes is a large one: amplitudes beyond are no likelier.
  return held((amplitude * po) / 2 - (amplitude * amplitude * pp) / 4 - (amplitude < 0 ? 0 : 0.5));
}

function signsOf(cause: Cause, f: PullFacts): Sign[] {
  const off = [f.off.low, f.off.middle, f.off.high];
  const found: Sign[] = [{ code: 'pattern', weight: patternWeight(off, f.u, PATTERNS[cause]) }];
  const put = (code: SignCode, weight: number, value?: number) =>
    found.push({ code, weight: held(weight), ...(value === undefined ? {} : { value }) });
  switch (cause) {
    case 'choke':
      if (f.velocity !== undefined) put('velocity', between(f.velocity, 0.85, 1.1, 3, 3), f.velocity);
      if (f.machIndex !== undefined) put('mach index', between(f.machIndex, 0.5, 0.62, 1, 2), f.machIndex);
      break;
    case 'exhaust':
      if (f.exhaustShare !== undefined && f.natural)
        put('exhaust share', between(f.exhaustShare, 0.76, 0.6, 3, 3), f.exhaustShare);
      break;
    case 'cam':
      if (f.camOff !== undefined) put('cam off', between(Math.abs(f.camOff), 0.026, 0.096, 3, 3), f.camOff);
      break;
    case 'valve float':
      if (f.breaks !== undefined) put('break', f.breaks ? 3 : -3, f.breaks?.speed);
      if (f.springForce !== undefined) put('springs', between(f.springForce, 1.2, 0.9, 2, 2), f.springForce);
      break;
    case 'reversion':
      if (f.lowVelocity !== undefined) put('low velocity', between(f.lowVelocity, 0.5, 0.3, 2, 2), f.lowVelocity);
      break;
    case 'leaking seat':
      if (f.seats && f.seats.tested > 0) put('seats', f.seats.leaking > 0 ? 3 : -3, f.seats.leaking);
      break;
    case 'compression':
      if (f.compression)
        put(
          'compression',
          between(1 - f.compression.measured / f.compression.meant, 0.01, 0.07, 3, 3),
          f.compression.measured,
        );
      break;
    case 'manifold':
      if (f.manifoldDrop !== undefined)
        put('manifold drop', between(f.manifoldDrop, 0.008, 0.035, 3, 3), f.manifoldDrop);
      if (f.manifoldFlow !== undefined) put('manifold flow', between(f.manifoldFlow, 1.5, 1.1, 2, 2), f.manifoldFlow);
      break;
    case 'mixture or ignition':
      // Best power lies about 0.86 to 0.90; common practice, no source.
      if (f.lambda !== undefined) put('lambda', between(Math.abs(f.lambda - 0.88), 0.03, 0.1, 3, 3), f.lambda);
      break;
    case 'dyno or correction':
      put('correction', f.correctionKnown ? -1.5 : 2);
      put('air', f.airKnown ? -0.5 : 0.7);
      if (f.chassis) put('chassis', 3);
      break;
  }
  return found;
}

/** A shortfall smaller than this many uncertainties of the forecast is none. */
const SHORT = 1;

/** Whether it fell short at all, anywhere over the speeds. */
export const fellShort = ({ off, u }: Pick<PullFacts, 'off' | 'u'>): boolean => {
  const worst = Math.min(off.low, off.middle, off.high);
  const level = (off.low + off.middle + off.high) / 3;
  return level < -SHORT * u || worst < -SHORT * Math.hypot(u, SHAPE) || worst - level < -2 * SHAPE;
};

/** Whether it made more than was forecast, beyond what is not known of that. */
export const madeMore = ({ off, u }: Pick<PullFacts, 'off' | 'u'>): boolean =>
  (off.low + off.middle + off.high) / 3 > SHORT * u;

/** Signs lean on one another: together they are worth less than their sum. Common practice, no source. */
const TEMPER = 0.6;

/** Every cause, the likeliest first. Weights are in ln of the odds, added as if apart (naive Bayes); common practice, no source. */
export function causesOf(facts: PullFacts): CauseFound[] {
  const all = CAUSES.map((cause) => {
    const signs = signsOf(cause, facts);
    return { cause, signs, score: TEMPER * signs.reduce((s, x) => s + x.weight, 0) };
  });
  const most = Math.max(...all.map((c) => c.score));
  const total = all.reduce((s, c) => s + Math.exp(c.score - most), 0);
  return all
    .map(({ cause, signs, score }): CauseFound => ({
      cause,
      share: Math.exp(score - most) / total,
      for: signs.filter((s) => s.weight > 0.3),
      against: signs.filter((s) => s.weight < -0.3),
      untested: signs.every((s) => s.code === 'pattern'),
    }))
    .sort((a, b) => b.share - a.share);
}

/** What would settle one cause: the act, and about how long it takes. */
export interface CauseTest {
  readonly act: string;
  readonly minutes: number;
}
export const CAUSE_TESTS: Readonly<Record<Cause, CauseTest>> = {
  choke: { act: 'measure the pinch twice, and run the head in the simulation at the wanted speed', minutes: 20 },
  exhaust: { act: 'flow the exhaust with its pipe on', minutes: 30 },
  cam: { act: 'degree the cam as it is installed; then pull once with it 4° earlier', minutes: 60 },
  'valve float': {
    act: 'measure seat and open force at the installed height; pull with more force and see whether the fall moves up',
    minutes: 90,
  },
  reversion: { act: 'look for fuel that stands off at the inlet; pull with the longer runner', minutes: 60 },
  'leaking seat': { act: 'a leak-down test, cylinder by cylinder', minutes: 30 },
  compression: { act: 'pour chamber, gasket and deck, and work the compression out', minutes: 45 },
  manifold: { act: 'read the pressure in the manifold at full throttle', minutes: 15 },
  'mixture or ignition': {
    act: 'log lambda over a pull, then try 2° of ignition either way, watching for knock',
    minutes: 40,
  },
  'dyno or correction': {
    act: 'note barometer, temperature and standard, and pull an engine that is known on this dyno',
    minutes: 60,
  },
};

/** The test that tells the likeliest causes apart soonest: of the first two, one that has nothing measured of its own, else the shorter. */
export function nextTest(causes: readonly CauseFound[]): (CauseTest & { readonly cause: Cause }) | undefined {
  const [first, second] = causes;
  if (!first) return undefined;
  const two = [first, ...(second && second.share > 0.1 ? [second] : [])];
  const open = two.filter((c) => c.untested);
  const choice = (open.length > 0 ? open : two).reduce((a, b) =>
    CAUSE_TESTS[b.cause].minutes < CAUSE_TESTS[a.cause].minutes ? b : a,
  );
  return { cause: choice.cause, ...CAUSE_TESTS[choice.cause] };
}

/** A fall of power that no breathing makes: more than this within one step of the rows, beyond what the rows before it did. */
const BREAK = 0.04;

/** The first sudden fall above the peak; null where there is none, undefined for too few rows. Speeds in turns a second. */
export function breakOf(
  points: readonly { readonly speed: number; readonly power: number }[],
): { readonly speed: number; readonly share: number } | null | undefined {
  if (points.length < 6) return undefined;
  const steps = points.slice(1).map((p, i) => p.power / points[i]!.power - 1);
  for (let i = 1; i < steps.length; i++) {
    const fell = steps[i]! - steps[i - 1]!;
    if (fell < -BREAK && steps[i]! < -BREAK / 2) return { speed: points[i]!.speed, share: -steps[i]! };
  }
  return null;
}
