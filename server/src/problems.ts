/** The catalogue of what can go wrong, as RFC 9457 problems; `detail` is a sentence a builder understands. */
const PROBLEMS = {
  'bad-input': { status: 400, title: 'Something typed cannot be used' },
  'foreign-page': { status: 403, title: 'Asked from another page' },
  'not-found': { status: 404, title: 'Not here' },
  'no-method': { status: 405, title: 'Not done this way' },
  'too-slow': { status: 408, title: 'Too slow' },
  conflict: { status: 409, title: 'Changed elsewhere meanwhile' },
  refused: { status: 409, title: 'The records do not allow it' },
  'too-large': { status: 413, title: 'Too large' },
  'no-version': { status: 428, title: 'Version missing' },
  'no-room': { status: 507, title: 'The disk is full' },
  'no-library': { status: 500, title: 'The data folder is gone' },
  damaged: { status: 500, title: 'The library is damaged' },
  rescue: { status: 500, title: 'The library is damaged' },
  'no-entry': { status: 401, title: 'Sign in first' },
  'too-often': { status: 429, title: 'Too often' },
  busy: { status: 503, title: 'Busy' },
  broken: { status: 500, title: 'The server failed' },
} as const;
export type ProblemId = keyof typeof PROBLEMS;

export interface FieldProblem {
  /** Path of the field, joined by dots: `rows.3.lift`. */
  readonly field: string;
  readonly message: string;
}

/** Thrown anywhere in a request; becomes the problem+json answer. */
export class Problem extends Error {
  constructor(
    readonly id: ProblemId,
    detail: string,
    readonly more: {
      readonly fields?: readonly FieldProblem[];
      readonly current?: unknown;
      /** Which step of a change it was. */
      readonly step?: number;
      /** Seconds after which it may be tried again. */
      readonly retryAfter?: number;
    } = {},
  ) {
    super(detail);
  }

  get status(): number {
    return PROBLEMS[this.id].status;
  }

  toJSON() {
    return {
      type: `https://alluvium.invalid/problems/${this.id}`,
      title: PROBLEMS[this.id].title,
      status: this.status,
      detail: this.message,
      ...this.more,
    };
  }
}

/** What stands twice, by the constraint that refuses it. */
const TWICE: Readonly<Record<string, string>> = {
  port_once: 'This head has that port already.',
  tolerance_once: 'This item has its tolerance already.',
  assumption_once: 'The shop has its own figure for this already.',
  build_size: 'Give bore and stroke, or the displacement.',
  build_wanted: 'Say which power or torque is wanted.',
};

/** What a check of our own refuses, by its name. */
const CHECKS: Readonly<Record<string, string>> = {
  session_setup_used: 'Something was read under this set-up: it stays as it is. A change begins a new one.',
  reading_fixed: 'A raw reading stays as it was read. Take it again, or put it aside.',
};

/** PostgreSQL's own refusals, put into words. */
export function fromDatabase(error: unknown): Problem | undefined {
  const { code, constraint } = error as { code?: string; constraint?: string };
  switch (code) {
    case '23503':
      return new Problem('refused', 'This refers to a record that is not here, or no longer.');
    case '23505':
      return new Problem('refused', (constraint && TWICE[constraint]) ?? 'A record with this id is here already.');
    case '23514':
      return new Problem(
        'bad-input',
        (constraint && CHECKS[constraint]) ?? 'The database refused a value that makes no sense here.',
      );
    case '23502':
    case '22P02':
    // Out of a number's range; a date or a time no calendar has; a character the database cannot hold.
    case '22003':
    case '22007':
    case '22008':
    case '22021':
    case '22P05':
      return new Problem('bad-input', 'The database refused a value that makes no sense here.');
    // A page whose checksum is wrong, an index that leads nowhere, a file that is not there or cannot be read.
    case 'XX001':
    case 'XX002':
    case '58P01':
    case '58030':
      return new Problem(
        'damaged',
        `A part of the library cannot be read (${(error as Error).message}). Have everything checked under Backups, and put a backup back.`,
      );
    // Out of disk: the guard before each write leaves room, so another program took it meanwhile.
    case '53100':
      return new Problem(
        'no-room',
        'The disk of the data folder is full. Nothing was written. Make room, then do this again.',
      );
    default:
      return undefined;
  }
}
