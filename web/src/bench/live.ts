import type { Sample } from '@alluvium/core';
import type { BenchAsks, BenchTells, Instrument, InstrumentKind, Order, SampleFrame } from '@alluvium/records';
import { defineStore } from 'pinia';
import { newId } from '../data/ids.js';
import { ref, shallowRef } from 'vue';

/** Samples kept of each quantity: half a minute at 20 a second. More would only grow the memory. */
const KEPT = 600;
const BACK_AFTER_MS = 1_000;
/** How often silence is looked for, ms. */
const PULSE_MS = 500;
/** An instrument that says nothing for so long is silent, ms. */
export const SILENCE_MS = 1_500;

/** This page, for as long as its tab lives: a reload keeps the session in its hand. */
export function pageId(): string {
  const known = sessionStorage.getItem('alluvium.page');
  if (known) return known;
  const made = newId();
  sessionStorage.setItem('alluvium.page', made);
  return made;
}

/** A sample, and where a motor held the pitot when it was taken. */
export interface Shown extends Sample {
  readonly probe?: SampleFrame['probe'];
}

export interface Recorder {
  /** Whether this page records. */
  readonly mine: boolean;
  /** Whether any page does. */
  readonly taken: boolean;
  readonly onlookers: number;
  /** Another page asks this one to hand over. */
  readonly asked: boolean;
  /** This page has asked, and waits. */
  readonly asking: boolean;
  /** This page asked, and was told no. */
  readonly refused: boolean;
}

