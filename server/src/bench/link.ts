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
  close(): void;
  terminate(): void;
  on(event: 'message', take: (data: unknown) => void): unknown;
  on(event: 'close', take: () => void): unknown;
  on(event: 'error', take: () => void): unknown;
  readonly readyState: number;
}
const OPEN = 1;
/** A peer that sends more than this without a line break is cut off. */
const MAX_PENDING = 65_536;

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
  socket.on('message', (data) => {
    rest += String(data);
    const lines = rest.split('\n');
    rest = lines.pop()!;
    if (rest.length > MAX_PENDING) return socket.terminate();
    for (const line of lines) if (line.trim() !== '') link.onLine(line);
  });
  socket.on('close', () => link.onClose());
  socket.on('error', () => socket.terminate());
  return link;
}
