/** Sheets of one port that differ in one thing alone: bores, valve sizes, notches, a pipe, read as one family. */
import { SAME_LIFT, flowDifference, flowGain, work, type FlowCurve, type Side, type Working } from '@alluvium/core';
import { evaluateSheetOf, type FlowedHead } from '../evaluateHead.js';
import { portIdOf } from '../claims/conditions.js';
import type { Setup, Sheet } from '../nouns/sheet.js';
import { portName, speaks } from '../select.js';

// all[]!: the one before, from the second on.
// g[]!, members[]!: a family begins with one.
// trait()!: its members have one.
// best.share!, s.share!, mostGained().share!, mostGained()!, first!, second!: families with a share, two at least.

/** What a family differs in. */
export const FAMILY_KINDS = ['bore', 'valve', 'notch', 'pipe'] as const;
export type FamilyKind = (typeof FAMILY_KINDS)[number];

const NOTCH_ORDER = ['none', 'chamber side', 'chamfer', 'radius'];
/** Of each kind: where a sheet stands in its family, and what it is called there; undefined where it does not say. */
const TRAITS: Readonly<
  Record<FamilyKind, (setup: Setup, side: Side) => { readonly order: number; readonly name: string } | undefined>
> = {
  bore: ({ bore }) => (bore ? { order: bore.si, name: `${bore.typed} bore` } : undefined),
  valve: (setup, side) => {
    const valve = setup[`${side}FlowValve`];
    return valve ? { order: valve.si, name: `${valve.typed} valve` } : undefined;
  },
  notch: ({ notch, notchToRing }) =>
    notch === 'unknown'
      ? undefined
      : {
          order: NOTCH_ORDER.indexOf(notch) + (notchToRing === 'yes' ? 0.5 : 0),
          name: notch === 'none' ? 'no notch' : `notch: ${notch}${notchToRing === 'yes' ? ', to the ring land' : ''}`,
        },
  pipe: ({ exhaustPipe, pipeDiameter }, side) =>
    side === 'intake' || exhaustPipe === 'unknown'
      ? undefined
      : { order: exhaustPipe === 'bare' ? 0 : (pipeDiameter?.si ?? 1e-3), name: exhaustPipe },
};

const trait = (kind: FamilyKind, sheet: Sheet, side: Side) => TRAITS[kind](sheet.setup, side);
/** All but what the family differs in is alike. */
function isKin(kind: FamilyKind, side: Side, a: Sheet, b: Sheet): boolean {
  return (
    a.sourceId === b.sourceId &&
    a.kind === b.kind &&
    portIdOf(a, side) === portIdOf(b, side) &&
    (side === 'exhaust' || a.setup.entry === b.setup.entry) &&
    FAMILY_KINDS.every((k) => k === kind || trait(k, a, side)?.name === trait(k, b, side)?.name)
  );
}

export interface FamilyMember {
  readonly sheet: Sheet;
  readonly name: string;
  readonly curve: FlowCurve;
}
/** What the last of a family flows against the first at one lift. */
export interface FamilyStep {
  readonly lift: number;
  readonly flows: readonly (number | undefined)[];
  /** From the first to the last; missing where one of them does not reach. */
  readonly gain?: Working;
  readonly share?: Working;
}
export interface Family {
  readonly kind: FamilyKind;
  readonly side: Side;
  /** The port it was taken on, as the user calls it; empty where nobody said. */
  readonly port: string;
  /** By rising bore, valve, notch; bare before piped. */
  readonly members: readonly FamilyMember[];
  readonly steps: readonly FamilyStep[];
}

function stepsOf(members: readonly FamilyMember[]): FamilyStep[] {
  const lifts = members
    .flatMap((m) => m.curve.points.map((p) => p.lift))
    .sort((a, b) => a - b)
    .filter((l, i, all) => i === 0 || l - all[i - 1]! > SAME_LIFT);
  return lifts.map((lift) => {
    const flows = members.map((m) => m.curve.at(lift));
    const [base, other] = [flows[0], flows.at(-1)];
    if (base === undefined || other === undefined || base <= 0) return { lift, flows };
    return { lift, flows, gain: work(flowDifference, { other, base }), share: work(flowGain, { other, base }) };
  });
}

/** Families among the sheets of one stage on one side, of two members and more; set aside ones and differences are left out. */
export function familiesOf(whole: FlowedHead, stageId: string, side: Side): Family[] {
  const read = whole.sheets
    .filter((s) => s.stageId === stageId && speaks(s))
    .flatMap((sheet) => {
      const curve = evaluateSheetOf(whole, sheet)[side].curve;
      return curve ? [{ sheet, curve }] : [];
    });
  return FAMILY_KINDS.flatMap((kind) => {
    const groups: { sheet: Sheet; curve: FlowCurve }[][] = [];
    for (const r of read) {
      if (!trait(kind, r.sheet, side)) continue;
      const group = groups.find((g) => isKin(kind, side, g[0]!.sheet, r.sheet));
      if (group) group.push(r);
      else groups.push([r]);
    }
    return groups.flatMap((group): Family[] => {
      // Of two alike the later speaks.
      const byTrait = new Map(group.map((r) => [trait(kind, r.sheet, side)!.name, r]));
      if (byTrait.size < 2) return [];
      const members = [...byTrait]
        .map(([name, { sheet, curve }]) => ({ sheet, name, curve }))
        .sort((a, b) => trait(kind, a.sheet, side)!.order - trait(kind, b.sheet, side)!.order);
      const port = portName(whole.ports, portIdOf(members[0]!.sheet, side)) ?? '';
      return [{ kind, side, port, members, steps: stepsOf(members) }];
    });
  });
}

/** Largest share a family gains anywhere; undefined where its ends never meet at a lift. */
export const mostGained = (family: Family): FamilyStep | undefined =>
  family.steps
    .filter((s) => s.share)
    .reduce<FamilyStep | undefined>(
      (best, s) => (best && Math.abs(best.share!.value) >= Math.abs(s.share!.value) ? best : s),
      undefined,
    );

/** The port of several bore families that the wall crowds most: the one that gains most from the larger bore. */
export function mostCrowded(families: readonly Family[]): Family | undefined {
  const bores = families.filter((f) => f.kind === 'bore' && mostGained(f));
  if (bores.length < 2) return undefined;
  const gain = (f: Family) => mostGained(f)!.share!.value;
  const [first, second] = [...bores].sort((a, b) => gain(b) - gain(a));
  // Less apart than half a per cent is no difference anybody could see on a bench. Common practice, no source.
  return gain(first!) - gain(second!) > 0.005 ? first : undefined;
}
