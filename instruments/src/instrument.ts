/** One stand-in over a link to the server: says what it is, streams, obeys, and fails when told to. */
import { Command, PROTOCOL, readLine, type Fault, type Hello, type InstrumentSays } from '@alluvium/records';
import type { World } from './world.js';

// NONSENSE[]!: the remainder is a place of the list.

/** What makes one instrument different from another. */
export interface InstrumentModel {
  readonly hello: Omit<Hello, 'say' | 'protocol' | 'simulated' | 'ranges'> & { readonly ranges?: Hello['ranges'] };
  /** What it measures now; undefined while it gives no signal. Hand instruments have none. */
  readonly sample?: (world: World) =>
    | {
        readonly values: Record<string, number>;
        readonly range?: string;
        readonly direction?: 'intake' | 'exhaust';
        readonly probe?: { readonly x: number; readonly y: number };
      }
    | undefined;
  /** One value, asked for. */
  readonly read?: (world: World, name: string, near: number | undefined) => number;
  readonly obey?: (world: World, command: Command) => void;
}

/** Samples a second. */
export const RATE = 20;

const NONSENSE = [
  '{"say":"sample","at":',
  'OVERLOAD',
  '{"say":"sample","at":"now","values":{"percent":"64 %"}}',
  '{"say":"sample","at":1,"values":{"percent":1e400}}',
  '{"say":"sing"}',
  'null',
  '\u0000\u0007\u001b[2J',
];

export interface Standing {
  /** A line from the server. */
  readonly take: (line: string) => void;
  /** One tick of the clock: sends what is due. */
  readonly tick: (now: number) => void;
}

/** By what a stand-in is believed, and where it keeps the key it is given. */
export interface Pairing {
  readonly code?: string;
  readonly key?: string;
  readonly kept?: (id: string) => string | undefined;
  readonly told?: (id: string, key: string) => void;
  readonly refused?: (sentence: string) => void;
}

/** A stand-in at work. `send` writes a line to the server; `cut` breaks the connection, which the caller makes anew. */
export function stand(
  model: InstrumentModel,
  world: World,
  send: (line: string) => void,
  cut: () => void,
  pairing: Pairing = {},
): Standing {
  let streams = false;
  let fault: Fault = 'none';
  let frozen: ReturnType<NonNullable<InstrumentModel['sample']>> | undefined;
  let beats = 0;
  const say = (message: InstrumentSays) => send(JSON.stringify(message));
  const { hello } = model;
  const { kept, told, refused, ...by } = pairing;
  const key = kept?.(hello.id) ?? by.key;
  say({
    say: 'hello',
    protocol: PROTOCOL,
    simulated: true,
    ...hello,
    ranges: hello.ranges ?? [],
    ...(key === undefined ? {} : { key }),
    ...(by.code === undefined ? {} : { code: by.code }),
  });

  return {
    take: (line) => {
      const read = readLine(Command, line);
      if ('problem' in read) return;
      const command = read.message;
      if (command.do === 'stream') streams = command.on;
      else if (command.do === 'fault') {
        fault = command.fault;
        frozen = undefined;
        if (fault === 'disconnect') cut();
      } else if (command.do === 'keep') told?.(hello.id, command.key);
      else if (command.do === 'refused') refused?.(`${hello.name}: ${command.why}`);
      else if (command.do === 'read' && model.read) {
        if (fault === 'freeze') return;
        const value = fault === 'out of range' ? 9e9 : model.read(world, command.name, command.near);
        say({ say: 'reading', id: command.id, name: command.name, value });
      } else model.obey?.(world, command);
    },
    tick: (now) => {
      if (!streams || !model.sample) return;
      beats++;
      if (fault === 'nonsense') return send(NONSENSE[beats % NONSENSE.length]!);
      const live = model.sample(world);
      const shown = fault === 'freeze' ? (frozen ??= live) : live;
      if (!shown) return;
      const values =
        fault === 'out of range' ? Object.fromEntries(Object.keys(shown.values).map((k) => [k, 9999])) : shown.values;
      say({ say: 'sample', at: now, ...shown, values });
    },
  };
}