/** The live line to the bench: which instruments there are, what they show, and who records. */
export const useBenchLive = defineStore('bench live', () => {
  const instruments = shallowRef<readonly Instrument[]>([]);
  const connected = ref(false);
  const recorder = shallowRef<Recorder>();
  /** Grows whenever samples came in, and twice a second when none do: what reads the streams hangs on it. */
  const ticks = ref(0);
  /** Grows when somebody else changed the session. */
  const changes = ref(0);
  /** A code to pair an instrument with, as long as it is good. */
  const code = shallowRef<{ readonly code: string | null; readonly until: number }>();
  /** Why the last frame of an instrument was left out, by its id. */
  const doubts = shallowRef<Readonly<Record<string, string>>>({});
  const streams = new Map<string, Shown[]>();
  const heard = new Map<string, number>();
  const marks = new Map<string, Pick<SampleFrame, 'range' | 'direction'>>();
  let socket: WebSocket | undefined;
  let users = 0;
  let session = '';
  let again: ReturnType<typeof setTimeout> | undefined;
  let pulse: ReturnType<typeof setInterval> | undefined;

  const ask = (message: BenchAsks) => {
    if (socket?.readyState === WebSocket.OPEN) socket.send(`${JSON.stringify(message)}\n`);
  };

  /** Nothing is taken from, or asked of, an instrument that is not paired. */
  const ofKind = (kind: InstrumentKind) => instruments.value.find((i) => i.kind === kind && i.standing !== 'unknown');

  /** Orders whose instrument is not there yet: the last of each, told when one comes. */
  const owed = new Map<string, { readonly kind: InstrumentKind; readonly command: Order }>();
  function settle(): void {
    for (const [key, { kind, command }] of owed) {
      const to = ofKind(kind);
      if (!to) continue;
      owed.delete(key);
      if (to.takes.includes(command.do)) ask({ ask: 'command', instrument: to.id, command });
    }
  }

  function doubt(id: string, text: string): void {
    if ((doubts.value[id] ?? '') !== text) doubts.value = { ...doubts.value, [id]: text };
  }

  /** Takes frames of one instrument; values beyond its own limits are left out and said. */
  function take(id: string, frames: readonly SampleFrame[]): void {
    const limits = instruments.value.find((i) => i.id === id)?.quantities ?? [];
    let odd = '';
    for (const frame of frames) {
      for (const [name, value] of Object.entries(frame.values)) {
        const limit = limits.find((q) => q.name === name);
        if (!limit || value < (limit.min ?? -Infinity) || value > (limit.max ?? Infinity)) {
          odd = `shows a ${name} of ${value}, out of its own range: left out`;
          continue;
        }
        const stream = streams.get(name) ?? [];
        stream.push({ at: frame.at / 1000, value, ...(frame.probe ? { probe: frame.probe } : {}) });
        if (stream.length > KEPT) stream.splice(0, stream.length - KEPT);
        streams.set(name, stream);
      }
      marks.set(id, {
        ...(frame.range ? { range: frame.range } : {}),
        ...(frame.direction ? { direction: frame.direction } : {}),
      });
    }
    doubt(id, odd);
    if (!odd) heard.set(id, performance.now());
    ticks.value++;
  }

  function hear(message: BenchTells): void {
    if (message.tell === 'instruments') {
      instruments.value = message.instruments;
      // What an instrument that left had shown is no longer what there is.
      const names = new Set(message.instruments.flatMap((i) => i.quantities.map((q) => q.name)));
      for (const name of streams.keys()) if (!names.has(name)) streams.delete(name);
      settle();
      ticks.value++;
    } else if (message.tell === 'samples') take(message.id, message.frames);
    else if (message.tell === 'hand') {
      if (message.session === session) recorder.value = message;
    } else if (message.tell === 'code') code.value = message.code === null ? undefined : message;
    else if (message.tell === 'changed') changes.value++;
  }

  function connect(): void {
    clearTimeout(again);
    const url = new URL('/api/bench/live', location.href);
    url.protocol = url.protocol.replace('http', 'ws');
    const mine = new WebSocket(url);
    socket = mine;
    mine.onopen = () => {
      connected.value = true;
      ask({ ask: 'watch', on: true });
      if (session) ask({ ask: 'session', session, client: pageId() });
    };
    mine.onmessage = (event) => {
      for (const line of String(event.data).split('\n')) if (line) hear(JSON.parse(line) as BenchTells);
    };
    mine.onclose = () => {
      if (socket !== mine) return;
      connected.value = false;
      recorder.value = undefined;
      instruments.value = [];
      streams.clear();
      if (users > 0) again = setTimeout(connect, BACK_AFTER_MS);
    };
  }

  return {
    instruments,
    connected,
    recorder,
    ticks,
    changes,
    doubts,
    code,
    pair: () => ask({ ask: 'pair' }),
    forget: (instrument: string) => ask({ ask: 'forget', instrument }),
    /** Keeps the line open until it is called with the answer's function; the last one out closes it. */
    use: (): (() => void) => {
      if (users++ === 0) {
        connect();
        // An instrument that falls silent sends nothing that would say so.
        pulse = setInterval(() => ticks.value++, PULSE_MS);
      }
      return () => {
        if (--users > 0) return;
        clearTimeout(again);
        clearInterval(pulse);
        const closing = socket;
        socket = undefined;
        connected.value = false;
        closing?.close();
      };
    },
    open: (id: string) => {
      session = id;
      recorder.value = undefined;
      ask({ ask: 'session', session: id, client: pageId() });
    },
    takeOver: () => ask({ ask: 'take over', session, client: pageId() }),
    /** The answer to another page that asked. */
    handOver: (yes: boolean) => ask({ ask: 'hand over', session, client: pageId(), yes }),
    leave: () => {
      session = '';
      recorder.value = undefined;
      owed.clear();
      ask({ ask: 'leave' });
    },
    /** The first instrument of a kind that is connected. */
    ofKind,
    command: (instrument: string, command: Order) => ask({ ask: 'command', instrument, command }),
    /** Tells the instrument of a kind what to do, when one is there that takes it. */
    order: (kind: InstrumentKind, command: Order) => {
      owed.set(`${kind} ${command.do}`, { kind, command });
      settle();
    },
    /** The last half minute of one quantity, oldest first. Hang on `ticks` to see it move. */
    samples: (name: string): readonly Shown[] => streams.get(name) ?? [],
    latest: (name: string): number | undefined => streams.get(name)?.at(-1)?.value,
    /** Milliseconds since an instrument last said something usable. */
    silentFor: (id: string): number => performance.now() - (heard.get(id) ?? -Infinity),
    mark: (id: string) => marks.get(id) ?? {},
    hear,
  };
});
