import { COMMON_PRACTICE, type Method } from '../method/method.js';
import { cfm, fromSi, inches, squareInches, unitNamed } from '../quantity/units.js';
import { refusal } from '../refusal/refusal.js';

// unitNamed()!: written by us.

export const throatRatio: Method<{ throat: number; valve: number }> = {
  id: 'throat-ratio',
  title: 'Throat as a share of the valve',
  formula: 't = \\frac{D_t}{D}',
  inputs: {
    throat: { label: 'throat diameter', symbol: 'D_t', kind: 'length' },
    valve: { label: 'valve diameter', symbol: 'D', kind: 'length' },
  },
  result: { label: 'throat', symbol: 't', kind: 'percent' },
  source: `${COMMON_PRACTICE} Usually 88 to 91 %.`,
  compute: ({ throat, valve }) => throat / valve,
};

export const bowlRatio: Method<{ bowl: number; valve: number }> = {
  id: 'bowl-ratio',
  title: 'Bowl as a share of the valve',
  formula: 'b = \\frac{D_b}{D}',
  inputs: {
    bowl: { label: 'bowl diameter', symbol: 'D_b', kind: 'length' },
    valve: { label: 'valve diameter', symbol: 'D', kind: 'length' },
  },
  result: { label: 'bowl', symbol: 'b', kind: 'percent' },
  source: `${COMMON_PRACTICE} Usually 95 to 100 %.`,
  compute: ({ bowl, valve }) => bowl / valve,
};

export const meanPortArea: Method<{ volume: number; length: number }> = {
  id: 'mean-port-area',
  title: 'Mean port area',
  formula: '\\bar{A} = \\frac{V}{\\ell}',
  inputs: {
    volume: { label: 'port volume', symbol: 'V', kind: 'volume' },
    length: { label: 'port length, mean of roof and floor', symbol: '\\ell', kind: 'length' },
  },
  result: { label: 'mean port area', symbol: '\\bar{A}', kind: 'area' },
  source: 'Plane geometry.',
  compute: ({ volume, length }) => {
    if (length <= 0) throw refusal('notAboveZero', 'port length');
    return volume / length;
  },
};

export const portsTogether: Method<{ area: number; ports: number }> = {
  id: 'ports-together',
  title: 'Least area of the ports of one cylinder together',
  formula: 'A = n_p A_p',
  inputs: {
    area: { label: 'least area of one port', symbol: 'A_p', kind: 'area' },
    ports: { label: 'intake ports of the cylinder', symbol: 'n_p', kind: 'count' },
  },
  result: { label: 'least area', symbol: 'A', kind: 'area' },
  source: 'Plane geometry.',
  caution: 'Taken as if its other ports were like the one measured.',
  compute: ({ area, ports }) => area * ports,
};

export const windowRule: Method<{ window: number }> = {
  id: 'window-rule',
  title: 'Window rule',
  formula: 'Q_{28}[\\mathrm{cfm}] \\approx 100\\,A_{window}[\\mathrm{in^2}]',
  inputs: { window: { label: 'window area over the short turn', symbol: 'A_{window}', kind: 'area' } },
  result: { label: 'flow the rule expects', symbol: 'Q_{28}', kind: 'flow' },
  source: COMMON_PRACTICE,
  caution: 'The deviation from it is a measure of port shape, not of worth.',
  compute: ({ window }) => cfm((100 * window) / squareInches(1)),
};

export const againstWindow: Method<{ flow: number; expected: number }> = {
  id: 'against-window',
  title: 'Measured flow against the window rule',
  formula: '\\frac{Q}{Q_{28}} - 1',
  inputs: {
    flow: { label: 'best flow measured', symbol: 'Q', kind: 'flow' },
    expected: { label: 'flow the rule expects', symbol: 'Q_{28}', kind: 'flow' },
  },
  result: { label: 'measured against the window rule', symbol: '\\delta', kind: 'percent' },
  source: COMMON_PRACTICE,
  caution: 'A good shape flows more than its window, a poor one less.',
  compute: ({ flow, expected }) => flow / expected - 1,
};

