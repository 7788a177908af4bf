<script setup lang="ts">
import { arrivalWords } from '@alluvium/core';
import { addition, arrivalAt, likelyLook, removal, standingFindings, type Inspection } from '@alluvium/records';
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import HeadInHand from '../parts/HeadInHand.vue';
import NoHead from '../parts/NoHead.vue';
import TabRow from '../parts/TabRow.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useActiveBuild } from '../data/build.js';
import { useHeadInHand } from '../data/inHand.js';
import { useChange } from '../data/useChange.js';
import ChecklistMore from './ChecklistMore.vue';
import CheckLines from './CheckLines.vue';
import FindingsPane from './FindingsPane.vue';
import HeadPlan from './HeadPlan.vue';
import InspectionDetail from './InspectionDetail.vue';
import NewChecklist from './NewChecklist.vue';
import SeatForm from './SeatForm.vue';
import StatedTable from './StatedTable.vue';
import { useTicks, type Tick } from '../data/ticks.js';
import { today } from '../data/today.js';

// whole.value!, stage.value!: the acts are shown with a head and a stage.

/** The head on the table: its checklist at the left, its seats above, what is looked at beneath. */
const props = defineProps<{ id?: string }>();
const route = useRoute();
const router = useRouter();
const change = useChange();
const { active } = useActiveBuild();
const hand = useHeadInHand('arrival', () => props.id ?? '');
const { whole, stage } = hand;
const { tick } = useTicks(hand);
const lines = useTemplateRef<InstanceType<typeof CheckLines>>('lines');
const detail = useTemplateRef<InstanceType<typeof InspectionDetail>>('detail');

const standing = computed(() =>
  whole.value && stage.value ? standingFindings(whole.value, stage.value.id, active.value?.build.id) : [],
);
const result = computed(() =>
  whole.value && stage.value ? arrivalAt(whole.value, stage.value.id, active.value?.build.id) : undefined,
);

const PANES = ['look', 'seat', 'stated', 'findings'] as const;
type Pane = (typeof PANES)[number];
const pane = computed<Pane>(() => PANES.find((p) => p === route.query.pane) ?? 'look');
const toPane = (next: Pane) =>
  void router.replace({ query: { ...route.query, pane: next === 'look' ? undefined : next } });
const PANE_WORDS: Record<Pane, string> = {
  look: 'look',
  seat: 'seats',
  stated: 'stated against found',
  findings: 'findings',
};

const paneOptions = computed(() =>
  PANES.map(
    (p) =>
      [p, p === 'findings' && standing.value.length ? `findings (${standing.value.length})` : PANE_WORDS[p]] as const,
  ),
);

const chosenId = ref<string>();
const chosen = computed(
  () =>
    whole.value?.inspections.find((i) => i.id === chosenId.value) ??
    whole.value?.inspections.find((i) => i.state === 'open') ??
    whole.value?.inspections[0],
);
const seat = ref<{ side: 'intake' | 'exhaust'; cylinder: number; valve: number }>();

function choose(id: string): void {
  chosenId.value = id;
  if (pane.value !== 'look') toPane('look');
}
const set = (i: Inspection, change: Tick, what: string) => void tick(i, change, what);
async function within(act: (d: InstanceType<typeof InspectionDetail>) => void): Promise<void> {
  if (pane.value !== 'look') toPane('look');
  await nextTick();
  if (detail.value) act(detail.value);
}
const remove = (i: Inspection) =>
  change.make([removal('inspection', i.id)], `“${i.title}” removed from the checklist.`);

function chooseSeat(spot: { side: 'intake' | 'exhaust'; cylinder: number; valve: number }): void {
  seat.value = { side: spot.side, cylinder: spot.cylinder, valve: spot.valve };
  toPane('seat');
}
async function noteSeat(
  { side, cylinder, valve }: { side: 'intake' | 'exhaust'; cylinder: number; valve: number },
  sealed: 'seals' | 'leaks',
): Promise<void> {
  seat.value = { side, cylinder, valve };
  const last = likelyLook(whole.value!, seat.value);
  const look = {
    stageId: stage.value!.id,
    side,
    cylinder,
    valve,
    result: sealed,
    ringMaterial: last?.ringMaterial ?? 'unknown',
    ringOutside: last?.ringOutside ?? null,
    ringInside: last?.ringInside ?? null,
    date: today(),
  };
  await change.make([addition('seat', look)], `${side} seat of cylinder ${cylinder}: ${sealed}.`);
}
</script>

