/** Types, lint (with the import direction), format, and generated docs up to date. */
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { NURSERY, SetupProblem, checkNode, main, packages, root, run } from './setup.mjs';

const bin = (path) => join(root, 'node_modules', path);
const steps = [
  // One program for all but the pages: core is checked once. That core and records use nothing of Node or a page is linted.
  ['types', bin('typescript/bin/tsc'), ['-p', '.']],
  ['types of web', bin('vue-tsc/bin/vue-tsc.js'), ['-p', 'web']],
  ['lint', bin('eslint/bin/eslint.js'), ['--max-warnings', '0', '.']],
  // Every package declares what it imports, and nothing is exported that nobody takes.
  [
    'what is declared and used',
    bin('knip/bin/knip.js'),
    ['--include', 'dependencies,unlisted,files,exports', '--no-config-hints'],
  ],
  ['format', bin('prettier/bin/prettier.cjs'), ['--check', '--log-level', 'warn', '.']],
  ['licences of what ships', join(root, 'tools/src/licences.mjs'), ['--check']],
  ['generated docs up to date', '--import', ['tsx', join(root, 'tools/src/docs.ts'), '--check']],
];

/** A registry that says nothing for so long is not waited for, ms. */
const PATIENCE = 30_000;

/** What is known against the packages that ship: high and critical end the check; where the registry does not say, that is said. */
function audit() {
  const { stdout } = spawnSync('npm', ['audit', '--omit=dev', '--json'], {
    cwd: root,
    encoding: 'utf8',
    timeout: PATIENCE,
  });
  let counts;
  try {
    counts = JSON.parse(stdout).metadata?.vulnerabilities;
  } catch {
    // No answer of this kind.
  }
  if (!counts) return console.error('check: the registry answers no audit here; nothing is known either way');
  const grave = counts.high + counts.critical;
  if (grave > 0) throw new SetupProblem(`check failed: ${grave} grave weaknesses in packages that ship (npm audit).`);
  console.error(`check: ${counts.total} weaknesses in packages that ship, none of them grave`);
}

await main(async () => {
  checkNode();
  packages();
  for (const [name, script, args] of steps) {
    console.error(`check: ${name}`);
    run(process.execPath, [NURSERY, script, ...args], `check failed: ${name}.`);
  }
  console.error('check: known weaknesses of packages');
  audit();
  console.error('check: all in order');
});
