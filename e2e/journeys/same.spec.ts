import { join } from 'node:path';
import {
  COARSE,
  cfm,
  degrees,
  inches,
  plainPipe,
  rpm,
  simulationSetup,
  solvePoint,
  type PointJob,
  type SpeedPoint,
} from '@alluvium/core';
import { build } from 'vite';
import { expect, test } from '../test.js';

/** The core as one script for any page. */
async function bundled(): Promise<string> {
  const made = await build({
    configFile: false,
    logLevel: 'silent',
    build: {
      write: false,
      minify: false,
      lib: { entry: join(import.meta.dirname, '../../core/src/index.ts'), formats: ['iife'], name: 'core' },
    },
  });
  const [first] = [made].flat();
  if (!first || !('output' in first)) throw new Error('The core was not bundled.');
  return first.output[0].code;
}

test('the simulation makes the same of one engine in the browser and in Node, to 1e-9', async ({ page }) => {
  const rows = [58, 118, 170, 205, 222].map((q, i) => ({ lift: inches(0.1 * (i + 1)), flow: cfm(q) }));
  const setup = simulationSetup(
    {
      bore: 0.098,
      stroke: 0.093,
      cylinders: 6,
      compression: 9.5,
      fuel: 'petrol',
      induction: { kind: 'natural' },
      cam: {
        intakeLift: inches(0.48),
        intakeDuration: degrees(224),
        lobeSeparation: degrees(110),
        intakeCentreline: degrees(106),
        rockerRatio: 1.5,
      },
      power: 216_000,
      speed: rpm(5600),
    },
    { bore: 0.098, stroke: 0.093 },
    {
      ports: [
        {
          name: 'port',
          intake: rows,
          exhaust: rows.map((r) => ({ ...r, flow: 0.74 * r.flow })),
          intakePort: plainPipe(0.12, 1.2e-3),
          exhaustPort: plainPipe(0.08, 1e-3),
        },
      ],
      sheet: { id: 'sheet', intake: 0.01, exhaust: 0.01 },
    },
  );
  const jobs = [3000, 5600].map((n): PointJob => ({ setup, speed: rpm(n), running: COARSE }));
  const here = jobs.map((job) => solvePoint(job).point);
  await page.goto('about:blank');
  await page.addScriptTag({ content: await bundled() });
  const there = await page.evaluate((list) => {
    const { core } = window as unknown as { core: { solvePoint: (job: unknown) => { point: unknown } } };
    return list.map((job) => core.solvePoint(job).point);
  }, jobs);
  here.forEach((point, i) => {
    expect(point.ok).toBe(true);
    for (const [key, value] of Object.entries(point)) {
      const other = (there[i] as SpeedPoint)[key as keyof SpeedPoint] as unknown;
      if (typeof value !== 'number') expect(other, key).toBe(value);
      else expect(Math.abs((other as number) - value), key).toBeLessThanOrEqual(1e-9 * Math.max(1e-3, Math.abs(value)));
    }
  });
});
