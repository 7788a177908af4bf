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
import type { Pairings } from './pairing.js';

interface Connected {
  readonly link: Link;
  info: Instrument;
}

interface Watcher {
  readonly link: Link;
  watching: boolean;
  session: string;
  client: string;
  /** It asked for a session and was told no. */
  refused: boolean;
}

/** A page that asked for a session another page records. */
interface Asking {
  readonly client: string;
  readonly timer: NodeJS.Timeout;
}

/** Instruments and watchers beyond these are refused. */
const MOST = 64;
/** Unknown instruments that may wait to be paired at one time. */
const STRANGERS = 8;
/** How often samples are handed on, ms: 25 a second is as fast as a page draws. */
const TICK = 40;
/** Nonsense lines after which an instrument is cut off. */
const NONSENSE = 500;
const ANSWER_MS = 3_000;
/** A link that has not said what it is by then is cut, ms. */
export const HELLO_MS = 5_000;
/** The page that records is taken to be away when it does not answer so long, ms. */
export const AWAY_MS = 60_000;
const SECOND = 'A second program said that it is this instrument, and was refused.';

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

export function createHub(pairings: Pairings): Hub {
  const instruments = new Map<string, Connected>();
  const watchers = new Set<Watcher>();
  /** Session → the page that records. */
  const hands = new Map<string, string>();
  /** Session → the page that asks for it. */
  const asks = new Map<string, Asking>();
  const frames = new Map<string, SampleFrame[]>();
  const waiting = new Map<number, (found: { instrument: string; value: number }) => void>();
  let nextRead = 1;

  const tell = (watcher: Watcher, message: BenchTells) => watcher.link.send(JSON.stringify(message));
  const tellAll = (message: BenchTells, to = (w: Watcher) => w.watching || w.session !== '') => {
    const line = JSON.stringify(message);
    for (const w of watchers) if (to(w)) w.link.send(line);
  };
  const command = (to: { readonly link: Link }, c: Command) => to.link.send(JSON.stringify(c));
  /** Nothing is asked of an instrument nobody knows. */
  const trusted = () => [...instruments.values()].filter((c) => c.info.standing !== 'unknown');
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
    for (const c of trusted()) if (c.info.takes.includes('stream')) command(c, { do: 'stream', on });
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
        asked: w.client === holder && asks.has(session),
        asking: asks.get(session)?.client === w.client,
        refused: w.refused,
      });
  }

  function endAsk(session: string): void {
    clearTimeout(asks.get(session)?.timer);
    asks.delete(session);
  }

  function give(session: string, client: string): void {
    endAsk(session);
    hands.set(session, client);
    tellHands(session);
  }

  /** The page that records is asked first; one that is gone or silent is not waited for. */
  function askFor(session: string, client: string): void {
    const holder = hands.get(session);
    if (holder === undefined || holder === client) return give(session, client);
    if (asks.get(session)?.client === client) return;
    endAsk(session);
    const timer = setTimeout(() => give(session, client), AWAY_MS);
    timer.unref();
    asks.set(session, { client, timer });
    tellHands(session);
  }

  /** A page that left lets go; an onlooker that did not ask is not put in its place. */
  function letGo(watcher: Watcher): void {
    const { session, client } = watcher;
    watcher.session = '';
    if (!session) return;
    const stays = [...watchers].some((w) => w !== watcher && w.session === session && w.client === client);
    if (stays) return tellHands(session);
    const asker = asks.get(session)?.client;
    if (asker === client) endAsk(session);
    else if (hands.get(session) === client && asker !== undefined) return give(session, asker);
    if (hands.get(session) === client) hands.delete(session);
    tellHands(session);
  }

  function addInstrument(link: Link): void {
    let me: Connected | undefined;
    let bad = 0;
    const late = setTimeout(() => !me && link.close(), HELLO_MS);
    late.unref();
    const gone = () => {
      clearTimeout(late);
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
        const living = instruments.get(message.id);
        if (!living && instruments.size >= MOST) return link.close();
        const another = living !== undefined && living !== me;
        const twice = () => {
          command({ link }, { do: 'refused', why: 'An instrument of this id is connected already.' });
          link.close();
        };
        if (another && living.info.standing !== 'unknown') {
          // The one that is here stays: whoever holds its line is the one whose readings are believed.
          living.info = { ...living.info, problem: SECOND };
          tellList();
          return twice();
        }
        const { say: _say, protocol: _protocol, code: _code, key: _key, ...info } = message;
        const { standing, key } = pairings.admit(message);
        if (another) {
          // A stranger does not keep out the one that can show its key.
          if (standing === 'unknown') return twice();
          living.link.close();
        }
        // Strangers do not take up the room of those that are paired.
        const strangers = [...instruments.values()].filter((c) => c !== me && c.info.standing === 'unknown');
        if (standing === 'unknown' && strangers.length >= STRANGERS) return link.close();
        // It may say another id than before: it is one instrument all the same.
        gone();
        me = { link, info: { ...info, standing, nonsense: 0, problem: '' } };
        instruments.set(message.id, me);
        if (key !== undefined) {
          command(me, { do: 'keep', key });
          tellAll({ tell: 'code', code: null, until: 0 }, () => true);
        }
        if (standing === 'unknown')
          command(me, { do: 'refused', why: 'It is not paired: ask for a code on the page Bench, Instruments.' });
        else if (info.takes.includes('stream')) command(me, { do: 'stream', on: streaming() });
        return tellList();
      }
      // An instrument that has not said what it is, is nobody.
      if (!me) return link.close();
      if (me.info.standing === 'unknown') return;
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
    const me: Watcher = { link, watching: false, session: '', client: '', refused: false };
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
          me.refused = false;
          if (!hands.has(message.session)) hands.set(message.session, message.client);
          return tellHands(message.session);
        case 'take over':
          me.session = message.session;
          me.client = message.client;
          me.refused = false;
          return askFor(message.session, message.client);
        case 'hand over': {
          const asker = asks.get(message.session)?.client;
          if (asker === undefined || hands.get(message.session) !== message.client) return;
          if (message.yes) return give(message.session, asker);
          endAsk(message.session);
          for (const w of watchers) if (w.session === message.session && w.client === asker) w.refused = true;
          return tellHands(message.session);
        }
        case 'pair': {
          const { text, until } = pairings.newCode();
          return tell(me, { tell: 'code', code: text, until });
        }
        case 'forget': {
          pairings.forget(message.instrument);
          // It comes back as the stranger it is now.
          return instruments.get(message.instrument)?.link.close();
        }
        case 'leave':
          return letGo(me);
        case 'command': {
          const to = trusted().find((c) => c.info.id === message.instrument);
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
      const able = trusted().find(
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
      for (const session of [...asks.keys()]) endAsk(session);
      for (const c of instruments.values()) c.link.close();
      for (const w of watchers) w.link.close();
    },
  };
}
