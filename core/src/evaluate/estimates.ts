/** Power estimates of one head by the methods the trade uses, each with what it assumes. */
import { noted, work, type Given, type Working } from '../method/method.js';
import { peakFlowPower, powerAtSpeed, ratioDeratedPower } from '../power/schools.js';
import type { Limit, LimitId } from './limits.js';
import type { Build, TargetResult } from './target.js';

export type SchoolId = 'peak-flow' | 'ratio-derated' | 'area' | 'valve';

/** One school's figure for the power a head could carry, with what it assumes; or why it does not apply here. */
export interface School {
  readonly id: SchoolId;
  readonly title: string;
  readonly assumes: string;
  readonly power?: Working;
  readonly notHere?: string;
}

const TITLES: Readonly<Record<SchoolId, readonly [title: string, assumes: string]>> = {
  area: [
    'Port area',
    'The least port area rules; the engine holds its torque per displacement up to the speed where the port velocity reaches its limit.',
  ],
  valve: [
    'Mean inlet Mach index',
    'The whole flow curve over this cam and the valve area rule; the engine holds its torque per displacement up to Z = 0.6.',
  ],
  'peak-flow': [
    'Peak flow',
    'One number of the sheet, the best flow within the cam’s lift, times a factor. Cam, exhaust and port size are taken to suit.',
  ],
  'ratio-derated': [
    'Peak flow, derated by exhaust / intake',
    'The exhaust holds the engine back in proportion. The intake flow cancels out: this is exhaust flow × k × cylinders, and it can turn the ranking round.',
  ],
};

/** Why a rule of naturally aspirated petrol engines says nothing of this one. */
const NO_FACTOR = 'The factor is one of petrol engines: state this engine’s own power per flow.';
const BOOSTED = 'Stated for naturally aspirated engines: boost and exhaust back pressure change the balance.';

export function powerEstimates(
  build: Build,
  target: TargetResult,
  limits: readonly Limit[],
  flow: Given<number> | undefined,
  exhaust: Given<number> | undefined,
): School[] {
  const school = (id: SchoolId, rest: Pick<School, 'power' | 'notHere'>): School => ({
    id,
    title: TITLES[id][0],
    assumes: TITLES[id][1],
    ...rest,
  });
  const atLimit = (id: Exclude<LimitId, 'flow'>): School[] => {
    const limit = limits.find((l) => l.id === id);
    if (!limit) return [];
    return [
      school(id, {
        power: work(powerAtSpeed, {
          torquePerVolume: target.torquePerVolume,
          displacement: target.displacement,
          speed: limit.speed,
        }),
      }),
    ];
  };
  const byFlow =
    flow === undefined || target.powerPerFlow === undefined
      ? undefined
      : work(peakFlowPower, {
          powerPerFlow: noted(target.powerPerFlow, '', 'k'),
          flow,
          cylinders: build.cylinders,
          charge: target.charge,
        });
  const list = [...atLimit('area'), ...atLimit('valve')];
  if (flow === undefined) return list;
  list.push(school('peak-flow', byFlow ? { power: byFlow } : { notHere: NO_FACTOR }));
  if (exhaust === undefined) return list;
  if (!byFlow) list.push(school('ratio-derated', { notHere: NO_FACTOR }));
  else if (build.induction.kind === 'boosted') list.push(school('ratio-derated', { notHere: BOOSTED }));
  else
    list.push(
      school('ratio-derated', { power: work(ratioDeratedPower, { peakFlowPower: byFlow, exhaust, intake: flow }) }),
    );
  return list;
}
