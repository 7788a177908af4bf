/** Port area about the measured one, at a speed: the sheet stays what it is, only the waves change. */
import { COARSE } from './model.js';
import type { SimulationSetup } from './setup.js';
import { solvePoint, type FitStore } from './sweep.js';

export interface SizeWanted {
  readonly speed: number;
  readonly points: readonly { readonly factor: number; readonly torque: number }[];
  /** Factors of the flat top: within half a per cent of the best torque. */
  readonly from: number;
  readonly to: number;
}

const FACTORS = [0.8, 0.87, 0.94, 1, 1.08, 1.16, 1.25, 1.35];
const FLAT = 0.005;

/** The port and its runner scaled alike along their length, each at the same flow sheet through the virtual bench. */
export function sizeWanted(setup: SimulationSetup, speeds: readonly number[], fits: FitStore): SizeWanted[] | string {
  const scaled = (factor: number): SimulationSetup => ({
    ...setup,
    ports: setup.ports.map((p) => ({ ...p, intakePort: p.intakePort.map((q) => ({ x: q.x, area: q.area * factor })) })),
    assumed: setup.assumed.map((a) => (a.id === 'runnerArea' ? { ...a, value: a.value * factor } : a)),
  });
  const setups = FACTORS.map((factor) => ({ factor, setup: scaled(factor) }));
  const found: SizeWanted[] = [];
  for (const speed of speeds) {
    const points = setups.flatMap(({ factor, setup: s }) => {
      const { point } = solvePoint({ setup: s, speed, running: COARSE }, fits);
      return point.ok ? [{ factor, torque: point.torque }] : [];
    });
    if (points.length < 4) return 'Too few sizes could be run to tell one from another.';
    const best = Math.max(...points.map((p) => p.torque));
    const flat = points.filter((p) => p.torque >= best * (1 - FLAT)).map((p) => p.factor);
    found.push({ speed, points, from: Math.min(...flat), to: Math.max(...flat) });
  }
  return found;
}
