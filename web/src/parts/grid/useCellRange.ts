import { computed, ref } from 'vue';
import { edgesOf, isOne, type Range } from './block.js';

/** The cells of a grid that are chosen: one, or a range drawn by mouse or stretched by keys. */
export function useCellRange(size: () => { readonly rows: number; readonly columns: number }) {
  const range = ref<Range>({ from: { row: 0, column: 0 }, to: { row: 0, column: 0 } });
  const edges = computed(() => edgesOf(range.value));
  /** More than the one cell the cursor is in. */
  const several = computed(() => !isOne(edges.value));
  /** A range is drawn by the mouse from the cell it was pressed in; text that is dragged must not move a figure. */
  let drawing = false;
  const only = (row: number, column: number) => (range.value = { from: { row, column }, to: { row, column } });
  const to = (row: number, column: number) => (range.value = { ...range.value, to: { row, column } });
  return {
    edges,
    several,
    only,
    drawing: () => drawing,
    stretch(down: number, right: number): void {
      const { rows, columns } = size();
      const { row, column } = range.value.to;
      to(Math.max(0, Math.min(rows - 1, row + down)), Math.max(0, Math.min(columns - 1, column + right)));
    },
    pressed(event: MouseEvent, row: number, column: number): void {
      if (event.button !== 0) return;
      if (event.shiftKey) {
        event.preventDefault();
        to(row, column);
        return;
      }
      drawing = true;
      only(row, column);
      addEventListener('mouseup', () => (drawing = false), { once: true });
    },
    passed(event: MouseEvent, row: number, column: number): void {
      if (!drawing || event.buttons !== 1) return;
      to(row, column);
      if (several.value) getSelection()?.removeAllRanges();
    },
  };
}
