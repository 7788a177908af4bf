/** A reading far from what one had reason to expect: range, leak and plate are looked at before it is believed. */

/** What a reading is held against, m³/s. */
export interface Expected {
  /** What it is, as a builder calls it: the call, the baseline, port 3. */
  readonly what: string;
  readonly flow: number;
  /** Further off than this share asks for a second look. */
  readonly within: number;
}

/** Common practice, no source: a port beside another of one casting, a stage after work, a call made by eye. */
export const WITHIN = { port: 0.08, baseline: 0.2, call: 0.15 } as const;

export interface FarOff {
  readonly what: string;
  /** The reading less what was expected, as a share of that. */
  readonly off: number;
}

/** What a flow (m³/s) lies too far from, the furthest first; empty where it may be believed as it is. */
export const farFrom = (flow: number, expected: readonly Expected[]): FarOff[] =>
  expected
    .filter((e) => e.flow > 0 && Math.abs(flow / e.flow - 1) > e.within)
    .map((e) => ({ what: e.what, off: flow / e.flow - 1 }))
    .sort((a, b) => Math.abs(b.off) - Math.abs(a.off));
