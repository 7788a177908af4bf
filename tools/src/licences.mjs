/**
 * Licences of everything that ships, read from the lockfile: writes NOTICE.md, or with `--check` fails when it is not
 * what the lockfile says, or when a licence is none of those a local program under MIT may ship with.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { SetupProblem, main, root } from './setup.mjs';

const SHIPS = ['core', 'records', 'server', 'instruments', 'web'];
const PERMITTED =
  /^(MIT|MIT-0|ISC|BSD-2-Clause|BSD-3-Clause|0BSD|Apache-2\.0|BlueOak-1\.0\.0|BSL-1\.0|Unlicense|CC0-1\.0|OFL-1\.1|Python-2\.0|PostgreSQL|Zlib|LGPL-3\.0-or-later)$/;

/** Packages that name their licence in its text alone. */
const IN_TEXT = { 'png-js': 'MIT' };

/** Every package that is reached from what ships, by the place it lies in. */
export function shipped(lock) {
  const { packages } = lock;
  const found = new Map();
  const find = (from, name) => {
    for (let at = from; ; at = at.slice(0, Math.max(0, at.lastIndexOf('/node_modules/')))) {
      const place = at === '' ? `node_modules/${name}` : `${at}/node_modules/${name}`;
      if (packages[place]) return place;
      if (at === '') return undefined;
      if (!at.includes('/node_modules/')) at = '';
    }
  };
  const visit = (place) => {
    const entry = packages[place];
    const target = entry?.link ? entry.resolved : place;
    if (found.has(target)) return;
    const own = packages[target];
    if (!own) return;
    found.set(target, own);
    for (const name of Object.keys({ ...own.dependencies, ...own.optionalDependencies })) {
      const next = find(target, name) ?? find('', name);
      if (next) visit(next);
    }
  };
  SHIPS.forEach(visit);
  return [...found]
    .filter(([place]) => place.includes('node_modules/'))
    .map(([place, own]) => {
      const name = place.slice(place.lastIndexOf('node_modules/') + 13);
      return { name, version: own.version, licence: own.license ?? IN_TEXT[name] ?? 'not said' };
    })
    .sort((a, b) => (`${a.name}${a.version}` < `${b.name}${b.version}` ? -1 : 1));
}

/** `(MIT OR Apache-2.0)` is permitted when one of them is; `A AND B` when both are. */
export const isPermitted = (licence) =>
  licence
    .replace(/[()]/g, '')
    .split(/ OR /)
    .some((one) => one.split(/ AND /).every((l) => PERMITTED.test(l.trim())));

export const notice = (all) =>
  `# Notice

Alluvium is under the MIT licence (LICENSE). It ships with, or is built from, the packages below, each under its own licence; their texts lie in each package. Written by \`npm run docs\` from the lockfile.

Photos are read by libvips (LGPL-3.0-or-later), linked dynamically through sharp and replaceable: the packages \`@img/sharp-libvips-*\` hold it, with the libraries it is built from. The database is PostgreSQL (PostgreSQL licence) compiled to WebAssembly by PGlite (Apache-2.0).

| package | version | licence |
| --- | --- | --- |
${all.map((p) => `| ${p.name} | ${p.version} | ${p.licence} |`).join('\n')}
`;

if (process.argv[1]?.endsWith('licences.mjs'))
  await main(async () => {
    const all = shipped(JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8')));
    const wrong = all.filter((p) => !isPermitted(p.licence));
    if (wrong.length > 0)
      throw new SetupProblem(`Not to be shipped: ${wrong.map((p) => `${p.name} (${p.licence})`).join(', ')}.`);
    const file = join(root, 'NOTICE.md');
    const text = notice(all);
    if (!process.argv.includes('--check')) writeFileSync(file, text);
    else if (readFileSync(file, 'utf8') !== text)
      throw new SetupProblem('NOTICE.md is not what the lockfile says: npm run docs.');
  });
