/** Clients that mean no good, and many that mean well; how long the server keeps others waiting meanwhile. */
import { request } from 'node:http';
import { connect } from 'node:net';
import WebSocket from 'ws';

export const pause = (ms: number) => new Promise<void>((go) => setTimeout(go, ms));
export const quantile = (values: readonly number[], q: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * q))]!;

/** Asks for the health over and over while something goes on; the waits, ms. */
export async function healthDuring(url: string, work: () => Promise<void>): Promise<number[]> {
  const waits: number[] = [];
  let going = true;
  const asking = (async () => {
    while (going) {
      const began = performance.now();
      if (!(await fetch(`${url}/api/health`)).ok) waits.push(Infinity);
      waits.push(performance.now() - began);
      await pause(20);
    }
  })();
  await work();
  going = false;
  await asking;
  return waits;
}

const until = async (ms: number, work: () => Promise<unknown>) => {
  const end = Date.now() + ms;
  while (Date.now() < end) await work().catch(() => pause(5));
};

/** Small malformed bundles from several sides. */
export const malformedFlood = (url: string, ms: number): Promise<unknown> =>
  Promise.all(
    Array.from({ length: 12 }, () =>
      until(ms, async () => {
        await (
          await fetch(`${url}/api/bundle/preview`, {
            method: 'POST',
            headers: { 'content-type': 'application/json' },
            body: JSON.stringify({
              format: 'alluvium-bundle',
              version: 1,
              heads: Array.from({ length: 40 }, () => ({ id: '!' })),
            }),
          })
        ).text();
      }),
    ),
  );

/** Ten thousand messages a second over the sockets; those that are cut off come back. */
export async function messageFlood(url: string, ms: number): Promise<void> {
  const end = Date.now() + ms;
  const one = async (path: string) => {
    while (Date.now() < end) {
      const socket = new WebSocket(url.replace('http', 'ws') + path);
      socket.on('error', () => {});
      await Promise.race([new Promise((done) => socket.once('open', done)), pause(500)]);
      while (Date.now() < end && socket.readyState === WebSocket.OPEN) {
        for (let i = 0; i < 25; i++) socket.send('{"ask":"watch","on":true}\n');
        await pause(10);
      }
      socket.terminate();
    }
  };
  await Promise.all(Array.from({ length: 4 }, (_, i) => one(i % 2 ? '/api/bench/live' : '/api/instruments/link')));
}

/** Connections that say nothing, and requests that come by drops. */
export async function lingerers(url: string, ms: number, idle = 500, dripping = 250): Promise<void> {
  const { hostname, port } = new URL(url);
  const sockets = Array.from({ length: idle }, () => connect(Number(port), hostname).on('error', () => {}));
  const slow = Array.from({ length: dripping }, () => {
    const r = request(`${url}/api/change`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'content-length': 100_000 },
    });
    r.on('error', () => {});
    const drip = setInterval(() => r.write(' '), 500);
    r.on('close', () => clearInterval(drip));
    return r;
  });
  await pause(ms);
  for (const s of sockets) s.destroy();
  for (const r of slow) r.destroy();
}

/** Clients that read and write as a shop does; the waits of their reads, ms, and what was refused. */
export async function shop(url: string, clients: number, ms: number): Promise<{ reads: number[]; errors: string[] }> {
  const reads: number[] = [];
  const errors: string[] = [];
  const read = async (path: string) => {
    const began = performance.now();
    const answer = await fetch(url + path);
    await answer.text();
    reads.push(performance.now() - began);
    if (!answer.ok) errors.push(`${path}: ${answer.status}`);
  };
  const client = async (n: number) => {
    const end = Date.now() + ms;
    for (let i = 0; Date.now() < end; i++) {
      await read(
        ['/api/library?size=50', '/api/head/corrow-417/whole', '/api/build', `/api/library?search=${n}`][i % 4]!,
      );
      if (i % 10 === n % 10) {
        const added = await fetch(`${url}/api/head`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ name: `Client ${n}, ${i}` }),
        });
        await added.text();
        if (!added.ok) errors.push(`add: ${added.status}`);
      }
      await pause(50);
    }
  };
  await Promise.all(Array.from({ length: clients }, (_, n) => client(n)));
  return { reads, errors };
}

/** A bundle of so many heads, each with a sheet of fourteen lifts. */
export function manyHeads(count: number, prefix: string) {
  const heads = Array.from({ length: count }, (_, i) => ({ id: `${prefix}${i}`, name: `${prefix} ${i}` }));
  const lifts = Array.from({ length: 14 }, (_, k) => `${((k + 1) * 0.05).toFixed(3)} in`);
  return {
    format: 'alluvium-bundle',
    version: 1,
    heads,
    stages: heads.map(({ id }) => ({ id: `${id}-s`, headId: id, name: 'as received' })),
    sheets: heads.map(({ id }, i) => ({
      id: `${id}-f`,
      stageId: `${id}-s`,
      title: 'bench',
      kind: 'measured',
      setup: { depression: '28 inH2O' },
      rows: lifts.map((lift, k) => ({
        lift,
        intake: { pulls: [`${60 + 12 * k + (i % 9)} cfm`] },
        exhaust: { pulls: [`${45 + 9 * k} cfm`] },
      })),
    })),
  };
}
