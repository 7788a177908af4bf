/** One thing about an engine or a head changed for a look at what it would do. Nothing stored changes. */
import { inches, degrees, type Kind } from '../quantity/units.js';
import { REFERENCE_DEPRESSION, REFERENCE_DENSITY } from '../flow/reading.js';
import { ownManifoldFlow, throughManifold } from '../power/manifold.js';
import type { FlowPoint } from '../flow/curve.js';
import type { AssumedId, PortSetup, SimulationSetup } from './setup.js';
import { refusal, refusedBy } from '../refusal/refusal.js';

// find()!: asked of what was assumed.
// ownManifoldFlow()!: a head with a curve has one.

export interface WhatIf {
  readonly key: string;
  readonly label: string;
  readonly kind: Kind;
  /** Value as it is, and what a new one makes of the setup. @throws Refusal with a sentence. */
  readonly now: (s: SimulationSetup) => number;
  readonly apply: (s: SimulationSetup, v: number) => SimulationSetup;
  /** How what was flowed follows, where it does. */
  readonly rule?: string;
}

/** The value, where it lies between; `words` name what it is and the two bounds as they are said. */
const within = (v: number, low: number, high: number, ...words: [what: string, low: string, high: string]): number => {
  if (!(v >= low && v <= high)) throw refusal('outOfReach', ...words);
  return v;
};
const plain = (
  key: 'bore' | 'stroke' | 'compression',
  label: string,
  kind: Kind,
  low: number,
  high: number,
  ...words: [what: string, low: string, high: string]
): WhatIf => ({
  key,
  label,
  kind,
  now: (s) => s[key],
  apply: (s, v) => ({
    ...s,
    [key]: within(v, low, high, ...words),
    ...(key === 'stroke' ? { rod: Math.max(s.rod, 0.8 * v) } : {}),
  }),
});
const assumed = (id: AssumedId, label: string, kind: Kind): WhatIf => ({
  key: id,
  label,
  kind,
  now: (s) => s.assumed.find((a) => a.id === id)!.value,
  apply: (s, v) => ({
    ...s,
    assumed: s.assumed.map((a) => {
      if (a.id !== id) return a;
      return {
        ...a,
        value: within(v, a.value / 8, a.value * 8, label, 'an eighth', 'eight times what it is now'),
        half: 0,
      };
    }),
  }),
});
const cam = (key: 'lobeSeparation' | 'intakeCentreline', label: string): WhatIf => ({
  key,
  label,
  kind: 'angle',
  now: (s) => s.cam[key],
  apply: (s, v) => ({
    ...s,
    cam: { ...s.cam, [key]: within(v, degrees(80), degrees(140), label, '80°', '140°') },
  }),
});
const lift: WhatIf = {
  key: 'lift',
  label: 'Lift, intake and exhaust alike',
  kind: 'lift',
  now: (s) => s.cam.intake.maxLift,
  apply: (s, v) => {
    const by = within(v, 0.002, 0.05, 'Lift', '2', '50 mm') / s.cam.intake.maxLift;
    const of = (l: typeof s.cam.intake) => ({ ...l, maxLift: l.maxLift * by });
    return { ...s, cam: { ...s.cam, intake: of(s.cam.intake), exhaust: of(s.cam.exhaust) } };
  },
};
const duration: WhatIf = {
  key: 'duration',
  label: 'Seat-to-seat duration, intake',
  kind: 'angle',
  now: (s) => 2 * s.cam.intake.halfDuration,
  apply: (s, v) => {
    within(v, degrees(180), degrees(360), 'Seat-to-seat duration', '180°', '360°');
    return { ...s, cam: { ...s.cam, intake: { ...s.cam.intake, halfDuration: v / 2 } } };
  },
};
const ports = (s: SimulationSetup, of: (p: PortSetup) => PortSetup): SimulationSetup => ({
  ...s,
  ports: s.ports.map(of),
});
const area: WhatIf = {
  key: 'area',
  label: 'Port area, all along, ×',
  kind: 'ratio',
  now: () => 1,
  apply: (s, v) => {
    within(v, 0.7, 1.5, 'The port’s area', '0.7', '1.5 times what it is');
    return ports(s, (p) => ({ ...p, intakePort: p.intakePort.map((q) => ({ x: q.x, area: q.area * v })) }));
  },
  rule: 'the sheet stays as it was flowed',
};
/** Of what a place passes without a loss, at the bench’s depression. Common practice, no source. */
const PASSES = 0.85;
const passes = (least: number): number => PASSES * least * Math.sqrt((2 * REFERENCE_DEPRESSION) / REFERENCE_DENSITY);
const leastOf = (p: PortSetup): number => Math.min(...p.intakePort.map((q) => q.area));
/** Flow with one restriction in series taken out for another: 1/Q² less 1/old² plus 1/new². */
const exchanged = (points: readonly FlowPoint[], old: number, fresh: number): FlowPoint[] =>
  points.map(({ lift: l, flow }) => {
    const rest = 1 / flow ** 2 - 1 / old ** 2;
    // A sheet that flows what the old place alone would pass leaves nothing for the rest: it goes with the place.
    const then = rest > 0 ? 1 / Math.sqrt(rest + 1 / fresh ** 2) : (flow * fresh) / old;
    return { lift: l, flow: then };
  });
