import type { System } from '@alluvium/core';
import { emptySection, readSections, toCoreSections, type NamedOutline, type SectionCells } from '@alluvium/records';
import { ref, type Ref } from 'vue';
import { useUndo } from '../data/undo.js';
import { readOutlineFile } from './outlineFile.js';

/** Outlines that come from a photo or a file go into the cells of a survey; `typed` takes the rows as if they were typed. */
export function useOutlines(
  cells: Ref<SectionCells[]>,
  chosen: Ref<number>,
  typed: (rows: SectionCells[]) => void,
  /** What a length without a unit is read in. */
  system: Readonly<Ref<System>>,
) {
  const undo = useUndo();
  const fileProblem = ref('');
  /** An outline goes into the row at hand when that is free, else into new rows at the end, stepped by 5 mm where no station is told. */
  function take(outlines: readonly NamedOutline[]): void {
    const rows = cells.value.filter((r) => r.station.trim() !== '' || r.outline.length > 0);
    let last = Math.max(
      -5,
      ...toCoreSections({ sections: readSections(rows, system.value).sections }).map((s) => s.station * 1000),
    );
    for (const o of outlines) {
      const station = o.station === undefined ? (last += 5) : (last = o.station * 1000);
      const text = `${Number(station.toFixed(3))} mm`;
      const old = rows.findIndex(
        (r) => r.station.replace(/\s/g, '') === text.replace(/\s/g, '') && r.branch.trim() === '',
      );
      const row: SectionCells = {
        ...(rows[old] ?? emptySection()),
        station: text,
        shape: 'outline',
        width: '',
        height: '',
        radius: '',
        outline: o.points.map(([x, y]) => [x, y]),
      };
      if (old >= 0) rows[old] = row;
      else rows.push(row);
    }
    typed(rows);
    chosen.value = rows.length - 1;
  }
  async function bring(files: Iterable<File>): Promise<void> {
    fileProblem.value = '';
    for (const file of files) {
      const { outlines, problems: found } = await readOutlineFile(file);
      if (found.length) fileProblem.value = `${file.name}: ${found.slice(0, 3).join(' ')}`;
      if (outlines.length) {
        take(outlines);
        undo.announce(
          `${outlines.length} outline${outlines.length > 1 ? 's' : ''} brought in from ${file.name}; not saved yet.`,
        );
      }
    }
  }
  function traced(points: [number, number][]): void {
    const row = cells.value[chosen.value];
    if (row && row.station.trim() !== '' && row.outline.length === 0 && row.width.trim() === '') {
      const rows = cells.value.slice();
      rows[chosen.value] = { ...row, shape: 'outline', outline: points };
      typed(rows);
    } else take([{ name: 'traced', points }]);
  }
  return { fileProblem, bring, traced };
}
