import { join, resolve } from 'node:path';

export interface Settings {
  readonly port: number;
  readonly host: string;
  /** Folder of the user's data. */
  readonly data: string;
  /** Whether stand-ins for instruments are started beside the server; undefined: with the demo only. */
  readonly instruments: boolean | undefined;
  /** Folder of the backups; undefined: none are made. */
  readonly backups: string | undefined;
  /** What everybody has to give who asks for anything; undefined: this machine alone is served, and is not asked. */
  readonly passphrase: string | undefined;
  /** Whether the demo may be looked around in beside the library: over a network only where the owner says so. */
  readonly lookAround: boolean;
  /** Certificate and key, PEM files. */
  readonly tls: { readonly cert: string; readonly key: string } | undefined;
}

const LOOPBACK = new Set(['127.0.0.1', '::1', '[::1]', 'localhost']);
/** Whether only this machine reaches this address. */
export const isLoopback = (host: string): boolean =>
  LOOPBACK.has(host.toLowerCase()) || /^127(\.\d{1,3}){3}$/.test(host);
/** A passphrase of fewer letters is guessed. */
const SHORTEST = 12;

/** A start that cannot go on; the message is the one clear sentence for the user. */
export class StartProblem extends Error {}

/** Reads `PORT`, `HOST` and the settings that begin with `ALLUVIUM_`; README.md lists them. @throws StartProblem when one makes no sense. */
export function readSettings(env: Readonly<Record<string, string | undefined>>, defaultData: string): Settings {
  const port = env.PORT === undefined || env.PORT === '' ? 4870 : Number(env.PORT);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new StartProblem(`PORT must be a whole number from 0 to 65535, not “${env.PORT}”.`);
  const wish = env.ALLUVIUM_INSTRUMENTS || undefined;
  if (wish !== undefined && wish !== 'simulated' && wish !== 'none')
    throw new StartProblem(`ALLUVIUM_INSTRUMENTS must be “simulated” or “none”, not “${wish}”.`);
  const around = env.ALLUVIUM_LOOK_AROUND || undefined;
  if (around !== undefined && around !== 'yes' && around !== 'no')
    throw new StartProblem(`ALLUVIUM_LOOK_AROUND must be “yes” or “no”, not “${around}”.`);
  const host = env.HOST || '127.0.0.1';
  const passphrase = env.ALLUVIUM_PASSPHRASE || undefined;
  if (passphrase === undefined && !isLoopback(host))
    throw new StartProblem(
      `HOST=${host} would let everybody on the network read and change your data. Set ALLUVIUM_PASSPHRASE to something of ${SHORTEST} letters or more, or leave HOST away: then only this machine is served.`,
    );
  if (passphrase !== undefined && (passphrase.length < SHORTEST || passphrase.length > 200))
    throw new StartProblem(`ALLUVIUM_PASSPHRASE must have ${SHORTEST} to 200 letters; a sentence does well.`);
  const { ALLUVIUM_TLS_CERT: cert, ALLUVIUM_TLS_KEY: key } = env;
  if (Boolean(cert) !== Boolean(key))
    throw new StartProblem('ALLUVIUM_TLS_CERT and ALLUVIUM_TLS_KEY belong together: give both, or neither.');
  const data = resolve(env.ALLUVIUM_DATA || defaultData);
  return {
    port,
    host,
    data,
    instruments: wish === undefined ? undefined : wish === 'simulated',
    backups: env.ALLUVIUM_BACKUPS === 'none' ? undefined : resolve(env.ALLUVIUM_BACKUPS || join(data, 'backups')),
    passphrase,
    lookAround: around === undefined ? isLoopback(host) : around === 'yes',
    tls: cert && key ? { cert: resolve(cert), key: resolve(key) } : undefined,
  };
}
