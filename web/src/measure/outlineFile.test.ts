// @vitest-environment node
import { outlineOf } from '@alluvium/core';
import { writeOutlineCsv, type DxfEntity } from '@alluvium/records';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { PATIENCE, readDxf, type Drawing } from './dxf.js';
import { readOutlineFile } from './outlineFile.js';

afterEach(() => vi.useRealTimers());
const shape = { kind: 'round', width: 0.04 } as const;
const circle: DxfEntity = { type: 'CIRCLE', layer: 'station 10', center: { x: 0, y: 0 }, radius: 20 };

/** A thread that answers as it is told, or never. */
function thread(answer?: Drawing | { problem: string }) {
  const worker = {
    onmessage: (_: { data: unknown }) => {},
    onerror: () => {},
    ended: false,
    postMessage: () => {
      if (answer) queueMicrotask(() => worker.onmessage({ data: answer }));
    },
    terminate: () => void (worker.ended = true),
  };
  return worker;
}
const start = (worker: ReturnType<typeof thread>) => () => worker as unknown as Worker;

describe('a drawing', () => {
  it('gives its outlines with their stations', async () => {
    const csv = await readOutlineFile(new File([writeOutlineCsv([{ station: 0.01, shape }])], 'port.csv'));
    expect([csv.problems, csv.outlines.map((o) => o.station)]).toEqual([[], [0.01]]);
    const dxf = await readOutlineFile(new File([''], 'port.dxf'), async () => ({ entities: [circle], insUnits: 4 }));
    expect([dxf.problems, dxf.outlines[0]!.station]).toEqual([[], 0.01]);
    expect(dxf.outlines[0]!.points).toHaveLength(outlineOf(shape).length);
  });
  it('over 10 MB is not read', async () => {
    const { problems } = await readOutlineFile(new File([new Uint8Array(10_000_001)], 'scan.dxf'));
    expect(problems[0]).toContain('over 10 MB');
  });
  it('is read in a thread, which is ended; what the thread cannot read is a sentence', async () => {
    const sound = thread({ entities: [circle], insUnits: 4 });
    expect((await readDxf('text', start(sound))).entities).toHaveLength(1);
    expect(sound.ended).toBe(true);
    const broken = thread({ problem: 'Unexpected end' });
    const read = await readOutlineFile(new File(['0'], 'x.dxf'), (text) => readDxf(text, start(broken)));
    expect(read.problems).toEqual(['x.dxf is no DXF this program can read. Save it as ASCII DXF.']);
  });
  it('that never comes to an end is given up, and its thread ended', async () => {
    vi.useFakeTimers();
    const endless = thread();
    const reading = readDxf('text', start(endless));
    const refused = expect(reading).rejects.toThrow('too long');
    await vi.advanceTimersByTimeAsync(PATIENCE);
    await refused;
    expect(endless.ended).toBe(true);
  });
});
