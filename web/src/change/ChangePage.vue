<script setup lang="ts">
import { SIDES, inches, type Side } from '@alluvium/core';
import { cutFacts, usualBestAt, type BandAsk, type BestAt } from '@alluvium/records';
import { computed, defineAsyncComponent, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useActiveBuild } from '../data/build.js';
import { useBandViews } from '../data/claims.js';
import { useHeadInHand } from '../data/inHand.js';
import { useCuts } from '../data/queries.js';
import HeadInHand from '../parts/HeadInHand.vue';
import NoHead from '../parts/NoHead.vue';
import TabRow from '../parts/TabRow.vue';
import { useSettings } from '../state/settings.js';
import CoreSample from './CoreSample.vue';
import StageForm from './StageForm.vue';
import StagePane from './StagePane.vue';
import { lossStages, useChangeContext, useLedger, useSplit } from './useChangeData.js';

const LedgerPane = defineAsyncComponent(() => import('./LedgerPane.vue'));
const LossPane = defineAsyncComponent(() => import('./LossPane.vue'));
const NextPane = defineAsyncComponent(() => import('./NextPane.vue'));
const WorkPane = defineAsyncComponent(() => import('./WorkPane.vue'));
const MachiningPane = defineAsyncComponent(() => import('./MachiningPane.vue'));
const SpecimensPane = defineAsyncComponent(() => import('./SpecimensPane.vue'));

/** A head as a history of stages: what each cut bought, where the flow is lost, and which cut comes next. */
const props = defineProps<{ id?: string }>();
const route = useRoute();
const router = useRouter();
const settings = useSettings();
const { active } = useActiveBuild();
const { whole, stage: held, inLineup, error, loading, toStage } = useHeadInHand('change', () => props.id ?? '');

const PANES = ['history', 'ledger', 'loss', 'next', 'work', 'machining', 'specimens'] as const;
type Pane = (typeof PANES)[number];
const PANE_WORDS: Record<Pane, string> = {
  history: 'history',
  ledger: 'ledger',
  loss: 'valve or port',
  next: 'next cut',
  work: 'work list',
  machining: 'milling and bores',
  specimens: 'specimens',
};
const pane = computed<Pane>(() => PANES.find((p) => p === route.query.pane) ?? 'history');
const side = computed<Side>(() => (route.query.side === 'exhaust' ? 'exhaust' : 'intake'));
const put = (query: Record<string, string | undefined>) => void router.replace({ query: { ...route.query, ...query } });

// A history is read to its end: without a stage in the address the last one is in hand.
const stage = computed(() =>
  route.query.stage || (inLineup.value && whole.value?.stages.at(-1)?.id === held.value?.id)
    ? held.value
    : whole.value?.stages.at(-1),
);
/** The ledger goes on to the last stage that comes from the one in hand. */
const last = computed(() => {
  const stages = whole.value?.stages ?? [];
  let at = stage.value;
  for (let next = at; next; next = stages.filter((s) => s.parentId === at?.id).at(-1)) at = next;
  return at;
});
const context = useChangeContext();
const ledger = useLedger(
  () => whole.value,
  () => last.value?.id,
  () => context.value,
);
const row = computed(() => ledger.value.find((r) => r.stage.id === stage.value?.id));
const adding = ref(false);

const needsFit = computed(() => pane.value === 'loss' || pane.value === 'next');
const loss = computed(() =>
  needsFit.value && whole.value && stage.value
    ? lossStages(whole.value, stage.value.id, side.value, context.value)
    : undefined,
);
/** Where the share of the loss is asked: a quarter of the valve, where curtain and throat are about alike. */
const lift = computed(() => {
  const input = loss.value?.input.at(-1);
  if (!input) return inches(0.4);
  const quarter = input.valve.diameter / 4;
  return input.points.reduce((best, p) => (Math.abs(p.lift - quarter) < Math.abs(best - quarter) ? p.lift : best), 0);
});
const { split, busy, problem } = useSplit(() => (loss.value ? { loss: loss.value, lift: lift.value } : undefined));

