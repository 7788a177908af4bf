/** A claimed power held against what the head can breathe and what engines make. */
import { bmep, displacement, portVelocity, torqueFromPower } from '../engine/engine.js';
import { believability, type Believability } from '../evaluate/target.js';
import { COMMON_PRACTICE, numberOf, work, type Given, type Method, type Working } from '../method/method.js';
import { PORT_VELOCITY_LIMIT } from '../power/schools.js';
import { horsepowerPerCfm } from '../quantity/units.js';

export const impliedPowerPerFlow: Method<{ power: number; flow: number; cylinders: number; charge: number }> = {
  id: 'implied-power-per-flow',
  title: 'Power each cfm would have had to make',
  formula: 'k = \\frac{P}{Q_{28}\\,n\\,r_\\rho}',
  inputs: {
    power: { label: 'power claimed', symbol: 'P', kind: 'power' },
    flow: { label: 'best intake flow the cam reaches, at 28 in', symbol: 'Q_{28}', kind: 'flow' },
    cylinders: { label: 'cylinders', symbol: 'n', kind: 'count' },
    charge: { label: 'charge density against the atmosphere', symbol: 'r_\\rho', kind: 'ratio' },
  },
  result: { label: 'power per flow, one cylinder', symbol: 'k', kind: 'powerPerFlow' },
  source: `${COMMON_PRACTICE} Users use 0.24 to 0.28 hp/cfm.`,
  compute: ({ power, flow, cylinders, charge }) => {
    if (flow <= 0) throw new RangeError('The flow must be above zero.');
    return power / (flow * cylinders * charge);
  },
};

/** Where the power per flow of a claim lies. Common practice, no source: users use 0.24 to 0.28; 0.31 has not been argued for. */
export const POWER_PER_FLOW_BANDS: readonly (readonly [word: FlowWord, top: number])[] = [
  ['easy', horsepowerPerCfm(0.24)],
  ['usual', horsepowerPerCfm(0.28)],
  ['a stretch', horsepowerPerCfm(0.31)],
];
export type FlowWord = 'easy' | 'usual' | 'a stretch' | 'more than it can carry';

export interface ReportFacts {
  readonly power: number;
  readonly speed: number;
  readonly cylinders: number;
  /** Volume of one cylinder, m³. */
  readonly cylinderVolume: Given<number>;
  readonly charge: Given<number>;
  /** Best intake flow of the head that the cam reaches, m³/s. */
  readonly flow?: Given<number> | undefined;
  /** Least area of the port, m², with bore, stroke and the peak piston speed's ratio to the mean, for the air's speed there. */
  readonly choke?: Given<number> | undefined;
  readonly bore?: number | undefined;
  readonly stroke?: number | undefined;
  readonly pistonRatio?: Given<number> | undefined;
}

export interface ReportResult {
  readonly verdict: 'believable' | 'a stretch' | 'not believable' | 'nothing to hold it against';
  readonly bmep: Working;
  readonly band: Believability;
  readonly powerPerFlow?: Working;
  readonly flowWord?: FlowWord;
  /** Peak speed of the air at the choke at that engine speed. */
  readonly velocity?: Working;
  readonly tooFast: boolean;
}

/** Holds a claimed power against BMEP, the flow that was measured, and the air's speed at the choke. */
export function judgeReport(facts: ReportFacts): ReportResult {
  const { power, speed, cylinders, charge } = facts;
  const torque = work(torqueFromPower, { power, speed });
  const pressure = work(bmep, {
    torque,
    displacement: work(displacement, { cylinderVolume: facts.cylinderVolume, cylinders }),
  });
  const band = believability(pressure.value, numberOf(charge));
  const perFlow =
    facts.flow === undefined ? undefined : work(impliedPowerPerFlow, { power, flow: facts.flow, cylinders, charge });
  const flowWord =
    perFlow && (POWER_PER_FLOW_BANDS.find(([, top]) => perFlow.value <= top)?.[0] ?? 'more than it can carry');
  const { choke, bore, stroke, pistonRatio } = facts;
  const velocity =
    choke === undefined || bore === undefined || stroke === undefined || pistonRatio === undefined
      ? undefined
      : work(portVelocity, { speed, stroke, bore, area: choke, ratio: pistonRatio });
  const tooFast = velocity !== undefined && velocity.value > PORT_VELOCITY_LIMIT;
  const against = band === 'unbelievable' || flowWord === 'more than it can carry';
  const stretched = band === 'extreme' || flowWord === 'a stretch' || tooFast;
  return {
    verdict: against
      ? 'not believable'
      : stretched
        ? 'a stretch'
        : perFlow
          ? 'believable'
          : 'nothing to hold it against',
    bmep: pressure,
    band,
    tooFast,
    ...(perFlow ? { powerPerFlow: perFlow, flowWord: flowWord! } : {}),
    ...(velocity ? { velocity } : {}),
  };
}
