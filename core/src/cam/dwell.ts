import type { FlowCurve } from '../flow/curve.js';
import { simpson } from '../flow/describe.js';
import type { Method } from '../method/method.js';
import type { CamProfile } from './profile.js';
import { refusal } from '../refusal/refusal.js';

// anchored()!: the curve reaches as far as the cam.

/** Share of the lift event spent in each of `bins` equal bands of lift, lowest first; sums to 1. */
export function dwell(cam: CamProfile, bins: number): number[] {
  const edge = (i: number) => cam.shareAbove((cam.maxLift * i) / bins);
  return Array.from({ length: bins }, (_, i) => edge(i) - edge(i + 1));
}

export const dwellMean: Method<{ curve: FlowCurve; cam: CamProfile }> = {
  id: 'dwell-mean',
  title: 'Mean flow over this cam',
  formula:
    '\\bar{Q}_{cam} = \\frac{1}{2T}\\int_{-T}^{T} Q\\big(y(\\theta)\\big)\\,d\\theta,\\quad y(\\theta) = y_{max}\\left(1 - |\\theta/T|^m\\right)^3',
  inputs: {
    curve: { label: 'flow curve', symbol: 'Q(L)', kind: 'curve' },
    cam: { label: 'lift curve of the cam', symbol: 'y(\\theta)', kind: 'cam' },
  },
  result: { label: 'mean flow over this cam', symbol: '\\bar{Q}_{cam}', kind: 'flow' },
  source: 'Time-weighted mean; the lift curve is this program’s own smooth family, described in docs/methods.md.',
  caution:
    'The whole lift event counts, seat to seat; below the sheet’s first row the flow is led on to zero, which is a guess. The cam’s true lift curve may be fuller or slimmer than the one drawn from its card.',
  compute: ({ curve, cam }) => {
    if (cam.maxLift > curve.last.lift) throw refusal('sheetShortOfCam');
    return simpson((u) => curve.anchored(cam.liftAt(u * cam.halfDuration))!, 0, 1, 120);
  },
};
