import DxfParser from 'dxf-parser';
import type { DxfEntity } from '@alluvium/records';
import type { Drawing } from './dxf.js';

self.onmessage = ({ data }: MessageEvent<string>) => {
  try {
    const dxf = new DxfParser().parseSync(data);
    if (!dxf) throw new Error('nothing was read');
    const drawing: Drawing = {
      entities: dxf.entities as unknown as DxfEntity[],
      insUnits: dxf.header?.['$INSUNITS'] as number | undefined,
    };
    self.postMessage(drawing);
  } catch (error) {
    self.postMessage({ problem: (error as Error).message });
  }
};
