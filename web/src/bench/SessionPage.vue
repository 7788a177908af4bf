<script setup lang="ts">
import { checksOf, factorOf, owedOf, unanswered, setupInForce } from '@alluvium/records';
import { computed, defineAsyncComponent, onScopeDispose, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useListOf, useWholeHead } from '../data/queries.js';
import TabRow from '../parts/TabRow.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import CallForm from './CallForm.vue';
import RecorderNote from './RecorderNote.vue';
import PlanForm from './PlanForm.vue';
import RunPane from './RunPane.vue';
import SetupGate from './SetupGate.vue';
import SheetPane from './SheetPane.vue';
import { useBenchLive } from './live.js';
import { useSession } from '../data/session.js';

const VelocityPane = defineAsyncComponent(() => import('./VelocityPane.vue'));
const WetPane = defineAsyncComponent(() => import('./WetPane.vue'));

/** One bench session: plan, set-up, run, velocity, wet flow, sheet. */
const props = defineProps<{ id: string }>();
const route = useRoute();
const router = useRouter();
const live = useBenchLive();
onScopeDispose(live.use());
watch(
  () => props.id,
  (id) => live.open(id),
  { immediate: true },
);
onScopeDispose(() => live.leave());

const page = useSession(() => props.id);
const whole = computed(() => page.whole.value);
const session = computed(() => whole.value?.session);
const head = useWholeHead(() => session.value?.headId ?? '');
const calibrations = useListOf('calibration');

const PANES = ['plan', 'set-up', 'run', 'velocity', 'wet flow', 'sheet'] as const;
const pane = computed(() => PANES.find((p) => p === route.query.pane) ?? 'plan');
const show = (to: (typeof PANES)[number]) => void router.replace({ query: { ...route.query, pane: to } });
const open = computed(() => {
  const s = session.value;
  return s ? unanswered(setupInForce(s), s.plan.sides).length : 0;
});
const owed = computed(() => (whole.value ? owedOf(whole.value).filter((o) => !o.excuse).length : 0));
const words = computed<Record<(typeof PANES)[number], string>>(() => ({
  plan: 'plan',
  'set-up': open.value ? `set-up (${open.value} open)` : 'set-up',
  run: 'run',
  velocity: 'velocity',
  'wet flow': 'wet flow',
  sheet: owed.value ? `sheet (${owed.value} owed)` : 'sheet',
}));
const factor = computed(() => {
  const s = session.value;
  const id = s?.setups.at(-1)?.calibration;
  const check = checksOf(calibrations.data.value ?? [], s?.sourceId ?? null).find((c) => c.id === id);
  return check && factorOf(check)?.value;
});
const stage = computed(() => head.data.value?.stages.find((s) => s.id === session.value?.stageId));
</script>

<template>
  <section v-if="whole && session && head.data.value" class="session">
    <header>
      <h1>
        {{ head.data.value.head.name }}
        <span class="quiet">{{ stage?.name }}</span>
      </h1>
      <RouterLink
        class="back"
        :to="{ name: 'bench', params: { id: session.headId }, query: { stage: session.stageId } }"
      >
        {{ session.title }}
      </RouterLink>
      <TabRow
        class="panes"
        label="Part of the session"
        :model-value="pane"
        :options="PANES.map((p) => [p, words[p]] as const)"
        @update:model-value="show"
      />
    </header>
    <RecorderNote v-if="pane !== 'run'" class="caution" />
    <template v-if="pane === 'plan'">
      <PlanForm :session="session" :whole="head.data.value" @saved="show('set-up')" />
      <CallForm
        :session="session"
        :call="whole.calls.at(-1)"
        :closed="whole.readings.some((r) => r.state === 'kept')"
      />
    </template>
    <SetupGate
      v-else-if="pane === 'set-up'"
      :key="session.id"
      :page="page"
      :session="session"
      :whole="head.data.value"
      :calibrations="calibrations.data.value ?? []"
      :earlier="head.data.value.sessions"
      @done="show('run')"
    />
    <RunPane
      v-else-if="pane === 'run'"
      :page="page"
      :head="head.data.value"
      :factor="factor"
      @leave="show('sheet')"
      @setup="show('set-up')"
    />
    <VelocityPane v-else-if="pane === 'velocity'" :whole="whole" :head="head.data.value" />
    <WetPane v-else-if="pane === 'wet flow'" :whole="whole" :head="head.data.value" />
    <SheetPane v-else :whole="whole" :head="head.data.value" />
  </section>
  <WaitingNote
    v-else
    :loading="page.loading.value || head.isPending.value"
    :error="page.error.value || (head.error.value?.message ?? '')"
  >
    <template #way><RouterLink to="/bench">The bench</RouterLink></template>
  </WaitingNote>
</template>

<style scoped>
header {
  display: flex;
  gap: 8px 22px;
  align-items: baseline;
  margin-bottom: 12px;
  flex-wrap: wrap;
}
h1 span {
  font-size: 15px;
  font-weight: 400;
  margin-left: 8px;
}
.panes {
  margin-left: auto;
}
@media print {
  .panes,
  .back {
    display: none;
  }
}
</style>
