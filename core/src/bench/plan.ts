/** What a test will ask for, and how long it will take. */
import { COMMON_PRACTICE, type Method } from '../method/method.js';
import { SAME_LIFT } from '../flow/curve.js';
import { inches } from '../quantity/units.js';
import { refusal } from '../refusal/refusal.js';

export interface Schedule {
  /** Even step, m. */
  readonly step: number;
  /** Last lift, m. */
  readonly to: number;
  /** Half steps up to and with this lift, m; 0 or missing for none. */
  readonly halfBelow?: number;
  /** How many steps past `to`, for stability beyond the cam's lift. */
  readonly beyond?: number;
  /** Lifts asked for one by one, m, beside the even ones. */
  readonly list?: readonly number[];
}

/** More lifts than this are a slip of the pen. */
export const MOST_LIFTS = 100;

/**
 * The lifts of a run, rising, each once, m.
 * @throws Refusal when a step is no step, or there would be more than `MOST_LIFTS`.
 */
export function liftSchedule({ step, to, halfBelow = 0, beyond = 0, list = [] }: Schedule): number[] {
  const lifts = [...list.filter((l) => l > SAME_LIFT)];
  if (to > 0 || list.length === 0) {
    if (!(step >= inches(0.005))) throw refusal('liftStepTooSmall');
    if (!(to >= step)) throw refusal('lastLiftUnderStep');
    if (to / step > MOST_LIFTS) throw refusal('tooManyLifts', MOST_LIFTS);
    const steps = Math.floor(to / step + 1e-9);
    for (let i = 1; i <= steps; i++) {
      if (i * step <= halfBelow + SAME_LIFT) lifts.push((i - 0.5) * step);
      lifts.push(i * step);
    }
    if (to - steps * step > SAME_LIFT) lifts.push(to);
    for (let i = 1; i <= beyond; i++) lifts.push(to + i * step);
  }
  lifts.sort((a, b) => a - b);
  const once = lifts.filter((l, i) => i === 0 || l - lifts[i - 1]! > SAME_LIFT);
  if (once.length > MOST_LIFTS) throw refusal('tooManyLifts', MOST_LIFTS);
  return once;
}

/** Seconds a point of flow usually takes: open, settle, read. Common practice, no source. */
export const USUAL_POINT_SECONDS = 25;
export const USUAL_PITOT_SECONDS = 8;

export const testTime: Method<{
  points: number;
  pulls: number;
  point: number;
  ports: number;
  setting: number;
  probes: number;
  probe: number;
}> = {
  id: 'test-time',
  title: 'Time a test will take',
  formula: 't = n\\,m\\,t_{point} + p\\,t_{set} + g\\,t_{probe}',
  inputs: {
    points: { label: 'points still to record, all ports and sides', symbol: 'n', kind: 'count' },
    pulls: { label: 'pulls of each', symbol: 'm', kind: 'count' },
    point: { label: 'seconds a point', symbol: 't_{point}', kind: 'count' },
    ports: { label: 'ports to set up', symbol: 'p', kind: 'count' },
    setting: { label: 'seconds to set one up', symbol: 't_{set}', kind: 'count' },
    probes: { label: 'places of the pitot', symbol: 'g', kind: 'count' },
    probe: { label: 'seconds a place', symbol: 't_{probe}', kind: 'count' },
  },
  result: { label: 'seconds', symbol: 't', kind: 'count' },
  source: COMMON_PRACTICE,
  caution: 'Once points are recorded, the pace of this very run is taken instead of the usual.',
  compute: ({ points, pulls, point, ports, setting, probes, probe }) =>
    points * pulls * point + ports * setting + probes * probe,
};
