/** Every number a page computes opens its working: one that is written out plainly stands here with the reason. */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from '@vue/compiler-sfc';
import { describe, expect, it } from 'vitest';

const root = join(import.meta.dirname, '..', '..');

/** Where a plain number stands that was read or typed, or is opened by something beside it. */
const PLAIN: Readonly<Record<string, readonly [count: number, why: string]>> = {
  'bench/CheckTable.vue': [2, 'the measured flow and the flow typed for a plate without a diameter'],
  'bench/RunStates.vue': [1, 'the depression as the instrument shows it'],
  'bench/RawReadings.vue': [1, 'scatter of the samples listed in the same row'],
  'bench/SheetPane.vue': [1, 'scatter of the pulls, whose readings are listed below'],
  'change/ForecastList.vue': [2, 'a forecast as it was kept on its day'],
  'change/LossPane.vue': [2, 'what each form of the fit leaves over: drawn above, fitted by docs/methods.md'],
  'claims/ClaimArticle.vue': [1, 'an input of the error in the same row'],
  'claims/PublishedTable.vue': [1, 'as published'],
  'claims/ReadPoints.vue': [1, 'as clicked on the picture, by the axes typed'],
  'claims/SamePane.vue': [2, 'both inputs of the multiple in the same row'],
  'claims/SizeClaims.vue': [1, 'an input of the difference in the same row'],
  'claims/CatalogueThrough.vue': [1, 'as published'],
  'decide/DecisionPane.vue': [1, 'share of the draws described above the table'],
  'dyno/FactorPane.vue': [2, 'inputs of the learnt factor in the same row'],
  'dyno/ForecastPane.vue': [1, 'how far two estimates go together, by the assumptions listed'],
  'dyno/OrderPane.vue': [1, 'pooled over the pulls listed, or the usual one'],
  'dyno/WhyPane.vue': [2, 'shares of the causes, each with its evidence in words'],
  'help/SettingsPage.vue': [1, 'free space as the disk says'],
  'match/KeptVerdicts.vue': [2, 'a verdict as it was kept on its day'],
  'match/MatchPage.vue': [2, 'power as typed on the target, and less the manifold’s share said beside it'],
  'measure/PourPane.vue': [1, 'volume with where it is from'],
  'measure/ShroudPane.vue': [3, 'places of the sliders'],
  'parts/WorkingTree.vue': [1, 'the working itself'],
  'simulation/DifferencePane.vue': [2, 'parts of the range that is drawn above'],
};

/** Parts of a template that open something, or are read with a cursor of their own. */
const OPENS = new Set(['text', 'svg', 'title', 'RouterLink', 'PressArea', 'WorkedNumber']);
const WRITES = /\b(format|formatNumber|say\.of|say\.number)\(|\.toFixed\(/;
/** A lift or a speed is what a table runs over, not what it found. */
const RUNS_OVER = /'(lift|rotation)'/;

interface Node {
  readonly type: number;
  readonly tag?: string;
  readonly loc: { readonly source: string };
  readonly content?: { readonly loc: { readonly source: string } };
  readonly children?: readonly Node[];
  readonly branches?: readonly Node[];
}
const INTERPOLATION = 5;

/** Numbers a template writes out without anything that opens. */
function plainNumbers(source: string): string[] {
  const found: string[] = [];
  const walk = (node: Node, inside: boolean) => {
    const within = inside || OPENS.has(node.tag ?? '');
    if (node.type === INTERPOLATION && !within) {
      const text = node.content!.loc.source;
      if (WRITES.test(text) && !RUNS_OVER.test(text)) found.push(text.replace(/\s+/g, ' '));
    }
    for (const child of [...(node.children ?? []), ...(node.branches ?? [])]) walk(child, within);
  };
  const ast = parse(source).descriptor.template?.ast;
  if (ast) walk(ast as unknown as Node, false);
  return found;
}

describe('numbers on the pages', () => {
  const files = execFileSync('git', ['ls-files', '-co', '--exclude-standard', 'web/src'], {
    cwd: root,
    encoding: 'utf8',
  })
    .split('\n')
    .filter((f) => f.endsWith('.vue'));

  it('finds a number that opens nothing, and none that does', () => {
    const page = (inner: string) => `<template><td>${inner}</td></template>`;
    expect(plainNumbers(page("{{ say.of(q, 'flow') }}"))).toHaveLength(1);
    expect(plainNumbers(page('<b v-if="x">{{ (2 * u).toFixed(1) }}</b>'))).toHaveLength(1);
    expect(plainNumbers(page("<PressArea>{{ say.of(q, 'flow') }}</PressArea>"))).toEqual([]);
    expect(plainNumbers(page("{{ say.of(row.lift, 'lift') }} {{ name }}"))).toEqual([]);
  });

  it('open their working, or stand above with a reason', () => {
    const off = files.flatMap((file) => {
      const found = plainNumbers(readFileSync(join(root, file), 'utf8'));
      const [count] = PLAIN[file.replace('web/src/', '')] ?? [0];
      return found.length === count ? [] : [{ file, count, found }];
    });
    expect(off, 'let it open its working (WorkedNumber), or say above why it needs none').toEqual([]);
  });

  it('every reason is of a page that is there', () => {
    expect(Object.keys(PLAIN).filter((f) => !files.includes(`web/src/${f}`))).toEqual([]);
  });
});
