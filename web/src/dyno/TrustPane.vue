<script setup lang="ts">
import { powerScoreWords, uncertaintyOf, type Quantity } from '@alluvium/core';
import {
  PROGRAM,
  addition,
  calibrationOfForecasts,
  forecastsTable,
  removal,
  replacement,
  scoredForecasts,
  toCsv,
  trustOf,
  type PowerForecast,
} from '@alluvium/records';
import { computed, reactive, ref } from 'vue';
import ChartCurve from '../charts/ChartCurve.vue';
import ChartFrame from '../charts/ChartFrame.vue';
import type { Axis, Point } from '../charts/chart.js';
import { download } from '../charts/save.js';
import type { ActiveBuild } from '../data/build.js';
import { useComparison } from '../data/comparison.js';
import { newId } from '../data/ids.js';
import { standingOf, useListOf } from '../data/queries.js';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import type { PullRead } from './useDyno.js';
import WideFrame from '../parts/WideFrame.vue';

// said.power!, said.off!: both were looked for above.
// estimated.value!, scoreOf()!: shown where they are there.

/** Forecasts of power kept before the pull and scored after it: which estimate, and whose word, may be trusted. */
const props = defineProps<{
  active: ActiveBuild;
  pulls: readonly PullRead[];
  stages: readonly (readonly [string | null, string])[];
}>();
const settings = useSettings();
const change = useChange('here');
const changes = useChange();
const query = useListOf('powerforecast');
const { loading, error } = standingOf(query);
const everyPull = useListOf('pull');
const all = computed(() => query.data.value ?? []);
const own = computed(() => all.value.filter((f) => f.buildId === props.active.build.id));
const scored = computed(() =>
  scoredForecasts(all.value, everyPull.data.value ?? [], (p) => {
    const read = props.pulls.find((x) => x.pull.id === p.id);
    // Another build's pull stands as its sheet states it.
    return read ? read.made : Math.max(0, ...p.rows.map((r) => r.power?.si ?? 0)) || undefined;
  }),
);
const scoreOf = (f: PowerForecast) => scored.value.find((s) => s.forecast.id === f.id);
const trust = computed(() => trustOf(scored.value));
const SHARE: Axis = { from: 0, to: 1, kind: 'percent', digits: 0, ticks: 5, name: 'said' };
/** Where what fell below is what should have. */
const EVEN: readonly Point[] = [
  [0, 0],
  [1, 1],
];
const calibration = computed(() => calibrationOfForecasts(scored.value));
const answers = (f: PowerForecast) => [
  [null, 'not pulled yet'] as const,
  ...props.pulls
    .filter(
      (p) => p.pull.date !== null && p.pull.date >= f.made && (f.stageId === null || p.pull.stageId === f.stageId),
    )
    .map((p) => [p.pull.id, p.pull.title] as const),
];
const answer = (f: PowerForecast, pullId: string | null) =>
  changes.make([replacement('powerforecast', { ...f, pullId })], 'The forecast is answered.');
const drop = (f: PowerForecast) => changes.make([removal('powerforecast', f.id)], 'The forecast is removed.');
const said = reactive<{ stageId: string | null; power: Quantity | null; off: Quantity | null; by: string }>({
  stageId: null,
  power: null,
  off: null,
  by: '',
});
const problem = ref('');
async function keep(): Promise<void> {
  problem.value = !said.power
    ? 'Say what it will make.'
    : !said.off || said.off.si <= 0
      ? 'Say how far it may be off: more than nothing.'
      : '';
  if (problem.value) return;
  const { use, fuel } = props.active.build;
  const made = await change.make(
    [
      addition('powerforecast', {
        id: newId(),
        buildId: props.active.build.id,
        stageId: said.stageId,
        made: today(),
        by: said.by,
        content: { program: PROGRAM, method: 'own word', power: said.power!.si, u: said.off!.si / 2, use, fuel },
      }),
    ],
    `Forecast kept: ${said.power!.typed}.`,
  );
  problem.value = change.refusal.value;
  if (made) Object.assign(said, { power: null, off: null });
}
/** The program's own estimates of a head that was not pulled yet, kept as they stand today. */
const { heads } = useComparison();
const estimated = computed(() => heads.value.find((h) => h.stage.id === said.stageId));
async function keepEstimates(): Promise<void> {
  const head = estimated.value!;
  const { use, fuel } = props.active.build;
  const steps = head.match.schools.flatMap((s) => {
    if (!s.power) return [];
    const u = uncertaintyOf(s.power, head.verdict.book, settings.say)?.budget.u ?? 0.04 * s.power.value;
    const content = { program: PROGRAM, method: s.title, power: s.power.value, u, use, fuel };
    const { id: buildId } = props.active.build;
    return [
      addition('powerforecast', {
        id: newId(),
        buildId,
        stageId: head.stage.id,
        made: today(),
        by: 'the program',
        content,
      }),
    ];
  });
  problem.value = steps.length === 0 ? 'Nothing is estimated of this head yet: it needs its flow.' : '';
  if (problem.value) return;
  await change.make(steps, `${steps.length} estimates of ${head.name} are kept.`);
  problem.value = change.refusal.value;
}
const power = (w: number) => settings.say.of(w, 'power', { digits: 0 });
const saveCsv = () =>
  download('forecasts of power.csv', toCsv(forecastsTable(scored.value, settings.system)), 'text/csv');
