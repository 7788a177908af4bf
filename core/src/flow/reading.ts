import { deviation, mean } from '../method/mean.js';
import type { Method } from '../method/method.js';
import { COMMON_PRACTICE } from '../method/method.js';
import { inchesOfWater } from '../quantity/units.js';
import { refusal } from '../refusal/refusal.js';

/** The depression at which sheets meet: 28 inches of water, in Pa. */
export const REFERENCE_DEPRESSION = inchesOfWater(28);
/** Density of the reference air, kg/m³ (15 °C, 1013.25 mbar; ISO 2533). */
export const REFERENCE_DENSITY = 1.225;
export const REFERENCE_PRESSURE = 101_325;
const GAMMA = 1.4;
/** Speed of sound in that same air, m/s: 340.3 (ISO 2533). */
export const REFERENCE_SOUND_SPEED = Math.sqrt((GAMMA * REFERENCE_PRESSURE) / REFERENCE_DENSITY);

/** Flow function of an isentropic nozzle that draws from the room; times area, √(density × pressure) it is a mass flow. */
const nozzle = (depression: number): number => {
  const r = 1 - depression / REFERENCE_PRESSURE;
  return Math.sqrt(((2 * GAMMA) / (GAMMA - 1)) * (r ** (2 / GAMMA) - r ** ((GAMMA + 1) / GAMMA)));
};

/**
 * What converting by the root leaves out on the intake side, as a share: the root against an isentropic nozzle that draws
 * from the room. 0.025 from 10 in of water to 28, 0.049 from 60. The trade keeps the root.
 */
export const conversionError = (depression: number): number =>
  Math.sqrt(REFERENCE_DEPRESSION / depression) / (nozzle(REFERENCE_DEPRESSION) / nozzle(depression)) - 1;

export const percentReading: Method<{ reading: number; fullScale: number }> = {
  id: 'percent-reading',
  title: 'Flow from a percent reading',
  formula: 'Q = p \\cdot Q_{fs}',
  inputs: {
    reading: { label: 'reading, share of the range', symbol: 'p', kind: 'percent' },
    fullScale: { label: 'full scale of this range, in this direction', symbol: 'Q_{fs}', kind: 'flow' },
  },
  result: { label: 'flow as read', symbol: 'Q', kind: 'flow' },
  source: COMMON_PRACTICE,
  caution: 'A bench has one full scale per range and per direction: the exhaust full scale is not the intake one.',
  compute: ({ reading, fullScale }) => reading * fullScale,
};

export const differentialReading: Method<{ reading: number; fullScale: number }> = {
  id: 'differential-reading',
  title: 'Flow from a differential pressure reading',
  formula: 'Q = Q_{fs}\\sqrt{p}',
  inputs: {
    reading: { label: 'differential, share of its full scale', symbol: 'p', kind: 'percent' },
    fullScale: { label: 'flow at full differential', symbol: 'Q_{fs}', kind: 'flow' },
  },
  result: { label: 'flow as read', symbol: 'Q', kind: 'flow' },
  source:
    'Flow through a fixed restriction goes with the square root of its pressure drop (Bernoulli; ISO 5167-1:2022).',
  compute: ({ reading, fullScale }) => {
    if (reading < 0) throw refusal('pressureNegative');
    return fullScale * Math.sqrt(reading);
  },
};

export const meanOfPulls: Method<{ pulls: readonly number[] }> = {
  id: 'mean-of-pulls',
  title: 'Mean of several readings',
  formula: '\\bar{Q} = \\frac{1}{m}\\sum_i Q_i',
  inputs: { pulls: { label: 'readings of the same point', symbol: 'Q_i', kind: 'flow' } },
  result: { label: 'mean reading', symbol: '\\bar{Q}', kind: 'flow' },
  source: 'Arithmetic mean (JCGM 100:2008, 4.2.1).',
  compute: ({ pulls }) => mean(pulls),
};

export const meanOfSheets: Method<{ flows: readonly number[]; weights: readonly number[] }> = {
  id: 'mean-of-sheets',
  title: 'Mean of several sheets of one port',
  formula: '\\bar{Q} = \\frac{\\sum_i w_i Q_i}{\\sum_i w_i}',
  inputs: {
    flows: { label: 'flow by each sheet', symbol: 'Q_i', kind: 'flow' },
    weights: { label: 'what each sheet counts', symbol: 'w_i', kind: 'ratio' },
  },
  result: { label: 'flow, mean of the sheets', symbol: '\\bar{Q}', kind: 'flow' },
  source:
    'Generalised least squares: A. C. Aitken, Proc. R. Soc. Edinb. 55 (1936) 42. Sheets of one bench share what it reads off.',
  caution:
    'A sheet without a row at this lift is read between its rows; where one does not reach, the others are brought to the level of all.',
  compute: ({ flows, weights }) =>
    flows.reduce((sum, q, i) => sum + weights[i]! * q, 0) / weights.reduce((sum, w) => sum + w, 0),
};

export const scatter: Method<{ pulls: readonly number[] }> = {
  id: 'scatter',
  title: 'Scatter of several readings',
  formula: 's = \\sqrt{\\frac{\\sum_i (Q_i - \\bar{Q})^2}{m - 1}}',
  inputs: { pulls: { label: 'readings, or ports, of the same point', symbol: 'Q_i', kind: 'flow' } },
  result: { label: 'standard deviation', symbol: 's', kind: 'flow' },
  source: 'Experimental standard deviation (JCGM 100:2008, 4.2.2).',
  compute: ({ pulls }) => {
    const s = deviation(pulls);
    if (s === undefined) throw refusal('oneReading');
    return s;
  },
};

