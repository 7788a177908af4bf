import { parseQuantity, unitFor, type Kind, type System } from '@alluvium/core';

/** The unit a text of one quantity ends in, lower case; empty for a bare figure. */
export const unitTyped = (text: string): string => /[a-z"”°%].*$/i.exec(text)?.[0].trim().toLowerCase() ?? '';

/**
 * What is doubtful about a column in which some figures have a unit and others none: the unit that is not the one a bare
 * figure is read in. Undefined where all agree. `assumed` is that of the heading, else the system's.
 */
export function foreignUnit(
  texts: readonly string[],
  kind: Kind,
  system: System,
  assumed: string = unitFor(kind, system).symbol,
): string | undefined {
  const seen = new Set(
    texts
      .map((t) => t.trim())
      .filter(Boolean)
      .map(unitTyped),
  );
  if (!seen.has('')) return undefined;
  const one = (unit: string) => {
    const parsed = parseQuantity(`1 ${unit}`, kind, system);
    return parsed.ok ? parsed.quantity.si : undefined;
  };
  return [...seen].find((u) => u !== '' && one(u) !== undefined && one(u) !== one(assumed));
}
