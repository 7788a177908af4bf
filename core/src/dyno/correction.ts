/** Power brought from the air of the day to the air of a standard, and from one standard to another. */
import { noted, numberOf, work, type Given, type Method, type Working } from '../method/method.js';
import { fromSi, unitNamed } from '../quantity/units.js';
import { refusal } from '../refusal/refusal.js';

// unitNamed()!: written by us.
// engine.fuelPerCycle!: looked for in front of it.

/** The air a pull was made in: total pressure, Pa; temperature, K; relative humidity, 0 to 1. */
export interface Air {
  readonly pressure: number;
  readonly temperature: number;
  readonly humidity?: number | undefined;
}

/** What the figures of a pull are: as observed, or corrected by a standard. */
export const CORRECTIONS = ['observed', 'SAE J1349', 'SAE J607', 'DIN 70020', 'ISO 1585'] as const;
export type Correction = (typeof CORRECTIONS)[number];

export const vapourPressure: Method<{ temperature: number; humidity: number }> = {
  id: 'vapour-pressure',
  title: 'Vapour pressure of the air',
  formula:
    'e = \\varphi \\cdot 6.112\\,\\mathrm{mbar}\\;\\exp\\frac{17.62\\,t}{243.12 + t},\\quad t\\;\\mathrm{in}\\;°C',
  inputs: {
    temperature: { label: 'air temperature', symbol: 't', kind: 'temperature' },
    humidity: { label: 'relative humidity', symbol: '\\varphi', kind: 'percent' },
  },
  result: { label: 'vapour pressure', symbol: 'e', kind: 'pressure' },
  source: 'Magnus formula over water as in WMO-No. 8, annex 4.B (from memory).',
  compute: ({ temperature, humidity }) => {
    const t = temperature - 273.15;
    return humidity * 611.2 * Math.exp((17.62 * t) / (243.12 + t));
  },
};

export const dryPressure: Method<{ pressure: number; vapour: number }> = {
  id: 'dry-pressure',
  title: 'Pressure of the dry air',
  formula: 'p_{dry} = p - e',
  inputs: {
    pressure: { label: 'barometer', symbol: 'p', kind: 'pressure' },
    vapour: { label: 'vapour pressure', symbol: 'e', kind: 'pressure' },
  },
  result: { label: 'pressure of the dry air', symbol: 'p_{dry}', kind: 'pressure' },
  source: 'Law of partial pressures (Dalton).',
  compute: ({ pressure, vapour }) => pressure - vapour,
};

type Factor = Method<{ pressure: number; temperature: number }>;
const inputs = {
  pressure: { label: 'pressure of the dry air', symbol: 'p_{dry}', kind: 'pressure' },
  temperature: { label: 'air temperature', symbol: 'T', kind: 'temperature' },
} as const;
const result = { label: 'correction factor', symbol: 'c', kind: 'ratio' } as const;
const mbar = (pascal: number) => pascal / 100;

export const j1349: Factor = {
  id: 'sae-j1349',
  title: 'Correction by SAE J1349',
  formula: 'c = 1.18\\,\\frac{990}{p_{dry}[\\mathrm{mbar}]}\\sqrt{\\frac{T}{298\\,\\mathrm{K}}} - 0.18',
  inputs,
  result,
  source: 'SAE J1349, spark engines without boost (from memory).',
  caution: 'Not for boosted or diesel engines.',
  compute: ({ pressure, temperature }) => 1.18 * (990 / mbar(pressure)) * Math.sqrt(temperature / 298) - 0.18,
};

/** Pa in an inch of mercury at 32 °F, as barometers are graduated. */
const INCH_OF_MERCURY = 3386.389;
export const j607: Factor = {
  id: 'sae-j607',
  title: 'Correction by SAE J607, called standard',
  formula: 'c = \\frac{29.92}{p_{dry}[\\mathrm{inHg}]}\\sqrt{\\frac{t[°F] + 460}{520}}',
  inputs,
  result,
  source: 'SAE J607 (from memory).',
  caution: 'Some 4 % above SAE J1349 in the same air; it says nothing of friction.',
  compute: ({ pressure, temperature }) =>
    (29.92 / (pressure / INCH_OF_MERCURY)) *
    Math.sqrt((fromSi(temperature, unitNamed('temperature', '°F')!) + 460) / 520),
};

