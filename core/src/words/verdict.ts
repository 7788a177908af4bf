/** A verdict and what it rests on, in the words of the trade. */
import type { Evidence } from '../evaluate/evidence.js';
import type { Flip, HeadVerdict, OpenQuestion, Settling } from '../evaluate/verdict.js';
import { degreeOf, PROBABLE } from '../uncertainty/degree.js';
import { budgetOfWorking, digitsWorth, type Budget, type LeafBook } from '../uncertainty/working.js';
import type { Leaf } from '../uncertainty/leaf.js';
import { valueOf, type InputSpec, type Working } from '../method/method.js';
import { format, formatNumber, type Say } from '../quantity/format.js';
import { fromSi, unitFor, type Kind } from '../quantity/units.js';
import { listed } from './listed.js';
import { Refusal } from '../refusal/refusal.js';

// coefficients.minimum!: points with one over 1.

/** `98 in 100`; never quite nothing or all. */
export const oddsWords = (odds: number): string =>
  odds > 0.9949 ? 'over 99 in 100' : odds < 0.005 ? 'under 1 in 100' : `${Math.round(odds * 100)} in 100`;

/** A fact about the evidence, a sentence. */
export function evidenceWords(e: Evidence, say: Say): string {
  switch (e.code) {
    case 'no flow':
      return 'Nothing is known of its intake flow: type or paste a flow sheet first.';
    case 'one row':
      return 'Only one row is known.';
    case 'far row':
      return `The nearest row is ${say.of(e.off, 'lift')} from the lift that counts, ${say.of(e.lift, 'lift')}.`;
    case 'claim':
      return `Nothing of this was measured: it rests on the word of ${e.source ?? 'its source'}.`;
    case 'elsewhere':
      return `Measured elsewhere, by ${e.source ?? 'another bench'}.`;
    case 'pooled':
      return `Mean of ${e.count} sheets of its port.`;
    case 'sheets apart':
      return `${e.names[0]} and ${e.names[1]} are of one port and lie ${say.of(e.by, 'percent')} apart, more than set-ups and benches explain: find out which is right, and set the other aside.`;
    case 'other bore':
      return `Tested on a bore of ${say.of(e.fixture, 'length')}; this engine’s is ${say.of(e.bore, 'length')}.`;
    case 'no bore':
      return 'The engine’s bore is not known: whether the test’s fixture fits it can’t be told.';
    case 'other valve':
      return 'Tested with another valve than its own, of a size nobody stated.';
    case 'larger valve':
      return `Tested with a ${say.of(e.used, 'length')} intake valve; the head has ${say.of(e.own, 'length')}.`;
    case 'changed':
      return `Sizes changed after the test: ${listed(e.what)}.`;
    case 'unknown pipe':
      return 'Nobody says whether its exhaust was tested bare or piped, which moves exhaust / intake.';
    case 'no exhaust':
      return 'Nothing is known of its exhaust flow: it is taken as usual.';
    case 'no area':
      return 'Its least port area is not known: it is taken as ports of its flow usually have it.';
    case 'mean area':
      return 'Only a mean port area is known; a choke would not show.';
    case 'fuel':
      return 'Power per flow is a rule of petrol engines: state this engine’s own factor to judge its flow.';
    case 'mach index':
      return `Its mean inlet Mach index at the target is ${say.of(e.value, 'ratio', { digits: 2 })}, far beyond where engines fill.`;
    case 'simulated': {
      const rules = degreeWords({ degree: e.rules, odds: e.odds });
      return `By the simulation of this engine: ${say.of(e.power, 'power', { digits: 0 })} ± ${say.of(e.u, 'power', { digits: 0 })} at the speed wanted. The rules of thumb alone say: ${rules}.`;
    }
    case 'exhaust share':
      return `Its exhaust flows only ${say.of(e.value, 'percent', { digits: 0 })} of the intake, below what is usual: part of that is taken off its flow.`;
    case 'too fast':
      return `${say.of(e.flow, 'flow', { digits: 0 })} through ${say.of(e.area, 'area')} is ${say.of(e.speed, 'velocity', { digits: 0 })}, where 28 in of water drives ${say.of(e.driven, 'velocity', { digits: 0 })}: the two can’t both be right.`;
    case 'past the valve':
      return `${say.of(e.flow, 'flow', { digits: 0 })} at ${say.of(e.lift, 'lift')} is more than a ${say.of(e.valve, 'length')} valve passes: the two can’t both be right.`;
    case 'target':
      return `The target asks for ${say.of(e.pressure, 'pressure', { digits: say.system === 'inch' ? 0 : 1 })} of mean effective pressure, more than any engine of its kind reaches: look at its power and speed first.`;
    case 'stated area':
      return 'Its least port area is its maker’s word, not measured.';
  }
}

