<script setup lang="ts">
import { evaluateSheet, flowAt, type Quantity, type SheetResult } from '@alluvium/core';
import { toCoreRows, toCoreSetup, type HeadSummary } from '@alluvium/records';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import EmptyNote from '../parts/EmptyNote.vue';
import FilePick from '../parts/FilePick.vue';
import { missingPhotosWords } from '../care/words.js';
import { saveLibrary } from '../data/library.js';
import SparkLine from '../charts/SparkLine.vue';
import { download } from '../charts/save.js';
import { useExchange } from '../exchange/exchange.js';
import PressArea from '../parts/PressArea.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import { useActiveBuild } from '../data/build.js';
import { useSettings } from '../state/settings.js';
import { useUndo } from '../data/undo.js';
import HeadFilters from './HeadFilters.vue';
import NewHead from './NewHead.vue';
import SeveralHeads from './SeveralHeads.vue';
import { SIZE, useHeadSearch } from './useHeadSearch.js';
import WorkedNumber from '../parts/WorkedNumber.vue';
import WideFrame from '../parts/WideFrame.vue';
import HoverNote from '../parts/HoverNote.vue';

const settings = useSettings();
const exchange = useExchange();
const undo = useUndo();
const route = useRoute();
const { active } = useActiveBuild();

const by = useHeadSearch();
const { sort, page, filtered, showAll, query } = by;
const read = (item: HeadSummary): SheetResult | undefined =>
  item.sheet ? evaluateSheet(toCoreSetup(item.sheet), toCoreRows(item.sheet)) : undefined;
const rows = computed(() => (query.data.value?.items ?? []).map((item) => ({ ...item, result: read(item) })));
/** Heads of this page that are chosen, for what is done with several at once. */
const chosen = ref<ReadonlySet<string>>(new Set());
const picked = computed(() => rows.value.filter((r) => chosen.value.has(r.head.id)));
function choose(id: string, on: boolean): void {
  const next = new Set(chosen.value);
  if (on) next.add(id);
  else next.delete(id);
  chosen.value = next;
}
const watchLifts = computed(() => active.value?.build.watchLifts ?? []);
const tops = computed(() => ({
  flow: Math.max(0.05, ...rows.value.map((r) => r.result?.intake.peak?.flow ?? 0)),
  lift: Math.max(0.01, ...rows.value.map((r) => r.result?.intake.curve?.last.lift ?? 0)),
}));
const flowOf = (row: (typeof rows.value)[number], lift: number | undefined) =>
  row.result && row.sheet && lift !== undefined
    ? flowAt(row.result.intake, row.sheet.id, 'intake', lift)?.flow
    : undefined;
const size = (v: unknown) =>
  v ? settings.say.of((v as Quantity).si, 'length', { digits: 2 }).split('\u00a0')[0] : '–';
const adding = ref(route.query.new === '1');
const tooManyPhotos = ref(false);
/** Everything as one file; where the photos are more than one file carries, the way without them is offered. */
async function saveAll(photos: 'yes' | 'no'): Promise<void> {
  const answer = await saveLibrary(photos);
  if (answer.file) download('alluvium.json', answer.file, 'application/json');
  else undo.refused(answer.refusal);
  if (answer.missingPhotos > 0) undo.announce(missingPhotosWords(answer.missingPhotos));
  tooManyPhotos.value = answer.tooLarge;
}
</script>