export const din70020: Factor = {
  id: 'din-70020',
  title: 'Correction by DIN 70020',
  formula: 'c = \\frac{1013}{p[\\mathrm{mbar}]}\\sqrt{\\frac{T}{293\\,\\mathrm{K}}}',
  inputs: { ...inputs, pressure: { label: 'pressure of the air', symbol: 'p', kind: 'pressure' } },
  result,
  source: 'DIN 70020, spark engines (from memory).',
  caution: 'Whether its pressure is the total or the dry one is told differently; it is used in dry air only.',
  compute: ({ pressure, temperature }) => (1013 / mbar(pressure)) * Math.sqrt(temperature / 293),
};

export const iso1585: Factor = {
  id: 'iso-1585',
  title: 'Correction by ISO 1585',
  formula:
    'c = \\left(\\frac{99}{p_{dry}[\\mathrm{kPa}]}\\right)^{1.2}\\left(\\frac{T}{298\\,\\mathrm{K}}\\right)^{0.6}',
  inputs,
  result,
  source: 'ISO 1585, spark engines (from memory).',
  caution: 'Valid from 0.93 to 1.07.',
  compute: ({ pressure, temperature }) => {
    const factor = (99_000 / pressure) ** 1.2 * (temperature / 298) ** 0.6;
    if (factor < 0.93 || factor > 1.07) throw refusal('airBeyondStandard');
    return factor;
  },
};

/** How a diesel engine gets its air. */
export const CHARGINGS = ['natural', 'mechanical', 'turbo'] as const;
export type Charging = (typeof CHARGINGS)[number];

const atmosphere = (turbo: boolean): Factor => ({
  id: turbo ? 'iso-1585-air-turbo' : 'iso-1585-air',
  title: `Atmospheric factor by ISO 1585, ${turbo ? 'turbocharged' : 'naturally aspirated or mechanically charged'}`,
  formula: turbo
    ? 'f_a = \\left(\\frac{99}{p_{dry}[\\mathrm{kPa}]}\\right)^{0.7}\\left(\\frac{T}{298\\,\\mathrm{K}}\\right)^{1.5}'
    : 'f_a = \\frac{99}{p_{dry}[\\mathrm{kPa}]}\\left(\\frac{T}{298\\,\\mathrm{K}}\\right)^{0.7}',
  inputs,
  result: { label: 'atmospheric factor', symbol: 'f_a', kind: 'ratio' },
  source: 'ISO 1585, diesel engines (from memory).',
  compute: turbo
    ? ({ pressure, temperature }) => (99_000 / pressure) ** 0.7 * (temperature / 298) ** 1.5
    : ({ pressure, temperature }) => (99_000 / pressure) * (temperature / 298) ** 0.7,
});
export const iso1585Air = atmosphere(false);
export const iso1585AirTurbo = atmosphere(true);

export const iso1585Engine: Method<{ fuel: number; boost: number }> = {
  id: 'iso-1585-engine',
  title: 'Engine factor by ISO 1585, diesel',
  formula: 'f_m = 0.036\\,\\frac{q}{r} - 1.14,\\quad 0.3 \\le f_m \\le 1.2',
  inputs: {
    fuel: { label: 'fuel of a cycle, mg for each litre', symbol: 'q', kind: 'ratio' },
    boost: { label: 'pressure behind the compressor over that before it', symbol: 'r', kind: 'ratio' },
  },
  result: { label: 'engine factor', symbol: 'f_m', kind: 'ratio' },
  source: 'ISO 1585, diesel engines (from memory): the line holds for q/r from 40 to 65, 0.3 below, 1.2 above.',
  compute: ({ fuel, boost }) => {
    if (!(fuel > 0) || !(boost > 0)) throw refusal('fuelNotAboveZero');
    const q = fuel / boost;
    return q < 40 ? 0.3 : q > 65 ? 1.2 : 0.036 * q - 1.14;
  },
};

export const iso1585Diesel: Method<{ air: number; engine: number }> = {
  id: 'iso-1585-diesel',
  title: 'Correction by ISO 1585, diesel',
  formula: 'c = f_a^{\\,f_m}',
  inputs: {
    air: { label: 'atmospheric factor', symbol: 'f_a', kind: 'ratio' },
    engine: { label: 'engine factor', symbol: 'f_m', kind: 'ratio' },
  },
  result,
  source: 'ISO 1585, diesel engines (from memory).',
  caution: 'Valid from 0.9 to 1.1.',
  compute: ({ air, engine }) => {
    const factor = air ** engine;
    if (factor < 0.9 || factor > 1.1) throw refusal('airBeyondDieselStandard');
    return factor;
  },
};

