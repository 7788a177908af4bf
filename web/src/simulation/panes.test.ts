import { readFileSync } from 'node:fs';
import type { Trace } from '@alluvium/core';
import { flushPromises } from '@vue/test-utils';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { demoEngine } from '../test/demoEngine.js';
import { usePane } from '../test/pane.js';
import CyclePane from './CyclePane.vue';
import PressureVolume from './PressureVolume.vue';
import SizeChart from './SizeChart.vue';
import WhatIf from './WhatIf.vue';

const { build, core, setup } = demoEngine(readFileSync('demo/bundle.json', 'utf8'));
const head = { id: 'd', letter: 'D', name: 'Longreach 212', index: 3, setup };

const on = usePane();
/** A worker that is asked and never answers: what is run is no part of these tests. */
beforeEach(() => {
  vi.stubGlobal(
    'Worker',
    class {
      postMessage(): void {}
      terminate(): void {}
    },
  );
});

describe('what if', () => {
  const props = { heads: [head], speeds: [core.speed], target: core.speed, build };
  it('is kept with the build by what was typed, looked at again, and removed', async () => {
    await on.show(WhatIf, props);
    const compression = on.field('Compression');
    await compression.setValue('10.5');
    await compression.trigger('blur');
    const lost = on.field('Flow lost in the manifold');
    await lost.setValue('25 cfm');
    await lost.trigger('blur');
    expect(on.text()).toContain('port and manifold in series');
    await on.field('Save these changes under a name').setValue('Milled, small manifold');
    await on.submit();
    const { body } = on.sent[0]! as { body: typeof build };
    expect(body.variants).toMatchObject([
      {
        name: 'Milled, small manifold',
        changes: [
          { what: 'compression', value: { typed: '10.5:1' } },
          { what: 'manifold', value: { typed: '25 cfm' } },
        ],
      },
    ]);
    on.page.unmount();
    on.forget();
    await on.show(WhatIf, { ...props, build: body });
    await on.press('Milled, small manifold');
    expect(on.field('Compression').element.value).toBe('10.5:1');
    await on.press('Clear changes');
    expect(on.field('Compression').element.value).toBe('');
    await on.press('Remove “Milled');
    expect((on.sent[0]! as { body: typeof build }).body.variants).toEqual([]);
  });
  it('a figure that cannot be is told at its field, and cannot be kept', async () => {
    await on.show(WhatIf, props);
    const valve = on.field('Intake valve, ×');
    await valve.setValue('2');
    await valve.trigger('blur');
    expect(on.text()).toContain('The valve must lie between 0.8 and 1.2 times what it is.');
    expect(on.text()).not.toContain('Save these changes under a name');
  });
});

describe('port size', () => {
  it('draws each curve against its own best, the flat top by itself', async () => {
    const points = [0.8, 0.94, 1, 1.16, 1.35].map((factor, i) => ({ factor, torque: [380, 396, 398, 400, 390][i]! }));
    const sizes = [{ speed: core.speed, points, from: 1, to: 1.16 }];
    await on.show(SizeChart, { heads: [{ letter: 'D', index: 3, sizes }] });
    expect(on.text()).toContain('D, 5600 rpm');
    const [curve, flat] = on.page.findAll('path').map((p) => p.attributes('d')!.split('L').length);
    expect([curve, flat]).toEqual([5, 2]);
    expect(on.text()).toContain('as it is');
  });
});

describe('a cycle', () => {
  const d = Array.from({ length: 720 }, (_, i) => i);
  const along = (of: (a: number) => number) => d.map(of);
  const trace: Trace = {
    angle: along((a) => (a * Math.PI) / 180),
    lift: [along((a) => (a > 340 && a < 580 ? 0.01 : 0)), along((a) => (a > 130 && a < 380 ? 0.009 : 0))],
    flow: [along((a) => (a > 340 && a < 580 ? 0.2 : 0)), along((a) => (a > 130 && a < 380 ? 0.15 : 0))],
    pressure: along((a) => 1e5 * (1 + 30 * Math.exp(-(((a - 10) / 30) ** 2)))),
    volume: along((a) => 5e-4 - 4e-4 * Math.cos((a * Math.PI) / 180)),
    temperature: along(() => 500),
    burned: along(() => 0.1),
    port: [along(() => 1e5), along(() => 1.1e5)],
    chokeMach: along(() => 0.4),
    path: along(() => 0).map(() => [1e5, 1.01e5]),
    place: [0.01, 0.03],
  };
  const traces = [{ name: 'D Longreach 212', index: 3, trace }];
  it('is read by the arrow keys, in figures with their units', async () => {
    await on.show(CyclePane, { traces });
    const chart = on.page.find('svg');
    for (let k = 0; k < 2; k++) await chart.trigger('keydown', { key: 'ArrowRight' });
    expect(on.text()).toContain('19° after TDC. D Longreach 212: lift .394 and .354');
    for (let k = 0; k < 3; k++) await chart.trigger('keydown', { key: 'PageDown' });
    expect(on.text()).toContain('11° before TDC');
    await chart.trigger('keydown', { key: 'Escape' });
    expect(on.text()).toContain('Point at the curves');
  });
  it('as pressure over volume closes on itself', async () => {
    await on.show(PressureVolume, { traces });
    await flushPromises();
    const path = on.page.find('path').attributes('d')!;
    const [first, last] = [path.slice(1).split('L')[0], path.split('L').at(-1)];
    expect(last).toBe(first);
    expect(on.page.findAll('text.tick').length).toBeGreaterThan(4);
  });
});
