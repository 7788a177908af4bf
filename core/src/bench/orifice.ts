/** What a calibration plate must flow, by the orifice standard. */
import type { Method } from '../method/method.js';
import { millimetres } from '../quantity/units.js';
import { refusal, type Refusal } from '../refusal/refusal.js';

/** Air: dynamic viscosity (Pa·s, 15 °C), isentropic exponent, standard pressure (Pa). ISO 2533. */
export const AIR = { viscosity: 1.789e-5, exponent: 1.4, pressure: 101_325 } as const;

/**
 * Discharge coefficient of a sharp-edged plate with corner tappings, by the Reader-Harris/Gallagher equation
 * (ISO 5167-2:2003, 5.3.2.1). `beta` hole over pipe, `reynolds` in the pipe, `bore` of the pipe in m.
 */
export function orificeCoefficient(beta: number, reynolds: number, bore: number): number {
  const a = (19_000 * beta) / reynolds;
  const small = bore < millimetres(71.12) ? 0.011 * (0.75 - beta) * (2.8 - bore / 0.0254) : 0;
  return (
    0.5961 +
    0.0261 * beta ** 2 -
    0.216 * beta ** 8 +
    0.000521 * ((1e6 * beta) / reynolds) ** 0.7 +
    (0.0188 + 0.0063 * a ** 0.8) * beta ** 3.5 * (1e6 / reynolds) ** 0.3 +
    small
  );
}

/** Expansibility of a plate (ISO 5167-2:2003, 5.3.2.2). `ratio` is the pressure behind over the pressure before. */
export const expansibility = (beta: number, ratio: number, exponent: number = AIR.exponent): number =>
  1 - (0.351 + 0.256 * beta ** 4 + 0.93 * beta ** 8) * (1 - ratio ** (1 / exponent));

/** Why the standard does not cover a plate; undefined when it does (ISO 5167-2:2003, 5.3.1). */
export function plateProblem(diameter: number, bore: number): Refusal | undefined {
  if (!(bore > 0) || !(diameter > 0)) return refusal('plateWithoutSize');
  const beta = diameter / bore;
  if (diameter < millimetres(12.5)) return refusal('plateTooSmall');
  if (bore < millimetres(50) || bore > 1) return refusal('pipeOutOfStandard');
  if (beta < 0.1 || beta > 0.75) return refusal('holeOutOfStandard', beta);
  return undefined;
}

export const plateExpectation: Method<{ diameter: number; bore: number; depression: number; density: number }> = {
  id: 'plate-expectation',
  title: 'Flow a calibration plate must show, by the orifice standard',
  formula:
    'Q = \\frac{C\\,\\varepsilon}{\\sqrt{1-\\beta^4}}\\,\\frac{\\pi d^2}{4}\\sqrt{\\frac{2\\,\\Delta p}{\\rho}},\\quad \\beta = \\frac{d}{D},\\quad C(\\beta, Re_D)',
  inputs: {
    diameter: { label: 'hole of the plate', symbol: 'd', kind: 'length' },
    bore: { label: 'bore of the pipe or fixture it sits in', symbol: 'D', kind: 'length' },
    depression: { label: 'depression across it', symbol: '\\Delta p', kind: 'depression' },
    density: { label: 'air density before it', symbol: '\\rho', kind: 'density' },
  },
  result: { label: 'expected flow', symbol: 'Q', kind: 'flow' },
  source: 'ISO 5167-2:2003, 5.3.2 (Reader-Harris/Gallagher), corner tappings.',
  caution:
    'The standard asks for a long straight pipe and a sharp edge: a plate on a short fixture agrees with it only roughly. The date and the plate are kept, so that drift of this very bench shows.',
  compute: ({ diameter, bore, depression, density }) => {
    const problem = plateProblem(diameter, bore);
    if (problem) throw problem;
    if (depression <= 0 || depression > 0.25 * AIR.pressure) throw refusal('depressionOutOfReach');
    const beta = diameter / bore;
    const ideal =
      (expansibility(beta, (AIR.pressure - depression) / AIR.pressure) / Math.sqrt(1 - beta ** 4)) *
      (Math.PI / 4) *
      diameter ** 2 *
      Math.sqrt((2 * depression) / density);
    let coefficient = 0.6;
    // The coefficient hangs on the Reynolds number and so on the flow itself; a few rounds settle it to 1e-12.
    for (let i = 0; i < 20; i++) {
      const flow = coefficient * ideal;
      coefficient = orificeCoefficient(beta, (4 * flow * density) / (Math.PI * AIR.viscosity * bore), bore);
    }
    return coefficient * ideal;
  },
};

/**
 * Coefficient of a sharp-edged opening in a thin wall between two rooms: ζ = 2.78, so 1/√ζ = 0.60 (I. E. Idelchik, Handbook
 * of Hydraulic Resistance, 3rd ed. 1994, diagram 4-18, from memory). A plate on a bench's fixture is one: nothing leads to it.
 */
export const OPENING_COEFFICIENT = 0.6;

export const plateFlow: Method<{ coefficient: number; diameter: number; depression: number; density: number }> = {
  id: 'plate-flow',
  title: 'Flow a calibration plate on a bench must show, as an opening in a wall',
  formula: 'Q = C\\,\\varepsilon\\,\\frac{\\pi d^2}{4}\\sqrt{\\frac{2\\,\\Delta p}{\\rho}}',
  inputs: {
    coefficient: { label: 'discharge coefficient of the opening', symbol: 'C', kind: 'ratio' },
    diameter: { label: 'hole of the plate', symbol: 'd', kind: 'length' },
    depression: { label: 'depression across it', symbol: '\\Delta p', kind: 'depression' },
    density: { label: 'air density before it', symbol: '\\rho', kind: 'density' },
  },
  result: { label: 'expected flow', symbol: 'Q', kind: 'flow' },
  source:
    'Sharp-edged opening in a thin wall: ζ = 2.78 (I. E. Idelchik, Handbook of Hydraulic Resistance, diagram 4-18, from memory). ε by ISO 5167-2:2003, 5.3.2.2, at a diameter ratio of nothing.',
  caution:
    'Asks for a sharp edge and a thin plate with the room before it: a fixture nearer than a few holes’ widths, or a worn edge, flows more.',
  compute: ({ coefficient, diameter, depression, density }) => {
    if (!(diameter > 0)) throw refusal('plateWithoutHole');
    if (depression <= 0 || depression > 0.25 * AIR.pressure) throw refusal('depressionOutOfReach');
    return (
      coefficient *
      expansibility(0, (AIR.pressure - depression) / AIR.pressure) *
      (Math.PI / 4) *
      diameter ** 2 *
      Math.sqrt((2 * depression) / density)
    );
  },
};
