import {
  REFERENCE_DENSITY,
  calibrationFactor,
  calibrationWords,
  noted,
  OPENING_COEFFICIENT,
  plateExpectation,
  plateFlow,
  work,
  type Say,
  type Working,
  Refusal,
} from '@alluvium/core';
import type { Calibration } from '../nouns/bench.js';

// c.diameter!, depression!: an orifice is asked for both.
// checks.at()!: one is chosen.

/**
 * What a check should have flowed: as agreed; a plate at the end of a pipe by the orifice standard; one on a bench's fixture,
 * with the room before it, as an opening in a wall. @throws Refusal outside the standard.
 */
export function expectedOf(c: Calibration): Working | number {
  if (c.expected) return c.expected.si;
  const { depression, bore } = c;
  if (bore === null)
    return work(plateFlow, {
      coefficient: noted(OPENING_COEFFICIENT, 'a sharp edge with the room before it'),
      diameter: c.diameter!.si,
      depression: depression!.si,
      density: REFERENCE_DENSITY,
    });
  return work(plateExpectation, {
    diameter: c.diameter!.si,
    bore: bore.si,
    depression: depression!.si,
    density: REFERENCE_DENSITY,
  });
}

/** The factor a check gives; undefined where the standard does not cover its plate. */
export function factorOf(c: Calibration): Working | undefined {
  if (c.points.length > 1) {
    const sum = (of: (p: Calibration['points'][number]) => number) => c.points.reduce((total, p) => total + of(p), 0);
    const lifts = `sum of ${c.points.length} lifts of a control head`;
    return work(calibrationFactor, {
      expected: noted(
        sum((p) => p.expected.si),
        lifts,
      ),
      measured: noted(
        sum((p) => p.measured.si),
        lifts,
      ),
    });
  }
  try {
    const expected = expectedOf(c);
    return work(calibrationFactor, {
      expected: typeof expected === 'number' ? noted(expected, 'as agreed') : expected,
      measured: c.measured.si,
    });
  } catch (error) {
    if (error instanceof Refusal) return undefined;
    throw error;
  }
}

/** Checks of one bench, oldest first. */
export const checksOf = (all: readonly Calibration[], sourceId: string | null): Calibration[] =>
  all.filter((c) => c.sourceId === sourceId).sort((a, b) => a.date.localeCompare(b.date) || a.id.localeCompare(b.id));

/** Whole days from one date to another, both written 2026-05-31. */
export const daysBetween = (from: string, to: string): number =>
  Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / 86_400_000);

/** What is to be said against the check a set-up leans on: old, out of its band, moved since the one before. */
export function calibrationDoubts(
  checks: readonly Calibration[],
  chosen: string | null,
  today: string,
  say: Say,
): string[] {
  if (chosen === null) return [];
  if (chosen === 'none' || chosen === 'unknown') return [calibrationWords(1, undefined, undefined, say)];
  const at = checks.findIndex((c) => c.id === chosen);
  const check = checks[at];
  if (!check) return ['The check this set-up leans on is gone.'];
  const factor = factorOf(check)?.value;
  if (factor === undefined)
    return ['The check this set-up leans on lies outside the orifice standard: it gives no factor.'];
  const before = checks[at - 1];
  const words = calibrationWords(factor, daysBetween(check.date, today), before && factorOf(before)?.value, say);
  const newer = checks.at(-1)!.id === chosen ? [] : ['There is a newer check of this bench.'];
  return [...(words ? [words] : []), ...newer];
}
