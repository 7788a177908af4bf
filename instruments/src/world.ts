/** What all stand-ins share: one head, one valve opened so far, one stretch of air. Time is handed in, never read. */
import { REFERENCE_DEPRESSION, cfm, inchesOfWater, inches, type Side } from '@alluvium/core';
import type { Mount } from '@alluvium/records';
import { A_HEAD, trueFlow, trueSwirl, trueVelocity } from './head.js';
import { normal, random } from '@alluvium/core';

// []!, find()!: six ranges, each with a name.

/** How the pretended bench behaves. All of it can be switched off, which is the clean case of the tests. */
export interface BenchTraits {
  /** Scatter of one sample of flow, as a share of it. */
  readonly noise: number;
  /** Time constant of flow and depression, s. */
  readonly settling: number;
  /** Flow past the gaskets at 28 in, m³/s. */
  readonly leak: number;
  /** How much warmer the meter gets in an hour than the port, K. */
  readonly drift: number;
  /** Lifts at which the air surges, m, and how wide each. */
  readonly surges: readonly number[];
  /** Pressure of the blower shut off (Pa) and its flow wide open (m³/s). */
  readonly blower: { readonly pressure: number; readonly flow: number };
}

export const USUAL_TRAITS: BenchTraits = {
  noise: 0.002,
  settling: 0.5,
  leak: cfm(1.1),
  drift: 3,
  surges: [inches(0.35)],
  blower: { pressure: inchesOfWater(58), flow: cfm(330) },
};
export const IDEAL_TRAITS: BenchTraits = {
  noise: 0,
  settling: 0.2,
  leak: 0,
  drift: 0,
  surges: [],
  blower: { pressure: inchesOfWater(1000), flow: cfm(10_000) },
};

/** Full scales of the pretended bench: six ranges, each with its own in either direction. */
export const RANGES = [24.6, 49.3, 98.6, 147.8, 295.6, 492.7].map((full, i) => ({
  name: ['half', '1', '2', '3', '4', '5'][i]!,
  intake: cfm(full),
  exhaust: cfm([26.1, 52.2, 104.2, 157.4, 317.5, 529.1][i]!),
}));

const PORT_TEMPERATURE = 294.15;
const SURGE_WIDTH = inches(0.012);
/** How fast the opener turns, m/s of lift. */
const OPENER = inches(0.4);

export class World {
  head: Mount = A_HEAD;
  side: Side = 'intake';
  /** Where the valve stands, and where the opener takes it, m. */
  lift = 0;
  liftWanted = 0;
  depressionSet = REFERENCE_DEPRESSION;
  range = '4';
  probe = { x: 0.5, y: 0.5 };
  time = 0;
  private flow = 0;
  private depression = 0;
  private readonly draw: () => number;

  constructor(
    readonly traits: BenchTraits = USUAL_TRAITS,
    seed = 1,
  ) {
    this.draw = random(seed);
  }

  /** Flow the bench would settle at, and the depression it would hold there. */
  private settled(): { flow: number; depression: number } {
    const { leak, blower } = this.traits;
    const at28 = trueFlow(this.head, this.side, this.lift) + leak;
    // Q = k√Δp meets the blower's line Δp = P(1 − (Q/Q0)²); the throttle takes off what is not asked for.
    const k2 = at28 ** 2 / REFERENCE_DEPRESSION;
    const most = blower.pressure / (1 + (blower.pressure * k2) / blower.flow ** 2);
    const depression = Math.min(this.depressionSet, most);
    return { flow: Math.sqrt(k2 * depression), depression };
  }

  /** Lets time pass, s. */
  pass(seconds: number): void {
    this.time += seconds;
    const way = OPENER * seconds;
    this.lift += Math.max(-way, Math.min(way, this.liftWanted - this.lift));
    const aim = this.settled();
    const share = 1 - Math.exp(-seconds / this.traits.settling);
    this.flow += (aim.flow - this.flow) * share;
    this.depression += (aim.depression - this.depression) * share;
  }

  get meterTemperature(): number {
    return PORT_TEMPERATURE + this.traits.drift * Math.min(1, this.time / 3600);
  }
  get portTemperature(): number {
    return PORT_TEMPERATURE;
  }

  private jitter(share: number): number {
    return share === 0 ? 1 : 1 + share * normal(this.draw);
  }

  /** Share of the range the meter shows now; above 1 it is past its end. */
  reading(): number {
    const surging = this.traits.surges.some((s) => Math.abs(s - this.lift) < SURGE_WIDTH);
    const surge = surging ? 1 + 0.045 * Math.sin(2 * Math.PI * 1.3 * this.time) : 1;
    const warm = Math.sqrt(this.meterTemperature / this.portTemperature);
    const full = RANGES.find((r) => r.name === this.range)![this.side];
    return (this.flow * warm * surge * this.jitter(this.traits.noise)) / full;
  }

  depressionNow(): number {
    return this.depression * this.jitter(this.traits.noise / 4);
  }

  /** Turns a second of the swirl meter; it stands still in little air. */
  swirl(): number {
    if (this.side !== 'intake' || this.flow < cfm(6)) return 0;
    return (
      trueSwirl(this.head, this.lift) *
      Math.sqrt(this.depression / REFERENCE_DEPRESSION) *
      this.jitter(4 * this.traits.noise)
    );
  }

  /** Pressure at the pitot, Pa. It bounces where the air is slow. */
  pitot(): number {
    const mean = trueVelocity(this.head, this.lift, 0.5, 0.4);
    const here = trueVelocity(this.head, this.lift, this.probe.x, this.probe.y);
    const bounce = this.traits.noise === 0 ? 0 : here < 0.6 * mean ? 0.12 : 0.02;
    const velocity = here * Math.sqrt(this.depression / REFERENCE_DEPRESSION) * this.jitter(bounce);
    return 0.5 * 1.225 * velocity ** 2;
  }

  /** A figure near another, as a hand instrument gives it: within `spread` of itself, to its smallest step. */
  near(value: number, spread: number, step: number): number {
    const drawn = value + (this.traits.noise === 0 ? 0 : spread * normal(this.draw));
    return Math.round(drawn / step) * step;
  }
}
