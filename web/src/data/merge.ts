/** Two versions of one record, field by field. */
import { fingerprint } from '@alluvium/records';

type Path = readonly string[];
type Fields = Readonly<Record<string, unknown>>;

/** One place at which two versions differ. */
export interface Difference {
  readonly path: Path;
  readonly mine: unknown;
  readonly theirs: unknown;
  /** Who changed it since it was opened. */
  readonly by: 'mine' | 'theirs' | 'both';
}

const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
/** What is chosen as a whole: a quantity, a list without names, anything plain. */
const isLeaf = (value: unknown): boolean => (isFields(value) ? 'typed' in value : !Array.isArray(value));
const same = (a: unknown, b: unknown) => fingerprint(a ?? null) === fingerprint(b ?? null);

/** What names an entry of a list: its lift, its name; undefined where entries have no name. */
function nameOf(entry: unknown): string | undefined {
  if (!isFields(entry)) return undefined;
  if (isFields(entry.lift) && typeof entry.lift.si === 'number') return entry.lift.si.toFixed(6);
  if (isFields(entry.station) && typeof entry.station.si === 'number')
    return `${entry.station.si.toFixed(6)} ${String(entry.branch ?? '')}`;
  return typeof entry.name === 'string' ? entry.name : undefined;
}
/** A list as fields by the names of its entries; undefined where it cannot be: no names, or one twice. */
function byName(value: unknown): Fields | undefined {
  if (!Array.isArray(value)) return undefined;
  const names = value.map(nameOf);
  if (names.some((n) => n === undefined) || new Set(names).size < names.length) return undefined;
  return Object.fromEntries(value.map((entry, i) => [names[i], entry]));
}
const opened = (value: unknown): Fields | undefined => (isFields(value) ? value : byName(value));

const LEFT_OUT = new Set(['id', 'version']);

/** Every place at which what is typed here and what was saved meanwhile differ. */
export function differences(base: unknown, mine: unknown, theirs: unknown, path: Path = []): Difference[] {
  if (same(mine, theirs)) return [];
  const [a, b] = [opened(mine), opened(theirs)];
  if (a && b && !isLeaf(mine) && !isLeaf(theirs)) {
    const o = opened(base) ?? {};
    return [...new Set([...Object.keys(a), ...Object.keys(b)])]
      .filter((name) => path.length > 0 || !LEFT_OUT.has(name))
      .flatMap((name) => differences(o[name], a[name], b[name], [...path, name]));
  }
  return [{ path, mine, theirs, by: same(base, theirs) ? 'mine' : same(base, mine) ? 'theirs' : 'both' }];
}

/** One version made of both: theirs, with mine at the paths chosen. */
export function merged<T>(mine: T, theirs: T, chosen: readonly Path[]): T {
  return chosen.reduce<unknown>((whole, path) => put(whole, mine, path), theirs) as T;
}

function put(into: unknown, from: unknown, [name, ...rest]: Path): unknown {
  if (name === undefined) return from;
  const value = opened(from)?.[name];
  if (Array.isArray(into)) {
    const at = into.findIndex((entry) => nameOf(entry) === name);
    const entry = rest.length > 0 && at >= 0 ? put(into[at], value, rest) : value;
    if (entry === undefined) return into.filter((_, i) => i !== at);
    return at < 0 ? [...(into as unknown[]), entry] : into.map((e: unknown, i) => (i === at ? entry : e));
  }
  const fields = isFields(into) ? into : {};
  return { ...fields, [name]: rest.length > 0 ? put(fields[name], value, rest) : value };
}
