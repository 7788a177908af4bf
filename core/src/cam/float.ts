/** Whether the springs keep the valve on its cam: force there is over force asked, where that is least. */
import { springForce } from '../head/ratios.js';
import { numberOf, work, type Given, type Method, type Working } from '../method/method.js';
import type { CamProfile } from './profile.js';

/** Valve acceleration, m for each rad² of crankshaft, at an angle from the nose: the second derivative of the lift law. */
export function accelerationAt({ maxLift, halfDuration, fullness: m }: CamProfile, angle: number): number {
  const u = Math.abs(angle) / halfDuration;
  if (u >= 1) return 0;
  const left = 1 - u ** m;
  const bends = m === 2 ? 1 : u ** (m - 2);
  return ((3 * maxLift * m * left) / halfDuration ** 2) * bends * (2 * m * u ** m - (m - 1) * left);
}

export const springShare: Method<{ force: number; mass: number; acceleration: number; speed: number }> = {
  id: 'spring-share',
  title: 'Spring force over what the cam asks',
  formula: 's = \\frac{F}{m\\,\\left|\\dfrac{d^2y}{d\\theta^2}\\right|\\,(2\\pi N)^2}',
  inputs: {
    force: { label: 'spring force at this lift', symbol: 'F', kind: 'force' },
    mass: { label: 'valve train mass, at the valve', symbol: 'm', kind: 'mass' },
    acceleration: { label: 'slowing of the valve there, for each rad² of crank', symbol: "y''", kind: 'length' },
    speed: { label: 'engine speed', symbol: 'N', kind: 'rotation' },
  },
  result: { label: 'spring force over what is asked', symbol: 's', kind: 'percent' },
  source: 'Newton’s second law on the cam’s lift law; the train taken as rigid.',
  caution: 'A real train bends and its springs surge: valves float sooner than this says, often by a tenth and more.',
  compute: ({ force, mass, acceleration, speed }) => force / (mass * acceleration * (2 * Math.PI * speed) ** 2),
};

export interface SpringFigures {
  readonly seatForce: Given<number>;
  readonly rate: Given<number>;
  /** Valve, retainer, locks, a third of the spring, and the rest of the train brought to the valve by the rocker ratio squared; kg. */
  readonly mass: Given<number>;
}

const STEPS = 400;

/**
 * The springs at the place of the lift where they are nearest to letting go, at an engine speed in turns a second.
 * Where that place is does not hang on the speed. Undefined for springs or a mass of nothing.
 */
export function springsAt(
  profile: CamProfile,
  { seatForce, rate, mass }: SpringFigures,
  speed: Given<number>,
): { readonly share: Working; readonly lift: number; readonly floats: number } | undefined {
  const [seat, stiff] = [numberOf(seatForce), numberOf(rate)];
  if (!(seat > 0) || !(stiff >= 0) || !(numberOf(mass) > 0) || !(numberOf(speed) > 0)) return undefined;
  let worst: { ratio: number; lift: number; slowing: number } | undefined;
  for (let i = 0; i < STEPS; i++) {
    const angle = (profile.halfDuration * i) / STEPS;
    const slowing = -accelerationAt(profile, angle);
    if (slowing <= 0) continue;
    const lift = profile.liftAt(angle);
    const ratio = (seat + stiff * lift) / slowing;
    if (!worst || ratio < worst.ratio) worst = { ratio, lift, slowing };
  }
  if (!worst) return undefined;
  const { lift, slowing } = worst;
  const share = work(springShare, {
    force: work(springForce, { seatForce, rate, installedHeight: lift, height: 0 }),
    mass,
    acceleration: slowing,
    speed,
  });
  return { share, lift, floats: numberOf(speed) * Math.sqrt(share.value) };
}
