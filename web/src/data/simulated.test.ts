import { readFileSync } from 'node:fs';
import type { SpeedResult } from '@alluvium/core';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it } from 'vitest';
import { demoEngine } from '../test/demoEngine.js';
import { setupIn, useSimulated } from './simulated.js';

const { build, core, evaluation, target, whole } = demoEngine(readFileSync('demo/bundle.json', 'utf8'));
const active = { build, core, target };
const head = { whole, evaluation };
const setup = setupIn(active, head, undefined, {});
if (typeof setup === 'string') throw new Error(setup);
const torque = (1.2 * core.power) / (2 * Math.PI * core.speed);
const point = { speed: core.speed, torque, power: 1.2 * core.power } as SpeedResult;
const sensitive = [0.6, 1].map((s) => ({ speed: s * core.speed, of: [{ id: 'friction' as const, low: 9, high: -9 }] }));

beforeEach(() => {
  sessionStorage.clear();
  setActivePinia(createPinia());
});

describe('what was simulated', () => {
  it('decides the verdict of that head in that engine, and of no other', () => {
    const simulated = useSimulated();
    expect(simulated.verdictOf(active, head, undefined, {})).toBe(evaluation.verdict);
    simulated.keep(setup, sensitive, point);
    const verdict = simulated.verdictOf(active, head, undefined, {});
    expect(verdict.byRules).toBe(evaluation.verdict);
    expect(verdict.odds).toBeGreaterThan(0.95);
    const other = {
      ...active,
      build: { ...build, compression: { si: 11, typed: '11:1' } },
      core: { ...core, compression: 11 },
    };
    expect(simulated.verdictOf(other, head, undefined, {})).toBe(evaluation.verdict);
  });
  it('is there when the page is loaded anew; a store that cannot be read is empty', () => {
    useSimulated().keep(setup, sensitive, point);
    setActivePinia(createPinia());
    expect(useSimulated().verdictOf(active, head, undefined, {}).byRules).toBeDefined();
    sessionStorage.setItem('alluvium.simulated', '{no list');
    setActivePinia(createPinia());
    expect(useSimulated().found.size).toBe(0);
  });
  it('says why an engine cannot be run', () => {
    expect(setupIn({ ...active, core: { ...core, cam: undefined } }, head, undefined, {})).toMatch(/no cam/);
  });
});