/** An unknown condition with the verdict under each answer. */
export const openWords = (q: OpenQuestion): string =>
  `${q.question} ${q.answers.map((a) => `${a.label}: ${a.degree} (${oddsWords(a.odds)})`).join('; ')}.`;

/** One line of the list for the bench. */
export interface ToSettle {
  readonly act: string;
  readonly minutes: number;
  /** Odds then, and the chance that the verdict is a sure one; undefined where the act lifts what holds it back. */
  readonly odds?: number;
  readonly decides?: number;
}

/** An act that settles it less often than this is not worth its minutes. */
const WORTH_IT = 0.05;
export const isWorthIt = (a: ToSettle): boolean => a.decides === undefined || a.decides >= WORTH_IT;

/** What lifts what the evidence holds back. */
const LIFTS: Partial<Record<Evidence['code'], { readonly act: string; readonly minutes: number }>> = {
  'no flow': { act: 'flow its intake', minutes: 60 },
  'no exhaust': { act: 'flow its exhaust', minutes: 30 },
  'no area': { act: 'measure its least port area: pinch or window', minutes: 15 },
  'mean area': { act: 'measure the pinch', minutes: 10 },
  'stated area': { act: 'measure the pinch', minutes: 10 },
  'too fast': { act: 'measure the least area again, and look at the flow’s units and range', minutes: 15 },
  'past the valve': { act: 'measure the valve again, and look at the flow’s units and range', minutes: 10 },
  'one row': { act: 'flow it at every lift up to the cam’s', minutes: 40 },
  'far row': { act: 'flow it at the lift that counts', minutes: 10 },
  claim: { act: 'test it on your own bench', minutes: 60 },
  'other bore': { act: 'test it on a fixture of this engine’s bore', minutes: 60 },
  'other valve': { act: 'ask which valve it was tested with', minutes: 5 },
  'larger valve': { act: 'test it with its own valve', minutes: 40 },
  'sheets apart': { act: 'find which of its sheets is right, or test the port once more', minutes: 40 },
  changed: { act: 'test it again as it now is', minutes: 60 },
  fuel: { act: 'state this engine’s own power per flow', minutes: 5 },
};

/** What would settle a verdict: first what lifts what the evidence holds back, then the readings that move the odds most. */
export function settlingsOf(verdict: HeadVerdict): ToSettle[] {
  const held = verdict.evidence.flatMap((e): ToSettle[] => {
    const lift = LIFTS[e.code];
    return lift && (e.most !== 'carries' || e.least) ? [lift] : [];
  });
  const asked = verdict.open.map((q): ToSettle => ({ act: `ask: ${q.question}`, minutes: 5 }));
  const short = verdict.degree === 'falls short';
  const readings = verdict.settling.map((s: Settling): ToSettle => ({
    act: s.settle.act,
    minutes: s.settle.minutes,
    odds: s.odds,
    decides: Math.min(1, s.decides),
  }));
  const all = [...(short ? [] : held), ...asked, ...readings];
  return all.filter((a, i) => all.findIndex((o) => o.act === a.act) === i);
}

/** A change of one leaf, in its own unit: `+.012 in²`, `−3.1 %`. */
export function changeOf(leaf: Leaf, change: number, say: Say): string {
  const kind = leaf.kind ?? 'percent';
  const unit = unitFor(kind, say.system);
  const digits = Math.min(
    4,
    Math.max(unit.digits, -Math.floor(Math.log10(Math.abs(fromSi(change, unit) - fromSi(0, unit)) || 1))),
  );
  return format(change, kind, say.system, { signed: true, digits: kind === 'percent' ? 1 : digits });
}

export const flipWords = (f: Flip, say: Say): string => `${f.leaf.label} ${changeOf(f.leaf, f.change, say)}`;

