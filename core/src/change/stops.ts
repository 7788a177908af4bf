/** When to stop cutting: a wall or a size that came to its limit. */

export interface Stop {
  /** Size found last, m or m². */
  readonly found?: number | undefined;
  readonly wanted?: number | undefined;
  /** The limit that is not passed. */
  readonly limit?: number | undefined;
  /** A wall gets thinner, an opening larger. */
  readonly way: 'down' | 'up';
}

export type StopState = 'open' | 'under way' | 'there' | 'stop' | 'passed';

/** How near a limit counts as at it, a share of it. */
const AT = 0.005;

/** Where a cut stands: `stop` at its limit, `passed` beyond it, `there` once the wanted size is reached. */
export function stopState({ found, wanted, limit, way }: Stop): StopState {
  if (found === undefined) return 'open';
  const beyond = (mark: number) => (way === 'down' ? mark - found : found - mark);
  if (limit !== undefined && beyond(limit) > AT * limit) return 'passed';
  if (limit !== undefined && beyond(limit) >= -AT * limit) return 'stop';
  if (wanted !== undefined && beyond(wanted) >= -AT * Math.abs(wanted)) return 'there';
  return 'under way';
}

/** Follows how far each port is from the pattern port; true where it lies within what was agreed. */
export const follows = (pattern: number, port: number, within: number): boolean => Math.abs(port - pattern) <= within;
