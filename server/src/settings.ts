import { resolve } from 'node:path';

export interface Settings {
  readonly port: number;
  readonly host: string;
  /** Folder of the user's data. */
  readonly data: string;
  /** Whether stand-ins for instruments are started beside the server; undefined: with the demo only. */
  readonly instruments: boolean | undefined;
}

/** A start that cannot go on; the message is the one clear sentence for the user. */
export class StartProblem extends Error {}

/** Reads `PORT`, `HOST`, `ALLUVIUM_DATA` and `ALLUVIUM_INSTRUMENTS`. @throws StartProblem when one makes no sense. */
export function readSettings(env: Readonly<Record<string, string | undefined>>, defaultData: string): Settings {
  const port = env.PORT === undefined || env.PORT === '' ? 4870 : Number(env.PORT);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new StartProblem(`PORT must be a whole number from 0 to 65535, not “${env.PORT}”.`);
  const wish = env.ALLUVIUM_INSTRUMENTS || undefined;
  if (wish !== undefined && wish !== 'simulated' && wish !== 'none')
    throw new StartProblem(`ALLUVIUM_INSTRUMENTS must be “simulated” or “none”, not “${wish}”.`);
  return {
    port,
    host: env.HOST || '127.0.0.1',
    data: resolve(env.ALLUVIUM_DATA || defaultData),
    instruments: wish === undefined ? undefined : wish === 'simulated',
  };
}
