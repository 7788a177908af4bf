import { COMMON_PRACTICE, type Method } from '../method/method.js';
import { refusal } from '../refusal/refusal.js';

/** 5252 = 33 000/2π: power [hp] = torque [lb ft] × rpm / 5252. In SI it is 2πN and needs no constant. */
/** Of a whole revolution, rad. */
export const FULL_TURN = 2 * Math.PI;

export const cylinderVolume: Method<{ bore: number; stroke: number }> = {
  id: 'cylinder-volume',
  title: 'Displacement of one cylinder',
  formula: 'V_{cyl} = \\frac{\\pi}{4} B^2 S',
  inputs: {
    bore: { label: 'bore', symbol: 'B', kind: 'length' },
    stroke: { label: 'stroke', symbol: 'S', kind: 'length' },
  },
  result: { label: 'cylinder displacement', symbol: 'V_{cyl}', kind: 'displacement' },
  source: 'Plane geometry.',
  compute: ({ bore, stroke }) => (Math.PI / 4) * bore * bore * stroke,
};

export const cylinderShare: Method<{ displacement: number; cylinders: number }> = {
  id: 'cylinder-share',
  title: 'Displacement of one cylinder, from the whole',
  formula: 'V_{cyl} = \\frac{V}{n}',
  inputs: {
    displacement: { label: 'displacement', symbol: 'V', kind: 'displacement' },
    cylinders: { label: 'cylinders', symbol: 'n', kind: 'count' },
  },
  result: { label: 'cylinder displacement', symbol: 'V_{cyl}', kind: 'displacement' },
  source: 'Plane geometry.',
  compute: ({ displacement: v, cylinders }) => v / cylinders,
};

export const displacement: Method<{ cylinderVolume: number; cylinders: number }> = {
  id: 'displacement',
  title: 'Engine displacement',
  formula: 'V = n\\,V_{cyl}',
  inputs: {
    cylinderVolume: { label: 'cylinder displacement', symbol: 'V_{cyl}', kind: 'displacement' },
    cylinders: { label: 'cylinders', symbol: 'n', kind: 'count' },
  },
  result: { label: 'displacement', symbol: 'V', kind: 'displacement' },
  source: 'Plane geometry.',
  compute: ({ cylinderVolume: v, cylinders }) => v * cylinders,
};

export const torqueFromPower: Method<{ power: number; speed: number }> = {
  id: 'torque-from-power',
  title: 'Torque at a power and speed',
  formula: 'T = \\frac{P}{2\\pi N}\\quad\\left(T[\\mathrm{lb\\,ft}] = \\frac{5252\\,hp}{rpm}\\right)',
  inputs: {
    power: { label: 'power', symbol: 'P', kind: 'power' },
    speed: { label: 'engine speed', symbol: 'N', kind: 'rotation' },
  },
  result: { label: 'torque', symbol: 'T', kind: 'torque' },
  source: 'Definition of power.',
  compute: ({ power, speed }) => {
    if (speed <= 0) throw refusal('notAboveZero', 'engine speed');
    return power / (FULL_TURN * speed);
  },
};

export const bmep: Method<{ torque: number; displacement: number }> = {
  id: 'bmep',
  title: 'Brake mean effective pressure',
  formula:
    '\\mathrm{BMEP} = \\frac{4\\pi T}{V}\\quad\\left(\\mathrm{psi} = \\frac{150.8\\,T[\\mathrm{lb\\,ft}]}{V[\\mathrm{in^3}]}\\right)',
  inputs: {
    torque: { label: 'torque', symbol: 'T', kind: 'torque' },
    displacement: { label: 'displacement', symbol: 'V', kind: 'displacement' },
  },
  result: { label: 'brake mean effective pressure', symbol: 'BMEP', kind: 'pressure' },
  source: 'J. B. Heywood, Internal Combustion Engine Fundamentals (1988), §2.7; four-stroke engines.',
  compute: ({ torque, displacement: v }) => (2 * FULL_TURN * torque) / v,
};

