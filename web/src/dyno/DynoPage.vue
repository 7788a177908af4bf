<script setup lang="ts">
import { PULL_REPEATABILITY } from '@alluvium/core';
import { removal } from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useComparison } from '../data/comparison.js';
import { useChange } from '../data/useChange.js';
import NoBuild from '../parts/NoBuild.vue';
import TabRow from '../parts/TabRow.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import { useSettings } from '../state/settings.js';
import FactorPane from './FactorPane.vue';
import ForecastPane from './ForecastPane.vue';
import OrderPane from './OrderPane.vue';
import PullForm from './PullForm.vue';
import PulledPane from './PulledPane.vue';
import SwapPlan from './SwapPlan.vue';
import TrustPane from './TrustPane.vue';
import WhyPane from './WhyPane.vue';
import { useDyno } from './useDyno.js';
import { usePullCurve } from './usePullCurve.js';

// p.whole!, read.value!: what was read.

/** What the engine made on the dyno, beside what was forecast of it, and what that teaches. */
const route = useRoute();
const router = useRouter();
const settings = useSettings();
const change = useChange();
const { heads } = useComparison();
const { active, pulls, here, loading, error } = useDyno();

const PANES = {
  pull: 'the pull',
  forecast: 'against the forecast',
  order: 'order and swaps',
  why: 'why it fell short',
  forecasts: 'forecasts scored',
  factor: 'power per flow',
} as const;
type Pane = keyof typeof PANES;
const pane = computed<Pane>(() => (String(route.query.pane ?? '') in PANES ? (route.query.pane as Pane) : 'pull'));
const show = (query: Record<string, string | undefined>) =>
  void router.replace({ query: { ...route.query, ...query } });

const chosen = ref<string>('new');
watch(
  () => [active.value?.build.id, here.value] as const,
  () => {
    const asked = pulls.value.find((p) => p.pull.id === route.query.pull);
    chosen.value = (asked ?? pulls.value.at(-1))?.pull.id ?? 'new';
  },
  { immediate: true },
);
function choose(id: string): void {
  chosen.value = id;
  show({ pull: id === 'new' ? undefined : id });
}
const read = computed(() => pulls.value.find((p) => p.pull.id === chosen.value));
const sim = usePullCurve(
  () => active.value,
  () => read.value?.pull,
  () => read.value?.whole,
);
/** Heads that may have been on the engine: of the lineup, and of the pulls that are here. */
const stages = computed(() => {
  const lined = heads.value.map((h) => [h.stage.id, `${h.letter} ${h.name}, ${h.stage.name}`] as const);
  const pulled = pulls.value.flatMap((p) => {
    const stage = p.whole?.stages.find((s) => s.id === p.pull.stageId);
    return stage ? [[stage.id, `${p.whole!.head.name}, ${stage.name}`] as const] : [];
  });
  const all = [...lined, ...pulled];
  return all.filter(([id], i) => all.findIndex(([k]) => k === id) === i);
});
async function remove(): Promise<void> {
  const { id, title } = read.value!.pull;
  if (await change.make([removal('pull', id)], `${title} removed.`)) choose(pulls.value.at(-1)?.pull.id ?? 'new');
}
</script>

<template>
  <section v-if="active && !error && here">
    <header>
      <h1>Dyno</h1>
      <span class="note">what the engine made, beside what was forecast of it</span>
      <TabRow
        v-if="pulls.length"
        class="tabs no-print"
        label="What is shown"
        :model-value="pane"
        :options="(Object.keys(PANES) as Pane[]).map((p) => [p, PANES[p]] as const)"
        @update:model-value="show({ pane: $event === 'pull' ? undefined : $event })"
      />
    </header>
    <nav aria-label="Pulls of this build" class="pulls no-print">
      <el-button
        v-for="p in pulls"
        :key="p.pull.id"
        link
        :aria-current="p.pull.id === chosen ? 'true' : undefined"
        @click="choose(p.pull.id)"
      >
        {{ p.pull.title }}
        <span class="note">{{ settings.say.day(p.pull.date ?? '') }}</span>
      </el-button>
      <el-button link :aria-current="chosen === 'new' ? 'true' : undefined" @click="choose('new')">
        + new pull
      </el-button>
      <RouterLink class="eye" :to="{ name: 'practice' }">the trained eye</RouterLink>
    </nav>
    <p v-if="pulls.length === 0" class="reading first">
      No pull of this engine yet. Paste one below, or choose its file: power or torque by rpm, any headings.
    </p>
    <FactorPane v-if="pane === 'factor' && pulls.length" />
    <TrustPane
      v-else-if="pane === 'forecasts' && pulls.length"
      :active="active"
      :pulls="pulls"
      :stages="[[null, 'whichever it is'], ...stages]"
    />
    <template v-else-if="read && pane !== 'pull'">
      <ForecastPane v-if="pane === 'forecast'" :active="active" :read="read" :sim="sim" />
      <OrderPane v-else-if="pane === 'order'" :read="read" :pulls="pulls" :sim="sim" />
      <WhyPane v-else :active="active" :read="read" :sim="sim" />
    </template>
    <div v-else class="two">
      <PullForm
        :key="read?.pull.id ?? 'new'"
        class="no-print"
        :pull="read?.pull"
        :build="active.build"
        :stages="stages"
        :first="heads[0]?.stage.id ?? null"
        @saved="choose($event.id)"
        @remove="remove"
      />
      <SwapPlan v-if="pulls.length === 0" :repeatability="PULL_REPEATABILITY" />
      <PulledPane v-if="read" :active="active" :read="read" :pulls="pulls" />
    </div>
  </section>
  <NoBuild v-else-if="!active" :loading="loading" :error="error" />
  <WaitingNote v-else :loading="loading" :error="error" />
</template>

<style scoped>
header {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 20px;
  align-items: baseline;
}
.tabs {
  margin-left: auto;
}
.pulls {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  margin: 4px 0 12px;
}
.pulls [aria-current] {
  font-weight: 600;
}
.eye {
  margin-left: auto;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 6fr);
  gap: 32px;
}
@media print {
  .two {
    display: block;
  }
}
@media (width < 1000px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
