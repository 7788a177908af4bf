/** `npm run -s evaluate -- FILE [--build NAME] [--simulate] [--change]`: the evaluation of a bundle as JSON on stdout; problems on stderr, exit code 2. */
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { readBundle } from '@alluvium/records';
import { evaluateBundle } from './evaluation.js';
import { refusedBy } from '@alluvium/core';

class InputProblem extends Error {}

function main(): void {
  let parsed;
  try {
    parsed = parseArgs({
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
    // npm runs this from the project's folder; the path was typed in the user's.
    text = readFileSync(resolve(process.env.INIT_CWD ?? process.cwd(), file), 'utf8');
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
    process.stdout.write(`${JSON.stringify(evaluateBundle(bundle, builds, parsed.values), null, 2)}\n`);
  } catch (error) {
    throw new InputProblem(refusedBy(error).message);
  }
}

try {
  main();
} catch (error) {
  if (!(error instanceof InputProblem)) throw error;
  console.error(error.message);
  process.exitCode = 2;
}