export const torquePerVolume: Method<{ torque: number; displacement: number }> = {
  id: 'torque-per-volume',
  title: 'Torque per displacement the target implies',
  formula: 't = \\frac{T}{V}',
  inputs: {
    torque: { label: 'torque at peak power', symbol: 'T', kind: 'torque' },
    displacement: { label: 'displacement', symbol: 'V', kind: 'displacement' },
  },
  result: { label: 'torque per displacement', symbol: 't', kind: 'torquePerVolume' },
  source: `Definition. ${COMMON_PRACTICE} 1.129 lb ft/in³ (BMEP 170 psi) is a tuned race engine, about 1.0 a street engine.`,
  compute: ({ torque, displacement: v }) => torque / v,
};

export const airflow: Method<{ displacement: number; speed: number; volumetricEfficiency: number }> = {
  id: 'airflow',
  title: 'Air the engine takes',
  formula:
    'Q = \\tfrac{1}{2} V N\\,\\eta_v\\quad\\left(\\mathrm{cfm} = \\frac{V[\\mathrm{in^3}]\\cdot rpm\\cdot \\eta_v}{3456}\\right)',
  inputs: {
    displacement: { label: 'displacement', symbol: 'V', kind: 'displacement' },
    speed: { label: 'engine speed', symbol: 'N', kind: 'rotation' },
    volumetricEfficiency: { label: 'volumetric efficiency', symbol: '\\eta_v', kind: 'percent' },
  },
  result: { label: 'air taken', symbol: 'Q', kind: 'flow' },
  source: 'Definition of volumetric efficiency; four-stroke engines.',
  compute: ({ displacement: v, speed, volumetricEfficiency }) => (v * speed * volumetricEfficiency) / 2,
};

export const meanPistonSpeed: Method<{ stroke: number; speed: number }> = {
  id: 'mean-piston-speed',
  title: 'Mean piston speed',
  formula: '\\bar{S}_p = 2 S N',
  inputs: {
    stroke: { label: 'stroke', symbol: 'S', kind: 'length' },
    speed: { label: 'engine speed', symbol: 'N', kind: 'rotation' },
  },
  result: { label: 'mean piston speed', symbol: '\\bar{S}_p', kind: 'velocity' },
  source: 'J. B. Heywood, Internal Combustion Engine Fundamentals (1988), §2.2.',
  compute: ({ stroke, speed }) => 2 * stroke * speed,
};

/** Used where the rod is not known: 1.618, the ratio at a rod of twice the stroke. */
export const USUAL_PEAK_PISTON_RATIO = 1.618;

export const peakPistonRatio: Method<{ rod: number; stroke: number }> = {
  id: 'peak-piston-ratio',
  title: 'Peak against mean piston speed',
  formula:
    '\\frac{S_p}{\\bar{S}_p} = \\max_\\theta\\;\\frac{\\pi}{2}\\sin\\theta\\left[1 + \\frac{\\cos\\theta}{\\sqrt{R^2 - \\sin^2\\theta}}\\right],\\;R = \\frac{2\\ell}{S}',
  inputs: {
    rod: { label: 'rod length', symbol: '\\ell', kind: 'length' },
    stroke: { label: 'stroke', symbol: 'S', kind: 'length' },
  },
  result: { label: 'peak / mean piston speed', symbol: 'S_p/\\bar{S}_p', kind: 'ratio' },
  source: 'J. B. Heywood, Internal Combustion Engine Fundamentals (1988), eq. 2.11.',
  compute: ({ rod, stroke }) => {
    const R = (2 * rod) / stroke;
    if (R <= 1) throw refusal('rodTooShort');
    const ratio = (a: number) => (Math.PI / 2) * Math.sin(a) * (1 + Math.cos(a) / Math.sqrt(R * R - Math.sin(a) ** 2));
    // Unimodal between top dead centre and a quarter turn: golden-section search.
    const golden = (Math.sqrt(5) - 1) / 2;
    let low = 0;
    let high = Math.PI / 2;
    while (high - low > 1e-9) {
      const a = high - golden * (high - low);
      const b = low + golden * (high - low);
      if (ratio(a) < ratio(b)) low = a;
      else high = b;
    }
    return ratio((low + high) / 2);
  },
};

