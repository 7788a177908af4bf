import { gainsOf, sourceOffsets, type Gain, type OffsetResult } from '@alluvium/core';
import type { Net } from '@alluvium/records';

/** What a page shows of the net itself: its numbers stay in the worker. */
export type NetOutline = Pick<Net, 'sources' | 'heads' | 'shared' | 'pipeUnsaid'> & {
  readonly names: Readonly<Record<string, string>>;
};
export type OffsetAnswer =
  | { readonly progress: number }
  | { readonly net: NetOutline; readonly result: OffsetResult }
  | { readonly gains: readonly Gain[] }
  /** Why it could not be solved; the status is that of the server's answer, 0 for none. */
  | { readonly problem: string; readonly status: number };

export interface OffsetQuestion {
  /** Address of the net. */
  readonly url: string;
  /** Also weigh which head to test next. */
  readonly weigh: boolean;
}

const tell = (answer: OffsetAnswer) => self.postMessage(answer);

async function netAt(url: string): Promise<Net | undefined> {
  try {
    const response = await fetch(url);
    const body = (await response.json()) as Net & { detail?: string };
    if (response.ok) return body;
    tell({ problem: body.detail ?? `The server answered ${response.status}.`, status: response.status });
  } catch {
    tell({ problem: 'The server does not answer.', status: 0 });
  }
  return undefined;
}

self.onmessage = async ({ data: { url, weigh } }: MessageEvent<OffsetQuestion>) => {
  const net = await netAt(url);
  if (!net) return;
  const data = {
    ...net.data,
    point: Int32Array.from(net.data.point),
    source: Int32Array.from(net.data.source),
    logFlow: Float64Array.from(net.data.logFlow),
  };
  const result = sourceOffsets(data, { progress: (progress) => tell({ progress }) });
  const { sources, heads, shared, pipeUnsaid, candidates } = net;
  tell({
    net: { sources, heads, shared, pipeUnsaid, names: Object.fromEntries(candidates.map((c) => [c.key, c.name])) },
    result,
  });
  tell({ gains: weigh ? gainsOf(data, candidates, result.sigma) : [] });
};
