/** What matters to a build, each way's figure for it with what it rests on, and how often each way comes first. */
import {
  WORKING_SPEEDS,
  budgetOfWorking,
  marksOf,
  rankWays,
  type Criterion,
  type Kind,
  type LeafBook,
  type Ranked,
  type Say,
  type Scored,
  type Working,
} from '@alluvium/core';
import type { Build } from '../nouns/build.js';
import type { WayRead } from './ways.js';

// WORKING_SPEEDS.other!: one of the list above.
// marks[]!: one for each way.

/** What can matter of itself; whatever else is named is marked by the owner. */
export const COMPUTED_MATTERS = ['power', 'torque', 'price', 'time', 'risk'] as const;
export type ComputedMatter = (typeof COMPUTED_MATTERS)[number];
export const isComputedMatter = (name: string): name is ComputedMatter =>
  (COMPUTED_MATTERS as readonly string[]).includes(name);

export const USUAL_MATTERS: Build['matters'] = [
  { name: 'power', weight: 3 },
  { name: 'price', weight: 3 },
  { name: 'risk', weight: 2 },
  { name: 'time', weight: 1 },
];
export const mattersOf = ({ matters }: Pick<Build, 'matters'>): Build['matters'] =>
  matters.length > 0 ? matters : USUAL_MATTERS;

/** The speeds an engine works at, from end to end, turns a second: the build's own, else those of its use. `speed` is the target's. */
export function workingSpeeds(
  build: Pick<Build, 'use' | 'workingFrom' | 'workingTo'>,
  speed: number,
): readonly [number, number] {
  if (build.workingFrom && build.workingTo) return [build.workingFrom.si, build.workingTo.si];
  const [from, to] = WORKING_SPEEDS[build.use] ?? WORKING_SPEEDS.other!;
  return [from * speed, to * speed];
}

const scored = (working: Working | undefined, book: LeafBook): Scored | undefined =>
  working && { value: working.value, parts: budgetOfWorking(working, book)?.shares ?? [] };
const flat = (value: number | undefined): Scored | undefined =>
  value === undefined ? undefined : { value, parts: [] };

/** What is read of a way for each thing that counts of itself; whether less of it is better. */
const READS: Readonly<
  Record<
    ComputedMatter,
    { readonly less: boolean; readonly kind: Kind; readonly of: (w: WayRead) => Scored | undefined }
  >
> = {
  power: { less: false, kind: 'power', of: (w) => scored(w.power, w.book) },
  torque: { less: false, kind: 'torque', of: (w) => w.torque },
  price: {
    less: true,
    kind: 'money',
    of: (w) => (w.cost.lines.length > 0 ? scored(w.cost.sum, w.cost.book) : undefined),
  },
  time: { less: true, kind: 'ratio', of: (w) => flat(w.way.days ?? undefined) },
  risk: { less: false, kind: 'percent', of: (w) => flat(w.stops.length > 0 ? 0 : w.odds) },
};

/** What matters, with each way's figure for it; the owner's own things are marked 0 to 10. */
export const criteriaOf = (ways: readonly WayRead[], matters: Build['matters']): Criterion[] =>
  matters.map(({ name, weight }): Criterion => {
    const read = isComputedMatter(name) ? READS[name] : undefined;
    return {
      name,
      weight,
      less: read?.less ?? false,
      scores: ways.map((w) => (read ? read.of(w) : flat(w.way.marks[name]))),
    };
  });

export const rankOf = (ways: readonly WayRead[], matters: Build['matters']): Ranked =>
  rankWays(ways.length, criteriaOf(ways, matters));

/** One cell of the matrix: the figure, how sure it is, what it is worth among the ways, and on what evidence it stands. */
export interface MatrixCell {
  readonly value?: number;
  readonly u: number;
  /** In words, with its uncertainty; a dash where nothing is known. */
  readonly text: string;
  /** 0 for the worst of the ways, 1 for the best. */
  readonly mark: number;
  readonly evidence: string;
}
export interface MatrixRow {
  readonly name: string;
  readonly weight: number;
  readonly cells: readonly MatrixCell[];
}

function evidenceOf(name: string, way: WayRead): string {
  if (!isComputedMatter(name)) return way.way.marks[name] === undefined ? 'not marked' : 'the owner’s mark';
  switch (name) {
    case 'price': {
      const guesses = way.way.lines.filter((l) => l.guess && l.price).length;
      const count = way.cost.lines.length;
      const lines = `${count} ${count === 1 ? 'line' : 'lines'}`;
      const open = way.open.length > 0 ? `, ${way.open.length} without a price` : '';
      return count === 0 ? 'no price yet' : guesses > 0 ? `${lines}, ${guesses} guessed${open}` : `${lines}${open}`;
    }
    case 'time':
      return way.way.days === null ? 'nobody said' : 'as told';
    case 'torque':
      return way.torque ? 'simulated over the working speeds' : 'not run yet';
    case 'power':
    case 'risk': {
      if (name === 'risk' && way.stops.length > 0) return 'something stops it';
      const sheet = way.evaluation?.sheet;
      if (!sheet) return 'no flow at this stage';
      const from = sheet.kind === 'claim' ? 'a claim' : 'measured';
      return way.way.gain ? `planned from ${from}` : from;
    }
  }
}

/** Every matter with every way's cell. */
export function matrixOf(ways: readonly WayRead[], build: Build, say: Say): MatrixRow[] {
  const matters = mattersOf(build);
  return criteriaOf(ways, matters).map((criterion): MatrixRow => {
    const { name, scores, weight } = criterion;
    const marks = marksOf(
      scores.map((s) => s?.value),
      criterion.less,
    );
    const kind = isComputedMatter(name) ? READS[name].kind : 'ratio';
    const text = (v: number) =>
      name === 'time' ? `${v} days` : say.of(v, kind, { digits: kind === 'torque' ? 1 : 0 });
    return {
      name,
      weight,
      cells: ways.map((way, i): MatrixCell => {
        const score = scores[i];
        const u = score ? Math.hypot(...score.parts.map((p) => p.change)) : 0;
        return {
          ...(score ? { value: score.value } : {}),
          u,
          text: score ? `${text(score.value)}${u > 0 ? ` ± ${text(2 * u)}` : ''}` : '–',
          mark: marks[i]!,
          evidence: evidenceOf(name, way),
        };
      }),
    };
  });
}