export const portVelocity: Method<{ speed: number; stroke: number; bore: number; area: number; ratio: number }> = {
  id: 'port-velocity',
  title: 'Peak velocity in the port',
  formula:
    'v = \\frac{S_p}{\\bar{S}_p}\\cdot\\frac{2 S N\\cdot\\frac{\\pi}{4}B^2}{A}\\quad\\left(\\mathrm{ft/s} = 0.00353\\,\\frac{rpm\\cdot S B^2}{A}\\right)',
  inputs: {
    speed: { label: 'engine speed', symbol: 'N', kind: 'rotation' },
    stroke: { label: 'stroke', symbol: 'S', kind: 'length' },
    bore: { label: 'bore', symbol: 'B', kind: 'length' },
    area: { label: 'least port area', symbol: 'A', kind: 'area' },
    ratio: { label: 'peak / mean piston speed', symbol: 'S_p/\\bar{S}_p', kind: 'ratio' },
  },
  result: { label: 'peak port velocity', symbol: 'v', kind: 'velocity' },
  source: `Continuity between piston and port, incompressible. The limit of about 0.55 Mach, 613 ft/s: ${COMMON_PRACTICE.toLowerCase()}`,
  compute: ({ speed, stroke, bore, area, ratio }) => (ratio * 2 * stroke * speed * (Math.PI / 4) * bore ** 2) / area,
};

/** Least port area that keeps the peak velocity at a limit, one cylinder. */
export const areaNeeded: Method<{ speed: number; stroke: number; bore: number; limit: number; ratio: number }> = {
  id: 'area-needed',
  title: 'Least port area the target asks for',
  formula: 'A = \\frac{S_p}{\\bar{S}_p}\\cdot\\frac{2 S N\\cdot\\frac{\\pi}{4}B^2}{v_{max}}',
  inputs: {
    speed: { label: 'wanted speed of peak power', symbol: 'N', kind: 'rotation' },
    stroke: { label: 'stroke', symbol: 'S', kind: 'length' },
    bore: { label: 'bore', symbol: 'B', kind: 'length' },
    limit: { label: 'port velocity not to pass', symbol: 'v_{max}', kind: 'velocity' },
    ratio: { label: 'peak / mean piston speed', symbol: 'S_p/\\bar{S}_p', kind: 'ratio' },
  },
  result: { label: 'least port area', symbol: 'A', kind: 'area' },
  source: `Continuity between piston and port, incompressible. The limit of about 0.55 Mach, 613 ft/s: ${COMMON_PRACTICE.toLowerCase()}`,
  compute: ({ speed, stroke, bore, limit, ratio }) => (ratio * 2 * stroke * speed * (Math.PI / 4) * bore ** 2) / limit,
};

export const speedOfArea: Method<{ area: number; stroke: number; bore: number; limit: number; ratio: number }> = {
  id: 'speed-of-area',
  title: 'Speed at which the port area runs out',
  formula: 'N = \\frac{v_{max}\\,A}{\\frac{S_p}{\\bar{S}_p}\\cdot 2 S\\cdot\\frac{\\pi}{4}B^2}',
  inputs: {
    area: portVelocity.inputs.area,
    stroke: areaNeeded.inputs.stroke,
    bore: areaNeeded.inputs.bore,
    limit: areaNeeded.inputs.limit,
    ratio: areaNeeded.inputs.ratio,
  },
  result: { label: 'speed the port area carries', symbol: 'N', kind: 'rotation' },
  source: areaNeeded.source,
  caution: 'A choke that was not measured cannot be seen here: the mean area hides it.',
  compute: ({ area, stroke, bore, limit, ratio }) => (limit * area) / (ratio * 2 * stroke * (Math.PI / 4) * bore ** 2),
};

/** Mean inlet Mach index beyond which volumetric efficiency falls (Taylor). */
export const MACH_INDEX_LIMIT = 0.6;

export const meanInletCoefficient: Method<{ meanFlow: number; discArea: number; velocity: number }> = {
  id: 'mean-inlet-coefficient',
  title: 'Mean inlet coefficient over the lift event',
  formula: 'C_i = \\frac{\\bar{Q}_{cam}}{A_v\\,v}',
  inputs: {
    meanFlow: { label: 'mean flow over this cam', symbol: '\\bar{Q}_{cam}', kind: 'flow' },
    discArea: { label: 'valve disc area', symbol: 'A_v', kind: 'area' },
    velocity: { label: 'ideal velocity', symbol: 'v', kind: 'velocity' },
  },
  result: { label: 'mean inlet coefficient', symbol: 'C_i', kind: 'ratio' },
  source: 'C. F. Taylor, The Internal-Combustion Engine in Theory and Practice, vol. 1, ch. 6.',
  compute: ({ meanFlow, discArea, velocity }) => meanFlow / (discArea * velocity),
};

