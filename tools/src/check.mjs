/** Types, lint (with the import direction), format, and generated docs up to date. */
import { join } from 'node:path';
import { NURSERY, checkNode, main, packages, root, run } from './setup.mjs';

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

await main(async () => {
  checkNode();
  packages();
  for (const [name, script, args] of steps) {
    console.error(`check: ${name}`);
    run(process.execPath, [NURSERY, script, ...args], `check failed: ${name}.`);
  }
  console.error('check: all in order');
});
