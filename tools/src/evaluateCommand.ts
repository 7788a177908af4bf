/** The command that evaluates a bundle, apart from the process it runs in. */
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { refusedBy } from '@alluvium/core';
import { readBundle } from '@alluvium/records';
import { evaluateBundle } from './evaluation.js';

/** What was asked cannot be answered, as a sentence. */
export class InputProblem extends Error {}

/** What the command answers to its arguments, the names of files as typed in `from`. @throws InputProblem */
export function answerOf(args: readonly string[], from: string): string {
  let parsed;
  try {
    parsed = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        build: { type: 'string' },
        simulate: { type: 'boolean', default: false },
        change: { type: 'boolean', default: false },
      },
    });
  } catch (error) {
    throw new InputProblem((error as Error).message);
  }
  const [file, ...more] = parsed.positionals;
  if (!file || more.length > 0)
    throw new InputProblem('Use: npm run -s evaluate -- FILE [--build NAME] [--simulate] [--change]');
  let text: string;
  try {
    text = readFileSync(resolve(from, file), 'utf8');
  } catch {
    throw new InputProblem(`${file} cannot be read.`);
  }
  let json: unknown;
  try {
    json = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch {
    throw new InputProblem(`${file} is not well-formed JSON.`);
  }
  const { bundle, problems } = readBundle(json);
  if (problems.length > 0) throw new InputProblem(problems.map((p) => `${p.place}: ${p.message}`).join('\n'));
  const name = parsed.values.build;
  const builds = name === undefined ? bundle.builds : bundle.builds.filter((b) => b.name === name || b.id === name);
  if (name !== undefined && builds.length === 0) {
    throw new InputProblem(
      `There is no build “${name}”; here are: ${bundle.builds.map((b) => b.name).join(', ') || 'none'}.`,
    );
  }
  try {
    return `${JSON.stringify(evaluateBundle(bundle, builds, parsed.values), null, 2)}\n`;
  } catch (error) {
    throw new InputProblem(refusedBy(error).message);
  }
}
