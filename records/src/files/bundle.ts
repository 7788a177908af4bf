import { z } from 'zod';
import { LIST_KEYS, NOUN_NAMES, NOUN_WORDS, NOUNS, refersOf, type Noun, type RecordOf } from '../nouns/index.js';
import { sentence, sentenceOfIssue, type CodedSentence } from '../refusal.js';

// ids.get()!: made for every noun.

export const BUNDLE_FORMAT = 'alluvium-bundle';
export const BUNDLE_VERSION = 1;

/** After so many problems a file is broken as a whole; more sentences help nobody. */
export const MOST_PROBLEMS = 500;
/** No list of a file is longer: a shop with ten thousand heads has thirty thousand sheets. */
export const MOST_RECORDS = 300_000;

/** Key of each noun's list in the file. */
export const BUNDLE_KEYS = LIST_KEYS;

type Lists = {
  [N in Noun as (typeof LIST_KEYS)[N]]: z.ZodDefault<z.ZodArray<(typeof NOUNS)[N]>>;
};
const LISTS = Object.fromEntries(
  NOUN_NAMES.map((noun) => [LIST_KEYS[noun], z.array(NOUNS[noun]).default([])]),
) as unknown as Lists;

/** Everything a shop knows, or a part of it, in one JSON file. */
export const Bundle = z.object({
  format: z.literal(BUNDLE_FORMAT),
  version: z.literal(BUNDLE_VERSION),
  ...LISTS,
  /** Content of the attachments by hash, base64. */
  files: z.record(z.string(), z.base64()).default({}),
  /** Hashes of attachments whose content was lost before the file was written: their records come without it. */
  missing: z.array(z.string()).max(MOST_RECORDS).default([]),
});
export type Bundle = z.infer<typeof Bundle>;

export interface BundleProblem extends CodedSentence {
  /** `sheets 3 (417 as received), rows.2.lift` */
  readonly place: string;
}

/** A record a bundle refers to and does not carry. */
export interface Outside {
  readonly noun: Noun;
  readonly id: string;
  readonly problem: BundleProblem;
}

export interface BundleReading {
  readonly bundle: Bundle;
  /** At most MOST_PROBLEMS: after that many nothing more is read. */
  readonly problems: readonly BundleProblem[];
  /** What was taken for known. */
  readonly outside: readonly Outside[];
}

const at = (key: string, index: number, raw: unknown, path: readonly PropertyKey[]): string => {
  const { name, title, id } = (raw ?? {}) as { name?: unknown; title?: unknown; id?: unknown };
  const label = [name, title, id].find((x) => typeof x === 'string');
  return `${key} ${index + 1}${label ? ` (${String(label).slice(0, 60)})` : ''}${path.length ? `, ${path.join('.')}` : ''}`;
};

/** Stages that come from themselves by way of their parents: whoever walks up from one would never arrive. */
function rings(stages: Bundle['stages']): BundleProblem[] {
  const parent = new Map(stages.map((s) => [s.id, s.parentId]));
  /** Stages from which the walk up is known to end. */
  const ends = new Set<string>();
  const problems: BundleProblem[] = [];
  stages.forEach((stage, i) => {
    const way = new Set<string>();
    let at: string | null | undefined = stage.id;
    while (typeof at === 'string' && !ends.has(at) && !way.has(at)) {
      way.add(at);
      at = parent.get(at);
    }
    if (typeof at === 'string' && way.has(at))
      problems.push({ place: `stages ${i + 1} (${stage.name}), parentId`, ...sentence('stageOfItself') });
    for (const id of way) ends.add(id);
  });
  return problems;
}

/**
 * Reads a bundle record by record, so that every problem is found with its place. `known` tells which ids are in the
 * library already, since a bundle may refer to records it does not carry.
 */
