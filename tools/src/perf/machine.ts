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

export interface Round<T> {
  readonly result: T;
  readonly factor: number;
}

/**
 * A long piece of work, several times, each beside what the machine does before and after it: neither another program
 * in one of them nor one that ends with it is then taken for the work's own.
 */
export async function roundsOf<T>(run: () => T | Promise<T>, rounds = 3): Promise<Round<T>[]> {
  const found: Round<T>[] = [];
  let before = machineFactor();
  for (let i = 0; i < rounds; i++) {
    const result = await run();
    const after = machineFactor();
    found.push({ result, factor: (before + after) / 2 });
    before = after;
  }
  return found;
}

/** Of several rounds the one in the middle by its time against the machine's factor. */
export function middleRound<T>(rounds: readonly Round<T>[], timeOf: (result: T) => number): Round<T> {
  const share = ({ result, factor }: Round<T>) => timeOf(result) / factor;
  return [...rounds].sort((a, b) => share(a) - share(b))[Math.floor(rounds.length / 2)]!;
}
