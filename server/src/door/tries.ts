// mine[]!, tries[]!: as many as were counted.

/** How often a passphrase may be tried: a few times a minute by one address, some more by all together. */
const WINDOW_MS = 60_000;
const ONE = 5;
const ALL = 30;

export interface Tries {
  /** Counts a try; seconds to wait when it is one too many, a minute at most. */
  readonly count: (address: string) => number | undefined;
  /** It was the right one: earlier slips of this address are forgiven. */
  readonly forgive: (address: string) => void;
}

/** `now` never goes back, as the clock on the wall may, ms. */
export function countTries(now = () => performance.now()): Tries {
  let tries: { readonly address: string; readonly at: number }[] = [];
  return {
    count: (address) => {
      tries = tries.filter((t) => now() - t.at < WINDOW_MS);
      const mine = tries.filter((t) => t.address === address);
      const first = mine.length >= ONE ? mine[0]! : tries.length >= ALL ? tries[0]! : undefined;
      if (first) return Math.max(1, Math.min(WINDOW_MS / 1000, Math.ceil((WINDOW_MS - (now() - first.at)) / 1000)));
      tries.push({ address, at: now() });
      return undefined;
    },
    forgive: (address) => (tries = tries.filter((t) => t.address !== address)),
  };
}
