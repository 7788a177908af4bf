<script setup lang="ts">
import {
  CAUSE_WORDS,
  meanOfPowersRead,
  noted,
  peakWords,
  pooledShares,
  powerAt,
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
  toCsv,
} from '@alluvium/records';
import { computed } from 'vue';
import { download } from '../charts/save.js';
import type { ActiveBuild } from '../data/build.js';
import { saveWorkbook } from '../exchange/workbook.js';
import WideFrame from '../parts/WideFrame.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import EstimateRows from './EstimateRows.vue';
import PowerChart from './PowerChart.vue';
import PullSheet from './PullSheet.vue';
import { COMMON, estimatesOf, type PullRead } from './useDyno.js';

// mean.value.points[]!, powerAt()!: a mean has points, and its peak lies on each pull.

/** What one pull says: its curve among those alike, its peak by one standard, beside what was forecast. */
const props = defineProps<{ active: ActiveBuild; read: PullRead; pulls: readonly PullRead[] }>();
const settings = useSettings();
const rows = computed(() => readPullOf(props.read.pull));
const held = computed(() => estimatesOf(props.read));

/** Pulls of one head, dyno and standard, which may be laid on one another. */
const group = computed(() => props.pulls.filter((p) => alike(p.pull, props.read.pull)));
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
  group.value.map((p) => ({ name: p.pull.title, points: p.points, here: p.pull.id === props.read.pull.id })),
);
const common = computed(() => props.read.common);
const drawnBy = computed(() => (typeof common.value === 'string' ? 'as the sheet states it' : `by ${COMMON}`));
/** What lies between the two standards where the sheet names none, or its air was not noted. */
const unknown = computed(() => {
  const [p, peak] = [props.read.pull, rows.value.peakPower];
  if (!peak) return '';
  const apart = standardsApart(airOf(p), correctedOf(props.active.build, p.setup));
  if (p.correction === null) return unknownStandardWords(peak.power, apart, settings.say);
  return typeof common.value === 'string' ? unknownAirWords(peak.power, p.correction, apart, settings.say) : '';
});
const all = computed(() => props.pulls.map((p) => p.pull));
const file = computed(() => `pulls ${props.active.build.name}`);
const saveCsv = () => download(`${file.value}.csv`, toCsv(pullsTable(all.value, settings.system)), 'text/csv');
const saveXlsx = () => void saveWorkbook(file.value, pullsWorkbook(all.value, settings.system));
const print = () => window.print();
</script>

<template>
  <div>
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
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.tools :deep(.el-button) {
  margin: 0;
}
</style>
