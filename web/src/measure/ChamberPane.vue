<script setup lang="ts">
import { chamberOverhang, compressionRatio, joined, listed, targetBook, workIf } from '@alluvium/core';
import {
  measuresAt,
  compressionParts,
  sizeBook,
  sizeOf,
  statedAgainstFound,
  type MeasureItem,
  type Stage,
  type WholeHead,
} from '@alluvium/records';
import { computed } from 'vue';
import { useListOf } from '../data/queries.js';
import SizeRows from '../parts/SizeRows.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useJudging } from '../data/judging.js';
import { useActiveBuild } from '../data/build.js';
import WideFrame from '../parts/WideFrame.vue';
import ChamberDrawing from './ChamberDrawing.vue';
import MillingPlanner from './MillingPlanner.vue';
import { useMilling } from './useMilling.js';

/** Chamber and compression from all its parts, against the bore, and how much to mill for what is wanted. */
const props = defineProps<{ whole: WholeHead; stage: Stage }>();
const { active } = useActiveBuild();
const tolerances = useListOf('tolerance');
const ITEMS: readonly MeasureItem[] = [
  'chamber volume',
  'chamber width',
  'gasket volume',
  'deck volume',
  'piston dish',
];
const holding = computed(() => measuresAt(props.whole, props.stage.id));
const size = (item: MeasureItem, side: 'intake' | 'exhaust' | null = null) => sizeOf(holding.value, item, side);
const judging = useJudging();
/** Parts nobody measured are taken over their usual range, so that the ratio is one too. */
const ofCompression = computed(() => compressionParts(holding.value, active.value?.target));
const book = computed(() => {
  const sizes = joined(sizeBook(holding.value, undefined, judging.value.assumptions), ofCompression.value.book);
  const { core, target: wantedOf } = active.value ?? {};
  return core && wantedOf ? joined(sizes, targetBook(core, wantedOf, judging.value.assumptions)) : sizes;
});
const foundHere = (item: MeasureItem) =>
  props.whole.measures.some((m) => m.stageId === props.stage.id && m.item === item && m.sourceId === null);

const compression = computed(() =>
  workIf(compressionRatio, { ...ofCompression.value.parts, chamber: size('chamber volume') }),
);

/** Against the build's bore and every bore a sheet was taken in. */
const overhangs = computed(() => {
  const bores = new Map<string, { name: string; bore: number }>();
  const put = (name: string, bore: number) =>
    void (bores.has(bore.toFixed(5)) || bores.set(bore.toFixed(5), { name, bore }));
  const bore = active.value?.build.bore;
  if (bore) put(bore.typed, bore.si);
  for (const s of props.whole.sheets) if (s.setup.bore) put(s.setup.bore.typed, s.setup.bore.si);
  return [...bores.values()].flatMap(({ name, bore }) => {
    const working = workIf(chamberOverhang, { chamber: size('chamber width'), bore });
    return working ? [{ name, working }] : [];
  });
});
const claimed = computed(() =>
  statedAgainstFound(props.whole, props.stage.id, tolerances.data.value ?? []).find(
    (i) => i.item === 'chamber volume' && i.difference,
  ),
);

const mill = useMilling(
  () => props.whole.head,
  () => ofCompression.value.parts,
  size,
);
const { plan, milling } = mill;
</script>

<template>
  <div class="chamber">
    <div>
      <h2>Chamber, {{ stage.name }}</h2>
      <SizeRows
        :whole="whole"
        :stage="stage"
        :side="null"
        :items="ITEMS"
        :notes="(item) => (!foundHere(item) && size(item) !== undefined ? 'handed down or stated' : '')"
      />
      <h2>What follows{{ active ? ` on ${active.build.name}` : '' }}</h2>
      <WideFrame>
        <table class="ruled">
          <tbody>
            <tr>
              <td>
                compression ratio
                <small v-if="compression && ofCompression.missing.length" class="note">
                  {{ listed(ofCompression.missing) }} not measured: taken over the usual range
                </small>
              </td>
              <td class="num"><WorkedNumber :working="compression" :book="book" /></td>
            </tr>
            <tr v-for="o in overhangs" :key="o.name">
              <td>chamber over the edge of a {{ o.name }} bore</td>
              <td class="num" :class="{ loss: o.working.value > 0 }">
                <WorkedNumber :working="o.working" :book="book" signed />
              </td>
            </tr>
            <tr v-if="claimed">
              <td>chamber found less claimed</td>
              <td class="num" :class="{ loss: claimed.matters }">
                <WorkedNumber :working="claimed.difference" signed />
              </td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
      <p v-if="overhangs.some((o) => o.working.value > 0)" class="caution">
        The chamber hangs over the bore: its edge glows and holes the gasket. Relieve the edge or choose another gasket.
      </p>
    </div>
    <div>
      <ChamberDrawing
        :width="size('chamber width')?.value"
        :bore="active?.build.bore?.si ?? whole.sheets.find((s) => s.setup.bore)?.setup.bore?.si"
        :volume="size('chamber volume')?.value"
        :milled="milling && milling.value > 0 ? milling.value : undefined"
        :sunk="plan.sink?.si"
        :valves="[size('valve diameter', 'intake')?.value, size('valve diameter', 'exhaust')?.value]"
      />
      <MillingPlanner :mill="mill" :book="book" />
    </div>
  </div>
</template>

<style scoped>
.chamber {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 44px;
}
@media (width < 760px) {
  .chamber {
    grid-template-columns: minmax(0, 1fr);
  }
}
h2:not(:first-child) {
  margin-top: 18px;
}
</style>