/** `± 4 hp`, with one figure of the uncertainty; undefined where nothing says how sure the number is. */
export function uncertaintyOf(
  working: Working,
  book: LeafBook | undefined,
  say: Say,
): { readonly text: string; readonly digits: number; readonly budget: Budget } | undefined {
  const budget = book && budgetOfWorking(working, book);
  if (!budget) return undefined;
  const { kind } = working.method.result;
  const unit = unitFor(kind, say.system);
  const digits = digitsWorth(fromSi(budget.u, unit) - fromSi(0, unit), unit.digits + 1);
  // 9.47:1 ± 0.07, not ± 0.07:1.
  const write = kind === 'compression' ? formatNumber : format;
  return { digits, budget, text: `± ${write(budget.u, kind, say.system, { digits })}` };
}

/** Kinds in which a little more of something is a thing a builder can do, with the step he thinks in. */
const STEPS: Partial<Record<Kind, { readonly inch: number; readonly metric: number }>> = {
  flow: { inch: 1, metric: 1 },
  area: { inch: 0.01, metric: 10 },
  length: { inch: 0.01, metric: 0.1 },
  lift: { inch: 0.01, metric: 0.1 },
  volume: { inch: 1, metric: 1 },
};

/** What a little more of each input is worth: `1 cfm more of peak intake flow is +1.5 hp`. */
export function worthOf(working: Working, say: Say): string[] {
  const { method, given, value } = working;
  const values = Object.fromEntries(Object.entries(given).map(([name, x]) => [name, valueOf(x)]));
  return Object.entries<InputSpec>(method.inputs).flatMap(([name, input]) => {
    const kind = input.kind === 'curve' || input.kind === 'cam' ? undefined : input.kind;
    const step = kind && STEPS[kind]?.[say.system];
    const at = values[name];
    if (!kind || step === undefined || typeof at !== 'number') return [];
    const unit = unitFor(kind, say.system);
    try {
      const change = method.compute({ ...values, [name]: at + step * unit.factor }) - value;
      if (!Number.isFinite(change) || change === 0) return [];
      const result = method.result.kind;
      const shown = unitFor(result, say.system);
      const digits = Math.max(shown.digits, digitsWorth(Math.abs(fromSi(change, shown) - fromSi(0, shown)) / 5, 4));
      return [
        `${format(step * unit.factor, kind, say.system)} more of ${input.label} is ${format(change, result, say.system, { signed: true, digits })}`,
      ];
    } catch (error) {
      if (error instanceof Refusal) return [];
      throw error;
    }
  });
}

/** Which of two heads is better, said both ways when the draws cannot tell. */
export function betterWords(a: string, b: string, odds: number): string {
  if (odds >= PROBABLE) return `${a} beats ${b}: ${oddsWords(odds)}.`;
  if (odds <= 1 - PROBABLE) return `${b} beats ${a}: ${oddsWords(1 - odds)}.`;
  return `${a} and ${b} can’t be told apart.`;
}

/** The verdict in a few words, for a list: `probably carries, 84 in 100`. */
export const degreeWords = (v: Pick<HeadVerdict, 'degree' | 'odds'>): string => {
  const odds = oddsBeside(v);
  return odds === undefined ? v.degree : `${v.degree}, ${oddsWords(odds)}`;
};

/** The odds where they say what the word says. Where the evidence holds the word back, they would contradict it. */
export const oddsBeside = ({ degree, odds }: Pick<HeadVerdict, 'degree' | 'odds'>): number | undefined =>
  odds !== undefined && degreeOf(odds) === degree ? odds : undefined;

/** Flow of a measured sheet above what the valve's least area passes: a question to the figures. */
export const aboveOneWords = (
  side: string,
  points: readonly { readonly lift: number; readonly coefficients: { readonly minimum?: Working } }[],
  say: Say,
): string => {
  const worst = points.reduce((a, b) => (b.coefficients.minimum!.value > a.coefficients.minimum!.value ? b : a));
  return `At ${listed(points.map((p) => say.of(p.lift, 'lift')))} the ${side} flows more than the valve’s least area passes (coefficient ${say.of(worst.coefficients.minimum!.value, 'ratio', { digits: 2 })}). Are the lift’s zero, the seat and the valve’s size right?`;
};
