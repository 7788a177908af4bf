/** What the sizes of a head mean by themselves and under an engine's cam, each with its working. */
import {
  bowlRatio,
  camLiftOf,
  coilBindClearance,
  compressionRatio,
  listed,
  meanPortArea,
  retainerClearance,
  springsAt,
  throatRatio,
  windowRule,
  workIf,
  type Build as CoreBuild,
  type Side,
  type TargetResult,
  type Working,
} from '@alluvium/core';
import type { Measure } from './nouns/measure.js';
import { compressionParts } from './compression.js';
import { sizeOf } from './sizes.js';

type Follows = readonly [what: string, working: Working];

function ofSide(
  holding: readonly Measure[],
  side: Side,
  build: CoreBuild | undefined,
  target: TargetResult | undefined,
): [string, Working | undefined][] {
  const size = (item: Measure['item']) => sizeOf(holding, item, side);
  const valve = size('valve diameter');
  const installedHeight = size('spring installed height');
  const lift = build?.cam && camLiftOf(build.cam, side);
  const profile = side === 'intake' ? target?.intakeCam : target?.exhaustCam;
  const [seatForce, rate, mass] = [size('spring seat force'), size('spring rate'), size('valve train mass')];
  const springs =
    profile && seatForce && rate && mass && build
      ? springsAt(profile, { seatForce, rate, mass }, build.speed)
      : undefined;
  return [
    [`${side} throat of valve`, workIf(throatRatio, { throat: size('throat'), valve })],
    [`${side} bowl of valve`, workIf(bowlRatio, { bowl: size('bowl'), valve })],
    [`${side} mean port area`, workIf(meanPortArea, { volume: size('port volume'), length: size('port length') })],
    [`${side} flow the window rule expects`, workIf(windowRule, { window: size('window') })],
    [`${side} springs, of what this cam asks at the target’s speed`, springs?.share],
    [
      `${side} clearance to coil bind`,
      workIf(coilBindClearance, { installedHeight, coilBind: size('spring coil-bind height'), lift }),
    ],
    [
      `${side} retainer to seal, valve open`,
      workIf(retainerClearance, { guideToRetainer: size('retainer to seal'), lift }),
    ],
  ];
}

/**
 * All that follows from the sizes that are known; what needs an engine is left out without one. How far parts of the
 * compression that nobody measured may lie off stands in `compressionParts`.
 */
export function sizesFollow(
  holding: readonly Measure[],
  build?: CoreBuild,
  target?: TargetResult,
  /** What the engine is called. */
  name = 'this build',
): Follows[] {
  const size = (item: Measure['item']) => sizeOf(holding, item, null);
  const { parts, missing } = compressionParts(holding, target);
  const compression = workIf(compressionRatio, { ...parts, chamber: size('chamber volume') });
  const without = missing.length > 0 ? `, ${listed(missing)} not measured` : '';
  return [
    ...ofSide(holding, 'intake', build, target),
    ...ofSide(holding, 'exhaust', build, target),
    [`compression on ${name}${without}`, compression] as const,
  ].filter((l): l is [string, Working] => l[1] !== undefined);
}
