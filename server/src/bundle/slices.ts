import {
  BUNDLE_KEYS,
  NOUN_NAMES,
  fingerprint,
  readBundle,
  type Bundle,
  type BundleProblem,
  type Noun,
  sentence,
  type CodedSentence,
} from '@alluvium/records';
import { toRow } from '../rows.js';
import { wrongShape } from './shape.js';

// slices[]!, bundle.files[]!: asked for by what was listed.

/** Bytes of rows one slice carries about: what the database writes in a few milliseconds. */
const SLICE_BYTES = 30_000;
const SLICE_RECORDS = 30;

/** A part of a bundle, small enough to be written while others wait. */
export interface Slice {
  readonly noun: Noun;
  readonly ids: readonly string[];
  /** What tells whether a record stands here already unchanged. */
  readonly prints: readonly string[];
  /** The rows as JSON, one text a record. */
  readonly rows: readonly string[];
}

export interface Photo {
  readonly id: string;
  readonly name: string;
  readonly hash: string;
  /** Whether its content is in the file; one whose content was lost says so, and comes without. */
  readonly brought: boolean;
  readonly lost: boolean;
}

/** What a file holds, without its records. */
export interface Contents {
  readonly problems: readonly BundleProblem[];
  /** Records it refers to and does not carry, with what to say when they are not here. */
  readonly outside: readonly { readonly noun: Noun; readonly id: string; readonly problem: BundleProblem }[];
  readonly counts: Readonly<Record<Noun, number>>;
  /** All of them together. */
  readonly records: number;
  readonly photos: readonly Photo[];
  readonly slices: number;
  readonly files: readonly string[];
}

export interface Opened {
  readonly contents: Contents;
  readonly slice: (index: number) => Slice;
  readonly file: (hash: string) => string;
}

/** A stage never stands before the one it was made from: each slice must hold by itself. */
function parentsFirst<T extends { id: string; parentId: string | null }>(stages: readonly T[]): T[] {
  const byId = new Map(stages.map((s) => [s.id, s]));
  const placed = new Set<string>();
  const result: T[] = [];
  for (const start of stages) {
    const way: T[] = [];
    for (
      let s: T | undefined = start;
      s && !placed.has(s.id);
      s = s.parentId === null ? undefined : byId.get(s.parentId)
    ) {
      placed.add(s.id);
      way.push(s);
    }
    result.push(...way.reverse());
  }
  return result;
}

function* cut(bundle: Bundle): Generator<Slice> {
  for (const noun of NOUN_NAMES) {
    const list: readonly { id: string }[] = noun === 'stage' ? parentsFirst(bundle.stages) : bundle[BUNDLE_KEYS[noun]];
    let [ids, prints, rows]: [string[], string[], string[]] = [[], [], []];
    let bytes = 0;
    for (const record of list) {
      const row = JSON.stringify(toRow({ ...record, version: 1 }));
      ids.push(record.id);
      prints.push(fingerprint(record));
      rows.push(row);
      bytes += row.length;
      if (bytes > SLICE_BYTES || rows.length >= SLICE_RECORDS) {
        yield { noun, ids, prints, rows };
        [ids, prints, rows] = [[], [], []];
        bytes = 0;
      }
    }
    if (rows.length > 0) yield { noun, ids, prints, rows };
  }
}

const refused = (why: CodedSentence): Opened => {
  const contents: Contents = {
    problems: [{ place: 'file', ...why }],
    outside: [],
    counts: Object.fromEntries(NOUN_NAMES.map((n) => [n, 0])) as Record<Noun, number>,
    records: 0,
    photos: [],
    slices: 0,
    files: [],
  };
  return {
    contents,
    slice: () => {
      throw new Error('There is no such slice.');
    },
    file: () => '',
  };
};

/** Reads the text of a bundle, and cuts it into slices. Never throws for what the text holds. */
export function openBundle(text: Uint8Array): Opened {
  const wrong = wrongShape(text);
  if (wrong) return refused(sentence(wrong));
  let raw: unknown;
  try {
    raw = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(text));
  } catch {
    return refused(sentence('notJson'));
  }
  // What it refers to may be here already: whoever asks looks it up.
  const { bundle, problems, outside } = readBundle(raw, () => true);
  const slices = problems.length > 0 ? [] : [...cut(bundle)];
  const lost = new Set(bundle.missing);
  const counts = Object.fromEntries(NOUN_NAMES.map((n) => [n, bundle[BUNDLE_KEYS[n]].length])) as Record<Noun, number>;
  return {
    contents: {
      problems,
      outside,
      counts,
      records: Object.values(counts).reduce((sum, n) => sum + n, 0),
      photos: bundle.attachments.map(({ id, name, hash }) => ({
        id,
        name,
        hash,
        brought: bundle.files[hash] !== undefined,
        lost: lost.has(hash),
      })),
      slices: slices.length,
      files: Object.keys(bundle.files),
    },
    slice: (index) => slices[index]!,
    file: (hash) => bundle.files[hash]!,
  };
}
