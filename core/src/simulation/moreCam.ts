/** What a little more lift, and a little more duration, would buy a head in its engine. */
import { changedBy, MORE_DURATION, MORE_LIFT } from './whatIf.js';
import type { SimulationSetup } from './setup.js';
import { COARSE } from './model.js';
import { solvePoint, type FitStore } from './sweep.js';

export interface MoreCam {
  readonly what: 'lift' | 'duration';
  /** More of the mean torque over the speeds, Nm, and of the power at the speed wanted, W. */
  readonly torque: number;
  readonly power: number;
  /** The sheet ends below the lift that would be reached: its last flow is held. */
  readonly beyond: boolean;
}

/** Runs of 30 mm against runs of 30 mm: what is common to both cancels. A sentence where the engine cannot be run. */
export function moreCam(setup: SimulationSetup, speeds: readonly number[], fits: FitStore): MoreCam[] | string {
  const { intake, exhaust } = setup.cam;
  const longer = (l: typeof intake) => ({ ...l, halfDuration: l.halfDuration + MORE_DURATION / 2 });
  const cams: readonly (readonly [MoreCam['what'], SimulationSetup])[] = [
    ['lift', changedBy(setup, { lift: intake.maxLift + MORE_LIFT }).setup],
    ['duration', { ...setup, cam: { ...setup.cam, intake: longer(intake), exhaust: longer(exhaust) } }],
  ];
  const all = [...new Set([...speeds, setup.speed])];
  const run = (s: SimulationSetup) => all.map((speed) => solvePoint({ setup: s, speed, running: COARSE }, fits).point);
  const before = run(setup);
  const last = Math.min(...setup.ports.map((p) => Math.max(...p.intake.map((q) => q.lift))));
  const found: MoreCam[] = [];
  for (const [what, changed] of cams) {
    const after = run(changed);
    const bad = [...before, ...after].find((p) => !p.ok);
    if (bad && !bad.ok) return bad.reason;
    const gain = (of: 'torque' | 'power', at: readonly number[]) =>
      at.reduce((sum, speed) => {
        const i = all.indexOf(speed);
        const [a, b] = [before[i]!, after[i]!];
        return a.ok && b.ok ? sum + (b[of] - a[of]) / at.length : sum;
      }, 0);
    found.push({
      what,
      torque: gain('torque', speeds),
      power: gain('power', [setup.speed]),
      beyond: changed.cam.intake.maxLift > last * 1.02,
    });
  }
  return found;
}
