/**
 * Writes what is generated: docs/methods.md from core's catalogue, the JSON Schemas of the open formats, and the list of
 * all texts. With
 * `--check` it writes nothing and fails when anything is out of date.
 */
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { CATALOGUE, KINDS, type AnyMethod, type InputSpec, type Kind } from '@alluvium/core';
import { Bundle } from '@alluvium/records';
import { format } from 'prettier';
import { z } from 'zod';
import { Evaluation } from './evaluation.js';
import { textsOf } from './texts.js';

const root = join(dirname(fileURLToPath(import.meta.url)), '..', '..');

const kindName = (kind: InputSpec['kind']): string => {
  if (kind === 'curve') return 'a flow curve';
  if (kind === 'cam') return 'a lift curve';
  const units = KINDS[kind as Kind].units.map((u) => u.symbol).filter(Boolean);
  return `${KINDS[kind as Kind].name}${units.length ? ` (${units.slice(0, 3).join(', ')})` : ''}`;
};

function methodText(m: AnyMethod): string {
  const inputs = Object.values(m.inputs as Record<string, InputSpec>).map(
    (i) => `| $${i.symbol}$ | ${i.label} | ${kindName(i.kind)} |`,
  );
  return [
    `### ${m.title}`,
    `\`${m.id}\` gives ${m.result.label}, ${kindName(m.result.kind)}.`,
    `$$${m.formula}$$`,
    ['| symbol | input | kind |', '|---|---|---|', ...inputs].join('\n'),
    `**Source.** ${m.source}`,
    ...(m.caution ? [`**Caution.** ${m.caution}`] : []),
  ].join('\n\n');
}

const methods = [
  '# Methods',
  'Generated from core’s catalogue by `npm run docs`; the screens’ workings read the same objects. All values are SI inside. “Common practice, no source” marks a rule of the trade that nobody published a derivation of.',
  ...CATALOGUE.flatMap(({ heading, methods: list }) => [`## ${heading}`, ...list.map(methodText)]),
  readFileSync(join(root, 'tools', 'src', 'methods-notes.md'), 'utf8').trim(),
].join('\n\n');

const schema = (type: z.ZodType, title: string) =>
  JSON.stringify({ title, ...z.toJSONSchema(type, { io: 'input', unrepresentable: 'any', reused: 'ref' }) });

const files: [path: string, text: string, parser: 'markdown' | 'json' | undefined][] = [
  ['docs/methods.md', methods, 'markdown'],
  ['docs/schema/bundle.schema.json', schema(Bundle, 'Alluvium bundle'), 'json'],
  ['docs/schema/evaluation.schema.json', schema(Evaluation, 'Alluvium evaluation'), 'json'],
];

files.push(['docs/texts.md', textsOf(root), undefined]);

const check = process.argv.includes('--check');
mkdirSync(join(root, 'docs', 'schema'), { recursive: true });
for (const [path, text, parser] of files) {
  const pretty = parser ? await format(text, { parser, printWidth: 120 }) : text;
  const full = join(root, path);
  const before = existsSync(full) ? readFileSync(full, 'utf8') : '';
  if (before === pretty) continue;
  if (check) {
    console.error(`${path} is out of date: run npm run docs.`);
    process.exitCode = 1;
  } else {
    writeFileSync(full, pretty);
    console.error(`wrote ${path}`);
  }
}
