<script setup lang="ts">
import { coreShift, coreTilt, formatNumber, workIf, type Side, type Working } from '@alluvium/core';
import { MEASURE_ITEMS, type Measure, type MeasureItem, type Stage, type WholeHead } from '@alluvium/records';
import { computed, ref } from 'vue';
import SizeRows from '../parts/SizeRows.vue';
import ChoiceRow from '../parts/ChoiceRow.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import PlaceCell from '../parts/PlaceCell.vue';

/** The sizes one line of the checklist asks for, a row a cylinder; Enter goes on to the next row. */
const props = defineProps<{ whole: WholeHead; stage: Stage; sizes: readonly MeasureItem[] }>();
const side = ref<Side>('intake');
const sided = computed(() => props.sizes.some((s) => MEASURE_ITEMS[s].sided));
const valves = computed(() =>
  side.value === 'intake' ? props.whole.head.intakeValves : props.whole.head.exhaustValves,
);
/** Sizes taken at each valve rather than once a port. */
const PER_VALVE: readonly MeasureItem[] = ['guide clearance', 'stem diameter', 'spring installed height', 'seat width'];
interface Column {
  readonly item: MeasureItem;
  readonly valve: number | null;
  readonly title: string;
}
const columns = computed(() =>
  props.sizes.flatMap((item): Column[] =>
    valves.value > 1 && PER_VALVE.includes(item)
      ? Array.from({ length: valves.value }, (_, i) => ({ item, valve: i + 1, title: `${item} ${i + 1}` }))
      : [{ item, valve: null, title: item }],
  ),
);
const rows = computed(() => [
  ...props.whole.ports
    .filter((p) => p.side === side.value)
    .map((p) => ({ portId: p.id as string | null, name: p.nickname || `${p.number}` })),
  { portId: null, name: 'all' },
]);
const at = (item: MeasureItem, portId: string | null, valve: number | null): Measure | undefined =>
  props.whole.measures
    .filter(
      (m) =>
        m.stageId === props.stage.id &&
        m.item === item &&
        m.side === (MEASURE_ITEMS[item].sided ? side.value : null) &&
        m.portId === portId &&
        m.valve === valve &&
        m.sourceId === null,
    )
    .at(-1);
const size = (item: MeasureItem, portId: string | null) => at(item, portId, null)?.value.si;

/** What follows at each port, when all its sizes are there. */
function follows(portId: string | null): Working | undefined {
  return props.sizes.includes('gasket step, roof')
    ? workIf(coreShift, {
        roof: size('gasket step, roof', portId),
        floor: size('gasket step, floor', portId),
        front: size('gasket step, front', portId),
        rear: size('gasket step, rear', portId),
      })
    : undefined;
}
const shifts = computed(() => rows.value.map((r) => follows(r.portId)));
const tilt = computed(() => {
  if (!props.sizes.includes('short turn height')) return undefined;
  const known = rows.value.flatMap((r) => (r.portId ? [size('short turn height', r.portId)] : []));
  const found = known.filter((h) => h !== undefined);
  return found.length > 1 ? workIf(coreTilt, { first: found[0], last: found.at(-1) }) : undefined;
});
const spread = computed(() =>
  columns.value.map(({ item, valve }) => {
    const found = rows.value.flatMap((r) => at(item, r.portId, valve)?.value.si ?? []);
    return found.length > 1
      ? `${formatNumber(Math.min(...found), MEASURE_ITEMS[item].kind, 'metric')} to ${formatNumber(Math.max(...found), MEASURE_ITEMS[item].kind, 'metric')}`
      : '';
  }),
);

function onEnter(event: KeyboardEvent): void {
  const cell = (event.target as HTMLElement).closest('td');
  const row = cell?.closest('tr')?.nextElementSibling;
  const next = cell && row?.children[cell.cellIndex]?.querySelector('input');
  event.preventDefault();
  if (next) next.focus();
  else (event.target as HTMLElement).blur();
}
const unsided = computed(() => props.sizes.filter((s) => !MEASURE_ITEMS[s].sided));
</script>

<template>
  <div data-own-keys @keydown.enter="onEnter">
    <SizeRows v-if="unsided.length" class="places" :whole="whole" :stage="stage" :side="null" :items="unsided" />
    <template v-else-if="sided">
      <ChoiceRow
        v-model="side"
        class="sides"
        label="Side"
        :options="[
          ['intake', 'intake'],
          ['exhaust', 'exhaust'],
        ]"
      />
      <table class="ruled places">
        <thead>
          <tr>
            <th>cyl.</th>
            <th v-for="c in columns" :key="c.title">{{ c.title.replace('gasket step, ', 'step, ') }}</th>
            <th v-if="shifts.some(Boolean)" class="num">core shift</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(r, i) in rows" :key="r.portId ?? 'all'">
            <td class="quiet">{{ r.name }}</td>
            <td v-for="c in columns" :key="c.title">
              <PlaceCell
                :key="`${c.item}${c.valve}${side}${r.portId}`"
                :stage-id="stage.id"
                :item="c.item"
                :side="side"
                :port-id="r.portId"
                :valve="c.valve"
                :label="`${c.title}, ${side}, ${r.portId ? `cylinder ${r.name}` : 'all alike'}`"
                :measure="at(c.item, r.portId, c.valve)"
              />
            </td>
            <td v-if="shifts.some(Boolean)" class="num"><WorkedNumber :working="shifts[i]" /></td>
          </tr>
        </tbody>
      </table>
      <p v-if="tilt" class="note">
        Last end against first end:
        <WorkedNumber :working="tilt" signed />
        . A core that lies askew shows here.
      </p>
      <p v-else-if="spread.some(Boolean)" class="note">Found: {{ spread.filter(Boolean).join('; ') }} mm.</p>
    </template>
  </div>
</template>

<style scoped>
.places {
  width: auto;
  min-width: 60%;
}
.places th {
  font-size: 14px;
}
.places td {
  padding: 0 8px;
  vertical-align: top;
}
.places td:first-child,
.places td.num {
  padding-top: 6px;
}
.sides {
  margin: 6px 0;
}
</style>
