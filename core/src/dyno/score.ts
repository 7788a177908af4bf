/** Forecasts of power against what was made, over time: which estimate may be trusted. */
import { deviation, mean } from '../method/mean.js';
import type { Method } from '../method/method.js';
import { normalShare, studentQuantile } from '../uncertainty/normal.js';
import { refusal } from '../refusal/refusal.js';

export const powerScore: Method<{ made: number; forecast: number; madeU: number; forecastU: number }> = {
  id: 'power-score',
  title: 'A forecast of power against the pull',
  formula: 'z = \\frac{P - P_f}{\\sqrt{u^2 + u_f^2}}',
  inputs: {
    made: { label: 'power made', symbol: 'P', kind: 'power' },
    forecast: { label: 'power forecast', symbol: 'P_f', kind: 'power' },
    madeU: { label: 'uncertainty of the pull', symbol: 'u', kind: 'power' },
    forecastU: { label: 'uncertainty of the forecast', symbol: 'u_f', kind: 'power' },
  },
  result: { label: 'off by, in uncertainties', symbol: 'z', kind: 'ratio' },
  source: 'JCGM 100:2008, 5.1.2.',
  compute: ({ made, forecast, madeU, forecastU }) => {
    const u = Math.hypot(madeU, forecastU);
    if (!(u > 0)) throw refusal('noUncertainty');
    return (made - forecast) / u;
  },
};

export interface Scores {
  readonly count: number;
  /** Mean of made over forecast less one, and its half range, 95 %; undefined for fewer than two. */
  readonly bias: number;
  readonly biasReach?: number;
  readonly spread?: number;
  /** Share that fell within twice the uncertainty said. */
  readonly within: number;
}

/** Errors of forecasts of one kind: `off` made over forecast less one, `z` in uncertainties. */
export function scoresOf(
  list: readonly { readonly off: number; readonly z?: number | undefined }[],
): Scores | undefined {
  if (list.length === 0) return undefined;
  const offs = list.map((l) => l.off);
  const spread = deviation(offs);
  const said = list.flatMap((l) => (l.z === undefined ? [] : [l.z]));
  return {
    count: list.length,
    bias: mean(offs),
    ...(spread === undefined
      ? {}
      : { spread, biasReach: (studentQuantile(0.05, offs.length - 1) * spread) / Math.sqrt(offs.length) }),
    within: said.length === 0 ? Number.NaN : said.filter((z) => Math.abs(z) <= 2).length / said.length,
  };
}

/** From so many on a calibration curve says something; before that a list does. */
export const CALIBRATION_FROM = 20;

/**
 * Calibration of forecasts: for each share p of what should have been made at most, how many were (Gneiting, Balabdaoui and
 * Raftery 2007, probability integral transform; from memory). Undefined for fewer than twenty.
 */
export function calibrationOf(
  zs: readonly number[],
): readonly { readonly said: number; readonly found: number }[] | undefined {
  if (zs.length < CALIBRATION_FROM) return undefined;
  const pit = zs.map((z) => normalShare(z));
  return Array.from({ length: 9 }, (_, i) => {
    const said = (i + 1) / 10;
    return { said, found: pit.filter((p) => p <= said).length / pit.length };
  });
}
