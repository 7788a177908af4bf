import type { DxfEntity } from '@alluvium/records';

/** What is taken of a DXF drawing. */
export interface Drawing {
  readonly entities: readonly DxfEntity[];
  readonly insUnits: number | undefined;
}

/** Some broken texts keep the parser going for ever: it is given this long, ms. */
export const PATIENCE = 10_000;

/** Reads a drawing in a thread of its own, which is ended when it does not come to an end. @throws Error. */
export function readDxf(text: string, start: () => Worker = startWorker): Promise<Drawing> {
  const worker = start();
  return new Promise<Drawing>((done, fail) => {
    const late = setTimeout(() => fail(new Error('The drawing takes too long to read.')), PATIENCE);
    worker.onmessage = ({ data }: MessageEvent<Drawing | { readonly problem: string }>) => {
      clearTimeout(late);
      if ('problem' in data) fail(new Error(data.problem));
      else done(data);
    };
    worker.onerror = () => fail(new Error('The drawing cannot be read.'));
    worker.postMessage(text);
  }).finally(() => worker.terminate());
}

const startWorker = () => new Worker(new URL('./dxf.worker.ts', import.meta.url), { type: 'module' });
