/** What happens in the cylinder: its volume, combustion, heat to the walls, friction of the engine. */
import { cosine, exp, ln, raised, sine } from './exact.js';
import { COMMON_PRACTICE, type Method } from '../method/method.js';

/** Volume above the piston at a crank angle from top dead centre (Heywood (1988), eq. 2.4 to 2.6). */
export const cylinderVolumeAt: Method<{
  bore: number;
  stroke: number;
  rod: number;
  compression: number;
  angle: number;
}> = {
  id: 'cylinder-volume-at',
  title: 'Cylinder volume at a crank angle',
  formula:
    'V = \\frac{V_d}{\\varepsilon - 1} + \\frac{\\pi B^2}{4}\\left(l + a - a\\cos\\theta - \\sqrt{l^2 - a^2\\sin^2\\theta}\\right),\\quad a = S/2',
  inputs: {
    bore: { label: 'bore', symbol: 'B', kind: 'length' },
    stroke: { label: 'stroke', symbol: 'S', kind: 'length' },
    rod: { label: 'rod', symbol: 'l', kind: 'length' },
    compression: { label: 'compression ratio', symbol: '\\varepsilon', kind: 'compression' },
    angle: { label: 'crank angle after top dead centre', symbol: '\\theta', kind: 'angle' },
  },
  result: { label: 'cylinder volume', symbol: 'V', kind: 'volume' },
  source: 'J. B. Heywood, Internal Combustion Engine Fundamentals (1988), eq. 2.4 to 2.6.',
  compute: ({ bore, stroke, rod, compression, angle }) => {
    const area = (Math.PI / 4) * bore * bore;
    const a = stroke / 2;
    const s = a * sine(angle);
    return area * (stroke / (compression - 1) + rod + a - a * cosine(angle) - Math.sqrt(rod * rod - s * s));
  },
};

/** Share burned, normalised to reach 1 at the end (J. B. Heywood (1988), eq. 9.6, with a = 5; normalised here). */
export const wiebe: Method<{ angle: number; start: number; duration: number; form: number }> = {
  id: 'wiebe',
  title: 'Share burned over crank angle',
  formula:
    'x_b = \\frac{1 - \\exp\\left(-a\\,t^{m+1}\\right)}{1 - e^{-a}},\\quad t = \\frac{\\theta - \\theta_0}{\\Delta\\theta},\\; a = 5',
  inputs: {
    angle: { label: 'crank angle', symbol: '\\theta', kind: 'angle' },
    start: { label: 'start of combustion', symbol: '\\theta_0', kind: 'angle' },
    duration: { label: 'duration of combustion', symbol: '\\Delta\\theta', kind: 'angle' },
    form: { label: 'form', symbol: 'm', kind: 'ratio' },
  },
  result: { label: 'share burned', symbol: 'x_b', kind: 'percent' },
  source: 'J. B. Heywood, Internal Combustion Engine Fundamentals (1988), eq. 9.6; made to reach 1 at its end.',
  caution: 'Combustion does not see swirl, squish or the chamber’s shape: it is the same for every head.',
  compute: ({ angle, start, duration, form }) => {
    const t = (angle - start) / duration;
    if (t <= 0) return 0;
    return t >= 1 ? 1 : (1 - exp(-5 * raised(t, form + 1))) / (1 - exp(-5));
  },
};

/** Start of a combustion of which half is burned at an angle. */
export function startFor(half: number, duration: number, form: number): number {
  return half - duration * raised(-ln(1 - 0.5 * (1 - exp(-5))) / 5, 1 / (form + 1));
}

