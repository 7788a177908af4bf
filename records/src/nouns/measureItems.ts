import { millimetres, type Kind } from '@alluvium/core';
import type { Limits } from '../quantity.js';

/** One place of a head that is measured. */
export interface MeasureItemSpec {
  readonly kind: Kind;
  /** Belongs to the intake or the exhaust; the others to the head as a whole. */
  readonly sided: boolean;
  readonly limits: Limits;
  /**
   * A difference between stated and found that matters, as typed, unless the shop set its own.
   * Common practice, no source: about what careful measuring twice would not explain.
   */
  readonly tolerance: string;
}

const length = (what: string, min: number, max: number, tolerance: string, sided = true): MeasureItemSpec => ({
  kind: 'length',
  sided,
  limits: { min: millimetres(min), max: millimetres(max), sentence: `${what} must lie between ${min} and ${max} mm.` },
  tolerance,
});
const area = (what: string): MeasureItemSpec => ({
  kind: 'area',
  sided: true,
  limits: { min: 2e-5, max: 0.05, sentence: `${what} must lie between 20 and 50,000 mm².` },
  tolerance: '20 mm²',
});
/** Limits in cc. */
const volume = (sentence: string, min: number, max: number, tolerance: string, sided = false): MeasureItemSpec => ({
  kind: 'volume',
  sided,
  limits: { min: min * 1e-6, max: max * 1e-6, sentence },
  tolerance,
});

const items = <T extends Record<string, MeasureItemSpec>>(table: T): T => table;

