/**
 * Instruments on one side, browsers on the other. Holds nothing that must outlive the process: what is recorded goes
 * through the routes into the database.
 */
import {
  BenchAsks,
  InstrumentSays,
  readLine,
  type BenchTells,
  type Command,
  type Instrument,
  type SampleFrame,
} from '@alluvium/records';
import type { Link } from './link.js';

interface Connected {
  readonly link: Link;
  info: Instrument;
}

interface Watcher {
  readonly link: Link;
  watching: boolean;
  session: string;
  client: string;
}

/** Instruments and watchers beyond these are refused. */
const MOST = 64;
/** How often samples are handed on, ms: 25 a second is as fast as a page draws. */
const TICK = 40;
/** Nonsense lines after which an instrument is cut off. */
const NONSENSE = 500;
const ANSWER_MS = 3_000;

export interface Hub {
  readonly instruments: () => Instrument[];
  readonly addInstrument: (link: Link) => void;
  readonly addWatcher: (link: Link) => void;
  /** Asks whichever instrument gives this quantity for one value. @throws Error with a sentence when none does, or none answers. */
  readonly read: (name: string, near?: number) => Promise<{ instrument: string; value: number }>;
  /** Whether this page holds the session, or nobody does. */
  readonly mayRecord: (session: string, client: string) => boolean;
  /** Says to all who look at a session that it changed. */
  readonly changed: (session: string) => void;
  readonly close: () => void;
}

export function createHub(): Hub {
  const instruments = new Map<string, Connected>();
  const watchers = new Set<Watcher>();
  /** Session → the page that records. */
  const hands = new Map<string, string>();
  const frames = new Map<string, SampleFrame[]>();
  const waiting = new Map<number, (found: { instrument: string; value: number }) => void>();
  let nextRead = 1;

  const tell = (watcher: Watcher, message: BenchTells) => watcher.link.send(JSON.stringify(message));
  const tellAll = (message: BenchTells, to = (w: Watcher) => w.watching || w.session !== '') => {
    const line = JSON.stringify(message);
    for (const w of watchers) if (to(w)) w.link.send(line);
  };
  const command = (to: Connected, c: Command) => to.link.send(JSON.stringify(c));
  const list = () => [...instruments.values()].map((c) => c.info);
  const tellList = () => tellAll({ tell: 'instruments', instruments: list() }, () => true);
  const streaming = () => [...watchers].some((w) => w.watching);

  const tick = setInterval(() => {
    for (const [id, queued] of frames) {
      if (queued.length) tellAll({ tell: 'samples', id, frames: queued }, (w) => w.watching);
    }
    frames.clear();
  }, TICK);
  tick.unref();

  function stream(on: boolean): void {
    for (const c of instruments.values()) if (c.info.takes.includes('stream')) command(c, { do: 'stream', on });
  }

  function tellHands(session: string): void {
    const here = [...watchers].filter((w) => w.session === session);
    const holder = hands.get(session);
    for (const w of here)
      tell(w, {
        tell: 'hand',
        session,
        mine: w.client === holder,
        taken: holder !== undefined,
        onlookers: here.filter((o) => o.client !== holder).length,
      });
  }

  /** A page that left lets go; the longest-waiting onlooker is not put in its place unasked. */
  function letGo(watcher: Watcher): void {
    const { session, client } = watcher;
    watcher.session = '';
    if (!session) return;
    const stays = [...watchers].some((w) => w !== watcher && w.session === session && w.client === client);
    if (hands.get(session) === client && !stays) hands.delete(session);
    tellHands(session);
  }

  function addInstrument(link: Link): void {
    let me: Connected | undefined;
    let bad = 0;
    const gone = () => {
      if (!me || instruments.get(me.info.id) !== me) return;
      instruments.delete(me.info.id);
      frames.delete(me.info.id);
      tellList();
    };
    link.onClose = gone;
    link.onLine = (line) => {
      const read = readLine(InstrumentSays, line);
      if ('problem' in read) {
        bad++;
        if (!me || bad > NONSENSE) return link.close();
        me.info = { ...me.info, nonsense: bad, problem: read.problem };
        if (bad === 1 || bad % 20 === 0) tellList();
        return;
      }
      const { message } = read;
      if (message.say === 'hello') {
        if (!instruments.has(message.id) && instruments.size >= MOST) return link.close();
        instruments.get(message.id)?.link.close();
        const { say: _say, protocol: _protocol, ...info } = message;
        me = { link, info: { ...info, nonsense: 0, problem: '' } };
        instruments.set(message.id, me);
        if (info.takes.includes('stream')) command(me, { do: 'stream', on: streaming() });
        return tellList();
      }
      // An instrument that has not said what it is, is nobody.
      if (!me) return link.close();
      const { id } = me.info;
      if (message.say === 'sample') {
        const queued = frames.get(id) ?? [];
        if (queued.length < 200) queued.push(message);
        frames.set(id, queued);
      } else if (message.say === 'reading') {
        const found = message.id === null ? undefined : waiting.get(message.id);
        if (found) found({ instrument: me.info.name, value: message.value });
        else tellAll({ tell: 'reading', id, name: message.name, value: message.value });
      } else {
        me.info = { ...me.info, problem: message.text };
        tellList();
      }
    };
  }

  function addWatcher(link: Link): void {
    if (watchers.size >= MOST) return link.close();
    const me: Watcher = { link, watching: false, session: '', client: '' };
    watchers.add(me);
    tell(me, { tell: 'instruments', instruments: list() });
    link.onClose = () => {
      const was = streaming();
      watchers.delete(me);
      letGo(me);
      if (was && !streaming()) stream(false);
    };
    link.onLine = (line) => {
      const read = readLine(BenchAsks, line);
      if ('problem' in read) return;
      const { message } = read;
      switch (message.ask) {
        case 'watch': {
          const was = streaming();
          me.watching = message.on;
          if (was !== streaming()) stream(streaming());
          return;
        }
        case 'session':
          letGo(me);
          me.session = message.session;
          me.client = message.client;
          if (!hands.has(message.session)) hands.set(message.session, message.client);
          return tellHands(message.session);
        case 'take over':
          me.session = message.session;
          me.client = message.client;
          hands.set(message.session, message.client);
          return tellHands(message.session);
        case 'leave':
          return letGo(me);
        case 'command': {
          const to = instruments.get(message.instrument);
          if (to?.info.takes.includes(message.command.do)) command(to, message.command);
        }
      }
    };
  }

  return {
    instruments: list,
    addInstrument,
    addWatcher,
    read: (name, near) => {
      const able = [...instruments.values()].find(
        (c) => c.info.takes.includes('read') && c.info.quantities.some((q) => q.name === name),
      );
      if (!able) return Promise.reject(new Error('No instrument is connected that measures this.'));
      const id = nextRead++;
      return new Promise((done, fail) => {
        const timer = setTimeout(() => {
          waiting.delete(id);
          fail(new Error(`${able.info.name} does not answer.`));
        }, ANSWER_MS);
        waiting.set(id, (found) => {
          clearTimeout(timer);
          waiting.delete(id);
          done(found);
        });
        command(able, { do: 'read', id, name, ...(near === undefined ? {} : { near }) });
      });
    },
    mayRecord: (session, client) => (hands.get(session) ?? client) === client,
    changed: (session) => tellAll({ tell: 'changed', session }, (w) => w.session === session),
    close: () => {
      clearInterval(tick);
      for (const c of instruments.values()) c.link.close();
      for (const w of watchers) w.link.close();
    },
  };
}