export const woschni: Method<{ bore: number; pressure: number; temperature: number; gasSpeed: number }> = {
  id: 'woschni',
  title: 'Heat transfer in the cylinder',
  formula: 'h = 3.26\\,B^{-0.2}\\,p^{0.8}\\,T^{-0.55}\\,w^{0.8}\\quad (p\\text{ in kPa})',
  inputs: {
    bore: { label: 'bore', symbol: 'B', kind: 'length' },
    pressure: { label: 'pressure in the cylinder', symbol: 'p', kind: 'pressure' },
    temperature: { label: 'mean gas temperature', symbol: 'T', kind: 'temperature' },
    gasSpeed: { label: 'mean gas speed', symbol: 'w', kind: 'velocity' },
  },
  result: { label: 'heat transfer coefficient', symbol: 'h', kind: 'heatTransfer' },
  source: 'G. Woschni, SAE 670931; in SI as Heywood (1988), eq. 12.23.',
  caution:
    'Gas speed: 6.18 mean piston speeds while a valve is open, 2.28 else, and after ignition 3.24e-3 (V_d T_r)/(p_r V_r) (p − p_m) more.',
  compute: ({ bore, pressure, temperature, gasSpeed }) =>
    3.26 * exp(-0.2 * ln(bore) + 0.8 * ln(1e-3 * pressure * gasSpeed) - 0.55 * ln(temperature)),
};

/** Figures of the friction line; Pa, Pa per Pa, Pa/(m/s), Pa/(m/s)². */
export interface Friction {
  readonly constant: number;
  readonly perPressure: number;
  readonly perSpeed: number;
  readonly perSpeed2: number;
}
/** The usual figures of a petrol engine (from memory of S. K. Chen, P. F. Flynn, SAE 650733, and its later users). */
export const USUAL_FRICTION: Friction = { constant: 0.4e5, perPressure: 0.005, perSpeed: 0.09e5, perSpeed2: 0.0009e5 };

export const chenFlynn: Method<{
  constant: number;
  perPressure: number;
  perSpeed: number;
  perSpeed2: number;
  peakPressure: number;
  pistonSpeed: number;
}> = {
  id: 'chen-flynn',
  title: 'Friction mean effective pressure',
  formula: 'p_f = A + B\\,p_{max} + C\\,\\bar{S}_p + D\\,\\bar{S}_p^2',
  inputs: {
    constant: { label: 'constant part', symbol: 'A', kind: 'pressure' },
    perPressure: { label: 'share of peak pressure', symbol: 'B', kind: 'ratio' },
    perSpeed: { label: 'per piston speed, Pa/(m/s)', symbol: 'C', kind: 'ratio' },
    perSpeed2: { label: 'per piston speed squared, Pa/(m/s)²', symbol: 'D', kind: 'ratio' },
    peakPressure: { label: 'peak cylinder pressure', symbol: 'p_{max}', kind: 'pressure' },
    pistonSpeed: { label: 'mean piston speed', symbol: '\\bar{S}_p', kind: 'velocity' },
  },
  result: { label: 'friction mean effective pressure', symbol: 'p_f', kind: 'pressure' },
  source: 'S. K. Chen, P. F. Flynn, SAE 650733; the usual figures from memory.',
  compute: ({ constant, perPressure, perSpeed, perSpeed2, peakPressure, pistonSpeed }) =>
    constant + perPressure * peakPressure + perSpeed * pistonSpeed + perSpeed2 * pistonSpeed * pistonSpeed,
};

/** What a fuel is to the model. */
export interface FuelFigures {
  /** Air per fuel by mass, stoichiometric, and air used of that, λ. */
  readonly stoichiometric: number;
  readonly lambda: number;
  /** Lower heating value, J/kg. */
  readonly heat: number;
  /** Share of what the air can burn that burns before the exhaust opens. */
  readonly completeness: number;
  /** Whether the fuel goes in with the air and takes its room. */
  readonly inCharge: boolean;
  /** Burning: form, duration and angle of half burned after top dead centre, rad. */
  readonly form: number;
  readonly duration: number;
  readonly half: number;
}
const deg = Math.PI / 180;

