/** What the shop begins a new head, bench or set-up from, under a name of its own. */
import { z } from 'zod';
import { quantitySchema } from '../quantity.js';
import { BenchSetup } from './bench.js';
import { Name, Stored } from './common.js';
import { describedNoun } from './descriptor.js';
import { Head } from './head.js';
import { Source } from './source.js';
import { issueOf, sentenceOfIssue } from '../refusal.js';

const valve = quantitySchema('length', {
  min: 0.005,
  max: 0.25,
  sentence: 'A valve must be between 5 and 250 mm.',
})
  .nullable()
  .default(null);

/** What a template of a head fills in: what heads of a kind have in common, never what was measured of one. */
export const HeadTemplate = z.object({
  kind: Head.shape.kind,
  material: Head.shape.material,
  intakeValves: Head.shape.intakeValves,
  exhaustValves: Head.shape.exhaustValves,
  intake: valve,
  exhaust: valve,
  stage: z.string().trim().max(200).default('as received'),
});
export type HeadTemplate = z.infer<typeof HeadTemplate>;

/** What a template of a bench fills in: how it meters and what it states of every test. */
export const BenchTemplate = z.object({
  kind: Source.shape.kind,
  bench: Source.shape.bench,
  meter: Source.shape.meter,
  scales: Source.shape.scales,
  stated: Source.shape.stated,
});
export type BenchTemplate = z.infer<typeof BenchTemplate>;

/** Contents by what a template is of. */
export const TEMPLATE_CONTENT = { head: HeadTemplate, bench: BenchTemplate, 'set-up': BenchSetup } as const;
export type TemplateOf = keyof typeof TEMPLATE_CONTENT;
export const TEMPLATE_OF = Object.keys(TEMPLATE_CONTENT) as [TemplateOf, ...TemplateOf[]];
export type TemplateContent<T extends TemplateOf> = z.infer<(typeof TEMPLATE_CONTENT)[T]>;

export const Template = z
  .object({
    ...Stored,
    name: Name,
    of: z.enum(TEMPLATE_OF),
    content: z.record(z.string(), z.unknown()),
  })
  .superRefine((template, ctx) => {
    const parsed = TEMPLATE_CONTENT[template.of].safeParse(template.content);
    for (const issue of parsed.error?.issues ?? [])
      ctx.addIssue(issueOf(['content', ...issue.path], sentenceOfIssue(issue)));
  });
export type Template = z.infer<typeof Template>;

export const templateNoun = describedNoun({
  schema: Template,
  one: 'template',
  many: 'templates',
  key: 'templates',
});
