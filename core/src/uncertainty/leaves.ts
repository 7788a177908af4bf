import type { Leaf, Settle } from './leaf.js';

/** Leaves in the order they are first asked for; a value is looked up by its place. */
export class Leaves {
  readonly list: Leaf[] = [];
  private readonly places = new Map<string, number>();
  /** The place of the leaf; one that is known by its id already keeps its place. */
  add(leaf: Leaf): number {
    const known = this.places.get(leaf.id);
    if (known !== undefined) return known;
    this.places.set(leaf.id, this.list.length);
    return this.list.push(leaf) - 1;
  }
}

/** A leaf that is a share of what it acts on: its value is 0, its standard uncertainty `u`. */
export const shareLeaf = (
  id: string,
  label: string,
  u: number,
  settle?: Settle,
  source = 'common practice, no source',
): Leaf => ({
  id,
  label,
  value: 0,
  spread: { shape: 'normal', u },
  source,
  ...(settle ? { settle } : {}),
});

/** The same where the spread `u` is only known from so many degrees of freedom, over 2: what is learnt from few tests has long tails. */
export const learntLeaf = (
  id: string,
  label: string,
  u: number,
  freedom: number,
  settle?: Settle,
  source?: string,
): Leaf => ({ ...shareLeaf(id, label, u, settle, source), spread: { shape: 'student', u, freedom } });
