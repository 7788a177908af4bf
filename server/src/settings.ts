import { resolve } from 'node:path';

export interface Settings {
  readonly port: number;
  readonly host: string;
  /** Folder of the user's data. */
  readonly data: string;
}

/** A start that cannot go on; the message is the one clear sentence for the user. */
export class StartProblem extends Error {}

/** Reads `PORT`, `HOST` and `ALLUVIUM_DATA`. @throws StartProblem when one makes no sense. */
export function readSettings(env: Readonly<Record<string, string | undefined>>, defaultData: string): Settings {
  const port = env.PORT === undefined || env.PORT === '' ? 4870 : Number(env.PORT);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new StartProblem(`PORT must be a whole number from 0 to 65535, not “${env.PORT}”.`);
  return { port, host: env.HOST || '127.0.0.1', data: resolve(env.ALLUVIUM_DATA || defaultData) };
}