const FACTORS: Readonly<Record<Exclude<Correction, 'observed'>, Factor>> = {
  'SAE J1349': j1349,
  'SAE J607': j607,
  'DIN 70020': din70020,
  'ISO 1585': iso1585,
};

/** What an engine must be for a standard to hold. */
export interface Corrected {
  readonly fuel: string;
  readonly boosted: boolean;
  /** How a diesel gets its air, the fuel of a cycle in mg for each litre, and its pressure ratio; where they are known. */
  readonly charging?: Charging | undefined;
  readonly fuelPerCycle?: number | undefined;
  readonly pressureRatio?: number | undefined;
}

/** More vapour than this share of the pressure: total and dry pressure are two things. */
const DAMP = 0.002;

/**
 * The factor that brings observed power to a standard, with its working; 1 for observed.
 * @throws Refusal where the standard does not hold for this engine or this air, or where it is not sure that it does.
 */
export function correctionFactor(to: Correction, air: Air | undefined, engine: Corrected): Given<number> {
  if (to === 'observed') return 1;
  if (air === undefined) throw refusal('noAirOfTheDay');
  const diesel = engine.fuel === 'diesel';
  if (diesel && to !== 'ISO 1585') throw refusal('standardUnsureForDiesel', to);
  if (diesel && engine.fuelPerCycle === undefined) throw refusal('noFuelPerCycle');
  if (diesel && engine.boosted && (engine.charging === undefined || engine.charging === 'natural'))
    throw refusal('chargingUnknown');
  if (engine.boosted && !diesel) throw refusal('standardUnsureForBoost', to);
  const { pressure, temperature, humidity } = air;
  const vapour = humidity === undefined ? undefined : work(vapourPressure, { temperature, humidity });
  if (to === 'DIN 70020' && vapour !== undefined && vapour.value > DAMP * pressure) throw refusal('dryPressureMatters');
  const dry = {
    pressure: vapour === undefined ? pressure : work(dryPressure, { pressure, vapour }),
    temperature,
  };
  if (diesel)
    return work(iso1585Diesel, {
      air: work(engine.charging === 'turbo' ? iso1585AirTurbo : iso1585Air, dry),
      engine: work(iso1585Engine, {
        fuel: engine.fuelPerCycle!,
        boost: engine.boosted ? (engine.pressureRatio ?? 1) : noted(1, 'not boosted'),
      }),
    });
  return work(FACTORS[to], dry);
}

export const correctedPower: Method<{ power: number; from: number; to: number }> = {
  id: 'corrected-power',
  title: 'Power by another standard',
  formula: "P' = P\\,\\frac{c'}{c}",
  inputs: {
    power: { label: 'power as the sheet states it', symbol: 'P', kind: 'power' },
    from: { label: 'factor of the sheet’s own standard', symbol: 'c', kind: 'ratio' },
    to: { label: 'factor of the standard wanted', symbol: "c'", kind: 'ratio' },
  },
  result: { label: 'power', symbol: "P'", kind: 'power' },
  source: 'Both standards correct what was observed.',
  compute: ({ power, from, to }) => (power * to) / from,
};

/** A power by another standard. @throws Refusal where either standard does not hold. */
export function toStandard(
  power: number,
  from: Correction,
  to: Correction,
  air: Air | undefined,
  engine: Corrected,
): Working {
  return work(correctedPower, {
    power,
    from: from === to ? 1 : correctionFactor(from, air, engine),
    to: from === to ? 1 : correctionFactor(to, air, engine),
  });
}

/** Airs most cells see, dry: what a sheet that names no air is taken to lie between. Common practice, no source. */
const USUAL_AIRS: readonly Air[] = [
  { pressure: 97_000, temperature: 303.15 },
  { pressure: 99_000, temperature: 298.15 },
];

/**
 * How far J607 lies above J1349: in the air of the day, or the least and most over usual airs where it is not known.
 * Undefined for an engine the two do not both hold for.
 */
export function standardsApart(air: Air | undefined, engine: Corrected): readonly [number, number] | undefined {
  if (engine.boosted || engine.fuel === 'diesel') return undefined;
  const apart = (air ? [air] : USUAL_AIRS).map(
    (a) => numberOf(correctionFactor('SAE J607', a, engine)) / numberOf(correctionFactor('SAE J1349', a, engine)),
  );
  return [Math.min(...apart), Math.max(...apart)];
}
