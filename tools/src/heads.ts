/** What `evaluate` prints of heads beside their builds: what is owed, families of sheets, ports tested more than once. All values are SI. */
import { familiesOf, owedOfHead, testedTwice, type Owed, type WholeHead } from '@alluvium/records';
import { z } from 'zod';

export const OwedReport = z
  .array(z.object({ key: z.string(), text: z.string(), excuse: z.string().nullable() }))
  .describe('what is not known or not done yet; complete when each is excused');
export const owedReport = (owed: readonly Owed[]): z.infer<typeof OwedReport> =>
  owed.map(({ key, text, excuse }) => ({ key, text, excuse: excuse ?? null }));

export const HeadReport = z.object({
  id: z.string(),
  pair: z.string().nullable().describe('the other head of one engine'),
  stages: z.array(
    z.object({
      id: z.string(),
      owed: OwedReport,
      families: z
        .array(
          z.object({
            kind: z.string(),
            side: z.string(),
            port: z.string(),
            members: z.array(z.object({ sheet: z.string(), name: z.string() })),
            steps: z.array(
              z.object({
                lift: z.number(),
                flows: z.array(z.number().nullable()),
                gain: z.number().nullable().describe('from the first to the last member'),
              }),
            ),
          }),
        )
        .describe('sheets of one port that differ in one thing alone'),
      testedTwice: z.array(z.object({ sheets: z.array(z.string()), believed: z.array(z.string()) })),
    }),
  ),
});

export const headReport = (whole: WholeHead): z.infer<typeof HeadReport> => ({
  id: whole.head.id,
  pair: whole.pair?.head.id ?? null,
  stages: whole.stages.map((stage) => ({
    id: stage.id,
    owed: owedReport(owedOfHead(whole, stage.id)),
    families: (['intake', 'exhaust'] as const).flatMap((side) =>
      familiesOf(whole, stage.id, side).map((f) => ({
        kind: f.kind,
        side: f.side,
        port: f.port,
        members: f.members.map((m) => ({ sheet: m.sheet.id, name: m.name })),
        steps: f.steps.map((s) => ({
          lift: s.lift,
          flows: s.flows.map((q) => q ?? null),
          gain: s.gain?.value ?? null,
        })),
      })),
    ),
    testedTwice: testedTwice(whole, stage.id).map((t) => ({
      sheets: t.sheets.map((s) => s.id),
      believed: t.believed.map((s) => s.id),
    })),
  })),
});
