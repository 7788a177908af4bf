<script setup lang="ts">
import { SIDES, type Quantity, type Side } from '@alluvium/core';
import {
  addition,
  ledgerTable,
  ledgerWorkbook,
  removal,
  replacement,
  toCsv,
  type LedgerRow,
  type WholeHead,
} from '@alluvium/records';
import { computed } from 'vue';
import { download } from '../charts/save.js';
import { useListOf } from '../data/queries.js';
import { useActiveBuild } from '../data/build.js';
import { useChange } from '../data/useChange.js';
import { saveWorkbook } from '../exchange/workbook.js';
import QuantityField from '../parts/QuantityField.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import UsualCuts from './UsualCuts.vue';
import { useStageTorque } from './useStageTorque.js';
import WideFrame from '../parts/WideFrame.vue';

// e.gain.gain!: what counts has a gain.
// row.sides[]!: each is drawn behind a check that the side is there.

/** What each stage cost and gave, added up. */
const props = defineProps<{ whole: WholeHead; rows: readonly LedgerRow[] }>();
const settings = useSettings();
const change = useChange();
const { active } = useActiveBuild();
const assumptions = useListOf('assumption');
const rate = computed(() => assumptions.data.value?.find((a) => a.name === 'hourRate'));
async function rateTo(value: Quantity | null): Promise<void> {
  const stands = rate.value;
  if (value?.si === stands?.value.si) return;
  const step = value
    ? stands
      ? replacement('assumption', { ...stands, value })
      : addition('assumption', { name: 'hourRate', value })
    : stands && removal('assumption', stands.id);
  if (step) await change.make([step], value ? `An hour costs ${value.typed} now.` : 'Hours cost nothing now.');
}
const run = useStageTorque(
  () => props.whole,
  () => props.rows,
);
const torqueText = (i: number) => {
  const gained = run.gained(i);
  return gained === undefined ? '' : settings.say.of(gained, 'torque', { digits: 1, signed: true });
};
const hours = (s: number | undefined) => (s === undefined ? '' : settings.say.of(s, 'time'));
const tone = (row: LedgerRow, side: Side) => {
  const gain = row.sides[side]?.gain;
  return !gain?.gain || !gain.counts ? 'quiet' : gain.gain.value > 0 ? 'gain' : 'loss';
};
/** Stages that were worked on and brought nothing that can be told. */
const idle = computed(() =>
  props.rows.filter(
    (r) =>
      r.operations.length > 0 &&
      Object.values(r.sides).some((e) => e.gain.credited) &&
      !Object.values(r.sides).some((e) => e.gain.counts && e.gain.gain!.value > 0),
  ),
);
/** Where a stage that did not pay over the cam did count. */
function idleWords(row: LedgerRow): string {
  const counted = Object.values(row.sides).flatMap((e) => e.gain.lifts.filter((l) => l.counts && l.gain.value > 0));
  const from = counted.length > 0 ? Math.min(...counted.map((l) => l.lift)) : undefined;
  return from === undefined
    ? row.stage.name
    : `${row.stage.name}, which counts from ${settings.say.of(from, 'lift')} up`;
}
/** Stages that could not be run, and why. */
const problems = computed(() =>
  props.rows.flatMap((r) => {
    const found = run.torque.get(r.stage.id);
    return typeof found === 'string' ? [[r.stage.id, `${r.stage.name}: ${found}`] as const] : [];
  }),
);
const fileName = computed(() => `ledger ${props.whole.head.name}`);
const saveCsv = () => download(`${fileName.value}.csv`, toCsv(ledgerTable(props.rows, settings.system)), 'text/csv');
const saveXlsx = () => saveWorkbook(fileName.value, ledgerWorkbook(props.whole.head.name, props.rows, settings.system));
</script>

