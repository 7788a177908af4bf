import { COMMON_PRACTICE, type Method } from '../method/method.js';
import { feetPerSecond, horsepowerPerCfm } from '../quantity/units.js';
import { refusal } from '../refusal/refusal.js';

/** Power per flow, per cylinder at 28 in: 0.257 hp/cfm; users use 0.24 to 0.28. Common practice, no source. */
export const USUAL_POWER_PER_FLOW = horsepowerPerCfm(0.257);
/** Port velocity not to pass, about 0.55 Mach. Common practice, no source. */
export const PORT_VELOCITY_LIMIT = feetPerSecond(613);

const POWER_PER_FLOW = { label: 'power per flow, one cylinder at 28 in', symbol: 'k', kind: 'powerPerFlow' } as const;
const CYLINDERS = { label: 'cylinders', symbol: 'n', kind: 'count' } as const;
const CHARGE = { label: 'charge density against the atmosphere', symbol: 'r_\\rho', kind: 'ratio' } as const;
const CEILING = 'A ceiling for the breathing, not a forecast.';

export const demand: Method<{ power: number; powerPerFlow: number; cylinders: number; charge: number }> = {
  id: 'demand',
  title: 'Flow each port must carry',
  formula: 'Q_{28} = \\frac{P}{k\\,n\\,r_\\rho}',
  inputs: {
    power: { label: 'power the air must make', symbol: 'P', kind: 'power' },
    powerPerFlow: POWER_PER_FLOW,
    cylinders: CYLINDERS,
    charge: CHARGE,
  },
  result: { label: 'flow needed per cylinder', symbol: 'Q_{28}', kind: 'flow' },
  source: `${COMMON_PRACTICE} Factor k 0.257 hp/cfm by default; users use 0.24 to 0.28.`,
  compute: ({ power, powerPerFlow, cylinders, charge }) => power / (powerPerFlow * cylinders * charge),
};

export const peakFlowPower: Method<{ powerPerFlow: number; flow: number; cylinders: number; charge: number }> = {
  id: 'peak-flow-power',
  title: 'Power from peak flow',
  formula: 'P = k\\,Q_{28}\\,n\\,r_\\rho',
  inputs: {
    powerPerFlow: POWER_PER_FLOW,
    flow: { label: 'peak intake flow at 28 in', symbol: 'Q_{28}', kind: 'flow' },
    cylinders: CYLINDERS,
    charge: CHARGE,
  },
  result: { label: 'power the intake flow could carry', symbol: 'P', kind: 'power' },
  source: `${COMMON_PRACTICE} Factor k 0.257 hp/cfm by default; users use 0.24 to 0.28.`,
  caution: `${CEILING} It sees one number of the whole sheet.`,
  compute: ({ powerPerFlow, flow, cylinders, charge }) => powerPerFlow * flow * cylinders * charge,
};

export const ratioDeratedPower: Method<{ peakFlowPower: number; exhaust: number; intake: number }> = {
  id: 'ratio-derated-power',
  title: 'Power from peak flow, derated by exhaust / intake',
  formula:
    'P = k\\,Q_{in}\\,n\\,r_\\rho\\cdot\\min\\left(1, \\frac{Q_{ex}}{Q_{in}}\\right) = k\\,Q_{ex}\\,n\\,r_\\rho\\;\\text{ when }Q_{ex} < Q_{in}',
  inputs: {
    peakFlowPower: { label: 'power from peak flow', symbol: 'k Q_{in} n r_\\rho', kind: 'power' },
    exhaust: { label: 'peak exhaust flow at 28 in', symbol: 'Q_{ex}', kind: 'flow' },
    intake: { label: 'peak intake flow at 28 in', symbol: 'Q_{in}', kind: 'flow' },
  },
  result: { label: 'derated power', symbol: 'P', kind: 'power' },
  source: COMMON_PRACTICE,
  caution: `${CEILING} The intake flow cancels: the figure is exhaust flow × k × n, so it ranks heads by their exhaust ports and can turn a ranking round.`,
  compute: ({ peakFlowPower: p, exhaust, intake }) => p * Math.min(1, exhaust / intake),
};

