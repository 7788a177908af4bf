/** What `evaluate` prints of a build's ways to go: price, power, odds, fit, how often each comes first, and how decisions stand. */
import { budgetOfWorking, type Build as CoreBuild, type Say, type TargetResult } from '@alluvium/core';
import {
  mattersOf,
  matrixOf,
  rankOf,
  readWays,
  reasonsOf,
  standingToday,
  waysWords,
  type Build,
  type Bundle,
  type JudgingContext,
  type WholeHead,
} from '@alluvium/records';
import { z } from 'zod';

const figure = z.number().nullable();

export const WaysReport = z.object({
  ways: z.array(
    z.object({
      way: z.string(),
      name: z.string(),
      cost: z.number(),
      costUncertainty: z.number().describe('standard'),
      open: z.array(z.string()).describe('lines the sum is short of'),
      power: figure,
      powerUncertainty: figure,
      odds: figure,
      degree: z.string().nullable(),
      perHorsepowerGained: figure,
      perCfmGained: figure,
      fit: z.array(z.object({ item: z.string(), state: z.string(), note: z.string(), measured: z.boolean() })),
      comesFirst: z.number().describe('share of the draws'),
      reasonFor: z.string(),
      reasonAgainst: z.string(),
      turns: z.array(z.string()),
    }),
  ),
  matrix: z.array(
    z.object({
      name: z.string(),
      weight: z.number(),
      cells: z.array(z.object({ text: z.string(), mark: z.number(), evidence: z.string() })),
    }),
  ),
  words: z.array(z.string()),
  decisions: z.array(z.object({ made: z.string(), chosen: z.string(), holds: z.boolean(), said: z.array(z.string()) })),
});

/** The ways of one build; null where it has none. */
export function waysReport(
  bundle: Bundle,
  build: Build,
  core: CoreBuild,
  target: TargetResult,
  wholes: readonly WholeHead[],
  context: JudgingContext,
  say: Say,
): z.infer<typeof WaysReport> | null {
  const own = bundle.ways.filter((w) => w.buildId === build.id).sort((a, b) => a.position - b.position);
  if (own.length === 0) return null;
  const ways = readWays(own, build, core, target, wholes, context);
  const ranked = rankOf(ways, mattersOf(build));
  return {
    ways: ways.map((w, i) => {
      const reasons = reasonsOf(ways, i, build, say);
      return {
        way: w.way.id,
        name: w.way.name,
        cost: w.cost.sum.value,
        costUncertainty: w.cost.u,
        open: [...w.open],
        power: w.power?.value ?? null,
        powerUncertainty: (w.power && budgetOfWorking(w.power, w.book)?.u) ?? null,
        odds: w.odds ?? null,
        degree: w.degree ?? null,
        perHorsepowerGained: w.perGain?.value ?? null,
        perCfmGained: w.perFlow?.value ?? null,
        fit: w.fit
          .filter((f) => f.state !== 'unknown')
          .map(({ item, state, note, measured }) => ({ item, state, note, measured: measured !== undefined })),
        comesFirst: ranked.wins[i] ?? 0,
        reasonFor: reasons.for,
        reasonAgainst: reasons.against,
        turns: [...reasons.turns],
      };
    }),
    matrix: matrixOf(ways, build, say).map(({ name, weight, cells }) => ({
      name,
      weight,
      cells: cells.map(({ text, mark, evidence }) => ({ text, mark, evidence })),
    })),
    words: waysWords(ways, build, ranked, say),
    decisions: bundle.decisions
      .filter((d) => d.buildId === build.id)
      .map((d) => {
        const { holds, said } = standingToday(d, ways, build, ranked);
        return { made: d.made, chosen: d.content.chosen, holds, said: [...said] };
      }),
  };
}
