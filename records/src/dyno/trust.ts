/** Forecasts of power scored over time: which estimate, and whose word, this shop should trust. */
import { calibrationOf, powerScore, scoresOf, work, type Scores, type Working } from '@alluvium/core';
import type { Pull, PowerForecast } from '../nouns/dyno.js';

// scoresOf()!: there are some.

/** One forecast with what was made; `made` by the standard the forecast is for, W. */
export interface ScoredForecast {
  readonly forecast: PowerForecast;
  readonly pull: Pull;
  readonly made: number;
  readonly off: number;
  readonly z?: Working;
}

/** How well a pull itself is known, a share: one against the next, and the brake. Common practice, no source. */
export const PULL_U = 0.01;

export function scoredForecasts(
  forecasts: readonly PowerForecast[],
  pulls: readonly Pull[],
  made: (pull: Pull) => number | undefined,
): ScoredForecast[] {
  return forecasts
    .flatMap((forecast): ScoredForecast[] => {
      const pull = pulls.find((p) => p.id === forecast.pullId);
      const power = pull && made(pull);
      if (!pull || power === undefined) return [];
      const { power: said, u } = forecast.content;
      return [
        {
          forecast,
          pull,
          made: power,
          off: power / said - 1,
          z: work(powerScore, { made: power, forecast: said, madeU: PULL_U * power, forecastU: u }),
        },
      ];
    })
    .sort((a, b) => (a.pull.date ?? '').localeCompare(b.pull.date ?? ''));
}

export interface Trust {
  readonly method: string;
  /** Of engines of one use and fuel; empty where only one kind was forecast. */
  readonly kind: string;
  readonly scores: Scores;
}

/** Each estimate's errors by the kind of engine, the nearest first: by how far it lies off in all, bias and spread together. */
export function trustOf(scored: readonly ScoredForecast[]): Trust[] {
  const kindOf = ({ forecast: { content } }: ScoredForecast) => `${content.use}, ${content.fuel}`;
  const kinds = [...new Set(scored.map(kindOf))];
  const methods = [...new Set(scored.map((s) => s.forecast.content.method))];
  return methods
    .flatMap((method) => kinds.map((kind) => ({ method, kind })))
    .flatMap(({ method, kind }): Trust[] => {
      const own = scored.filter((s) => s.forecast.content.method === method && kindOf(s) === kind);
      if (own.length === 0) return [];
      const scores = scoresOf(own.map((s) => ({ off: s.off, z: s.z?.value })))!;
      return [{ method, kind: kinds.length > 1 ? kind : '', scores }];
    })
    .sort((a, b) => Math.hypot(a.scores.bias, a.scores.spread ?? 0) - Math.hypot(b.scores.bias, b.scores.spread ?? 0));
}

export const calibrationOfForecasts = (scored: readonly ScoredForecast[]) =>
  calibrationOf(scored.flatMap((s) => (s.z ? [s.z.value] : [])));