const cutContext = computed(() => ({
  ...context.value,
  wanted: active.value?.target?.areaNeeded.value,
  natural: active.value?.build.induction.kind !== 'boosted',
}));
const factsBy = (bestAt: BestAt) =>
  whole.value && stage.value && split.value
    ? cutFacts(whole.value, stage.value.id, side.value, split.value, { ...cutContext.value, bestAt })
    : undefined;
const rough = computed(() => factsBy(usualBestAt));
const asks = computed<BandAsk[]>(() => {
  const { low, valve } = rough.value ?? {};
  return low && valve
    ? [{ side: side.value, pipe: 'any', liftRatio: low.lift / valve.diameter, coefficient: low.coefficient }]
    : [];
});
const band = useBandViews(() => asks.value);
const facts = computed(() => {
  const view = band.data.value?.views[0];
  return view && !view.usual ? factsBy(() => ({ best: view.best, heads: view.heads })) : rough.value;
});
const cuts = useCuts(() => active.value?.build.id ?? '');
const windowWords = computed(() => {
  const cam = facts.value?.cam;
  return cam ? `${settings.say.of(cam.maxLift, 'lift')} lift` : '';
});
</script>

<template>
  <section v-if="whole && stage">
    <header>
      <h1 class="unseen">Change {{ whole.head.name }}</h1>
      <HeadInHand step="change" :whole="whole" :stage="stage" @stage="toStage" />
      <TabRow
        kind="radio"
        label="Side"
        :model-value="side"
        :options="SIDES.map((s) => [s, s] as const)"
        @update:model-value="put({ side: $event === 'exhaust' ? $event : undefined })"
      />
      <TabRow
        class="panes"
        label="What is shown"
        :model-value="pane"
        :options="PANES.map((p) => [p, PANE_WORDS[p]] as const)"
        @update:model-value="put({ pane: $event === 'history' ? undefined : $event })"
      />
    </header>
    <div v-if="pane === 'history'" class="two">
      <div>
        <p class="note">as received at the bottom; each layer as thick as what it bought on the {{ side }}</p>
        <CoreSample :rows="ledger" :side="side" :model-value="stage.id" @update:model-value="put({ stage: $event })" />
        <p class="no-print"><el-button size="small" @click="adding = !adding">Add a stage</el-button></p>
        <StageForm
          v-if="adding"
          :whole="whole"
          @done="
            adding = false;
            $event && put({ stage: $event.id });
          "
        />
      </div>
      <StagePane v-if="row" :key="row.stage.id" :whole="whole" :row="row" :side="side" />
    </div>
    <LedgerPane v-else-if="pane === 'ledger'" :whole="whole" :rows="ledger" />
    <LossPane
      v-else-if="pane === 'loss'"
      :whole="whole"
      :side="side"
      :loss="loss"
      :split="split"
      :busy="busy"
      :problem="problem"
    />
    <template v-else-if="pane === 'next'">
      <p v-if="busy" class="note" role="status">Fitting the stages of this head …</p>
      <NextPane
        v-else
        :whole="whole"
        :stage="stage"
        :facts="facts"
        :cuts="cuts.data.value ?? []"
        :window="windowWords"
      />
    </template>
    <WorkPane v-else-if="pane === 'work'" :whole="whole" />
    <MachiningPane v-else-if="pane === 'machining'" :whole="whole" :stage="stage" />
    <SpecimensPane v-else :whole="whole" :side="side" />
  </section>
  <NoHead v-else :loading="loading" :error="error" />
</template>

<style scoped>
header {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 24px;
  align-items: center;
  margin-bottom: 10px;
}
.panes {
  flex-wrap: wrap;
}
.two {
  display: grid;
  grid-template-columns: minmax(260px, 4fr) minmax(0, 7fr);
  gap: 32px;
}
@media (width < 1000px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