export const meanInletMach: Method<{
  bore: number;
  valve: number;
  valves: number;
  pistonSpeed: number;
  coefficient: number;
  soundSpeed: number;
}> = {
  id: 'mean-inlet-mach',
  title: 'Mean inlet Mach index',
  formula: 'Z = \\frac{B^2}{n_v D^2}\\cdot\\frac{\\bar{S}_p}{C_i\\,a}',
  inputs: {
    bore: { label: 'bore', symbol: 'B', kind: 'length' },
    valve: { label: 'intake valve diameter', symbol: 'D', kind: 'length' },
    valves: { label: 'intake valves per cylinder', symbol: 'n_v', kind: 'count' },
    pistonSpeed: { label: 'mean piston speed', symbol: '\\bar{S}_p', kind: 'velocity' },
    coefficient: { label: 'mean inlet coefficient', symbol: 'C_i', kind: 'ratio' },
    soundSpeed: { label: 'speed of sound in the inlet', symbol: 'a', kind: 'velocity' },
  },
  result: { label: 'mean inlet Mach index', symbol: 'Z', kind: 'ratio' },
  source:
    'C. F. Taylor, The Internal-Combustion Engine in Theory and Practice, vol. 1, ch. 6: volumetric efficiency falls beyond about 0.6.',
  compute: ({ bore, valve, valves, pistonSpeed, coefficient, soundSpeed }) =>
    ((bore ** 2 / (valves * valve ** 2)) * pistonSpeed) / (coefficient * soundSpeed),
};

export const speedOfMach: Method<{
  limit: number;
  bore: number;
  stroke: number;
  valve: number;
  valves: number;
  coefficient: number;
  soundSpeed: number;
}> = {
  id: 'speed-of-mach-index',
  title: 'Speed at which the valve area runs out',
  formula: 'N = \\frac{Z_{max}\\,C_i\\,a\\,n_v D^2}{2 S B^2}',
  inputs: {
    limit: { label: 'Mach index not to pass', symbol: 'Z_{max}', kind: 'ratio' },
    bore: meanInletMach.inputs.bore,
    stroke: { label: 'stroke', symbol: 'S', kind: 'length' },
    valve: meanInletMach.inputs.valve,
    valves: meanInletMach.inputs.valves,
    coefficient: meanInletMach.inputs.coefficient,
    soundSpeed: meanInletMach.inputs.soundSpeed,
  },
  result: { label: 'speed the valve area carries', symbol: 'N', kind: 'rotation' },
  source: meanInletMach.source,
  compute: ({ limit, bore, stroke, valve, valves, coefficient, soundSpeed }) =>
    (limit * coefficient * soundSpeed * valves * valve ** 2) / (2 * stroke * bore ** 2),
};

export const compressionRatio: Method<{
  cylinderVolume: number;
  chamber: number;
  gasket: number;
  deck: number;
  piston: number;
}> = {
  id: 'compression-ratio',
  title: 'Compression ratio from its parts',
  formula: '\\varepsilon = \\frac{V_{cyl} + V_c}{V_c},\\quad V_c = V_{chamber} + V_{gasket} + V_{deck} + V_{piston}',
  inputs: {
    cylinderVolume: { label: 'cylinder displacement', symbol: 'V_{cyl}', kind: 'displacement' },
    chamber: { label: 'chamber volume', symbol: 'V_{chamber}', kind: 'volume' },
    gasket: { label: 'gasket volume', symbol: 'V_{gasket}', kind: 'volume' },
    deck: { label: 'deck clearance volume', symbol: 'V_{deck}', kind: 'volume' },
    piston: { label: 'piston dish (a dome is negative)', symbol: 'V_{piston}', kind: 'volume' },
  },
  result: { label: 'compression ratio', symbol: '\\varepsilon', kind: 'compression' },
  source: 'J. B. Heywood, Internal Combustion Engine Fundamentals (1988), eq. 2.1.',
  compute: ({ cylinderVolume: v, chamber, gasket, deck, piston }) => {
    const clearance = chamber + gasket + deck + piston;
    if (clearance <= 0) throw refusal('notAboveZero', 'clearance volume');
    return (v + clearance) / clearance;
  },
};
