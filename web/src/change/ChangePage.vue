<script setup lang="ts">
import { SIDES, type Side } from '@alluvium/core';
import { cutFacts, lossStages, type BandAsk } from '@alluvium/records';
import { computed, defineAsyncComponent, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useActiveBuild } from '../data/build.js';
import { useBandViews } from '../data/claims.js';
import { useHeadInHand } from '../data/inHand.js';
import { useCuts } from '../data/queries.js';
import HeadInHand from '../parts/HeadInHand.vue';
import NoHead from '../parts/NoHead.vue';
import ChoiceRow from '../parts/ChoiceRow.vue';
import TabRow from '../parts/TabRow.vue';
import { useSettings } from '../state/settings.js';
import CoreSample from './CoreSample.vue';
import StageForm from './StageForm.vue';
import StagePane from './StagePane.vue';
import { useChangeContext, useLedger, useSplit } from './useChangeData.js';

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
const { whole, stage: held, error, loading, toStage } = useHeadInHand('change', () => props.id ?? '');

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
const stage = computed(() => (route.query.stage ? held.value : whole.value?.stages.at(-1)));
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
const { split, busy, problem } = useSplit(() => loss.value);

const rough = computed(() =>
  whole.value && stage.value && split.value
    ? cutFacts(whole.value, stage.value.id, side.value, split.value, {
        ...context.value,
        wanted: active.value?.target?.areaNeeded.value,
        natural: active.value?.build.induction.kind !== 'boosted',
      })
    : undefined,
);
const asks = computed<BandAsk[]>(() => {
  const { low, valve } = rough.value ?? {};
  return low && valve
    ? [{ side: side.value, pipe: 'any', liftRatio: low.lift / valve.diameter, coefficient: low.coefficient }]
    : [];
});
const band = useBandViews(() => asks.value);
/** With the best of the library at low lift, once it has enough heads there. */
const facts = computed(() => {
  const view = band.data.value?.views[0];
  const { low } = rough.value ?? {};
  return view && !view.usual && rough.value && low
    ? { ...rough.value, low: { ...low, best: view.best, count: view.heads } }
    : rough.value;
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
      <ChoiceRow
        label="Side"
        :model-value="side"
        :options="SIDES.map((s) => [s, s] as const)"
        @update:model-value="put({ side: $event === 'exhaust' ? $event : undefined })"
      />
      <TabRow
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
