<script setup lang="ts">
import { format, formatNumber, unitFor } from '@alluvium/core';
import {
  booksOf,
  evaluateSheetOf,
  portName,
  scoredCalls,
  swirlOf,
  type WholeHead,
  type WholeSession,
} from '@alluvium/records';
import { computed } from 'vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useJudging } from '../data/judging.js';
import { useSettings } from '../state/settings.js';
import { corrections, facts } from './sheetFacts.js';
import OwedList from './OwedList.vue';
import PortAgainstPort from './PortAgainstPort.vue';
import RawReadings from './RawReadings.vue';
import WideFrame from '../parts/WideFrame.vue';

/** What came of a session: its sheets, how the ports differ, what was corrected by what, every raw reading, what is owed. */
const props = defineProps<{ whole: WholeSession; head: WholeHead }>();
const settings = useSettings();
const judging = useJudging();
const { sides } = props.whole.session.plan;

const sheets = computed(() =>
  props.whole.sheets.map((sheet) => {
    const result = evaluateSheetOf(props.head, sheet);
    const { flow: book } = booksOf(props.head, [sheet], judging.value);
    const rows = [...new Set([...result.intake.points, ...result.exhaust.points].map((p) => p.lift))]
      .sort((a, b) => a - b)
      .map((lift) => ({
        lift,
        intake: result.intake.points.find((p) => p.lift === lift),
        exhaust: result.exhaust.points.find((p) => p.lift === lift),
        ratio: result.ratios.find((r) => r.lift === lift)?.ratio,
        swirl: swirlOf(sheet).points.find((s) => Math.abs(s.lift - lift) < 1e-5)?.speed,
        missing: sheet.rows.find((r) => Math.abs(r.lift.si - lift) < 1e-5)?.missing ?? '',
      }));
    const missing = sheet.rows.filter((r) => r.missing && !r.intake && !r.exhaust);
    return { sheet, result, book, rows, missing, turns: swirlOf(sheet).reversals };
  }),
);

const call = computed(() => props.whole.calls.at(-1));
const scores = computed(() =>
  call.value && props.whole.session.finished ? scoredCalls(call.value, props.whole.sheets) : [],
);
const cfmUnit = computed(() => unitFor('flow', settings.system).symbol);
const print = () => window.print();
</script>

<template>
  <div class="result">
    <OwedList class="no-print" :whole="whole" />
    <p v-if="scores.length" class="reading">
      <template v-for="s in scores" :key="s.side">
        {{ call?.who || 'The call' }} said {{ s.called.typed }} {{ s.side }}:
        <WorkedNumber :working="s.error" :digits="1" signed />
        off.
      </template>
      {{ call?.worst ? `Worst place called: ${call.worst}.` : '' }}
    </p>
    <p v-if="sheets.length === 0" class="reading">Nothing is recorded yet.</p>
    <p v-else class="no-print"><el-button link @click="print">Print for the wall</el-button></p>

    <section v-for="s in sheets" :key="s.sheet.id" class="sheet">
      <h2>
        {{ head.head.name }} · {{ s.sheet.title }}
        <RouterLink class="no-print" :to="{ name: 'head', params: { id: head.head.id }, query: { sheet: s.sheet.id } }">
          Open the sheet
        </RouterLink>
      </h2>
      <p class="note">
        {{ [portName(head.ports, s.sheet.intakePortId), s.sheet.date, ...facts(s.sheet)].filter(Boolean).join(' · ') }}
      </p>
      <WideFrame>
        <table class="ruled">
          <thead>
            <tr>
              <th>lift</th>
              <template v-for="side in sides" :key="side">
                <th class="num">{{ side }}, {{ cfmUnit }} at 28</th>
                <th class="num">spread</th>
              </template>
              <th v-if="sides.length > 1" class="num">E/I</th>
              <th v-if="s.sheet.swirl.length" class="num">swirl, rpm</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in s.rows" :key="r.lift">
              <td>{{ format(r.lift, 'lift', settings.figures) }}</td>
              <template v-for="side in sides" :key="side">
                <td class="num"><WorkedNumber :working="r[side]?.flow ?? null" :book="s.book" terse bare /></td>
                <td class="num quiet">
                  {{
                    r[side]?.spread === undefined ? '' : `±${formatNumber(r[side].spread, 'flow', settings.figures)}`
                  }}
                </td>
              </template>
              <td v-if="sides.length > 1" class="num">
                <WorkedNumber :working="r.ratio ?? null" :book="s.book" terse :digits="0" />
              </td>
              <td v-if="s.sheet.swirl.length" class="num">
                {{ r.swirl === undefined ? '' : formatNumber(r.swirl, 'rotation', 'inch', { signed: true }) }}
              </td>
              <td class="note">
                {{ [r.intake?.noisy || r.exhaust?.noisy ? 'noisy' : '', r.missing].filter(Boolean).join('; ') }}
              </td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
      <p v-for="m in s.missing" :key="m.lift.si" class="note">{{ m.lift.typed }}: {{ m.missing }}</p>
      <p v-if="s.turns.length" class="reading">
        The swirl turns round at {{ s.turns.map((l) => format(l, 'lift', settings.figures)).join(' and ') }}.
      </p>
      <p class="note">
        Corrected by {{ corrections(s.sheet, sides).join(', ') || 'nothing: no depression is known' }}.
      </p>
    </section>

    <PortAgainstPort :sides="sides" :results="sheets.map((s) => s.result)" />

    <RawReadings v-if="whole.readings.length" :readings="whole.readings" />
  </div>
</template>

<style scoped>
.result {
  max-width: 1010px;
}
section {
  margin-top: 18px;
}
h2 a {
  font-weight: 400;
  font-size: 14px;
  margin-left: 10px;
}
@media print {
  .sheet {
    break-inside: avoid;
    font-size: 17px;
  }
}
</style>