<template>
  <section>
    <header class="head">
      <h1>Heads</h1>
      <span v-if="query.data.value" class="note">
        {{ query.data.value.total }} {{ filtered ? 'found' : 'in the library' }}
      </span>
      <span class="actions">
        <el-button type="primary" @click="adding = true">New head</el-button>
        <FilePick accept=".json,.csv,.tsv,.txt,.xlsx" @files="$event[0] && exchange.take($event[0])">
          Import a file
        </FilePick>
        <el-button link @click="saveAll('yes')">Export everything</el-button>
        <el-button v-if="tooManyPhotos" link @click="saveAll('no')">Without photos</el-button>
      </span>
    </header>
    <HeadFilters :by="by" />
    <NewHead v-if="adding" @close="adding = false" />
    <SeveralHeads v-if="picked.length" :heads="picked" @done="chosen = new Set()" />
    <WideFrame v-if="rows.length">
      <table class="ruled list">
        <thead>
          <tr>
            <th class="tick">
              <el-checkbox
                :model-value="picked.length === rows.length"
                :indeterminate="picked.length > 0 && picked.length < rows.length"
                aria-label="Choose all on this page"
                @change="chosen = new Set($event ? rows.map((r) => r.head.id) : [])"
              />
            </th>
            <th :aria-sort="sort === 'name' ? 'ascending' : 'none'">
              <HoverNote says="Sort by name">
                <PressArea class="sorts" @click="sort = 'name'">head</PressArea>
              </HoverNote>
            </th>
            <th>stage</th>
            <th>intake, exhaust</th>
            <th v-for="l in watchLifts" :key="l.typed" class="num">{{ settings.say.of(l.si, 'lift') }}</th>
            <th class="num">peak</th>
            <th class="num">E/I</th>
            <th class="num">valves</th>
            <th class="num" :aria-sort="sort === 'price' ? 'ascending' : 'none'">
              <HoverNote says="Sort by price">
                <PressArea class="sorts" @click="sort = 'price'">price</PressArea>
              </HoverNote>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r.head.id">
            <td class="tick">
              <el-checkbox
                :model-value="chosen.has(r.head.id)"
                :aria-label="`Choose ${r.head.name}`"
                @change="choose(r.head.id, Boolean($event))"
              />
            </td>
            <td>
              <RouterLink :to="{ name: 'head', params: { id: r.head.id } }" class="title">{{ r.head.name }}</RouterLink>
              <small>
                {{
                  [r.head.maker, r.head.catalogueNumber !== r.head.name ? r.head.catalogueNumber : '']
                    .filter(Boolean)
                    .join(' ') || r.head.kind
                }}
              </small>
            </td>
            <td>
              {{ r.latestStage?.name ?? '–' }}
              <small>{{ r.sheets }} {{ r.sheets === 1 ? 'sheet' : 'sheets' }}</small>
            </td>
            <td>
              <SparkLine
                :intake="r.result?.intake.curve"
                :exhaust="r.result?.exhaust.curve"
                :top-flow="tops.flow"
                :top-lift="tops.lift"
              />
            </td>
            <td v-for="l in watchLifts" :key="l.typed" class="num">
              <WorkedNumber :working="flowOf(r, l.si)" bare :digits="0" />
            </td>
            <td class="num">
              <WorkedNumber :working="flowOf(r, r.result?.intake.peak?.lift)" bare :digits="0" />
              <small v-if="r.result?.intake.peak">{{ settings.say.of(r.result.intake.peak.lift, 'lift') }}</small>
            </td>
            <td class="num">
              <WorkedNumber :working="r.result?.peakRatio" :digits="0" />
            </td>
            <td class="num">{{ size(r.valves.intake) }} / {{ size(r.valves.exhaust) }}</td>
            <td class="num">{{ r.head.price?.typed ?? '–' }}</td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
    <WaitingNote
      v-else-if="!query.isSuccess.value"
      :loading="query.isPending.value"
      :error="query.error.value?.message ?? ''"
    />
    <EmptyNote v-else-if="filtered">
      No matches.
      <el-button link @click="showAll">Show all</el-button>
    </EmptyNote>
    <EmptyNote v-else-if="!adding">
      The library is empty. Add the head on your bench with
      <b>New head</b>
      , paste its flow sheet, and it appears here; or drop a bundle, CSV or XLSX file anywhere on this page. To look
      around in an invented shop first, open
      <RouterLink to="/">the shop</RouterLink>
      .
    </EmptyNote>
    <el-pagination
      v-if="query.data.value && query.data.value.total > SIZE"
      v-model:current-page="page"
      class="pages no-print"
      layout="prev, pager, next, jumper"
      :total="query.data.value.total"
      :page-size="SIZE"
    />
  </section>
</template>

<style scoped>
[aria-sort='ascending'] .sorts {
  box-shadow: inset 0 -2px 0 var(--ink);
}
.head {
  display: flex;
  align-items: baseline;
  gap: 22px;
}
.actions {
  margin-left: auto;
  display: flex;
  gap: 18px;
  align-items: baseline;
}
.list td {
  vertical-align: middle;
}
.title {
  font-weight: 600;
  color: inherit;
}
small {
  display: block;
  color: var(--slate);
  font-size: 13px;
}
.pages {
  justify-content: center;
  margin-top: 12px;
}
.tick {
  width: 24px;
}
</style>