export function readBundle(input: unknown, known: (noun: Noun, id: string) => boolean = () => false): BundleReading {
  const empty: Bundle = Bundle.parse({ format: BUNDLE_FORMAT, version: BUNDLE_VERSION });
  const file = (input ?? {}) as Record<string, unknown>;
  const refuse = (why: CodedSentence): BundleReading => ({
    bundle: empty,
    problems: [{ place: 'file', ...why }],
    outside: [],
  });
  if (typeof input !== 'object' || Array.isArray(input) || file.format !== BUNDLE_FORMAT)
    return refuse(sentence('notABundle', BUNDLE_FORMAT));
  if (file.version !== BUNDLE_VERSION) {
    return refuse(
      typeof file.version === 'number' && file.version > BUNDLE_VERSION
        ? sentence('bundleTooNew', file.version, BUNDLE_VERSION)
        : sentence('bundleWithoutVersion', BUNDLE_VERSION),
    );
  }
  const problems: BundleProblem[] = [];
  const bundle = { ...empty } as Record<string, unknown>;
  const ids = new Map<Noun, Set<string>>();
  for (const noun of NOUN_NAMES) {
    const key = BUNDLE_KEYS[noun];
    const list = file[key] ?? [];
    const seen = new Set<string>();
    ids.set(noun, seen);
    bundle[key] = [];
    if (!Array.isArray(list)) {
      problems.push({ place: key, ...sentence('notAList', key) });
      continue;
    }
    if (list.length > MOST_RECORDS) return refuse(sentence('listTooLong', key, list.length, MOST_RECORDS));
    const read: unknown[] = [];
    for (const [i, raw] of list.entries()) {
      if (problems.length >= MOST_PROBLEMS) break;
      const parsed = NOUNS[noun].safeParse(raw);
      if (!parsed.success) {
        for (const issue of parsed.error.issues.slice(0, 20))
          problems.push({ place: at(key, i, raw, issue.path), ...sentenceOfIssue(issue) });
        continue;
      }
      const { id } = parsed.data;
      if (seen.has(id)) problems.push({ place: at(key, i, raw, ['id']), ...sentence('idTwice', id) });
      seen.add(id);
      read.push(parsed.data);
    }
    bundle[key] = read;
  }
  if (problems.length >= MOST_PROBLEMS)
    return { bundle: empty, problems: problems.slice(0, MOST_PROBLEMS), outside: [] };
  const outside: Outside[] = [];
  for (const noun of NOUN_NAMES) {
    const references = refersOf(noun);
    if (!references) continue;
    (bundle[BUNDLE_KEYS[noun]] as Record<string, unknown>[]).forEach((record, i) => {
      for (const [field, target] of Object.entries(references)) {
        const id = record[field];
        if (typeof id !== 'string' || ids.get(target)!.has(id)) continue;
        const problem = {
          place: at(BUNDLE_KEYS[noun], i, record, [field]),
          ...sentence('noSuchRecord', NOUN_WORDS[target].one, id),
        };
        if (known(target, id)) outside.push({ noun: target, id, problem });
        else problems.push(problem);
      }
    });
  }
  for (const ring of rings(bundle.stages as Bundle['stages']).slice(0, MOST_PROBLEMS)) problems.push(ring);
  const files = Bundle.shape.files.safeParse(file.files);
  if (files.success) bundle.files = files.data;
  else problems.push({ place: 'files', ...sentence('filesNotByHash') });
  const missing = Bundle.shape.missing.safeParse(file.missing);
  if (missing.success) bundle.missing = missing.data;
  else problems.push({ place: 'missing', ...sentence('notAList', 'missing') });
  for (const key of Object.keys(file)) {
    if (
      key !== 'files' &&
      key !== 'missing' &&
      key !== 'format' &&
      key !== 'version' &&
      key !== 'made' &&
      !Object.values(BUNDLE_KEYS).includes(key as never)
    ) {
      problems.push({ place: key, ...sentence('notOfABundle', key) });
    }
  }
  return { bundle: bundle as unknown as Bundle, problems: problems.slice(0, MOST_PROBLEMS), outside };
}

/** A quantity is written as its text alone; everything it holds comes back from that text. */
const compact = (value: unknown): unknown => {
  if (Array.isArray(value)) return value.map(compact);
  if (typeof value !== 'object' || value === null) return value;
  const keys = Object.keys(value);
  if (keys.length === 2 && 'si' in value && 'typed' in value) return value.typed;
  return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, compact(v)]));
};

/** A record as a file holds it: without its version, quantities as typed. */
export const compactRecord = (record: object): unknown =>
  compact(Object.fromEntries(Object.entries(record).filter(([k]) => k !== 'version')));

/**
 * The file text of records by noun, readable by people: quantities as typed. `files` is the photos' content by hash,
 * base64; `missing` the hashes of those whose content is lost.
 */
export function writeBundle(
  records: { readonly [N in Noun]?: readonly RecordOf<N>[] },
  files: Readonly<Record<string, string>> = {},
  missing: readonly string[] = [],
): string {
  const lists = Object.fromEntries(
    NOUN_NAMES.map((noun) => [BUNDLE_KEYS[noun], (records[noun] ?? []).map(compactRecord)]),
  );
  const photos = Object.keys(files).length > 0 ? { files } : {};
  const lost = missing.length > 0 ? { missing } : {};
  return `${JSON.stringify({ format: BUNDLE_FORMAT, version: BUNDLE_VERSION, ...lists, ...photos, ...lost }, null, 2)}\n`;
}
