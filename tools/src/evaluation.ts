/** The evaluation of a bundle as plain figures: what `npm run -s evaluate` prints. All values are SI. */
import {
  DEGREES,
  arrivalObjections,
  budgetOfMade,
  budgetOfWorking,
  camLiftOf,
  evaluateTarget,
  matchWords,
  openWords,
  overCam,
  sayIn,
  settlingsOf,
  targetWords,
  evidenceWords,
  flowLeaf,
  targetBook,
  type Degree,
  type HeadVerdict,
  type LeafBook,
  type MatchResult,
  type Say,
  type SheetResult,
  type SideResult,
  type Working,
} from '@alluvium/core';
import {
  assumptionsForBuild,
  assumptionsOf,
  booksOf,
  claimRows,
  contextOf,
  libraryOf,
  evaluateHead,
  evaluateSheetOf,
  owedOfBuild,
  owedOfSheet,
  toCoreBuild,
  type SimulatedHead,
  wholesOf,
  type Build,
  type Bundle,
} from '@alluvium/records';
import { z } from 'zod';
import { ChangeReport, changeOf } from './change.js';
import { HeadReport, OwedReport, headReport, owedReport } from './heads.js';
import { SimulationReport, simulationOf } from './simulation.js';
import { WaysReport, waysReport } from './ways.js';

const figure = z.number().nullable();
const Uncertainty = z
  .object({
    standard: z.number(),
    shares: z.array(z.object({ leaf: z.string(), share: z.number() })).describe('the three largest'),
  })
  .nullable();
const Side = z.object({
  points: z.array(
    z.object({
      lift: z.number(),
      flow: z.number().describe('at 28 inH2O, m³/s'),
      uncertainty: Uncertainty.describe('of the flow'),
      spread: figure,
      noisy: z.boolean(),
      liftRatio: figure,
      coefficients: z.object({ curtain: figure, disc: figure, throat: figure, minimum: figure }),
    }),
  ),
  peak: z.object({ lift: z.number(), flow: z.number() }).nullable(),
  knee: figure,
  backsUp: z.object({ from: z.number(), fall: z.number() }).nullable(),
  stability: figure,
  doubtfulLifts: z.array(z.number()),
});

