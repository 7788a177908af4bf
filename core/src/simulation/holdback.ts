/** What holds a head back at a speed: each part of the breathing made ideal in turn. */
import { runPoint } from './runPoint.js';
import { COARSE, type CylinderModel, type EngineModel, type PipeSide, type ValveArea } from './model.js';
import { atSpeed, engineModel, type SimulationSetup } from './setup.js';
import type { FitStore } from './sweep.js';
import { refusedBy } from '../refusal/refusal.js';

// intakePort.at()!, pipe.at()!: a pipe has points.

export const PARTS = ['valve', 'port', 'runner', 'plenum', 'exhaust'] as const;
export type Part = (typeof PARTS)[number];

export interface HeldBack {
  readonly speed: number;
  readonly torque: number;
  /** Torque gained with each part ideal, Nm; NaN where that engine does not settle. */
  readonly parts: readonly { readonly part: Part; readonly gain: number }[];
  /** All of them ideal together, and what the parts leave unexplained of it. */
  readonly all: number;
  readonly remainder: number;
}

const wide = ({ lift, open }: ValveArea): ValveArea => ({ lift, open: open.map((o) => 4 * o) });

function ideal(model: EngineModel, part: Part, setup: SimulationSetup): EngineModel {
  const each = (change: (k: CylinderModel, i: number) => CylinderModel) => ({
    ...model,
    kinds: model.kinds.map(change),
  });
  switch (part) {
    case 'valve':
      // Four times the area: no more than the pipe's own is taken.
      return each((k) => ({ ...k, intake: { ...k.intake, valve: wide(k.intake.valve) } }));
    case 'port':
      return each((k, i) => {
        const length = setup.ports[i]!.intakePort.at(-1)!.x;
        const from = k.intake.pipe.at(-1)!.x - length - 1e-9;
        const most = Math.max(...k.intake.pipe.map((p) => p.area));
        return {
          ...k,
          intake: { ...k.intake, pipe: k.intake.pipe.map((p) => (p.x >= from ? { x: p.x, area: most } : p)) },
        };
      });
    case 'runner':
      return each((k) => ({ ...k, entry: 1, intake: { ...k.intake, wall: model.supply.T } as PipeSide }));
    case 'plenum':
      return { ...model, plenum: { volume: 20 * model.plenum.volume, entry: 20 * model.plenum.entry } };
    case 'exhaust':
      return {
        ...each((k) => ({ ...k, exhaust: { ...k.exhaust, valve: wide(k.exhaust.valve) } })),
        back: model.ambient.p,
      };
  }
}

/** Torque at one speed with each part ideal, on a grid of 30 mm; a sentence where the head itself cannot be run. */
export function holdsBack(setup: SimulationSetup, speed: number, fits: FitStore): HeldBack | string {
  try {
    const model = atSpeed(setup, engineModel(setup, fits.of(setup, COARSE.cell)), speed);
    const base = runPoint(model, speed, COARSE);
    if (!base.point.ok) return base.point.reason;
    const { torque } = base.point;
    const run = (m: EngineModel) => {
      const p = runPoint(m, speed, COARSE, base.seed).point;
      return p.ok ? p.torque - torque : NaN;
    };
    const parts = PARTS.map((part) => ({ part, gain: run(ideal(model, part, setup)) }));
    const all = run(PARTS.reduce((m, part) => ideal(m, part, setup), model));
    return { speed, torque, parts, all, remainder: all - parts.reduce((s, p) => s + p.gain, 0) };
  } catch (e) {
    return refusedBy(e).message;
  }
}
