/** How fast a sample reaches the screen, and whether half an hour of them leaves the page's memory as it was. */
import { STAND_INS, USUAL_TRAITS, World, stand, type Standing } from '@alluvium/instruments';
import type { CDPSession, Page } from '@playwright/test';
import WebSocket from 'ws';

const THREE = ['bench', 'dial', 'swirl'] as const;

/** Notes in the page when each frame of the flow bench was sent, and when the picture after it was painted. */
const WATCH = `(() => {
  window.__latency = [];
  const Own = window.WebSocket;
  window.WebSocket = class extends Own {
    constructor(...args) {
      super(...args);
      this.addEventListener('message', (event) => {
        const sent = [];
        for (const line of String(event.data).split('\\n')) {
          if (!line.includes('"stand-in-bench"') || !line.includes('"samples"')) continue;
          for (const frame of JSON.parse(line).frames) sent.push(frame.at);
        }
        if (sent.length) requestAnimationFrame(() => requestAnimationFrame(() => {
          const now = Date.now();
          for (const at of sent) if (window.__latency.length < 5000) window.__latency.push(now - at);
        }));
      });
    }
  };
})()`;

async function connect(
  url: string,
  name: (typeof THREE)[number],
  world: World,
): Promise<{ me: Standing; close: () => void }> {
  const socket = new WebSocket(`${url.replace('http', 'ws')}/api/instruments/link`);
  await new Promise((done) => socket.once('open', done));
  const code = await pairingCode(url);
  const me = stand(
    STAND_INS[name],
    world,
    (line) => socket.send(`${line}\n`),
    () => {},
    { code },
  );
  socket.on('message', (data) => {
    for (const line of String(data).split('\n')) if (line) me.take(line);
  });
  return { me, close: () => socket.close() };
}

/** Asks for a code as a page does. */
async function pairingCode(url: string): Promise<string> {
  const page = new WebSocket(`${url.replace('http', 'ws')}/api/bench/live`);
  const code = new Promise<string>((done) => {
    page.on('message', (data) => {
      for (const line of String(data).split('\n')) {
        const told = line ? (JSON.parse(line) as { tell: string; code?: string | null }) : undefined;
        if (told?.tell === 'code' && told.code) done(told.code);
      }
    });
  });
  await new Promise((done) => page.once('open', done));
  page.send('{"ask":"pair"}\n');
  const text = await code;
  page.close();
  return text;
}

async function heap(session: CDPSession): Promise<number> {
  await session.send('HeapProfiler.collectGarbage');
  await session.send('HeapProfiler.collectGarbage');
  const { metrics } = await session.send('Performance.getMetrics');
  return metrics.find((m) => m.name === 'JSHeapUsedSize')!.value / 1e6;
}

export interface LiveFigures {
  /** Sample to picture, ms, at 20 a second from three instruments. */
  readonly latencies: readonly number[];
  /** Growth of the page's heap over 36,000 samples of each, MB. */
  readonly growth: number;
  readonly samples: number;
}

/** The run page of a demo session under a stream: first as fast as life, then half an hour in a quarter of a minute. */
export async function liveStream(page: Page, url: string): Promise<LiveFigures> {
  await page.addInitScript(WATCH);
  const world = new World(USUAL_TRAITS, 3);
  world.liftWanted = 0.0102;
  // One after the other: a code is good for one.
  const three: Awaited<ReturnType<typeof connect>>[] = [];
  for (const name of THREE) three.push(await connect(url, name, world));
  await page.goto(`${url}/bench/session/session-p6-open?pane=run`);
  await page.getByText('Put port 1 intake on the bench.').waitFor();
  await page.keyboard.press('Space');
  const beat = (at: number) => {
    world.pass(0.05);
    for (const { me } of three) me.tick(at);
  };
  const pause = (ms: number) => new Promise((r) => setTimeout(r, ms));
  for (let i = 0; i < 300; i++) {
    beat(Date.now());
    await pause(50);
  }
  // The first second goes into warming up.
  const latencies = ((await page.evaluate('window.__latency')) as number[]).slice(20);

  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable');
  let clock = Date.now();
  const rush = async (samples: number) => {
    for (let i = 0; i < samples; i += 100) {
      for (let k = 0; k < 100; k++) beat((clock += 50));
      await pause(40);
    }
    await pause(300);
  };
  await rush(3_000);
  const before = await heap(session);
  await rush(36_000);
  const growth = (await heap(session)) - before;
  for (const { close } of three) close();
  return { latencies, growth, samples: 36_000 };
}
