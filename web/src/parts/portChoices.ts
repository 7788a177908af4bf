import type { Port } from '@alluvium/records';

/** `port long`, `port 3`: its nickname before its number. */
export const portLabel = ({ nickname, number }: Port): string => `port ${nickname || number}`;

/** Every port of a side to choose from; null is all of them. */
export const portChoices = (ports: readonly Port[], side: Port['side'] | null) => [
  [null, 'every port'] as const,
  ...ports.filter((p) => p.side === side).map((p) => [p.id, portLabel(p)] as const),
];
