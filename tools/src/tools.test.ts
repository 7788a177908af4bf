// @ts-expect-error -- a plain script, so that it runs before anything is installed
import { isPermitted, shipped } from './licences.mjs';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { cfm } from '@alluvium/core';
import { readBundle } from '@alluvium/records';
import { describe, expect, it } from 'vitest';
import { REFERENCE_RATE, cellsPerSecond, machineFactor, middleRound, roundsOf } from './perf/machine.js';
import { InputProblem, answerOf } from './evaluateCommand.js';
import { Evaluation, evaluateBundle } from './evaluation.js';
// @ts-expect-error -- a plain script, so that it runs before anything is installed
import { tally } from './tally.mjs';

const root = fileURLToPath(new URL('../..', import.meta.url));
const demo = join(root, 'demo', 'bundle.json');
const folder = mkdtempSync(join(tmpdir(), 'alluvium-tools-'));
const evaluate = (...args: string[]) => {
  const run = spawnSync(process.execPath, ['--import', 'tsx', join(root, 'tools/src/evaluate.ts'), ...args], {
    cwd: root,
    encoding: 'utf8',
  });
  return { code: run.status, out: run.stdout, err: run.stderr };
};
const file = (name: string, content: string) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};

describe('evaluate', () => {
  it('prints what its schema says, in SI', () => {
    const { code, out, err } = evaluate(demo, '--build', 'Corrow Slate Six');
    expect([code, err]).toEqual([0, '']);
    const result = Evaluation.parse(JSON.parse(out));
    expect(result.builds.map((b) => b.name)).toEqual(['Corrow Slate Six']);
    const heads = result.builds[0]!.heads;
    expect(heads.map((h) => h.degree)).toEqual([
      'falls short',
      "can't be told",
      'probably carries',
      'carries',
      'carries',
    ]);
    // The field of version 1 stays, in its own words.
    expect(heads.map((h) => h.verdict)).toEqual(['short', 'close', 'close', 'carries', 'carries']);
    expect(heads[2]!.hardLimits[0]!.shares).toHaveLength(3);
    expect(heads[2]!.schools.find((s) => s.id === 'peak-flow')!.uncertainty!.standard).toBeGreaterThan(0);
    expect(result.builds[0]!.demand! / cfm(1)).toBeCloseTo(188.07, 2);
    expect(heads[0]!.schools.map((s) => s.id).sort()).toEqual(['area', 'peak-flow', 'ratio-derated', 'valve']);
    expect(heads[0]!.reasons.join(' ')).toContain('The worse runner decides');
    const sheet = result.sheets.find((s) => s.id === '522-mire')!;
    // Tested at 10 in: 178 cfm at 28 in came from 106.4 at 10.
    expect(sheet.intake.points[3]!.flow / cfm(1)).toBeCloseTo(178, 0);
    // Brought from 10 in by the root, it is less sure than a reading at 28 in.
    const own = result.sheets.find((s) => s.id === '522-received-p3')!;
    const share = (s: typeof sheet) => s.intake.points[3]!.uncertainty!.standard / s.intake.points[3]!.flow;
    expect(share(sheet)).toBeGreaterThan(share(own));
    expect(result.builds[0]!.uncertainties.demand!.shares).toEqual([{ leaf: 'k', share: 1 }]);
    expect(heads[2]!.flowUncertainty!.standard).toBeGreaterThan(0);
    expect(heads[2]!.uncertainties.meanOverCam!.shares.length).toBeGreaterThan(1);
  });
  it('is the same as the screens compute', () => {
    const { bundle } = readBundle(JSON.parse(readFileSync(demo, 'utf8')));
    expect(JSON.parse(answerOf([demo], root))).toEqual(JSON.parse(JSON.stringify(evaluateBundle(bundle))));
  });
  it('a build without a lineup is held against every head', () => {
    const { bundle } = readBundle(JSON.parse(readFileSync(demo, 'utf8')));
    const result = evaluateBundle({ ...bundle, lineups: [] });
    expect(result.builds[0]!.heads).toHaveLength(bundle.heads.length);
  });
  it.each([
    ['no file', [], /^Use: npm run -s evaluate/],
    ['a file that is not there', ['/nowhere.json'], /cannot be read/],
    ['no JSON', [file('no.json', 'lift,intake')], /not well-formed JSON/],
    ['no bundle', [file('other.json', '{"a":1}')], /no Alluvium bundle/],
    ['a newer bundle', [file('newer.json', '{"format":"alluvium-bundle","version":9}')], /version 9/],
    ['a build that is not in it', [demo, '--build', 'Nobody'], /no build “Nobody”; here are: Corrow Slate Six/],
    ['an unknown flag', [demo, '--bulid', 'x'], /bulid/],
    [
      'a bad size',
      [
        file(
          'bad.json',
          JSON.stringify({
            format: 'alluvium-bundle',
            version: 1,
            builds: [
              { id: 'b', name: 'B', bore: 'wide', stroke: '93 mm', cylinders: 6, power: '290 hp', speed: '5600 rpm' },
            ],
          }),
        ),
      ],
      /builds 1 \(B\), bore: “wide” is not a length/,
    ],
  ] as const)('%s: a sentence', (_, args, message) => {
    const asked = () => answerOf(args, root);
    expect(asked).toThrow(
      expect.objectContaining({ constructor: InputProblem, message: expect.stringMatching(message) }),
    );
  });
  it('tells what is wrong on stderr, with nothing on stdout and exit code 2', () => {
    const { code, out, err } = evaluate(demo, '--build', 'Nobody');
    expect([code, out]).toEqual([2, '']);
    expect(err).toMatch(/^There is no build “Nobody”/);
  });
});