const choke: WhatIf = {
  key: 'choke',
  label: 'Least area of the intake port',
  kind: 'area',
  now: (s) => leastOf(s.ports[0]!),
  apply: (s, v) => {
    const now = leastOf(s.ports[0]!);
    const by = within(v / now, 0.6, 1.6, 'The least area', '0.6', '1.6 times what it is');
    return ports(s, (p) => {
      const old = leastOf(p);
      const fresh = old * by;
      return {
        ...p,
        // What is narrower is opened to it; where it narrows, the narrowest place is.
        intakePort: p.intakePort.map((q) => ({
          x: q.x,
          area: by >= 1 ? Math.max(q.area, fresh) : q.area === old ? fresh : q.area,
        })),
        intake: exchanged(p.intake, passes(old), passes(fresh)),
      };
    });
  },
  rule: 'the sheet follows as restrictions in series do, the least area passing 0.85 of what it would without a loss',
};
const valve: WhatIf = {
  key: 'valve',
  label: 'Intake valve, ×',
  kind: 'ratio',
  now: () => 1,
  apply: (s, v) => {
    within(v, 0.8, 1.2, 'The valve', '0.8', '1.2 times what it is');
    return ports(s, (p) => ({ ...p, intake: p.intake.map((q) => ({ lift: q.lift * v, flow: q.flow * v * v })) }));
  },
  rule: 'at the same lift over diameter the sheet flows with the diameter squared; what the port takes of that is not told apart',
};
const manifold: WhatIf = {
  key: 'manifold',
  label: 'Flow lost in the manifold, at the best lift',
  kind: 'flow',
  now: () => 0,
  apply: (s, v) =>
    ports(s, (p) => {
      const best = Math.max(...p.intake.map((q) => q.flow));
      within(v, 0, 0.6 * best, 'What a manifold takes', 'nothing', '60 % of the best flow');
      if (v === 0) return p;
      return { ...p, intake: throughManifold(p.intake, ownManifoldFlow(best, { manifoldLoss: v })!) };
    }),
  rule: 'port and manifold in series, the manifold of such a flow that the best lift loses this',
};
const pressure: WhatIf = {
  key: 'pressure',
  label: 'Pressure of the air around',
  kind: 'pressure',
  now: (s) => s.around.p,
  apply: (s, v) => ({
    ...s,
    around: { ...s.around, p: within(v, 4e4, 1.1e5, 'The air around', '0.4', '1.1 bar') },
  }),
};
/** Pressure of the standard atmosphere at a height (U.S. Standard Atmosphere 1976, eq. 33a). */
const pressureAt = (height: number): number => 101_325 * (1 - 2.25577e-5 * height) ** 5.25588;
const altitude: WhatIf = {
  key: 'altitude',
  label: 'Height above the sea',
  kind: 'height',
  now: (s) => (1 - (s.around.p / 101_325) ** (1 / 5.25588)) / 2.25577e-5,
  apply: (s, v) => ({
    ...s,
    around: {
      ...s.around,
      p: pressureAt(within(v, -500, 6000, 'The height', '500 m below', '6000 m above the sea')),
    },
  }),
  rule: 'the standard atmosphere’s pressure; the temperature stays',
};
const air: WhatIf = {
  key: 'air',
  label: 'Temperature of the air around',
  kind: 'temperature',
  now: (s) => s.around.T,
  apply: (s, v) => ({
    ...s,
    around: { ...s.around, T: within(v, 230, 330, 'The air around', '−43', '57 °C') },
  }),
};
/** Charge of a compressor of 65 %, not cooled (common practice, no source). */
const heated = (T: number, ratio: number) => T * (1 + (ratio ** (0.4 / 1.4) - 1) / 0.65);
const boost: WhatIf = {
  key: 'boost',
  label: 'Pressure ratio, absolute',
  kind: 'ratio',
  now: (s) => (s.induction.kind === 'boosted' ? s.induction.pressureRatio : 1),
  apply: (s, v) => {
    within(v, 1, 4, 'The pressure ratio', '1', '4');
    return {
      ...s,
      induction: {
        kind: 'boosted',
        pressureRatio: v,
        chargeTemperature: s.induction.kind === 'boosted' ? s.induction.chargeTemperature : heated(s.around.T, v),
        ambientTemperature: s.around.T,
      },
    };
  },
};
const charge: WhatIf = {
  key: 'charge',
  label: 'Charge temperature',
  kind: 'temperature',
  now: (s) => (s.induction.kind === 'boosted' ? s.induction.chargeTemperature : s.around.T),
  apply: (s, v) => {
    within(v, 250, 450, 'The charge', '−23', '177 °C');
    if (s.induction.kind !== 'boosted') throw refusal('noBoost');
    return { ...s, induction: { ...s.induction, chargeTemperature: v } };
  },
};

