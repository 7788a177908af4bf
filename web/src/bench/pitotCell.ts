import {
  formatNumber,
  mean,
  parseQuantity,
  REFERENCE_DENSITY,
  unitFor,
  written,
  type Parsed,
  type Quantity,
  type System,
} from '@alluvium/core';
import type { Shown } from './live.js';

// parts.at()!, sorted[]!: splitting gives one part at least; the cuts lie inside the sorted list.

export interface PitotReading {
  readonly low: Quantity;
  readonly high: Quantity | null;
}

/** The pressure a pitot shows at a speed; SI. */
const pressureAt = (speed: number): number => (REFERENCE_DENSITY * speed ** 2) / 2;

/** A pitot pressure as typed, or a speed with its unit (`210 ft/s`), kept as the pressure that speed shows. */
function readPressure(text: string, system: System): Parsed {
  if (!/(ft|m)\s*\/\s*(s|min)|fps|fpm/i.test(text)) return parseQuantity(text, 'depression', system);
  const speed = parseQuantity(text, 'velocity', system);
  return speed.ok
    ? parseQuantity(
        `${formatNumber(pressureAt(speed.quantity.si), 'depression', system, { digits: 3 })} ${unitFor('depression', system).symbol}`,
        'depression',
        system,
      )
    : speed;
}

/**
 * Reads a cell of a velocity map: one pressure, or a range where it bounces: `12`, `8-14`, `8 to 14 inH2O`; or speeds, where
 * their unit is written: `210 ft/s`.
 */
export function readPitot(text: string, system: System): PitotReading | undefined | { readonly problem: string } {
  const plain = text.trim();
  if (plain === '') return undefined;
  const parts = plain.split(/\s*(?:\bto\b|…|\.\.|(?<=[\d\s])[-–](?=\s*[\d.]))\s*/i);
  if (parts.length > 2) return { problem: `“${plain}” is not a pressure, nor two of them.` };
  // A unit written once stands for both.
  const unit = /[a-z"°%²³][\w²³°/]*$/i.exec(parts.at(-1)!)?.[0] ?? '';
  const read = parts.map((p) => readPressure(/[a-z"]/i.test(p) ? p : `${p} ${unit}`.trim(), system));
  const wrong = read.find((r) => !r.ok);
  if (wrong && !wrong.ok) return { problem: wrong.problem };
  const [low, high] = read.map((r) => (r.ok ? r.quantity : undefined)) as [Quantity, Quantity | undefined];
  if (high && high.si < low.si) return { problem: 'Of a bouncing reading give the lower figure first.' };
  return { low, high: high ?? null };
}

/** A reading as it stands in its cell. */
export function sayPitot(reading: PitotReading | undefined): string {
  if (!reading) return '';
  if (!reading.high) return reading.low.typed;
  // A unit both share is written once.
  const unit = / [a-z"]\S*$/i.exec(reading.high.typed)?.[0] ?? '';
  const low = unit && reading.low.typed.endsWith(unit) ? reading.low.typed.slice(0, -unit.length) : reading.low.typed;
  return `${low}-${reading.high.typed}`;
}

/** Bouncing more than this, as a share of the mean, a live reading is kept as a range. */
const BOUNCE = 0.06;

/** A pitot in the hand is taken to be in its new place so long after the cursor went there, s. */
const MOVED = 0.1;
/** A motor stands where it was sent within this share of the port. */
const THERE = 0.005;

/**
 * The samples of a pitot taken at one place of the grid: a motor says where it stands, a hand is trusted shortly after
 * the cursor moved (`since`, s). An order takes its time on the way; what was seen before it arrived is of another cell.
 */
export function samplesAt(
  samples: readonly Shown[],
  place: { readonly x: number; readonly y: number },
  since: number,
): readonly Shown[] {
  return samples.filter((s) =>
    s.probe ? s.at > since && Math.hypot(s.probe.x - place.x, s.probe.y - place.y) < THERE : s.at > since + MOVED,
  );
}

/** The last samples of a pitot as a reading; undefined for fewer than five. */
export function livePitot(values: readonly number[], system: System): PitotReading | undefined {
  if (values.length < 5) return undefined;
  const { symbol } = unitFor('depression', system);
  const write = (si: number) => written(si, 'depression', symbol, 2);
  const sorted = [...values].sort((a, b) => a - b);
  // A tenth of the samples at either end are spikes.
  const cut = Math.floor(sorted.length / 10);
  const [low, high] = [sorted[cut]!, sorted[sorted.length - 1 - cut]!];
  const level = mean(values);
  return level !== 0 && (high - low) / 2 > BOUNCE * Math.abs(level)
    ? { low: write(low), high: write(high) }
    : { low: write(level), high: null };
}
