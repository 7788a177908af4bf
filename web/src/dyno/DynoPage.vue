<script setup lang="ts">
import {
  CAUSE_WORDS,
  meanOfPowersRead,
  noted,
  peakWords,
  pooledShares,
  powerAt,
  PULL_REPEATABILITY,
  pullDoubtWords,
  standardsApart,
  unknownAirWords,
  unknownStandardWords,
  work,
} from '@alluvium/core';
import {
  airOf,
  alike,
  correctedOf,
  meanOfAlike,
  pullRowsOf,
  pullsTable,
  pullsWorkbook,
  readPullOf,
  removal,
  toCsv,
} from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { download } from '../charts/save.js';
import { useComparison } from '../data/comparison.js';
import { useChange } from '../data/useChange.js';
import { saveWorkbook } from '../exchange/workbook.js';
import NoBuild from '../parts/NoBuild.vue';
import TabRow from '../parts/TabRow.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import FactorPane from './FactorPane.vue';
import ForecastPane from './ForecastPane.vue';
import OrderPane from './OrderPane.vue';
import EstimateRows from './EstimateRows.vue';
import PowerChart from './PowerChart.vue';
import PullForm from './PullForm.vue';
import PullSheet from './PullSheet.vue';
import SwapPlan from './SwapPlan.vue';
import TrustPane from './TrustPane.vue';
import WhyPane from './WhyPane.vue';
import { COMMON, estimatesOf, useDyno } from './useDyno.js';
import { usePullCurve } from './usePullCurve.js';
import WideFrame from '../parts/WideFrame.vue';

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
const rows = computed(() => read.value && readPullOf(read.value.pull));
const sim = usePullCurve(
  () => active.value,
  () => read.value?.pull,
  () => read.value?.whole,
);
const held = computed(() => (read.value ? estimatesOf(read.value) : []));

/** Pulls of one head, dyno and standard, which may be laid on one another. */
const group = computed(() => (read.value ? pulls.value.filter((p) => alike(p.pull, read.value!.pull)) : []));
const mean = computed(() => meanOfAlike(group.value.map((p) => p.pull)));
const meanPeak = computed(() => {
  const peak = mean.value.points.reduce((best, p) => (p.power > best.power ? p : best), mean.value.points[0]!);
  return work(meanOfPowersRead, {
    values: noted(
      group.value.map((p) => powerAt(p.points, peak.speed)!),
      `each pull at ${settings.say.of(peak.speed, 'rotation')}, where their mean peaks`,
    ),
  });
});
const series = computed(() =>
  group.value.map((p) => ({ name: p.pull.title, points: p.points, here: p.pull.id === chosen.value })),
);
const common = computed(() => read.value?.common);
const drawnBy = computed(() => (typeof common.value === 'string' ? 'as the sheet states it' : `by ${COMMON}`));
/** What lies between the two standards where the sheet names none, or its air was not noted. */
const unknown = computed(() => {
  const [p, peak] = [read.value?.pull, rows.value?.peakPower];
  if (!p || !peak || !active.value) return '';
  const apart = standardsApart(airOf(p), correctedOf(active.value.build, p.setup));
  if (p.correction === null) return unknownStandardWords(peak.power, apart, settings.say);
  return typeof common.value === 'string' ? unknownAirWords(peak.power, p.correction, apart, settings.say) : '';
});
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
const all = computed(() => pulls.value.map((p) => p.pull));
const file = computed(() => `pulls ${active.value?.build.name ?? ''}`);
const saveCsv = () => download(`${file.value}.csv`, toCsv(pullsTable(all.value, settings.system)), 'text/csv');
const saveXlsx = () => void saveWorkbook(file.value, pullsWorkbook(all.value, settings.system));
const print = () => window.print();
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
      <div v-if="read && rows">
        <PullSheet :read="read" part="facts" />
        <h2>
          Power
          <span class="note">{{ drawnBy }}; dotted: what was forecast of this head</span>
        </h2>
        <PowerChart :series="series" :estimates="held" :target="active.core" />
        <p class="reading">
          {{ peakWords(rows, read.pull.correction, settings.say) }}
          <template v-if="read.pull.cause">It fell short: {{ CAUSE_WORDS[read.pull.cause] }}.</template>
        </p>
        <p v-for="a in pullDoubtWords(rows, pullRowsOf(read.pull), settings.say)" :key="a" class="caution">{{ a }}</p>
        <p v-if="unknown" class="note">{{ unknown }}</p>
        <p v-if="read.pull.dyno === 'chassis dyno'" class="note">
          Power at the wheels is another quantity than power at the crank: it is held against nothing here.
        </p>
        <WideFrame>
          <table class="ruled">
            <tbody>
              <tr v-if="common && typeof common !== 'string'">
                <td>peak by {{ COMMON }}</td>
                <td class="num"><WorkedNumber :working="common" /></td>
                <td />
              </tr>
              <tr v-else-if="common">
                <td colspan="3" class="note">By {{ COMMON }} it cannot be said. {{ common }}</td>
              </tr>
              <EstimateRows :read="read" />
              <tr v-if="group.length > 1">
                <td>mean of {{ group.length }} pulls alike, and one against the next</td>
                <td class="num"><WorkedNumber :working="meanPeak" /></td>
                <td class="num">
                  <template v-if="mean.shares.length">
                    ±
                    <WorkedNumber :working="work(pooledShares, { shares: mean.shares })" :digits="1" />
                  </template>
                </td>
              </tr>
              <tr v-if="read.factor">
                <td>power each cfm made</td>
                <td class="num"><WorkedNumber :working="read.factor" /></td>
                <td />
              </tr>
            </tbody>
          </table>
        </WideFrame>
        <PullSheet :read="read" part="rows" />
        <p v-if="!read.evaluation" class="note no-print">
          Say which head was on the engine: then what was forecast of it stands here beside the pull.
        </p>
        <p class="note no-print">
          A dyno is as sure as its brake and its air. Pulls of different standards are brought to one before they are
          compared; crank and wheels never.
        </p>
        <p class="tools no-print">
          <el-button size="small" @click="saveCsv">Export all pulls as CSV</el-button>
          <el-button size="small" @click="saveXlsx">Export XLSX</el-button>
          <el-button size="small" @click="print">Print this pull</el-button>
        </p>
      </div>
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
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.tools :deep(.el-button) {
  margin: 0;
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
