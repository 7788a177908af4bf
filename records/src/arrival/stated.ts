/** Stated against found, item by item, and the spring as the maker states it beside the spring as it stands. */
import {
  mean,
  coilBindClearance,
  noted,
  parseQuantity,
  retainerClearance,
  springForce,
  statedDifference,
  work,
  workIf,
  type Given,
  type Noted,
  type Side,
  type Working,
} from '@alluvium/core';
import type { WholeHead } from '../api.js';
import type { Measure, Tolerance } from '../nouns/measure.js';
import { MEASURE_ITEMS, MEASURE_ITEM_NAMES, type MeasureItem } from '../nouns/measureItems.js';
import { lineage } from '../select.js';
import { refusal } from '../refusal.js';

/** A difference that matters: the shop's own, else the program's. SI. */
export function toleranceOf(item: MeasureItem, own: readonly Tolerance[]): number {
  const set = own.find((t) => t.item === item);
  if (set) return set.value.si;
  const { tolerance, kind } = MEASURE_ITEMS[item];
  const parsed = parseQuantity(tolerance, kind);
  if (!parsed.ok) throw refusal('toleranceUnread', item, parsed.problem);
  return parsed.quantity.si;
}

export interface StatedItem {
  readonly item: MeasureItem;
  readonly side: Side | null;
  readonly stated: readonly Measure[];
  readonly found: readonly Measure[];
  /** Mean of the found ones, and how far they lie apart. */
  readonly foundMean?: number;
  readonly spread?: number;
  /** Found less stated; missing while one of both is. */
  readonly difference?: Working;
  /** What a stated force is at the height the spring was found at: the height is at fault, not the spring. */
  readonly atFound?: Working;
  readonly tolerance: number;
  readonly matters: boolean;
}

/** Every sized item that was stated or found, in the table's order. Found sizes come from the nearest stage that measured them. */
export function statedAgainstFound(
  whole: Pick<WholeHead, 'stages' | 'measures'>,
  stageId: string,
  own: readonly Tolerance[],
): StatedItem[] {
  const chain = lineage(whole.stages, stageId);
  const nearest = (mine: (m: Measure) => boolean): Measure[] => {
    for (const stage of chain) {
      const here = whole.measures.filter((m) => m.stageId === stage.id && mine(m));
      if (here.length > 0) return here;
    }
    return [];
  };
  /** A seat force stated at the stated height, at the one found; undefined where the heights or the rate are not known. */
  const forceAtFound = (seatForce: Noted<number>, side: Side): Working | undefined => {
    const value = (item: MeasureItem, own: boolean) => {
      const list = nearest((m) => m.item === item && m.side === side && (m.sourceId === null) === own);
      return list.length > 0 ? mean(list.map((m) => m.value.si)) : undefined;
    };
    const [height, found] = [value('spring installed height', false), value('spring installed height', true)];
    const rate = value('spring rate', true) ?? value('spring rate', false);
    return workIf(springForce, {
      seatForce,
      rate,
      installedHeight: height === undefined ? undefined : noted(height, 'stated'),
      height: found === undefined ? undefined : noted(found, 'found'),
    });
  };
  return MEASURE_ITEM_NAMES.flatMap((item): StatedItem[] =>
    (MEASURE_ITEMS[item].sided ? (['intake', 'exhaust'] as const) : [null]).flatMap((side): StatedItem[] => {
      const is = (m: Measure) => m.item === item && m.side === side;
      const stated = nearest((m) => is(m) && m.sourceId !== null);
      const found = nearest((m) => is(m) && m.sourceId === null);
      if (stated.length + found.length === 0) return [];
      const tolerance = toleranceOf(item, own);
      const values = found.map((m) => m.value.si);
      const base = { item, side, stated, found, tolerance };
      if (values.length === 0) return [{ ...base, matters: false }];
      const measured = { ...base, foundMean: mean(values), spread: Math.max(...values) - Math.min(...values) };
      if (stated.length === 0) return [{ ...measured, matters: false }];
      const said = noted(
        mean(stated.map((m) => m.value.si)),
        stated.length > 1 ? `mean of ${stated.length}` : 'stated',
      );
      const atFound = item === 'spring seat force' && side ? forceAtFound(said, side) : undefined;
      const difference = work(statedDifference(MEASURE_ITEMS[item].kind), {
        found: noted(measured.foundMean, values.length > 1 ? `mean of ${values.length}` : 'found'),
        stated: atFound ?? said,
      });
      const matters = Math.abs(difference.value) > tolerance * (1 + 1e-9);
      return [{ ...measured, difference, matters, ...(atFound ? { atFound } : {}) }];
    }),
  );
}

export interface SpringColumn {
  readonly seatForce?: Given<number>;
  readonly openForce?: Working;
  readonly coilBind?: Working;
  readonly retainer?: Working;
}

/**
 * A valve spring under a cam's lift, as the maker states it and as it was found. A found height changes the stated seat
 * force by the rate, unless the force was measured too.
 */
export function springAt(
  items: readonly StatedItem[],
  side: Side,
  lift: number | undefined,
): { readonly stated: SpringColumn; readonly found: SpringColumn } {
  const at = (item: MeasureItem) => items.find((i) => i.item === item && i.side === side);
  const stated = (item: MeasureItem) => {
    const list = at(item)?.stated ?? [];
    return list.length > 0 ? noted(mean(list.map((m) => m.value.si)), 'stated') : undefined;
  };
  const found = (item: MeasureItem) => {
    const value = at(item)?.foundMean;
    return value === undefined ? undefined : noted(value, 'found');
  };
  const column = (
    seatForce: Given<number> | undefined,
    get: (item: MeasureItem) => { value: number; note: string } | undefined,
  ): SpringColumn => {
    const height = get('spring installed height');
    const rate = get('spring rate');
    const open = height && lift !== undefined ? noted(height.value - lift, 'installed height less lift') : undefined;
    const openForce = workIf(springForce, { seatForce, rate, installedHeight: height, height: open });
    const coilBind = workIf(coilBindClearance, {
      installedHeight: height,
      coilBind: get('spring coil-bind height'),
      lift,
    });
    const retainer = workIf(retainerClearance, { guideToRetainer: get('retainer to seal'), lift });
    return {
      ...(seatForce === undefined ? {} : { seatForce }),
      ...(openForce ? { openForce } : {}),
      ...(coilBind ? { coilBind } : {}),
      ...(retainer ? { retainer } : {}),
    };
  };
  const either = (item: MeasureItem) => found(item) ?? stated(item);
  const height = found('spring installed height');
  const asFound =
    found('spring seat force') ??
    (height
      ? workIf(springForce, {
          seatForce: stated('spring seat force'),
          rate: either('spring rate'),
          installedHeight: stated('spring installed height'),
          height,
        })
      : undefined);
  return { stated: column(stated('spring seat force'), stated), found: column(asFound, either) };
}
