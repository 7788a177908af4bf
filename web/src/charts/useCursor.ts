import { bisector } from 'd3-array';
import type { Ref } from 'vue';

// list[]!, list.at()!: it moves only along a list that is not empty.

const STEPS: Readonly<Record<string, number>> = {
  ArrowRight: 1,
  ArrowLeft: -1,
  PageUp: 10,
  PageDown: -10,
  Home: -Infinity,
  End: Infinity,
};
const nearest = bisector((v: number) => v).center;

/** The place of a chart that is read: the nearest at which something is drawn, by mouse, finger or keys; none by Esc. */
export function useCursor(
  cursor: Ref<number | undefined>,
  /** Where something is drawn, rising. */
  places: Readonly<Ref<readonly number[]>>,
  where: {
    /** The value of x under a pointer. */
    readonly at: (event: PointerEvent) => number;
    /** The place shown by the first press of a key; the middle where undefined. */
    readonly first: () => number | undefined;
  },
) {
  function follow(event: PointerEvent): void {
    const list = places.value;
    if (list.length > 0) cursor.value = list[nearest(list as number[], where.at(event))];
  }
  function walk(event: KeyboardEvent): void {
    if (event.key === 'Escape') cursor.value = undefined;
    const by = STEPS[event.key];
    const list = places.value as number[];
    if (by === undefined || event.altKey || event.ctrlKey || event.metaKey || list.length === 0) return;
    event.preventDefault();
    event.stopPropagation();
    const from = nearest(list, cursor.value ?? where.first() ?? (list[0]! + list.at(-1)!) / 2);
    // The first press shows where one is, or the end asked for.
    const to = cursor.value === undefined && Number.isFinite(by) ? from : from + by;
    cursor.value = list[Math.max(0, Math.min(list.length - 1, to))];
  }
  return { follow, walk };
}
