import {
  cellAreas,
  idealVelocity,
  mapClosure,
  mapFlow,
  mapWords,
  meanVelocity,
  noted,
  readMap,
  REFERENCE_DENSITY,
  REFERENCE_DEPRESSION,
  uniformityIndex,
  work,
  workIf,
} from '@alluvium/core';
import { evaluateSheetOf, mapCells, mapOutline, type Sheet, type VelocityMap, type WholeHead } from '@alluvium/records';
import { computed, type Ref } from 'vue';
import type { Draft } from '../data/form.js';
import { useSettings } from '../state/settings.js';

/** What a velocity map says as it stands: its mean, how even it is, what it adds up to, and whether that closes. */
export function useMapReading(
  props: { readonly head: WholeHead; /** What it is held against. */ readonly sheet: Sheet | undefined },
  draft: Readonly<Ref<Draft<'velocitymap'>>>,
  rows: Readonly<Ref<number>>,
  columns: Readonly<Ref<number>>,
) {
  const settings = useSettings();
  /** The section the map lies on, where one is measured. */
  const outline = computed(() => mapOutline(props.head, draft.value as VelocityMap) ?? null);
  const areas = computed(() => (outline.value ? cellAreas(outline.value, rows.value, columns.value) : undefined));
  const cells = computed(() =>
    mapCells(
      { cells: draft.value.cells ?? [], rows: rows.value, columns: columns.value } as VelocityMap,
      outline.value,
    ),
  );
  const read = computed(() => readMap(cells.value));
  const velocities = computed(() =>
    Array.from({ length: rows.value }, (_, r) =>
      Array.from({ length: columns.value }, (_, c) => cells.value.find((x) => x.row === r && x.column === c)?.velocity),
    ),
  );
  const mean = computed(
    () => read.value && work(meanVelocity, { velocities: read.value.velocities, areas: read.value.areas }),
  );
  const uniform = computed(() => {
    if (!read.value || !mean.value || mean.value.value <= 0) return undefined;
    return work(uniformityIndex, { velocities: read.value.velocities, areas: read.value.areas });
  });
  const area = computed(() => areas.value?.flat().reduce((s, a) => s + a, 0));
  const flow = computed(() => workIf(mapFlow, { velocity: mean.value, area: area.value }));
  const ideal = computed(() =>
    workIf(idealVelocity, { depression: draft.value.depression?.si, density: REFERENCE_DENSITY }),
  );
  /** Flow of the bench at that lift, at the depression of the map. */
  const benchFlow = computed(() => {
    const { lift, depression } = draft.value;
    const { sheet } = props;
    if (!lift || !depression || !sheet || !draft.value.side) return undefined;
    const q = evaluateSheetOf(props.head, sheet)[draft.value.side].curve?.at(lift.si);
    return q === undefined
      ? undefined
      : noted(
          q * Math.sqrt(depression.si / REFERENCE_DEPRESSION),
          `“${sheet.title}” at ${lift.typed}, brought to ${depression.typed}`,
        );
  });
  const closes = computed(() => workIf(mapClosure, { map: flow.value, bench: benchFlow.value }));
  const says = computed(() =>
    read.value && draft.value.place
      ? mapWords(
          read.value,
          { rows: rows.value, columns: columns.value, wall: draft.value.wall ?? 'unknown', place: draft.value.place },
          settings.say,
        )
      : '',
  );
  /** Faster than the depression can drive is a slip of the hand. */
  const impossible = computed(
    () => read.value && ideal.value && read.value.fastest.velocity > 1.05 * ideal.value.value,
  );
  return { outline, velocities, read, mean, uniform, flow, ideal, closes, says, impossible };
}