<template>
  <div>
    <p class="tools no-print">
      <QuantityField
        class="rate"
        :model-value="rate?.value ?? null"
        kind="money"
        label="An hour of the shop costs"
        placeholder="not counted"
        @update:model-value="rateTo"
      />
      <el-button size="small" @click="saveCsv">Export CSV</el-button>
      <el-button size="small" @click="saveXlsx">Export XLSX</el-button>
      <el-button v-if="run.busy.value" size="small" @click="run.stop">Stop</el-button>
      <el-button v-else-if="active?.target && rows.length > 1" size="small" @click="run.ask">
        Simulate each stage
      </el-button>
    </p>
    <WideFrame>
      <table class="ruled">
        <thead>
          <tr>
            <th>stage</th>
            <th class="num">hours</th>
            <th class="num">cost</th>
            <th>side</th>
            <th class="num">gain</th>
            <th class="num">share</th>
            <th class="num">each hour</th>
            <th class="num">for the money</th>
            <th class="num">since the first</th>
            <th class="num">power</th>
            <th class="num">torque</th>
            <th v-if="run.torque.size" class="num">run in the engine</th>
          </tr>
        </thead>
        <tbody v-for="(row, at) in rows" :key="row.stage.id">
          <tr v-for="(side, i) in SIDES" :key="side" :class="{ first: i === 0 }">
            <td v-if="i === 0" rowspan="2">
              {{ row.stage.name }}
              <small class="note">{{ row.operations.map((o) => `${o.side ?? ''} ${o.kind}`.trim()).join(', ') }}</small>
            </td>
            <td v-if="i === 0" rowspan="2" class="num">{{ hours(row.time) }}</td>
            <td v-if="i === 0" rowspan="2" class="num"><WorkedNumber v-if="row.cost" :working="row.cost" /></td>
            <td>{{ side }}</td>
            <template v-if="row.sides[side]?.gain.credited">
              <td class="num" :class="tone(row, side)">
                <WorkedNumber
                  :working="row.sides[side]!.gain.gain"
                  :book="row.sides[side]!.gain.book"
                  signed
                  :digits="1"
                />
              </td>
              <td class="num" :class="tone(row, side)">
                <WorkedNumber
                  :working="row.sides[side]!.gain.share"
                  :book="row.sides[side]!.gain.book"
                  terse
                  signed
                  :digits="1"
                />
              </td>
              <td class="num">
                <WorkedNumber v-if="row.sides[side]!.perHour" :working="row.sides[side]!.perHour" :digits="1" />
              </td>
              <td class="num">
                <WorkedNumber v-if="row.sides[side]!.perMoney" :working="row.sides[side]!.perMoney" :digits="1" />
              </td>
              <td class="num">
                <WorkedNumber v-if="row.sides[side]!.sum" :working="row.sides[side]!.sum" signed :digits="1" />
              </td>
            </template>
            <td v-else colspan="5" class="note">
              {{ row.sides[side] ? `No credit. ${row.sides[side]!.gain.comparison.sentence}` : '' }}
            </td>
            <template v-if="i === 0">
              <td class="num">
                <WorkedNumber
                  v-if="row.power"
                  :working="row.power"
                  :book="row.sides.intake?.gain.book"
                  signed
                  terse
                  :digits="0"
                />
              </td>
              <td class="num"><WorkedNumber v-if="row.torque" :working="row.torque" signed terse :digits="0" /></td>
            </template>
            <td v-else colspan="2" />
            <td v-if="run.torque.size && i === 0" rowspan="2" class="num">{{ torqueText(at) }}</td>
          </tr>
          <tr v-if="row.said.length">
            <td colspan="12" class="caution">{{ row.said.join(' ') }}</td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
    <p class="note">
      Gains are of the mean flow over {{ active?.target?.intakeCam ? 'this cam' : 'a usual cam' }}; grey ones are not
      told apart from two set-ups of one port. Power and torque are the intake’s best flow by the peak-flow rule at the
      target, a ceiling. Run in the engine: the mean torque over the speeds this use works at, each stage simulated with
      its own sheet; whether the flow behind it can be told stands under gain.
    </p>
    <p v-for="[id, why] in problems" :key="id" class="note">{{ why }}</p>
    <p v-if="idle.length" class="caution">
      Over the whole lift the bench cannot tell that this paid: {{ idle.map(idleWords).join('; ') }}.
    </p>
    <UsualCuts :kind="whole.head.kind" />
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: end;
}
.rate {
  width: 220px;
}
td small {
  display: block;
}
</style>