/** Shape of the output; lengths in m, flows in m³/s, power in W, speeds in 1/s, angles in rad, ratios as fractions. */
export const Evaluation = z.object({
  format: z.literal('alluvium-evaluation'),
  version: z.literal(1),
  sheets: z.array(
    z.object({
      id: z.string(),
      title: z.string(),
      head: z.string(),
      stage: z.string(),
      source: z.string().nullable(),
      kind: z.enum(['measured', 'claim']),
      depressionKnown: z.boolean(),
      intake: Side,
      exhaust: Side,
      ratios: z.array(z.object({ lift: z.number(), ratio: z.number() })),
      peakRatio: figure,
      peakRatioUncertainty: Uncertainty,
      setAside: z.string().describe('why another sheet of its port is believed; empty where it counts'),
      owed: OwedReport,
    }),
  ),
  heads: z.array(HeadReport),
  claims: z
    .array(
      z.object({
        head: z.string(),
        stage: z.string(),
        sheet: z.string(),
        side: z.enum(['intake', 'exhaust']),
        verdict: z.string(),
        compared: z.int().describe('rows held against ours'),
        level: figure.describe('mean error, a share'),
        explained: figure.describe('how far off benches, set-ups and what nobody stated explain, a share'),
        words: z.string(),
      }),
    )
    .describe('published tables of flow, each judged as a whole'),
  builds: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      displacement: z.number(),
      torque: z.number(),
      bmep: z.number(),
      believability: z.string(),
      demand: figure.describe('null where the fuel has no power per flow'),
      areaNeeded: z.number(),
      uncertainties: z
        .object({ displacement: Uncertainty, demand: Uncertainty, areaNeeded: Uncertainty })
        .describe('of the figures of the target'),
      usefulLift: figure,
      sentence: z.string(),
      owed: OwedReport,
      heads: z.array(
        z.object({
          head: z.string(),
          name: z.string(),
          stage: z.string(),
          sheet: z.string().nullable(),
          decidingRunner: z.string().nullable(),
          runners: z.array(z.object({ name: z.string(), lift: z.number(), flow: z.number() })),
          sheets: z.array(z.string()).describe('the sheets of its port that are read as one'),
          flow: figure,
          flowUncertainty: Uncertainty,
          margin: figure,
          reachedAt: figure,
          atCamLift: figure,
          meanOverCam: figure,
          exhaustMeanOverCam: figure,
          schools: z.array(
            z.object({
              id: z.string(),
              assumes: z.string(),
              power: figure,
              notHere: z.string().nullable().describe('why it does not apply to this engine'),
              uncertainty: Uncertainty,
            }),
          ),
          limits: z.array(z.object({ id: z.string(), speed: z.number(), uncertainty: Uncertainty })),
          limitedBy: z.string().nullable(),
          portVelocity: figure,
          machIndex: figure,
          lobeSeparationWanted: figure,
          windowFlow: figure,
          againstWindow: figure,
          windowSpeed: figure,
          throatSpeed: figure,
          uncertainties: z.object({
            meanOverCam: Uncertainty,
            portVelocity: Uncertainty,
            machIndex: Uncertainty,
            windowFlow: Uncertainty,
          }),
          verdict: z.enum(['carries', 'close', 'short', 'unknown']).describe('the degree, in the words of version 1'),
          degree: z.enum(DEGREES as [Degree, ...Degree[]]),
          odds: figure,
          hardLimits: z
            .array(
              z.object({
                runner: z.string(),
                id: z.string(),
                margin: z.number().describe('ln(limit ÷ target)'),
                standardUncertainty: z.number(),
                odds: z.number(),
                shares: z.array(z.object({ leaf: z.string(), share: z.number() })).describe('the three largest'),
              }),
            )
            .describe('each hard limit of each runner'),
          evidence: z.array(z.string()),
          open: z.array(z.string()),
          toSettle: z.array(z.object({ act: z.string(), minutes: z.number(), odds: figure, decides: figure })),
          reasons: z.array(z.string()),
          simulation: SimulationReport.optional(),
          condition: z.enum(['unchecked', 'usable', 'usable after', 'rejected']),
          objections: z.array(z.string()),
        }),
      ),
      changes: z.array(ChangeReport).describe('the ledger of every head with more than one stage'),
      decide: WaysReport.nullable().describe('its ways to go; null where it has none'),
    }),
  ),
});
export type Evaluation = z.infer<typeof Evaluation>;

const value = (w: Working | undefined): number | null => w?.value ?? null;
const MOST_SHARES = 3;

const sharesOf = (shares: readonly { readonly leaf: { readonly id: string }; readonly share: number }[]) =>
  shares.slice(0, MOST_SHARES).map((s) => ({ leaf: s.leaf.id, share: s.share }));

function uncertainty(w: Working | undefined, book: LeafBook): z.infer<typeof Uncertainty> {
  const budget = w && budgetOfWorking(w, book);
  return budget ? { standard: budget.u, shares: sharesOf(budget.shares) } : null;
}
/** The same of a figure that is itself a leaf of the book. */
function made(id: string | undefined, book: LeafBook): z.infer<typeof Uncertainty> {
  const budget = id === undefined ? undefined : budgetOfMade(id, book);
  return budget ? { standard: budget.u, shares: sharesOf(budget.shares) } : null;
}

/** The degree in the words of version 1 of this format. */
const OLD_WORDS: Readonly<Record<Degree, 'carries' | 'close' | 'short'>> = {
  carries: 'carries',
  'probably carries': 'close',
  "can't be told": 'close',
  'probably short': 'close',
  'falls short': 'short',
};

const verdictOf = (verdict: HeadVerdict, match: MatchResult, say: Say) => ({
  verdict: match.intake ? OLD_WORDS[verdict.degree] : ('unknown' as const),
  degree: verdict.degree,
  odds: verdict.odds ?? null,
  hardLimits: verdict.limits
    .filter((l) => !l.usual)
    .map((l) => ({
      runner: l.runner,
      id: l.id,
      margin: l.margin,
      standardUncertainty: l.u,
      odds: l.odds,
      shares: sharesOf(l.budget),
    })),
  evidence: verdict.evidence.map((e) => evidenceWords(e, say)),
  open: verdict.open.map(openWords),
  toSettle: settlingsOf(verdict).map((a) => ({
    act: a.act,
    minutes: a.minutes,
    odds: a.odds ?? null,
    decides: a.decides ?? null,
  })),
});