export const portSpread: Method<{ flows: readonly number[] }> = {
  id: 'port-spread',
  title: 'Best port less worst',
  formula: '\\Delta Q = Q_{max} - Q_{min}',
  inputs: { flows: { label: 'the ports at one lift', symbol: 'Q', kind: 'flow' } },
  result: { label: 'port-to-port spread', symbol: '\\Delta Q', kind: 'flow' },
  source: COMMON_PRACTICE,
  compute: ({ flows }) => Math.max(...flows) - Math.min(...flows),
};

export const benchFactor: Method<{ flow: number; factor: number }> = {
  id: 'bench-factor',
  title: 'Bench calibration factor applied',
  formula: "Q' = f\\,Q",
  inputs: {
    flow: { label: 'flow as read', symbol: 'Q', kind: 'flow' },
    factor: { label: 'factor of this bench', symbol: 'f', kind: 'ratio' },
  },
  result: { label: 'flow after calibration', symbol: "Q'", kind: 'flow' },
  source: COMMON_PRACTICE,
  compute: ({ flow, factor }) => flow * factor,
};

export const leakage: Method<{ flow: number; leak: number }> = {
  id: 'leakage',
  title: 'Leakage taken off',
  formula: 'Q = Q_{read} - Q_{shut}',
  inputs: {
    flow: { label: 'flow as read', symbol: 'Q_{read}', kind: 'flow' },
    leak: { label: 'flow read with the valve shut, at the same depression', symbol: 'Q_{shut}', kind: 'flow' },
  },
  result: { label: 'flow through the port', symbol: 'Q', kind: 'flow' },
  source: COMMON_PRACTICE,
  compute: ({ flow, leak }) => flow - leak,
};

export const depressionCorrection: Method<{ flow: number; depression: number; reference: number }> = {
  id: 'depression-correction',
  title: 'Flow brought to the common depression',
  formula: 'Q_{ref} = Q\\sqrt{\\frac{\\Delta p_{ref}}{\\Delta p}}',
  inputs: {
    flow: { label: 'flow at the test depression', symbol: 'Q', kind: 'flow' },
    depression: { label: 'depression of the test', symbol: '\\Delta p', kind: 'depression' },
    reference: { label: 'common depression', symbol: '\\Delta p_{ref}', kind: 'depression' },
  },
  result: { label: 'flow at the common depression', symbol: 'Q_{ref}', kind: 'flow' },
  source: 'Incompressible flow through a restriction (Bernoulli).',
  caution: 'Holds while the flow pattern stays the same; a port that breaks away at one depression may not at another.',
  compute: ({ flow, depression, reference }) => {
    if (depression <= 0) throw refusal('notAboveZero', 'depression');
    return flow * Math.sqrt(reference / depression);
  },
};

export const temperatureCorrection: Method<{ flow: number; port: number; meter: number }> = {
  id: 'temperature-correction',
  title: 'Temperature between meter and port',
  formula: "Q' = Q\\sqrt{\\frac{T_{port}}{T_{meter}}}",
  inputs: {
    flow: { label: 'flow at the meter', symbol: 'Q', kind: 'flow' },
    port: { label: 'air temperature at the port', symbol: 'T_{port}', kind: 'temperature' },
    meter: { label: 'air temperature at the meter', symbol: 'T_{meter}', kind: 'temperature' },
  },
  result: { label: 'flow at the port', symbol: "Q'", kind: 'flow' },
  source: 'Ideal gas through two restrictions in series; absolute temperatures.',
  compute: ({ flow, port, meter }) => flow * Math.sqrt(port / meter),
};

export const idealVelocity: Method<{ depression: number; density: number }> = {
  id: 'ideal-velocity',
  title: 'Velocity a depression can drive',
  formula: 'v = \\sqrt{\\frac{2\\,\\Delta p}{\\rho}}',
  inputs: {
    depression: { label: 'depression', symbol: '\\Delta p', kind: 'depression' },
    density: { label: 'air density', symbol: '\\rho', kind: 'density' },
  },
  result: { label: 'ideal velocity', symbol: 'v', kind: 'velocity' },
  source: 'Bernoulli; agrees with V[ft/min] = 4005√(inH2O) in standard air (ASHRAE Handbook, Fundamentals).',
  compute: ({ depression, density }) => Math.sqrt((2 * depression) / density),
};

export const calibrationFactor: Method<{ expected: number; measured: number }> = {
  id: 'calibration-factor',
  title: 'Calibration factor from a plate or a control head',
  formula: 'f = \\frac{Q_{expected}}{Q_{measured}}',
  inputs: {
    expected: { label: 'flow expected', symbol: 'Q_{expected}', kind: 'flow' },
    measured: { label: 'flow measured', symbol: 'Q_{measured}', kind: 'flow' },
  },
  result: { label: 'factor of this bench', symbol: 'f', kind: 'ratio' },
  source: COMMON_PRACTICE,
  compute: ({ expected, measured }) => {
    if (measured <= 0) throw refusal('notAboveZero', 'measured flow');
    return expected / measured;
  },
};
