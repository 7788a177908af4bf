import type { Problem } from '../problems.js';

/** A running query's rows; JSON columns come parsed. */
export interface Queries {
  /** Runs one statement with $1, $2 … parameters. */
  readonly query: <Row>(sql: string, parameters?: readonly unknown[]) => Promise<Row[]>;
  /** Runs several statements without parameters. */
  readonly script: (sql: string) => Promise<void>;
}

/** The little of PostgreSQL that the server needs, so that the folder on disk can one day be a server elsewhere. */
export interface Database extends Queries {
  /** All or nothing: a throw inside rolls everything back. */
  readonly transaction: <T>(work: (tx: Queries) => Promise<T>) => Promise<T>;
  /** Hears what is notified on a channel, after the transaction that says it; the answer stops listening. */
  readonly listen: (channel: string, heard: (payload: string) => void) => Promise<() => Promise<void>>;
  /** Counts what was written: two reads of the same count see the same data. */
  readonly generation: () => number;
  /**
   * Lets only `work` write, by the database it is handed, while others go on reading: their transactions are refused with
   * `why`. Begins once every transaction under way has ended. @throws Problem busy when somebody else has it.
   */
  readonly exclusive: <T>(why: string, work: (own: Database) => Promise<T>) => Promise<T>;
  readonly close: () => Promise<void>;
  /** Why nothing can be written now; undefined when it can. A database that is not guarded does not know. */
  readonly trouble?: () => Problem | undefined;
}
