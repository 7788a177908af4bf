/** The net of sources: which source saw which head at which lift, and which of them hang together. */

/** Observations in columns, so that millions of them stay small. All of one side. */
export interface OffsetData {
  /** Which head at which lift: small whole numbers from 0; observations of one point share theirs. */
  readonly point: ArrayLike<number>;
  /** Which source: whole numbers from 0 to `sources` − 1. */
  readonly source: ArrayLike<number>;
  /** Natural logarithm of the flow at the common depression. */
  readonly logFlow: ArrayLike<number>;
  readonly sources: number;
  /** The source at zero: our own bench. */
  readonly own: number;
  /** Of each observation, which head, tested alike, it is of; observations of one group and source share a set-up. */
  readonly group?: ArrayLike<number>;
}

export interface Rows {
  /** Where each point's observations begin in `order`; one longer than there are points. */
  readonly start: Int32Array;
  readonly order: Int32Array;
  readonly points: number;
}

/** Points with the observations that belong to each: compressed rows. Points seen by one observation say nothing. */
export function rowsOf(data: OffsetData): Rows {
  const n = data.point.length;
  let points = 0;
  for (let i = 0; i < n; i++) points = Math.max(points, data.point[i]! + 1);
  const start = new Int32Array(points + 1);
  for (let i = 0; i < n; i++) start[data.point[i]! + 1]!++;
  for (let p = 0; p < points; p++) start[p + 1]! += start[p]!;
  const fill = start.slice(0, points);
  const order = new Int32Array(n);
  for (let i = 0; i < n; i++) order[fill[data.point[i]!]!++] = i;
  return { start, order, points };
}

/** Sources that hang together, by the lowest of them; sources that share no point stay alone. */
export function components(data: OffsetData, { start, order, points }: Rows): Int32Array {
  const parent = Int32Array.from({ length: data.sources }, (_, i) => i);
  const root = (s: number): number => {
    while (parent[s] !== s) s = parent[s] = parent[parent[s]!]!;
    return s;
  };
  for (let p = 0; p < points; p++) {
    for (let k = start[p]! + 1; k < start[p + 1]!; k++) {
      const [a, b] = [root(data.source[order[start[p]!]!]!), root(data.source[order[k]!]!)];
      if (a !== b) parent[Math.max(a, b)] = Math.min(a, b);
    }
  }
  return Int32Array.from({ length: data.sources }, (_, s) => root(s));
}
