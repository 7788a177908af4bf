import { REFERENCE_DENSITY, calibrationFactor, noted, plateExpectation, work, type Working } from '@alluvium/core';
import type { Calibration } from '../nouns/bench.js';

/** What a check should have flowed: as agreed, else by the orifice standard. @throws RangeError outside the standard. */
export function expectedOf(c: Calibration): Working | number {
  if (c.expected) return c.expected.si;
  return work(plateExpectation, {
    diameter: c.diameter!.si,
    bore: c.bore!.si,
    depression: c.depression!.si,
    density: REFERENCE_DENSITY,
  });
}

/** The factor a check gives; undefined where the standard does not cover its plate. */
export function factorOf(c: Calibration): Working | undefined {
  try {
    const expected = expectedOf(c);
    return work(calibrationFactor, {
      expected: typeof expected === 'number' ? noted(expected, 'as agreed') : expected,
      measured: c.measured.si,
    });
  } catch (error) {
    if (error instanceof RangeError) return undefined;
    throw error;
  }
}

/** Checks of one bench, oldest first. */
export const checksOf = (all: readonly Calibration[], sourceId: string | null): Calibration[] =>
  all.filter((c) => c.sourceId === sourceId).sort((a, b) => a.date.localeCompare(b.date) || a.id.localeCompare(b.id));

/** Whole days from one date to another, both written 2026-05-31. */
export const daysBetween = (from: string, to: string): number =>
  Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / 86_400_000);
