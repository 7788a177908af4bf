/** Chamber, compression and milling. */
import type { Method } from '../method/method.js';
import { refusal } from '../refusal/refusal.js';

export const chamberOverhang: Method<{ chamber: number; bore: number }> = {
  id: 'chamber-overhang',
  title: 'Chamber over the bore’s edge',
  formula: 'o = \\frac{W - B}{2}',
  inputs: {
    chamber: { label: 'widest diameter of the chamber', symbol: 'W', kind: 'length' },
    bore: { label: 'bore', symbol: 'B', kind: 'length' },
  },
  result: { label: 'overhang each side', symbol: 'o', kind: 'length' },
  source: 'Plane geometry, chamber in the bore’s middle.',
  caution: 'An overhanging edge glows and holes the gasket: it is relieved, or the bore is.',
  compute: ({ chamber, bore }) => (chamber - bore) / 2,
};

export const millingRateFromPairs: Method<{ before: number; after: number; taken: number }> = {
  id: 'milling-rate-pairs',
  title: 'Volume taken off by milling, from two measured pairs',
  formula: 'r = \\frac{V_1 - V_2}{m_{12}}',
  inputs: {
    before: { label: 'chamber before', symbol: 'V_1', kind: 'volume' },
    after: { label: 'chamber after', symbol: 'V_2', kind: 'volume' },
    taken: { label: 'milled off between', symbol: 'm_{12}', kind: 'length' },
  },
  result: { label: 'face area the cut sees', symbol: 'r', kind: 'area' },
  source: 'Arithmetic.',
  compute: ({ before, after, taken }) => {
    if (taken <= 0) throw refusal('nothingMilled');
    if (after >= before) throw refusal('chamberGrows');
    return (before - after) / taken;
  },
};

export const millingFor: Method<{ now: number; wanted: number; face: number }> = {
  id: 'milling-for-volume',
  title: 'How much to mill for a wanted chamber',
  formula: 'm = \\frac{V - V_{wanted}}{r}',
  inputs: {
    now: { label: 'chamber now', symbol: 'V', kind: 'volume' },
    wanted: { label: 'chamber wanted', symbol: 'V_{wanted}', kind: 'volume' },
    face: { label: 'face area of the chamber', symbol: 'r', kind: 'area' },
  },
  result: { label: 'to mill off', symbol: 'm', kind: 'length' },
  source: 'Arithmetic; holds while the chamber’s walls stand upright.',
  caution: 'Manifold, pushrods and valve-to-piston clearance all move with the deck: check each.',
  compute: ({ now, wanted, face }) => (now - wanted) / face,
};

export const chamberForRatio: Method<{
  cylinderVolume: number;
  compression: number;
  gasket: number;
  deck: number;
  piston: number;
}> = {
  id: 'chamber-for-ratio',
  title: 'Chamber that gives a wanted compression',
  formula: 'V_{chamber} = \\frac{V_{cyl}}{\\varepsilon - 1} - V_{gasket} - V_{deck} - V_{piston}',
  inputs: {
    cylinderVolume: { label: 'cylinder displacement', symbol: 'V_{cyl}', kind: 'displacement' },
    compression: { label: 'compression wanted', symbol: '\\varepsilon', kind: 'compression' },
    gasket: { label: 'gasket volume', symbol: 'V_{gasket}', kind: 'volume' },
    deck: { label: 'deck clearance volume', symbol: 'V_{deck}', kind: 'volume' },
    piston: { label: 'piston dish (a dome is negative)', symbol: 'V_{piston}', kind: 'volume' },
  },
  result: { label: 'chamber wanted', symbol: 'V_{chamber}', kind: 'volume' },
  source: 'J. B. Heywood, Internal Combustion Engine Fundamentals (1988), eq. 2.1, solved for the chamber.',
  compute: ({ cylinderVolume, compression, gasket, deck, piston }) => {
    if (compression <= 1) throw refusal('compressionUnderOne');
    return cylinderVolume / (compression - 1) - gasket - deck - piston;
  },
};

export const sunkVolume: Method<{ diameter: number; depth: number; valves: number }> = {
  id: 'sunk-volume',
  title: 'Chamber gained by sinking the valves',
  formula: '\\Delta V = n\\,\\frac{\\pi D^2}{4}\\,d',
  inputs: {
    diameter: { label: 'valve diameter', symbol: 'D', kind: 'length' },
    depth: { label: 'sunk by', symbol: 'd', kind: 'length' },
    valves: { label: 'valves', symbol: 'n', kind: 'count' },
  },
  result: { label: 'chamber gained', symbol: '\\Delta V', kind: 'volume' },
  source: 'Plane geometry.',
  caution: 'A sunk valve shortens the short turn and lengthens the stem above the guide: sink first, mill afterwards.',
  compute: ({ diameter, depth, valves }) => valves * (Math.PI / 4) * diameter ** 2 * depth,
};

export const topCutLeft: Method<{ width: number; milled: number; angle: number }> = {
  id: 'top-cut-left',
  title: 'Top cut left after milling',
  formula: 'b = b_0 - \\frac{m}{\\tan\\alpha}',
  inputs: {
    width: { label: 'top cut width now', symbol: 'b_0', kind: 'length' },
    milled: { label: 'milled off', symbol: 'm', kind: 'length' },
    angle: { label: 'angle of the top cut from the deck', symbol: '\\alpha', kind: 'angle' },
  },
  result: { label: 'top cut left', symbol: 'b', kind: 'length' },
  source: 'Plane geometry, for a top cut that reaches the deck.',
  compute: ({ width, milled, angle }) => width - milled / Math.tan(angle),
};