</script>

<template>
  <div>
    <h2>Forecasts of power</h2>
    <WaitingNote v-if="!query.data.value" :loading="loading" :error="error" />
    <template v-else>
      <p v-for="t in trust" :key="t.method + t.kind" class="reading">
        {{ t.method }}{{ t.kind ? ` of ${t.kind} engines` : '' }}: {{ powerScoreWords(t.scores, settings.say) }}
      </p>
      <p v-if="trust.length === 0" class="reading">
        No forecast was answered by a pull yet. Keep one before the engine runs: it is refused afterwards.
      </p>
      <WideFrame v-if="own.length">
        <table class="ruled">
          <thead>
            <tr>
              <th>made</th>
              <th>estimate</th>
              <th class="num">forecast</th>
              <th>answered by</th>
              <th class="num">made</th>
              <th class="num">off, in uncertainties</th>
              <th />
            </tr>
          </thead>
          <tbody>
            <tr v-for="f in own" :key="f.id">
              <td>
                {{ settings.say.day(f.made) }}
                <small class="note">{{ f.by }}</small>
              </td>
              <td>{{ f.content.method }}</td>
              <td class="num">{{ power(f.content.power) }} ± {{ power(2 * f.content.u) }}</td>
              <td>
                <ChoiceField
                  :model-value="f.pullId"
                  hide-label
                  label="Answered by"
                  :options="answers(f)"
                  @update:model-value="answer(f, $event)"
                />
              </td>
              <td class="num">{{ scoreOf(f) ? power(scoreOf(f)!.made) : '' }}</td>
              <td class="num"><WorkedNumber v-if="scoreOf(f)?.z" :working="scoreOf(f)!.z" :digits="1" signed /></td>
              <td>
                <el-button link :aria-label="`Remove the forecast of ${f.made}`" @click="drop(f)">Remove</el-button>
              </td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
      <p v-if="scored.length" class="no-print"><el-button size="small" @click="saveCsv">Export CSV</el-button></p>
      <template v-if="calibration">
        <h3>Calibration</h3>
        <p class="note">Of what should have fallen below each share, so much did.</p>
        <ChartFrame label="Calibration of the forecasts" :x="SHARE" :y="SHARE" :height="240" :least="240" :most="260">
          <ChartCurve :points="EVEN" stroke="var(--rule-strong)" :width="1" still />
          <ChartCurve name="fell below" :points="calibration.map((c): Point => [c.said, c.found])" :width="2" />
        </ChartFrame>
      </template>
      <p v-else-if="scored.length" class="note">
        {{ scored.length }} of 20: from twenty on a curve shows whether ranges are as wide as they should be.
      </p>
    </template>
    <form class="own no-print" @submit.prevent="keep">
      <ChoiceField v-model="said.stageId" label="With the head" :options="stages" />
      <QuantityField v-model="said.power" kind="power" label="It will make" />
      <QuantityField v-model="said.off" kind="power" label="Uncertainty (±)" />
      <TextField v-model="said.by" label="Whose word" />
      <el-button size="small" native-type="submit">Save this forecast</el-button>
      <el-button v-if="estimated" size="small" @click="keepEstimates">Keep the program’s estimates</el-button>
      <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
    </form>
  </div>
</template>

<style scoped>
.own {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: 6px 16px;
  align-items: end;
  margin-top: 10px;
}
.own p {
  grid-column: 1 / -1;
  margin: 0;
}
small {
  display: block;
}
</style>