export const sectionSpeed: Method<{ flow: number; area: number }> = {
  id: 'section-speed',
  title: 'Average speed at a section',
  formula: 'v = \\frac{Q}{A}',
  inputs: {
    flow: { label: 'flow', symbol: 'Q', kind: 'flow' },
    area: { label: 'area of the section', symbol: 'A', kind: 'area' },
  },
  result: { label: 'average speed', symbol: 'v', kind: 'velocity' },
  source: 'Continuity.',
  compute: ({ flow, area }) => flow / area,
};

export const springForce: Method<{ seatForce: number; rate: number; installedHeight: number; height: number }> = {
  id: 'spring-force',
  title: 'Spring force at a height',
  formula: 'F = F_{seat} + k\\,(h_{seat} - h)',
  inputs: {
    seatForce: { label: 'force at the stated seat height', symbol: 'F_{seat}', kind: 'force' },
    rate: { label: 'spring rate', symbol: 'k', kind: 'rate' },
    installedHeight: { label: 'stated seat height', symbol: 'h_{seat}', kind: 'length' },
    height: { label: 'height in question', symbol: 'h', kind: 'length' },
  },
  result: { label: 'spring force', symbol: 'F', kind: 'force' },
  source: 'Hooke’s law.',
  caution: 'Wear eye protection whenever a spring is compressed or valve locks are knocked out.',
  compute: ({ seatForce, rate, installedHeight, height }) => seatForce + rate * (installedHeight - height),
};

/** Usual least clearance of a spring at full lift: .060 in (common practice, no source). */
export const USUAL_SPRING_CLEARANCE = inches(0.06);

export const coilBindClearance: Method<{ installedHeight: number; coilBind: number; lift: number }> = {
  id: 'coil-bind-clearance',
  title: 'Clearance to coil bind at full lift',
  formula: 'c = h_{seat} - L - h_{bind}',
  inputs: {
    installedHeight: { label: 'installed height', symbol: 'h_{seat}', kind: 'length' },
    coilBind: { label: 'coil-bind height', symbol: 'h_{bind}', kind: 'length' },
    lift: { label: 'valve lift', symbol: 'L', kind: 'lift' },
  },
  result: { label: 'clearance', symbol: 'c', kind: 'length' },
  source: 'Plane geometry.',
  caution: 'Keep to the spring maker’s clearance; about .060 in is usual (common practice, no source).',
  compute: ({ installedHeight, coilBind, lift }) => installedHeight - lift - coilBind,
};

export const retainerClearance: Method<{ guideToRetainer: number; lift: number }> = {
  id: 'retainer-clearance',
  title: 'Clearance between retainer and seal at full lift',
  formula: 'c = g - L',
  inputs: {
    guideToRetainer: { label: 'retainer to seal, valve shut', symbol: 'g', kind: 'length' },
    lift: { label: 'valve lift', symbol: 'L', kind: 'lift' },
  },
  result: { label: 'clearance', symbol: 'c', kind: 'length' },
  source: 'Plane geometry.',
  compute: ({ guideToRetainer, lift }) => guideToRetainer - lift,
};

export const lobeSeparationWanted: Method<{ cylinderVolume: number; valve: number; compression: number }> = {
  id: 'lobe-separation-wanted',
  title: 'Lobe separation this head wants',
  formula:
    'LSA = 128 - 0.91\\,\\frac{V_{cyl}[\\mathrm{in^3}]}{D_{iv}[\\mathrm{in}]} + 0.75\\,\\max(0, \\varepsilon - 10.5)',
  inputs: {
    cylinderVolume: { label: 'cylinder displacement', symbol: 'V_{cyl}', kind: 'displacement' },
    valve: { label: 'intake valve diameter', symbol: 'D_{iv}', kind: 'length' },
    compression: { label: 'compression ratio', symbol: '\\varepsilon', kind: 'compression' },
  },
  result: { label: 'lobe separation wanted', symbol: 'LSA', kind: 'angle' },
  source: `${COMMON_PRACTICE} Two-valve in-line heads.`,
  caution: 'A swap test on one cam is fair only if both heads are equally far from the separation each wants.',
  compute: ({ cylinderVolume, valve, compression }) => {
    const in3 = fromSi(cylinderVolume, unitNamed('displacement', 'in³')!);
    const d = fromSi(valve, unitNamed('length', 'in')!);
    return ((128 - (0.91 * in3) / d + 0.75 * Math.max(0, compression - 10.5)) * Math.PI) / 180;
  },
};