/** Every place of a head that is measured: its kind of quantity, its believable range, and what difference matters. */
export const MEASURE_ITEMS = items({
  'valve diameter': length('The valve', 10, 250, '0.1 mm'),
  'stem diameter': length('The stem', 2, 40, '0.02 mm'),
  'seat width': length('The seat width', 0.2, 15, '0.3 mm'),
  'seat angle': {
    kind: 'angle',
    sided: true,
    limits: { min: 0.26, max: 1.31, sentence: 'The seat angle must lie between 15° and 75°.' },
    tolerance: '0.5°',
  },
  'back-cut angle': {
    kind: 'angle',
    sided: true,
    limits: { min: 0.17, max: 1.31, sentence: 'The back-cut must lie between 10° and 75°.' },
    tolerance: '1°',
  },
  'top cut width': length('The top cut', 0, 15, '0.3 mm'),
  'top cut angle': {
    kind: 'angle',
    sided: true,
    limits: { min: 0.08, max: 1.31, sentence: 'The top cut must lie between 5° and 75°.' },
    tolerance: '1°',
  },
  'valve inclination': {
    kind: 'angle',
    sided: true,
    limits: { min: -0.8, max: 0.8, sentence: 'The inclination must lie within 45°.' },
    tolerance: '0.5°',
  },
  'valve offset, along': length('The valve’s offset', -150, 150, '0.3 mm'),
  'valve offset, across': length('The valve’s offset', -150, 150, '0.3 mm'),
  'ring outside diameter': length('The seat ring', 12, 280, '0.05 mm'),
  'ring inside diameter': length('The seat ring', 8, 260, '0.2 mm'),
  throat: length('The throat', 8, 240, '0.25 mm'),
  bowl: length('The bowl', 8, 260, '0.5 mm'),
  window: area('The window'),
  pinch: area('The pinch'),
  opening: area('The opening'),
  'gasket opening': area('The gasket’s opening'),
  'bowl depth': length('The bowl depth', 1, 200, '1 mm'),
  'port length': length('The port length', 10, 1000, '2 mm'),
  'roof length': length('The roof', 10, 1000, '2 mm'),
  'floor length': length('The floor', 10, 1000, '2 mm'),
  /** Of the head at a named point, by sound or by gauge. */
  'wall thickness': length('A wall', 0.2, 60, '0.3 mm', false),
  'bore wall': length('The bore’s wall', 0.2, 60, '0.3 mm', false),
  /** From the valve's edge to the bore's wall, as it is measured with the valve open. */
  'edge to wall': length('The gap to the wall', 0, 60, '0.2 mm'),
  'port volume': volume('The port volume must lie between 2 and 5000 cc.', 2, 5000, '2 cc', true),
  'short turn height': length('The short turn height', 1, 150, '0.8 mm'),
  'gasket step, roof': length('A step to the gasket', -15, 15, '0.5 mm'),
  'gasket step, floor': length('A step to the gasket', -15, 15, '0.5 mm'),
  'gasket step, front': length('A step to the gasket', -15, 15, '0.5 mm'),
  'gasket step, rear': length('A step to the gasket', -15, 15, '0.5 mm'),
  'guide clearance': length('The guide clearance', 0, 2, '0.013 mm'),
  'guide diameter': length('The guide', 3, 60, '0.02 mm'),
  'divider thickness': length('The divider', 0.5, 60, '0.5 mm'),
  'flange flatness': length('The flange flatness', 0, 5, '0.05 mm'),
  'pushrod clearance': length('The pushrod clearance', 0, 50, '0.3 mm'),
  'chamber volume': volume('The chamber must lie between 1 and 5000 cc.', 1, 5000, '1 cc'),
  'chamber width': length('The chamber', 10, 400, '0.3 mm', false),
  'gasket volume': volume('The gasket volume must lie between 0 and 1000 cc.', 0, 1000, '0.3 cc'),
  'deck volume': volume('The deck volume must lie within 1000 cc.', -1000, 1000, '0.5 cc'),
  'piston dish': volume('The piston dish must lie within 1000 cc; a dome is negative.', -1000, 1000, '0.5 cc'),
  'deck flatness': length('The deck flatness', 0, 5, '0.05 mm', false),
  'valve spacing': length('The valve spacing', 10, 250, '0.2 mm', false),
  'spring installed height': length('The installed height', 10, 150, '0.5 mm'),
  'spring coil-bind height': length('The coil-bind height', 5, 120, '0.5 mm'),
  'spring seat force': {
    kind: 'force',
    sided: true,
    limits: { min: 1, max: 20_000, sentence: 'The seat force must lie between 1 and 20,000 N.' },
    tolerance: '8 lb',
  },
  'spring open force': {
    kind: 'force',
    sided: true,
    limits: { min: 1, max: 40_000, sentence: 'The open force must lie between 1 and 40,000 N.' },
    tolerance: '15 lb',
  },
  'spring rate': {
    kind: 'rate',
    sided: true,
    limits: { min: 100, max: 1e6, sentence: 'The rate must lie between 0.1 and 1000 N/mm.' },
    tolerance: '15 lb/in',
  },
  'casting weight': {
    kind: 'mass',
    sided: false,
    limits: { min: 0.2, max: 2000, sentence: 'The casting’s weight must lie between 0.2 and 2000 kg.' },
    tolerance: '0.2 kg',
  },
  /** Valve, retainer, locks, a third of the spring, and the rest brought to the valve by the rocker ratio squared. */
  'valve train mass': {
    kind: 'mass',
    sided: true,
    limits: { min: 0.005, max: 20, sentence: 'The valve train’s mass must lie between 5 g and 20 kg.' },
    tolerance: '5 g',
  },
  'retainer to seal': length('Retainer to seal', 1, 100, '0.3 mm'),
  'lift limit': length('The lift limit', 2, 60, '0.3 mm', false),
  price: {
    kind: 'money',
    sided: false,
    limits: { min: 0, max: 1e7, sentence: 'The price must lie between 0 and ten million.' },
    tolerance: '1',
  },
});
export type MeasureItem = keyof typeof MEASURE_ITEMS;
export const MEASURE_ITEM_NAMES = Object.keys(MEASURE_ITEMS) as [MeasureItem, ...MeasureItem[]];

/** Items that hold at one lift only. */
export const AT_A_LIFT: ReadonlySet<MeasureItem> = new Set(['edge to wall']);
/** Items that hold at one named point only. */
export const AT_A_POINT: ReadonlySet<MeasureItem> = new Set(['wall thickness', 'bore wall']);
