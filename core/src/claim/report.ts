/** A claimed power held against what the head can breathe and what engines make. */
import { portVelocity } from '../engine/engine.js';
import type { MatchResult } from '../evaluate/match.js';
import type { Believability, Build, TargetResult } from '../evaluate/target.js';
import type { HeadVerdict } from '../evaluate/verdict.js';
import { COMMON_PRACTICE, work, type Given, type Method, type Working } from '../method/method.js';
import type { Degree } from '../uncertainty/degree.js';
import { refusal } from '../refusal/refusal.js';

export const impliedPowerPerFlow: Method<{ power: number; flow: number; cylinders: number; charge: number }> = {
  id: 'implied-power-per-flow',
  title: 'Power each cfm would have had to make',
  formula: 'k = \\frac{P}{Q_{28}\\,n\\,r_\\rho}',
  inputs: {
    power: { label: 'power claimed, less what nitrous adds', symbol: 'P', kind: 'power' },
    flow: { label: 'best intake flow the cam reaches, at 28 in', symbol: 'Q_{28}', kind: 'flow' },
    cylinders: { label: 'cylinders', symbol: 'n', kind: 'count' },
    charge: { label: 'charge density against the atmosphere', symbol: 'r_\\rho', kind: 'ratio' },
  },
  result: { label: 'power per flow, one cylinder', symbol: 'k', kind: 'powerPerFlow' },
  source: `${COMMON_PRACTICE} Users use 0.24 to 0.28 hp/cfm.`,
  compute: ({ power, flow, cylinders, charge }) => {
    if (flow <= 0) throw refusal('notAboveZero', 'flow');
    return power / (flow * cylinders * charge);
  },
};

export interface ReportResult {
  readonly verdict: 'believable' | 'a stretch' | 'not believable' | 'nothing to hold it against';
  /** Whether the head carries that power at that speed, as every other page says it; undefined when nothing was flowed. */
  readonly degree?: Degree;
  readonly odds?: number;
  readonly bmep: Working;
  readonly band: Believability;
  readonly powerPerFlow?: Working;
  /** Peak speed of the air at the choke at that engine speed. */
  readonly velocity?: Working;
  readonly tooFast: boolean;
}

/**
 * Holds a claimed power against BMEP and against the head's verdict for it: `build` is the engine with the claimed power
 * and speed as its target, `match` and `judged` what the head is worth against that. `choke` is the tightest place known.
 */
export function judgeReport(
  build: Build,
  target: TargetResult,
  match: MatchResult,
  judged: HeadVerdict,
  choke?: Given<number>,
): ReportResult {
  const flowed = match.flow !== undefined;
  const velocity =
    choke === undefined
      ? undefined
      : work(portVelocity, { speed: build.speed, ...target.sizes, area: choke, ratio: target.pistonRatio });
  const tooFast = velocity !== undefined && velocity.value > target.velocityLimit;
  const { degree, odds } = judged;
  const band = target.believability;
  const short = flowed && (degree === 'falls short' || degree === 'probably short');
  const open = flowed && degree === "can't be told";
  return {
    verdict:
      band === 'unbelievable' || short
        ? 'not believable'
        : band === 'extreme' || open || tooFast
          ? 'a stretch'
          : flowed
            ? 'believable'
            : 'nothing to hold it against',
    bmep: target.bmep,
    band,
    tooFast,
    ...(flowed ? { degree, ...(odds === undefined ? {} : { odds }) } : {}),
    ...(match.flow === undefined
      ? {}
      : {
          powerPerFlow: work(impliedPowerPerFlow, {
            power: target.airPower,
            flow: match.flow,
            cylinders: build.cylinders,
            charge: target.charge,
          }),
        }),
    ...(velocity ? { velocity } : {}),
  };
}
