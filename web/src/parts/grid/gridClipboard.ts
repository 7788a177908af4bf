import type { Ref } from 'vue';
import { blockFrom, blockIn, laidOver, toHtml, toTabs, type Edges, type Place } from './block.js';
import type { Edit, GridColumn } from './grid.js';

// block[]!: there is one row.

interface Grid<K extends string> {
  readonly columns: readonly GridColumn<K>[];
  readonly pasted?: ((block: string[][], at: Place, text: string) => readonly Edit<K>[] | undefined) | undefined;
}
interface Cells<K extends string> {
  readonly textAt: (row: number, column: number) => string;
  readonly put: (edits: readonly Edit<K>[]) => void;
  readonly clear: () => void;
  readonly takenOtherwise: () => void;
}
interface Chosen {
  readonly edges: Readonly<Ref<Edges>>;
  readonly several: Readonly<Ref<boolean>>;
}

/** Several cells are copied as a spreadsheet does, and a block is laid over the cells; one cell's text is the field's own. */
export function gridClipboard<K extends string>(grid: Grid<K>, cells: Cells<K>, { edges, several }: Chosen) {
  return {
    onCopy(event: ClipboardEvent, cut: boolean): void {
      if (!several.value || !event.clipboardData) return;
      event.preventDefault();
      const block = blockIn(edges.value, cells.textAt);
      event.clipboardData.setData('text/plain', toTabs(block));
      event.clipboardData.setData('text/html', toHtml(block));
      if (cut) cells.clear();
    },
    onPaste(event: ClipboardEvent, row: number, column: number): void {
      const { block, text } = blockFrom(event.clipboardData);
      const single = block.length === 1 && block[0]!.length === 1;
      if (block.length === 0 || (single && !several.value)) return;
      event.preventDefault();
      const over = several.value ? edges.value : { top: row, bottom: row, left: column, right: column };
      const edits = grid.pasted
        ? grid.pasted(block, { row: over.top, column: over.left }, text)
        : laidOver(block, over).flatMap((cell) => {
            const name = grid.columns[cell.column];
            return name ? [{ row: cell.row, key: name.key, text: cell.text.trim() }] : [];
          });
      if (edits) cells.put(edits);
      else cells.takenOtherwise();
    },
  };
}