<template>
  <section v-if="whole && stage && result" class="arrival">
    <header>
      <h1 class="unseen">Arrival of {{ whole.head.name }}</h1>
      <HeadInHand step="arrival" :whole="whole" :stage="stage" @stage="hand.toStage" />
      <RouterLink :to="{ name: 'head', params: { id: whole.head.id }, query: { stage: stage.id } }" class="note">
        sheets and sizes
      </RouterLink>
    </header>
    <p class="reading state" :class="result.condition.replace(' ', '-')" aria-live="polite">
      {{ arrivalWords(result) }}
      <template v-if="result.cost && result.cost.value > 0">
        To mend:
        <WorkedNumber :working="result.cost" />
      </template>
    </p>
    <NewChecklist v-if="whole.inspections.length === 0" :key="whole.head.id" :whole="whole" />
    <div v-else class="two">
      <div class="left">
        <CheckLines
          ref="lines"
          :inspections="whole.inspections"
          :standing="standing"
          :chosen="pane === 'look' ? chosen?.id : undefined"
          @choose="choose"
          @tick="(i, s) => set(i, { state: s }, `${i.title}: ${s}.`)"
          @skip="(i) => (choose(i.id), within((d) => d.skip()))"
          @found="(i) => (choose(i.id), within((d) => d.found()))"
          @enter="(i) => (choose(i.id), within((d) => d.enter()))"
        />
        <p class="note keys">F fine · U unsure · S skip · X found · Enter fields</p>
        <ChecklistMore :whole="whole" @added="choose" />
      </div>
      <div class="right">
        <HeadPlan
          v-if="whole.head.cylinders"
          :whole="whole"
          :stage-id="stage.id"
          :standing="standing"
          :chosen="pane === 'seat' ? seat : undefined"
          @choose="chooseSeat"
          @note="noteSeat"
        />
        <TabRow
          class="panes"
          label="What is shown"
          :model-value="pane"
          :options="paneOptions"
          @update:model-value="toPane"
        />
        <InspectionDetail
          v-if="pane === 'look' && chosen"
          ref="detail"
          :whole="whole"
          :stage="stage"
          :inspection="chosen"
          @tick="set"
          @remove="remove"
          @back="lines?.focus()"
        />
        <template v-else-if="pane === 'seat'">
          <SeatForm
            v-if="seat"
            :key="`${seat.side}${seat.cylinder}${seat.valve}${stage.id}`"
            :whole="whole"
            :stage-id="stage.id"
            :seat="seat"
          />
          <p v-else class="reading">
            Choose a seat in the drawing. P notes that it seals, L that it leaks; arrows go on to the next.
          </p>
        </template>
        <StatedTable v-else-if="pane === 'stated'" :whole="whole" :stage="stage" />
        <FindingsPane v-else :whole="whole" :stage="stage" @open="choose" />
      </div>
    </div>
  </section>
  <NoHead v-else :loading="hand.loading.value" :error="hand.error.value" />
</template>

<style scoped>
.arrival {
  display: flex;
  flex-direction: column;
  height: 100%;
}
header {
  display: flex;
  gap: 22px;
  align-items: baseline;
}
.state {
  margin: 6px 0 10px;
  max-width: 1000px;
}
.state.rejected {
  color: var(--loss);
}
.two {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 290px 1fr;
  gap: 28px;
}
.left {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.left > .list {
  flex: 1;
  min-height: 120px;
}
.keys {
  margin: 6px 0 2px;
  font-size: 14px;
}
.right {
  min-width: 0;
  overflow-y: auto;
  padding-right: 6px;
}
.panes {
  margin: 8px 0 10px;
  border-bottom: 1px solid var(--rule);
}
@media (max-width: 1100px) {
  .two {
    grid-template-columns: 240px 1fr;
  }
}
</style>
