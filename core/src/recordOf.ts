/** A record with a value for each key, typed by the keys it was made of. */
export const recordOf = <K extends string, V>(keys: readonly K[], of: (key: K) => V): Record<K, V> =>
  Object.fromEntries(keys.map((key) => [key, of(key)])) as Record<K, V>;