/** Everything that may be changed, in the order it is applied: what another one rests on comes first. */
export const WHAT_IFS: readonly WhatIf[] = [
  plain('bore', 'Bore', 'length', 0.03, 0.6, 'The bore', '30', '600 mm'),
  plain('stroke', 'Stroke', 'length', 0.03, 0.8, 'The stroke', '30', '800 mm'),
  plain('compression', 'Compression', 'compression', 5, 25, 'Compression', '5:1', '25:1'),
  lift,
  duration,
  cam('lobeSeparation', 'Lobe separation'),
  cam('intakeCentreline', 'Intake centreline'),
  valve,
  choke,
  area,
  manifold,
  assumed('runnerLength', 'Runner length', 'length'),
  assumed('runnerArea', 'Runner area', 'area'),
  assumed('plenumVolume', 'Plenum volume', 'displacement'),
  assumed('inletArea', 'Throttle area', 'area'),
  assumed('primaryLength', 'Exhaust pipe length', 'length'),
  assumed('backPressure', 'Back pressure', 'pressure'),
  altitude,
  pressure,
  air,
  boost,
  charge,
];

/** An engine with some things changed; what cannot be is named, and left as it is. */
export function changedBy(
  setup: SimulationSetup,
  values: Readonly<Record<string, number | undefined>>,
): { readonly setup: SimulationSetup; readonly wrong: Readonly<Record<string, string>> } {
  let then = setup;
  const wrong: Record<string, string> = {};
  for (const w of WHAT_IFS) {
    const value = values[w.key];
    if (value === undefined) continue;
    try {
      then = w.apply(then, value);
    } catch (error) {
      wrong[w.key] = refusedBy(error).message;
    }
  }
  return { setup: then, wrong };
}

/** A little more lift, and a little more duration on both lobes: what is asked of a cam maker. */
export const MORE_LIFT = inches(0.02);
export const MORE_DURATION = degrees(6);
