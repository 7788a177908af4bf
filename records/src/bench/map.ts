/** A stored velocity map as core reads it. */
import { cellAreas, cellVelocity, outlineOf, readMap, type MapCell, type MapReading, type Point } from '@alluvium/core';
import type { WholeHead } from '../api.js';
import type { VelocityMap } from '../nouns/bench.js';
import { toCoreSections } from '../sections.js';
import { surveyAt } from '../select.js';

// areas[]!, areas[][]!: one for each cell.

type MapPlace = Pick<VelocityMap, 'stageId' | 'portId' | 'side' | 'place'>;

/** The outline of the section a map lies on; undefined where none is measured. */
export function mapOutline(head: Pick<WholeHead, 'stages' | 'surveys'>, map: MapPlace): readonly Point[] | undefined {
  const survey = surveyAt(head, map.stageId, map.side, map.portId);
  const section = survey && toCoreSections(survey).find((s) => s.place === map.place);
  return section && outlineOf(section.shape);
}

/** The cells of a map, each with its velocity and the area it stands for (1 where no section is measured). */
export function mapCells(
  map: Pick<VelocityMap, 'cells' | 'rows' | 'columns'>,
  outline: readonly Point[] | null | undefined,
): MapCell[] {
  const areas = outline && cellAreas(outline, map.rows, map.columns);
  return map.cells
    .filter((c) => c.row < map.rows && c.column < map.columns)
    .map((c) => ({
      row: c.row,
      column: c.column,
      ...cellVelocity(c.low.si, (c.high ?? c.low).si),
      area: areas ? areas[c.row]![c.column]! : 1,
    }));
}

/** The newest map of a side at a stage, read; undefined where there is none. */
export function mapAt(
  head: Pick<WholeHead, 'stages' | 'surveys' | 'velocityMaps'>,
  stageId: string,
  side: VelocityMap['side'],
): { readonly map: VelocityMap; readonly reading: MapReading } | undefined {
  const maps = head.velocityMaps.filter((m) => m.stageId === stageId && m.side === side);
  const map = maps.at(-1);
  const reading = map && readMap(mapCells(map, mapOutline(head, map)));
  return map && reading ? { map, reading } : undefined;
}
