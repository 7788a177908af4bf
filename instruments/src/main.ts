/**
 * Stand-ins for instruments: `node instruments/dist/main.js --server http://127.0.0.1:4870 [--only bench,dial]
 * [--seed 1] [--clean] [--code 123456] [--keys FILE]`. Each keeps its own connection and comes back when it is cut. Ends
 * with the process that began it. Begun by hand, one is paired at a time: `--only bench --code` with the code the page
 * shows; the key it is given is kept in the file of keys.
 */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { dirname, join } from 'node:path';
import { parseArgs } from 'node:util';
import WebSocket from 'ws';
import {
  IDEAL_TRAITS,
  RATE,
  STAND_INS,
  USUAL_TRAITS,
  World,
  stand,
  type Pairing,
  type StandIn,
  type Standing,
} from './index.js';

const { values: options } = parseArgs({
  options: {
    server: { type: 'string', default: 'http://127.0.0.1:4870' },
    only: { type: 'string', default: Object.keys(STAND_INS).join(',') },
    seed: { type: 'string', default: '1' },
    clean: { type: 'boolean', default: false },
    code: { type: 'string' },
    keys: { type: 'string', default: join(homedir(), '.config', 'alluvium-instruments.json') },
  },
});
const names = options.only.split(',').map((n) => n.trim());
const unknown = names.find((n) => !(n in STAND_INS));
const seed = Number(options.seed);
if (unknown !== undefined || !Number.isInteger(seed)) {
  console.error(
    unknown === undefined
      ? `“${options.seed}” is no whole number for --seed.`
      : `There is no stand-in “${unknown}”; there are ${Object.keys(STAND_INS).join(', ')}.`,
  );
  process.exit(1);
}
const link = new URL('/api/instruments/link', options.server);
link.protocol = link.protocol.replace('http', 'ws');

const world = new World(options.clean ? IDEAL_TRAITS : USUAL_TRAITS, seed);
const standing = new Map<string, Standing>();
const BACK_AFTER_MS = 2_000;

/** Keys given at pairing, by instrument. */
function keys(): Record<string, string> {
  try {
    return JSON.parse(readFileSync(options.keys, 'utf8')) as Record<string, string>;
  } catch {
    return {};
  }
}
let said = '';
const own = process.env.ALLUVIUM_STAND_INS_KEY;
const pairing: Pairing = {
  ...(own === undefined ? {} : { key: own }),
  ...(options.code === undefined ? {} : { code: options.code }),
  kept: (id) => (own === undefined ? keys()[id] : own),
  told: (id, key) => {
    mkdirSync(dirname(options.keys), { recursive: true });
    writeFileSync(options.keys, `${JSON.stringify({ ...keys(), [id]: key }, null, 2)}\n`, { mode: 0o600 });
  },
  refused: (sentence) => {
    if (sentence !== said) console.error(sentence);
    said = sentence;
  },
};

function connect(name: StandIn): void {
  // Where the server asks for a passphrase, it asks programs as well.
  const passphrase = process.env.ALLUVIUM_PASSPHRASE;
  const socket = new WebSocket(link, passphrase ? { headers: { authorization: `Bearer ${passphrase}` } } : {});
  socket.on('open', () => {
    const me = stand(
      STAND_INS[name],
      world,
      (line) => socket.readyState === WebSocket.OPEN && socket.send(`${line}\n`),
      () => socket.close(),
      pairing,
    );
    standing.set(name, me);
    socket.on('message', (data) => {
      for (const line of String(data).split('\n')) if (line.trim()) me.take(line);
    });
  });
  socket.on('error', () => {});
  socket.on('close', () => {
    standing.delete(name);
    setTimeout(() => connect(name), BACK_AFTER_MS);
  });
}
for (const name of names) connect(name as StandIn);

let last = performance.now();
setInterval(() => {
  const now = performance.now();
  world.pass((now - last) / 1000);
  last = now;
  for (const s of standing.values()) s.tick(Date.now());
}, 1000 / RATE);

// A child of the server ends with it, however it ended.
process.on('disconnect', () => process.exit(0));
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0));