function side(result: SideResult, book: LeafBook): z.infer<typeof Side> {
  return {
    points: result.points.map((p) => ({
      lift: p.lift,
      flow: p.flow.value,
      uncertainty: uncertainty(p.flow, book),
      spread: p.spread ?? null,
      noisy: p.noisy,
      liftRatio: p.liftRatio ?? null,
      coefficients: {
        curtain: value(p.coefficients.curtain),
        disc: value(p.coefficients.disc),
        throat: value(p.coefficients.throat),
        minimum: value(p.coefficients.minimum),
      },
    })),
    peak: result.peak ?? null,
    knee: result.knee ?? null,
    backsUp: result.backsUp ?? null,
    stability: value(result.stability),
    doubtfulLifts: result.doubts.map((d) => result.curve!.points[d.index]!.lift),
  };
}

/**
 * Evaluates every sheet, and every build against its lineup; a build without a lineup is held against every head of the
 * bundle at its last stage. @throws Refusal when a build's figures fit no engine (a cam no curve can have).
 */
export function evaluateBundle(
  bundle: Bundle,
  builds: readonly Build[] = bundle.builds,
  { simulate = false, change = false }: { readonly simulate?: boolean; readonly change?: boolean } = {},
): Evaluation {
  const wholes = wholesOf(bundle);
  const say = sayIn('inch');
  const shop = assumptionsOf(bundle.assumptions);
  const own = bundle.sources.find((s) => s.kind === 'own bench')?.id;
  const library = libraryOf(wholes, own);
  const spreads = library.spreads(shop);
  const judging = { sources: bundle.sources, assumptions: shop, shop: spreads };
  const claims = claimRows(wholes, bundle.sources, contextOf(library, own, say, judging), { builds }).flatMap((row) =>
    row.flow && row.side
      ? [
          {
            head: row.headId,
            stage: row.stageId,
            sheet: row.flow.sheet.id,
            side: row.side,
            verdict: row.verdict,
            compared: row.flow.whole?.count ?? 0,
            level: row.flow.whole?.level ?? null,
            explained: row.flow.whole?.half ?? null,
            words: row.words,
          },
        ]
      : [],
  );
  const checked = new Set(bundle.calibrations.map((c) => c.sourceId));
  return {
    format: 'alluvium-evaluation',
    version: 1,
    sheets: wholes.flatMap((whole) =>
      whole.sheets.map((sheet) => {
        const result: SheetResult = evaluateSheetOf(whole, sheet);
        const { flow: book } = booksOf(whole, [sheet], { sources: bundle.sources, assumptions: shop });
        return {
          id: sheet.id,
          title: sheet.title,
          head: whole.head.id,
          stage: sheet.stageId,
          source: sheet.sourceId,
          kind: sheet.kind,
          depressionKnown: sheet.setup.depression !== null,
          intake: side(result.intake, book),
          exhaust: side(result.exhaust, book),
          ratios: result.ratios.map((r) => ({ lift: r.lift, ratio: r.ratio.value })),
          peakRatio: value(result.peakRatio),
          peakRatioUncertainty: uncertainty(result.peakRatio, book),
          setAside: sheet.setAside,
          owed: owedReport(owedOfSheet(sheet)),
        };
      }),
    ),
    heads: wholes.map(headReport),
    claims,
    builds: builds.map((build) => {
      const assumptions = assumptionsForBuild(shop, build, bundle.ownFactors);
      const core = toCoreBuild(build, assumptions);
      const target = evaluateTarget(core);
      const book = targetBook(core, target, assumptions);
      const lineup = bundle.lineups.filter((l) => l.buildId === build.id).sort((a, b) => a.position - b.position);
      const entries = lineup.length
        ? lineup.map((l) => ({
            whole: wholes.find((w) => w.stages.some((s) => s.id === l.stageId)),
            stageId: l.stageId,
            sheetId: l.sheetId,
          }))
        : wholes.flatMap((whole) =>
            whole.stages.length ? [{ whole, stageId: whole.stages.at(-1)!.id, sheetId: null }] : [],
          );
      const context = { sources: bundle.sources, assumptions, checked, say, shop: spreads };
      let first: SimulatedHead | undefined;
      return {
        id: build.id,
        name: build.name,
        displacement: target.displacement.value,
        torque: target.torque.value,
        bmep: target.bmep.value,
        believability: target.believability,
        demand: value(target.demand),
        areaNeeded: target.areaNeeded.value,
        uncertainties: {
          displacement: uncertainty(target.displacement, book),
          demand: uncertainty(target.demand, book),
          areaNeeded: uncertainty(target.areaNeeded, book),
        },
        usefulLift: target.usefulLift ?? null,
        sentence: targetWords(target, say),
        owed: owedReport(owedOfBuild(build, lineup.length)),
        heads: entries.flatMap(({ whole, stageId, sheetId }, i) => {
          if (!whole) return [];
          const evaluation = evaluateHead(build, core, target, whole, stageId, sheetId, context);
          const { match, verdict, sheet, pooled, result, arrival } = evaluation;
          if (i === 0) first = { whole, evaluation };
          const exhaustCurve = result?.exhaust.curve;
          const exhaustLift = core.cam && camLiftOf(core.cam, 'exhaust');
          const exhaust =
            exhaustCurve && exhaustLift !== undefined
              ? overCam(exhaustCurve, exhaustLift, target.exhaustCam)
              : undefined;
          const flow = match.flow === undefined ? null : typeof match.flow === 'number' ? match.flow : match.flow.value;
          return [
            {
              head: whole.head.id,
              name: whole.head.name,
              stage: stageId,
              sheet: sheet?.id ?? null,
              decidingRunner: match.deciding?.name ?? null,
              runners: match.runners.map((r) => ({ name: r.name, ...r.best })),
              sheets: pooled.map((s) => s.id),
              flow,
              flowUncertainty: made(match.deciding && flowLeaf(match.deciding), verdict.book),
              margin: match.margin ?? null,
              reachedAt: match.reachedAt ?? null,
              atCamLift: match.intake?.atLift ?? null,
              meanOverCam: value(match.intake?.mean),
              exhaustMeanOverCam: value(exhaust?.mean),
              schools: match.schools.map((s) => ({
                id: s.id,
                assumes: s.assumes,
                power: value(s.power),
                notHere: s.notHere ?? null,
                uncertainty: uncertainty(s.power, verdict.book),
              })),
              limits: match.limits.map((l) => ({
                id: l.id,
                speed: l.speed.value,
                uncertainty: uncertainty(l.speed, verdict.book),
              })),
              limitedBy: match.first?.id ?? null,
              portVelocity: value(match.portVelocity),
              machIndex: value(match.machIndex),
              lobeSeparationWanted: value(match.lobeSeparation),
              windowFlow: value(match.windowFlow),
              againstWindow: value(match.againstWindow),
              windowSpeed: value(match.windowSpeed),
              throatSpeed: value(match.throatSpeed),
              uncertainties: {
                meanOverCam: uncertainty(match.intake?.mean, verdict.book),
                portVelocity: uncertainty(match.portVelocity, verdict.book),
                machIndex: uncertainty(match.machIndex, verdict.book),
                windowFlow: uncertainty(match.windowFlow, verdict.book),
              },
              ...verdictOf(verdict, match, say),
              reasons: matchWords(match, verdict, target, core.speed, core.cam?.lobeSeparation, say),
              ...(simulate
                ? { simulation: simulationOf(build, core, target, { whole, evaluation }, first, context) }
                : {}),
              condition: arrival.condition,
              objections: arrivalObjections(arrival),
            },
          ];
        }),
        decide: waysReport(bundle, build, core, target, wholes, context, say),
        changes: wholes.flatMap((whole) => {
          const cams = { intake: target.intakeCam, exhaust: target.exhaustCam };
          const cuts = { sources: bundle.sources, assumptions, checked, cams };
          return changeOf(whole, cuts, { core, target }, change, say) ?? [];
        }),
      };
    }),
  };
}
