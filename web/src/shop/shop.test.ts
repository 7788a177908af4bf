import { readFileSync } from 'node:fs';
import { horsepowerPerCfm } from '@alluvium/core';
import { readBundle, wholesOf } from '@alluvium/records';
import { describe, expect, it } from 'vitest';
import { usePane } from '../test/pane.js';
import BuildLine from './BuildLine.vue';

const { bundle } = readBundle(JSON.parse(readFileSync('demo/bundle.json', 'utf8')));
const wholes = wholesOf(bundle);
const [slate, vennick] = ['slate-six', 'vennick-five'].map((id) => bundle.builds.find((b) => b.id === id)!);
let factors: object[] = [];
const on = usePane(
  (address) =>
    ({
      '/api/build': bundle.builds,
      '/api/ownfactor': factors,
      '/api/build/vennick-five/lineup': {
        sources: bundle.sources,
        entries: bundle.lineups
          .filter((l) => l.buildId === vennick!.id)
          .map((entry) => ({ entry, whole: wholes.find((w) => w.stages.some((s) => s.id === entry.stageId)) })),
      },
    })[address],
);
const perFlow = (value: number) => ({ si: horsepowerPerCfm(value), typed: `${value} hp/cfm` });
const factorOf = (build: typeof slate, value: number) => ({
  ...{ id: 'f', version: 1, use: build!.use, fuel: build!.fuel, count: 3, made: '2026-05-01' },
  ...{ low: perFlow(value - 0.001), likely: perFlow(value), high: perFlow(value + 0.001) },
});
const shown = async () => {
  await on.show(BuildLine, { build: vennick, decided: null, names: [] });
  return on.page.findAll('.verdict').map((v) => v.text());
};

describe('an engine of the shop', () => {
  it('is judged by its own figures, whichever engine is at hand', async () => {
    factors = [];
    const plain = await shown();
    expect(plain).toHaveLength(2);
    // What the engine at hand was learnt from is nothing to this one; what its own kind was learnt from is.
    factors = [factorOf(slate, 0.11)];
    expect(await shown()).toEqual(plain);
    factors = [factorOf(vennick, 0.11)];
    expect(await shown()).not.toEqual(plain);
  });
});
