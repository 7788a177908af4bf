<script setup lang="ts">
import { format } from '@alluvium/core';
import {
  MEASURE_ITEMS,
  latestSeats,
  placeOf,
  seatName,
  standingFindings,
  statedAgainstFound,
  type StatedItem,
  toCsv,
} from '@alluvium/records';
import { computed } from 'vue';
import { useListOf } from '../data/queries.js';
import { download } from '../charts/save.js';
import { useHeadInHand } from '../data/inHand.js';
import NoHead from '../parts/NoHead.vue';
import { useSettings } from '../state/settings.js';
import { today } from '../data/today.js';

// whole.value!, stage.value!, i.difference!: the sheet is drawn of a head at a stage, and lists what differs.

/** What is wrong with a head, as a page for whoever sold it. Made for paper. */
const props = defineProps<{ id: string }>();
const settings = useSettings();
const { whole, stage, error, loading } = useHeadInHand('defects', () => props.id);
const tolerances = useListOf('tolerance');
// What matters for one of our builds only is no defect of the head.
const findings = computed(() =>
  whole.value && stage.value ? standingFindings(whole.value, stage.value.id).filter((f) => f.buildId === null) : [],
);
const leaking = computed(() =>
  whole.value && stage.value ? latestSeats(whole.value, stage.value.id).filter((s) => s.result === 'leaks') : [],
);
const off = computed(() =>
  whole.value && stage.value
    ? statedAgainstFound(whole.value, stage.value.id, tolerances.data.value ?? []).filter((i) => i.matters)
    : [],
);
const photosOf = (id: string) => whole.value!.attachments.filter((a) => a.findingId === id);
const difference = (i: StatedItem) =>
  format(i.difference!.value, MEASURE_ITEMS[i.item].kind, settings.figures, { signed: true });
const typed = (list: StatedItem['found']) => [...new Set(list.map((m) => m.value.typed))].join(', ');

const print = () => window.print();
function saveCsv(): void {
  const { head } = whole.value!;
  const rows = [
    ['head', head.name, head.maker, head.catalogueNumber],
    ['stage', stage.value!.name],
    ['where', 'what', 'how bad', 'cost to mend'],
    ...findings.value.map((f) => [placeOf(f), f.text, f.severity, f.cost?.typed ?? '']),
    ...leaking.value.map((s) => [seatName(s, head), 'does not seal', 'fix before use', '']),
    ...off.value.map((i) => [
      `${i.item}${i.side ? `, ${i.side}` : ''}`,
      `stated ${typed(i.stated)}, found ${typed(i.found)}, difference ${difference(i)}`,
      'not as stated',
      '',
    ]),
  ];
  download(`${head.name} defects.csv`, toCsv(rows), 'text/csv');
}
</script>

<template>
  <article v-if="whole && stage">
    <p class="ways no-print">
      <RouterLink :to="{ name: 'arrival', params: { id: whole.head.id }, query: { stage: stage.id } }">
        Back to the head
      </RouterLink>
      <el-button link @click="print">Print</el-button>
      <el-button link @click="saveCsv">Export CSV</el-button>
    </p>
    <h1>{{ whole.head.name }}: what was found</h1>
    <p class="note">
      {{
        [whole.head.maker, whole.head.catalogueNumber && `number ${whole.head.catalogueNumber}`, stage.name, today()]
          .filter(Boolean)
          .join(' · ')
      }}
    </p>
    <table v-if="findings.length + leaking.length" class="ruled">
      <thead>
        <tr>
          <th>where</th>
          <th>what</th>
          <th>how bad</th>
          <th class="num">to mend</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="f in findings" :key="f.id">
          <td>{{ placeOf(f) }}</td>
          <td>
            {{ f.text }}
            <span v-if="photosOf(f.id).length" class="photos">
              <img v-for="p in photosOf(f.id)" :key="p.id" :src="`/api/attachment/${p.id}/thumbnail`" :alt="p.name" />
            </span>
          </td>
          <td>{{ f.severity }}</td>
          <td class="num">{{ f.cost?.typed ?? '' }}</td>
        </tr>
        <tr v-for="s in leaking" :key="s.id">
          <td>{{ seatName(s, whole.head) }}</td>
          <td>
            does not seal{{
              s.drawn && s.held
                ? `: ${s.held.typed} left of ${s.drawn.typed}${s.seconds ? ` after ${s.seconds} s` : ''}`
                : ''
            }}
          </td>
          <td>fix before use</td>
          <td></td>
        </tr>
      </tbody>
    </table>
    <p v-else class="reading">Nothing stands against this head.</p>
    <template v-if="off.length">
      <h2>Not as stated</h2>
      <table class="ruled">
        <thead>
          <tr>
            <th>item</th>
            <th class="num">stated</th>
            <th class="num">found</th>
            <th class="num">difference</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="i in off" :key="`${i.item}${i.side}`">
            <td>{{ i.item }}{{ i.side ? `, ${i.side}` : '' }}</td>
            <td class="num">{{ typed(i.stated) }}</td>
            <td class="num">{{ typed(i.found) }}</td>
            <td class="num">{{ difference(i) }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </article>
  <NoHead v-else :loading="loading" :error="error" />
</template>

<style scoped>
article {
  max-width: 860px;
}
.ways {
  display: flex;
  gap: 22px;
  margin: 0 0 14px;
}
h2 {
  margin: 22px 0 4px;
}
td {
  vertical-align: top;
}
.photos {
  display: flex;
  gap: 6px;
  margin: 4px 0;
}
.photos img {
  height: 110px;
}
</style>
