<script setup lang="ts">
import { eyeOf, eyeWords, type Working } from '@alluvium/core';
import { callsTable, scoredCalls, toCsv, workbookOf } from '@alluvium/records';
import { computed, ref } from 'vue';
import { download } from '../charts/save.js';
import { useScoredCalls } from '../data/queries.js';
import { saveWorkbook } from '../exchange/workbook.js';
import ChoiceRow from '../parts/ChoiceRow.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import WideFrame from '../parts/WideFrame.vue';
import CallsChart from './CallsChart.vue';

/** Calls against what came out, over time: how well an eye judges. */
const settings = useSettings();
const query = useScoredCalls();
const scored = computed(() =>
  (query.data.value ?? []).flatMap((v) =>
    scoredCalls(v.call, v.sheets).map((s) => ({
      ...s,
      key: v.call.id + s.side,
      call: v.call,
      session: v.session,
      head: v.head,
    })),
  ),
);
/** By whom, or by what was called: an eye may see intakes well and exhausts badly. */
const BY = {
  who: (s: Scored) => s.call.who || 'nobody named',
  side: (s: Scored) => s.side,
  place: (s: Scored) => (s.call.sessionId ? 'on the bench' : s.call.on || 'elsewhere'),
  lift: (s: Scored) => (s.call.lift ? s.call.lift.typed : 'best of the port'),
} as const;
type Scored = (typeof scored.value)[number];
const by = ref<keyof typeof BY>('who');
const people = computed(() =>
  [...new Set(scored.value.map(BY[by.value]))].map((who) => {
    const own = scored.value.filter((s) => BY[by.value](s) === who);
    return { who, own, words: eyeWords(eyeOf(own.map((s) => s.error.value)), settings.say) };
  }),
);
const table = () => callsTable(scored.value, settings.system);
const saveCsv = () => download('calls.csv', toCsv(table()), 'text/csv');
const saveXlsx = () => void saveWorkbook('calls', workbookOf('Calls', table()));
const label = (w: Working) => `${w.value >= 0 ? '+' : '−'}${settings.say.number(Math.abs(w.value) * 100, 1)} %`;
</script>

<template>
  <div class="eye">
    <WaitingNote v-if="!query.data.value" :loading="query.isPending.value" :error="query.error.value?.message ?? ''" />
    <p v-else-if="scored.length === 0" class="reading">{{ eyeWords(undefined, settings.say) }}</p>
    <template v-else>
      <ChoiceRow
        v-model="by"
        label="By"
        :options="[
          ['who', 'by whom'],
          ['side', 'by side'],
          ['lift', 'by lift'],
          ['place', 'by where it was called'],
        ]"
      />
      <p v-for="p in people" :key="p.who" class="reading">{{ p.who }}: {{ p.words }}</p>
      <CallsChart
        :calls="
          scored.map((s) => ({ key: s.key, side: s.side, error: s.error.value, date: s.call.date ?? '', head: s.head }))
        "
      />
      <WideFrame>
        <table class="ruled">
          <thead>
            <tr>
              <th>date</th>
              <th>head</th>
              <th>who</th>
              <th>side</th>
              <th class="num">called</th>
              <th class="num">error</th>
              <th>worst place called</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in scored" :key="s.key">
              <td>{{ settings.say.day(s.call.date ?? '') }}</td>
              <td>{{ s.head }}, {{ s.session }}</td>
              <td>{{ s.call.who }}</td>
              <td>{{ s.side }}</td>
              <td class="num">{{ s.called.typed }}</td>
              <td class="num"><WorkedNumber :working="s.error" :digits="1" signed :label="label(s.error)" /></td>
              <td>{{ s.call.worst }}</td>
            </tr>
          </tbody>
        </table>
      </WideFrame>
      <p class="no-print">
        <el-button size="small" @click="saveCsv">Export the calls as CSV</el-button>
        <el-button size="small" @click="saveXlsx">Export XLSX</el-button>
      </p>
    </template>
  </div>
</template>

<style scoped>
.eye {
  max-width: 900px;
}
</style>