describe('the tally of the test runners', () => {
  const reports = (files: Record<string, object>) => {
    const at = mkdtempSync(join(tmpdir(), 'alluvium-tally-'));
    for (const [name, content] of Object.entries(files))
      writeFileSync(join(at, `${name}.json`), JSON.stringify(content));
    return tally(at);
  };
  it('sums all runners', () => {
    expect(
      reports({
        checks: { passed: 1, failed: 0 },
        vitest: { numPassedTests: 10, numFailedTests: 2, numFailedTestSuites: 1 },
        playwright: { stats: { expected: 5, unexpected: 1, flaky: 0 } },
      }),
    ).toEqual({ passed: 16, failed: 3 });
  });
  it('a runner that left no report, or a suite that did not load, is a failure', () => {
    expect(reports({}).failed).toBe(3);
    expect(
      reports({
        checks: { passed: 1, failed: 0 },
        vitest: { numPassedTests: 10, numFailedTests: 0, numFailedTestSuites: 1 },
        playwright: { stats: { expected: 5, unexpected: 0, flaky: 0 } },
      }).failed,
    ).toBe(1);
  });
});

describe('the licences of what ships', () => {
  const lock = {
    packages: {
      server: { dependencies: { a: '1' } },
      web: { devDependencies: { builder: '1' } },
      'node_modules/a': { version: '1.0.0', license: 'MIT', dependencies: { b: '2' } },
      'node_modules/b': { version: '1.0.0', license: 'ISC' },
      'node_modules/a/node_modules/b': { version: '2.0.0', license: 'AGPL-3.0' },
      'node_modules/builder': { version: '1.0.0', license: 'AGPL-3.0' },
    },
  };
  it('are those of every package that is reached, the nearest of each name, and of no other', () => {
    expect(shipped(lock)).toEqual([
      { name: 'a', version: '1.0.0', licence: 'MIT' },
      { name: 'b', version: '2.0.0', licence: 'AGPL-3.0' },
    ]);
  });
  it.each([
    ['MIT', true],
    ['(MIT OR AGPL-3.0)', true],
    ['Apache-2.0 AND LGPL-3.0-or-later', true],
    ['Apache-2.0 AND AGPL-3.0', false],
    ['not said', false],
  ])('%s may ship: %s', (licence, may) => expect(isPermitted(licence)).toBe(may));
});

describe('the factor of the machine', () => {
  it('is what this one is slower, by the middle of its rounds, and never under one', () => {
    const rounds = (rates: number[]) => () => rates.shift() ?? REFERENCE_RATE / 2;
    expect(machineFactor(rounds([]))).toBeCloseTo(2);
    // The first rounds warm up, and one that was disturbed counts for nothing.
    expect(machineFactor(rounds([1, 1, 1, REFERENCE_RATE / 2, REFERENCE_RATE / 40]))).toBeCloseTo(2);
    expect(machineFactor(() => REFERENCE_RATE * 3)).toBe(1);
  });
  it('is beside each round of a long work, and the middle one by both is judged', async () => {
    let took = 0;
    const rounds = await roundsOf(() => Promise.resolve(++took));
    expect(rounds.map((r) => r.result)).toEqual([1, 2, 3]);
    for (const r of rounds) expect(r.factor).toBeGreaterThanOrEqual(1);
    // A slow round on a slowed machine is no slow work.
    const found = [
      { result: 30, factor: 3 },
      { result: 12, factor: 1 },
      { result: 18, factor: 1 },
    ];
    expect(middleRound(found, (ms) => ms).result).toBe(12);
  });
  it('comes from a loop that does its work', () => {
    let t = 0;
    expect(cellsPerSecond(() => (t += 500))).toBe(2_000_000);
  });
});
