/** What is done to a head: the trade's list of cuts, and what each of them works on. */

export interface OperationSpec {
  /** What the cut can change: the valve and its seat, the port behind it, the chamber and bore round it. */
  readonly works: 'valve' | 'port' | 'chamber';
  /** Belongs to a side; a milled face belongs to none. */
  readonly sided: boolean;
}

export const OPERATIONS = {
  'valve job': { works: 'valve', sided: true },
  'back-cut': { works: 'valve', sided: true },
  'top cut': { works: 'valve', sided: true },
  'seat blend': { works: 'valve', sided: true },
  'valve larger': { works: 'valve', sided: true },
  'seat sunk': { works: 'valve', sided: true },
  'throat opened': { works: 'valve', sided: true },
  'bowl blend': { works: 'port', sided: true },
  'guide boss': { works: 'port', sided: true },
  'short turn lowered': { works: 'port', sided: true },
  'short turn laid back': { works: 'port', sided: true },
  'pinch opened': { works: 'port', sided: true },
  window: { works: 'port', sided: true },
  'roof raised': { works: 'port', sided: true },
  'port matched': { works: 'port', sided: true },
  epoxy: { works: 'port', sided: true },
  polish: { works: 'port', sided: true },
  'chamber unshrouded': { works: 'chamber', sided: false },
  milled: { works: 'chamber', sided: false },
  'bore notched': { works: 'chamber', sided: false },
  'bore relieved': { works: 'chamber', sided: false },
  other: { works: 'port', sided: false },
} as const satisfies Record<string, OperationSpec>;
export type OperationKind = keyof typeof OPERATIONS;
export const OPERATION_KINDS = Object.keys(OPERATIONS) as [OperationKind, ...OperationKind[]];
