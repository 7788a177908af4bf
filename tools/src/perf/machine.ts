/** How fast this machine is now beside the one the limits were written for. */
import { performance } from 'node:perf_hooks';

const CELLS = 4_000;
const SWEEPS = 250;

/**
 * Cells a second on the faster of the machines this was written on; the slower kind does 0.45 of it (18–25 against
 * 43–53 million of the loop they were compared by). Taken over from that ratio, not measured on the faster one with
 * this very loop.
 */
export const REFERENCE_RATE = 190e6;

/** One round of the fixed loop: floating point, square roots and neighbours in memory, as the product's own work is. */
export function cellsPerSecond(now: () => number = () => performance.now()): number {
  const a = Float64Array.from({ length: CELLS }, (_, i) => 1 + 0.1 * Math.sin(i));
  const b = new Float64Array(CELLS);
  const began = now();
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    for (let i = 1; i < CELLS - 1; i++) {
      const slope = 0.5 * (a[i + 1]! - a[i - 1]!);
      b[i] = a[i]! - 0.1 * slope * Math.sqrt(Math.abs(a[i]!)) + 0.05 * (a[i + 1]! - 2 * a[i]! + a[i - 1]!);
    }
    a.set(b.subarray(1, CELLS - 1), 1);
  }
  return (CELLS * SWEEPS) / ((now() - began) / 1000);
}

/**
 * What a time limit is multiplied by on this machine at this moment: never under one, so that a fast machine passes
 * nothing a slow one would not. The middle of several rounds, the first left out while the engine warms.
 */
export function machineFactor(rate: () => number = cellsPerSecond): number {
  const rounds = Array.from({ length: 12 }, rate)
    .slice(3)
    .sort((x, y) => x - y);
  return Math.max(1, REFERENCE_RATE / rounds[Math.floor(rounds.length / 2)]!);
}

/**
 * A long piece of work beside what the machine does before and after it: of some rounds the one in the middle by that
 * ratio, so that neither another program in one of them nor one that ends with it is taken for the work's own.
 */
export function middleRound(run: () => void, rounds = 3): { readonly ms: number; readonly factor: number } {
  let before = machineFactor();
  const measured = Array.from({ length: rounds }, () => {
    const began = performance.now();
    run();
    const ms = performance.now() - began;
    const after = machineFactor();
    const factor = (before + after) / 2;
    before = after;
    return { ms, factor };
  }).sort((a, b) => a.ms / a.factor - b.ms / b.factor);
  return measured[Math.floor(rounds / 2)]!;
}