/** Heating values and stoichiometry from memory of Heywood (1988), table D.4; mixtures and burning: common practice, no source. */
export const FUEL_FIGURES: Readonly<Record<'petrol' | 'diesel' | 'alcohol' | 'gas', FuelFigures>> = {
  petrol: {
    stoichiometric: 14.6,
    lambda: 0.88,
    heat: 44e6,
    completeness: 0.94,
    inCharge: true,
    form: 2,
    duration: 60 * deg,
    half: 9 * deg,
  },
  diesel: {
    stoichiometric: 14.5,
    lambda: 1.5,
    heat: 42.5e6,
    completeness: 0.98,
    inCharge: false,
    form: 1,
    duration: 70 * deg,
    half: 13 * deg,
  },
  alcohol: {
    stoichiometric: 9,
    lambda: 0.85,
    heat: 26.9e6,
    completeness: 0.94,
    inCharge: true,
    form: 2,
    duration: 56 * deg,
    half: 9 * deg,
  },
  gas: {
    stoichiometric: 17.2,
    lambda: 1,
    heat: 50e6,
    completeness: 0.95,
    inCharge: true,
    form: 2,
    duration: 66 * deg,
    half: 9 * deg,
  },
};

/** Heat set free per kg of fresh charge, J/kg: what its air can burn; rich of stoichiometric the air decides. */
export function heatPerCharge(fuel: FuelFigures): number {
  const perAir = fuel.heat / (fuel.stoichiometric * Math.max(1, fuel.lambda));
  return perAir * fuel.completeness * airInCharge(fuel);
}

/** Share of the fresh charge that is air. */
export const airInCharge = (fuel: FuelFigures): number =>
  fuel.inCharge ? 1 / (1 + 1 / (fuel.stoichiometric * fuel.lambda)) : 1;

export const chokeMach: Method<{ speed: number; soundSpeed: number }> = {
  id: 'choke-mach',
  title: 'Mach number at the choke',
  formula: 'M = u / a',
  inputs: {
    speed: { label: 'speed of the gas on the least area', symbol: 'u', kind: 'velocity' },
    soundSpeed: { label: 'speed of sound there', symbol: 'a', kind: 'velocity' },
  },
  result: { label: 'Mach number at the choke', symbol: 'M', kind: 'ratio' },
  source: 'Definition.',
  compute: ({ speed, soundSpeed }) => speed / soundSpeed,
};

export const volumetricEfficiency: Method<{ air: number; displacement: number; density: number }> = {
  id: 'volumetric-efficiency',
  title: 'Volumetric efficiency',
  formula: '\\eta_v = \\frac{m_a}{\\rho_{amb} V_d}',
  inputs: {
    air: { label: 'air drawn in, a cylinder and cycle', symbol: 'm_a', kind: 'mass' },
    displacement: { label: 'cylinder displacement', symbol: 'V_d', kind: 'displacement' },
    density: { label: 'density of the air around', symbol: '\\rho_{amb}', kind: 'density' },
  },
  result: { label: 'volumetric efficiency', symbol: '\\eta_v', kind: 'percent' },
  source: 'J. B. Heywood, Internal Combustion Engine Fundamentals (1988), eq. 2.27.',
  caution: 'Against the air around the engine, also where it is boosted; fuel in the charge takes room from the air.',
  compute: ({ air, displacement, density }) => air / (displacement * density),
};

export const compressorPower: Method<{
  air: number;
  temperature: number;
  pressureRatio: number;
  efficiency: number;
}> = {
  id: 'compressor-power',
  title: 'Power a compressor takes',
  formula: 'P = \\frac{\\dot m\\,c_p\\,T_1}{\\eta}\\left(\\Pi^{(\\gamma-1)/\\gamma} - 1\\right)',
  inputs: {
    air: { label: 'air drawn in', symbol: '\\dot m', kind: 'massFlow' },
    temperature: { label: 'temperature before it', symbol: 'T_1', kind: 'temperature' },
    pressureRatio: { label: 'pressure ratio', symbol: '\\Pi', kind: 'ratio' },
    efficiency: { label: 'efficiency with its drive', symbol: '\\eta', kind: 'percent' },
  },
  result: { label: 'power it takes', symbol: 'P', kind: 'power' },
  source: 'J. B. Heywood, Internal Combustion Engine Fundamentals (1988), eq. 6.42.',
  caution: `An efficiency of 60 % with its drive: ${COMMON_PRACTICE.toLowerCase()}`,
  compute: ({ air, temperature, pressureRatio, efficiency }) =>
    ((air * 1005 * temperature) / efficiency) * (raised(pressureRatio, 0.4 / 1.4) - 1),
};
