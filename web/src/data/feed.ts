import type { FeedLine } from '@alluvium/records';
import type { QueryClient } from '@tanstack/vue-query';
import { notBefore } from './today.js';
import { refresh } from './keys.js';
import { heard } from './reach.js';

// next().value!: it holds more than one.

const BACK_AFTER_MS = 1_000;
/** Batches made here that the feed may still tell of. */
const own = new Set<number>();
let sending = 0;
let held: (FeedLine & { tell: 'change' })[] = [];
let client: QueryClient | undefined;

function take(line: FeedLine & { tell: 'change' }): void {
  notBefore(line.at);
  if (own.delete(line.batch)) return;
  if (client) void refresh(client, line.touched);
}

/**
 * Runs a change of our own. What the feed tells meanwhile waits for its answer, so that no view is asked for twice:
 * once as our own change and once as somebody's.
 */
export async function asOwn<T extends { readonly batch: number | null }>(work: () => Promise<T>): Promise<T> {
  sending++;
  try {
    const answer = await work();
    if (client && answer.batch !== null) {
      own.add(answer.batch);
      // A change sent twice is told once: what is never told must not be kept for ever.
      if (own.size > 200) own.delete(own.values().next().value!);
    }
    return answer;
  } finally {
    if (--sending === 0) {
      const lines = held;
      held = [];
      lines.forEach(take);
    }
  }
}

/** Listens to every change that is made anywhere, and asks anew for what it made old. Comes back by itself. */
export function followChanges(queries: QueryClient): void {
  client = queries;
  let before = false;
  const connect = () => {
    const url = new URL('/api/change/feed', location.href);
    url.protocol = url.protocol.replace('http', 'ws');
    const socket = new WebSocket(url);
    socket.onopen = () => {
      heard(true);
      // What changed while the line was down was not heard.
      if (before) void queries.invalidateQueries();
      before = true;
    };
    socket.onmessage = (event) => {
      for (const text of String(event.data).split('\n')) {
        if (!text) continue;
        const line = JSON.parse(text) as FeedLine;
        if (line.tell === 'hello') notBefore(line.latest);
        else if (sending > 0) held.push(line);
        else take(line);
      }
    };
    socket.onclose = () => {
      heard(false);
      setTimeout(connect, BACK_AFTER_MS);
    };
  };
  connect();
}
