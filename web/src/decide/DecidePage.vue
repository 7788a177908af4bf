<script setup lang="ts">
import { costTable, costWorkbook, firstOf, matrixTable, matrixWorkbook, toCsv, waysWords } from '@alluvium/records';
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { download } from '../charts/save.js';
import { useActiveBuild } from '../data/build.js';
import { saveWorkbook } from '../exchange/workbook.js';
import NoBuild from '../parts/NoBuild.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import { useSettings } from '../state/settings.js';
import DecisionPane from './DecisionPane.vue';
import MattersPane from './MattersPane.vue';
import MoneyForm from './MoneyForm.vue';
import PriceChart from './PriceChart.vue';
import PriceList from './PriceList.vue';
import SpendPane from './SpendPane.vue';
import TurnPane from './TurnPane.vue';
import { useTorqueRuns } from './torque.js';
import { useEngine, useWaysRead } from './useWaysRead.js';
import WayForm from './WayForm.vue';
import WayTable from './WayTable.vue';

// active.value!: exports are offered with a build at hand.

/** Which way to go: price, power, odds and fit side by side, what matters, and the decision with its reasons. */
const route = useRoute();
const router = useRouter();
const settings = useSettings();
const { active, loading: noBuild, error: buildError } = useActiveBuild();
const { ways, ranked, here, loading, error } = useWaysRead();
const chosen = computed(() => String(route.query.way ?? ''));
const way = computed(() => ways.value.find((w) => w.way.id === chosen.value));
const open = (id: string | undefined) => void router.replace({ query: { ...route.query, way: id } });
const words = computed(() =>
  active.value ? waysWords(ways.value, active.value.build, ranked.value, settings.say) : [],
);
const engine = useEngine();
const runs = useTorqueRuns(
  () => engine.value,
  () => ways.value,
);
const first = computed(() => firstOf(ways.value, ranked.value.wins)?.way.id ?? ways.value[0]?.way.id ?? '');
const listing = ref(false);
const name = (what: string) => `${what} ${active.value!.build.name}`;
const SAVES = {
  'Costs as CSV': () => download(`${name('costs')}.csv`, toCsv(costTable(ways.value, active.value!.build)), 'text/csv'),
  'Costs as XLSX': () => saveWorkbook(name('costs'), costWorkbook(ways.value, active.value!.build)),
  'Matrix as CSV': () =>
    download(
      `${name('matrix')}.csv`,
      toCsv(matrixTable(ways.value, active.value!.build, ranked.value, settings.say)),
      'text/csv',
    ),
  'Matrix as XLSX': () =>
    saveWorkbook(name('matrix'), matrixWorkbook(ways.value, active.value!.build, ranked.value, settings.say)),
} as const;
const save = (what: keyof typeof SAVES) => void SAVES[what]();
</script>

<template>
  <section v-if="active && here && !error">
    <header>
      <h1>Decide</h1>
      <span class="note">{{ active.build.name }}: which way to go, for what money, and why</span>
      <span class="acts no-print">
        <el-button size="small" type="primary" @click="open('new')">Add a way</el-button>
        <el-button size="small" @click="listing = true">Price list</el-button>
        <template v-if="ways.length">
          <el-button v-if="runs.busy.value" size="small" @click="runs.stop">Stop</el-button>
          <el-button v-else-if="active.target" size="small" @click="runs.ask">Simulate each way</el-button>
          <el-dropdown trigger="click" @command="save">
            <el-button size="small">Export</el-button>
            <template #dropdown>
              <el-dropdown-menu>
                <el-dropdown-item v-for="(_, what) in SAVES" :key="what" :command="what">{{ what }}</el-dropdown-item>
              </el-dropdown-menu>
            </template>
          </el-dropdown>
          <el-button size="small" @click="router.push({ name: 'report' })">Report</el-button>
        </template>
      </span>
    </header>
    <p v-if="runs.busy.value" class="note" role="status">Each way is being run in the engine …</p>
    <p v-for="p in runs.problems.value" :key="p" class="caution">{{ p }}</p>
    <p v-if="ways.length === 0 && chosen !== 'new'" class="reading">
      No way is written down yet. Add one for each thing that could be done: keep the head and freshen it, rework it,
      buy another. Each gets its price, its fit, and the power its flow can carry.
    </p>
    <template v-if="ways.length">
      <p v-for="w in words" :key="w" class="reading">{{ w }}</p>
      <WayTable
        :ways="ways"
        :ranked="ranked"
        :build="active.build"
        :model-value="chosen"
        @update:model-value="open($event === chosen ? undefined : $event)"
      />
    </template>
    <div v-if="chosen === 'new' || way" class="form no-print">
      <h2>{{ way?.way.name ?? 'Another way' }}</h2>
      <WayForm
        :key="chosen"
        :build="active.build"
        :way="way?.way"
        :whole="way?.whole"
        :position="(ways.at(-1)?.way.position ?? -1) + 1"
        @saved="open($event.id)"
        @removed="open(undefined)"
      />
    </div>
    <PriceList v-if="listing" :build="active.build" @close="listing = false" />
    <div v-if="ways.length" class="two">
      <div>
        <h2>
          Price against power
          <span class="note">crosses as wide as they are unsure; dotted: the edge</span>
        </h2>
        <PriceChart :ways="ways" :budget="active.build.budget?.si" :wanted="active.core.power" />
        <p class="note">
          Power is the peak-flow rule at the target: a ceiling of the breathing, not a promise. Match and Simulate say
          more of each head.
        </p>
        <TurnPane :active="active" :ways="ways" :ranked="ranked" />
        <DecisionPane :build="active.build" :ways="ways" :ranked="ranked" :words="words" />
      </div>
      <div>
        <MattersPane :build="active.build" :ways="ways" />
        <SpendPane :active="active" :ways="ways" :first="first" />
        <MoneyForm :key="active.build.id" :build="active.build" />
      </div>
    </div>
  </section>
  <NoBuild v-else-if="!active" :loading="noBuild" :error="buildError" />
  <WaitingNote v-else :loading="loading" :error="error" />
</template>

<style scoped>
header {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 20px;
  align-items: baseline;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  margin-left: auto;
}
.acts .el-button {
  margin-left: 0;
}
.reading {
  margin: 4px 0;
}
.form {
  margin: 14px 0;
  padding: 8px 0 8px 14px;
  border-left: 3px solid var(--intake);
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 7fr) minmax(0, 5fr);
  gap: 32px;
  margin-top: 16px;
}
@media (width < 1000px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