export const speedOfFlow: Method<{
  powerPerFlow: number;
  flow: number;
  torquePerVolume: number;
  cylinderVolume: number;
  charge: number;
}> = {
  id: 'speed-of-flow',
  title: 'Speed the flow can carry',
  formula:
    'N = \\frac{k\\,Q_{28}\\,r_\\rho}{2\\pi\\,t\\,V_{cyl}}\\quad\\left(rpm = \\frac{5252\\,k\\,Q_{28}}{t\\,V_{cyl}}\\right)',
  inputs: {
    powerPerFlow: POWER_PER_FLOW,
    flow: { label: 'flow per cylinder at 28 in', symbol: 'Q_{28}', kind: 'flow' },
    torquePerVolume: { label: 'torque per displacement at peak power', symbol: 't', kind: 'torquePerVolume' },
    cylinderVolume: { label: 'cylinder displacement', symbol: 'V_{cyl}', kind: 'displacement' },
    charge: CHARGE,
  },
  result: { label: 'speed the flow carries', symbol: 'N', kind: 'rotation' },
  source: `${COMMON_PRACTICE} t is 1.129 lb ft/in³ (BMEP 170 psi) for a tuned race engine, about 1.0 for a street engine.`,
  caution: CEILING,
  compute: ({ powerPerFlow, flow, torquePerVolume, cylinderVolume, charge }) =>
    (powerPerFlow * flow * charge) / (2 * Math.PI * torquePerVolume * cylinderVolume),
};

export const powerAtSpeed: Method<{ torquePerVolume: number; displacement: number; speed: number }> = {
  id: 'power-at-speed',
  title: 'Power at a speed, by torque per displacement',
  formula: 'P = 2\\pi\\,t\\,V\\,N',
  inputs: {
    torquePerVolume: { label: 'torque per displacement at peak power', symbol: 't', kind: 'torquePerVolume' },
    displacement: { label: 'displacement', symbol: 'V', kind: 'displacement' },
    speed: { label: 'engine speed', symbol: 'N', kind: 'rotation' },
  },
  result: { label: 'power', symbol: 'P', kind: 'power' },
  source: 'Definition of power.',
  caution: CEILING,
  compute: ({ torquePerVolume, displacement, speed }) => 2 * Math.PI * torquePerVolume * displacement * speed,
};

export const seriesFlow: Method<{ flows: readonly number[] }> = {
  id: 'series-flow',
  title: 'Head and manifold in series',
  formula: '\\frac{1}{Q^2} = \\sum_i\\frac{1}{Q_i^2}',
  inputs: { flows: { label: 'flows at one depression', symbol: 'Q_i', kind: 'flow' } },
  result: { label: 'flow of the whole', symbol: 'Q', kind: 'flow' },
  source: 'Pressure drops of turbulent restrictions in series add.',
  caution: 'Leaves out what one part does to the flow entering the next.',
  compute: ({ flows }) => 1 / Math.sqrt(flows.reduce((sum, q) => sum + 1 / q ** 2, 0)),
};

export const chargeDensityRatio: Method<{
  pressureRatio: number;
  chargeTemperature: number;
  ambientTemperature: number;
}> = {
  id: 'charge-density-ratio',
  title: 'Charge density under boost',
  formula: 'r_\\rho = r_p\\,\\frac{T_{amb}}{T_{charge}}',
  inputs: {
    pressureRatio: { label: 'pressure ratio, absolute', symbol: 'r_p', kind: 'ratio' },
    chargeTemperature: { label: 'charge temperature', symbol: 'T_{charge}', kind: 'temperature' },
    ambientTemperature: { label: 'ambient temperature', symbol: 'T_{amb}', kind: 'temperature' },
  },
  result: { label: 'charge density against the atmosphere', symbol: 'r_\\rho', kind: 'ratio' },
  source: 'Ideal gas law; absolute temperatures.',
  caution: 'Boost is a measure of restriction: a freer head shows less boost for the same air.',
  compute: ({ pressureRatio, chargeTemperature, ambientTemperature }) =>
    (pressureRatio * ambientTemperature) / chargeTemperature,
};

export const costPerPower: Method<{ cost: number; gain: number }> = {
  id: 'cost-per-power',
  title: 'Money per power',
  formula: 'c = \\frac{M}{P[\\mathrm{hp}]}',
  inputs: {
    cost: { label: 'price', symbol: 'M', kind: 'money' },
    gain: { label: 'power, in horsepower', symbol: 'P', kind: 'ratio' },
  },
  result: { label: 'money per horsepower', symbol: 'c', kind: 'money' },
  source: COMMON_PRACTICE,
  compute: ({ cost, gain }) => {
    if (gain <= 0) throw refusal('noGainToPrice');
    return cost / gain;
  },
};
