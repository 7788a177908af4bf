// whole.pop()!: splitting gives one part at least.

/** A way to an instrument: lines out, lines in. A serial or USB instrument needs only one of these. */
export interface Link {
  /** Sends one line, without its line break. */
  readonly send: (line: string) => void;
  /** Each whole line that comes; set once, before anything arrives. */
  onLine: (line: string) => void;
  /** The way is gone; called once. */
  onClose: () => void;
  readonly close: () => void;
}

/** What a WebSocket has that a link needs. */
interface Socket {
  send(data: string): void;
  ping(): void;
  close(): void;
  terminate(): void;
  on(event: 'message', take: (data: unknown) => void): unknown;
  on(event: 'pong' | 'close' | 'error', take: () => void): unknown;
  readonly readyState: number;
}
const OPEN = 1;
/** A peer that sends more than this without a line break is cut off. */
const MAX_PENDING = 65_536;
/** A peer is asked so often whether it is still there, and cut when it was silent for two of them, ms. */
const PULSE_MS = 5_000;

/** Lines a second, over which a peer is cut off: no instrument and no page has so much to say. */
const MOST_LINES = 4_000;

/** Newline-delimited JSON over a WebSocket: a message may hold several lines, or part of one. */
export function webSocketLink(socket: Socket): Link {
  const link: Link = {
    send: (line) => {
      if (socket.readyState === OPEN) socket.send(`${line}\n`);
    },
    onLine: () => {},
    onClose: () => {},
    close: () => socket.close(),
  };
  let rest = '';
  let heard = true;
  let since = Date.now();
  let lines = 0;
  const pulse = setInterval(() => {
    if (!heard) return socket.terminate();
    heard = false;
    if (socket.readyState === OPEN) socket.ping();
  }, PULSE_MS);
  pulse.unref();
  socket.on('pong', () => (heard = true));
  socket.on('message', (data) => {
    heard = true;
    rest += String(data);
    const whole = rest.split('\n');
    rest = whole.pop()!;
    if (Date.now() - since > 1_000) [since, lines] = [Date.now(), 0];
    // A message without a line break counts as well, or many small ones would be free.
    lines += Math.max(1, whole.length);
    if (rest.length > MAX_PENDING || lines > MOST_LINES) return socket.terminate();
    for (const line of whole) if (line.trim() !== '') link.onLine(line);
  });
  socket.on('close', () => {
    clearInterval(pulse);
    link.onClose();
  });
  socket.on('error', () => socket.terminate());
  return link;
}
