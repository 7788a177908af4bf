/** Text that is the same for the same content, whatever the order of keys; a record's version does not count. */
export function fingerprint(value: unknown): string {
  return JSON.stringify(value, (key, v: unknown) => {
    if (key === 'version') return undefined;
    if (typeof v !== 'object' || v === null || Array.isArray(v)) return v;
    return Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)));
  });
}
