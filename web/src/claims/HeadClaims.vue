<script setup lang="ts">
import type { Side } from '@alluvium/core';
import { judgedClaims, judgedReports, judgedSizes, publications, type Stage, type WholeHead } from '@alluvium/records';
import { computed, ref } from 'vue';
import { useJudging } from '../data/judging.js';
import { useListOf } from '../data/queries.js';
import WaitingNote from '../parts/WaitingNote.vue';
import ClaimArticle from './ClaimArticle.vue';
import PublishedTable from './PublishedTable.vue';
import ReadChart from './ReadChart.vue';
import ReportForm from './ReportForm.vue';
import ReportList from './ReportList.vue';
import SizeClaims from './SizeClaims.vue';
import { useContext, useSourceReads, type Claims } from './useClaims.js';

/** Everything claimed of the head in hand, each held against what was measured, geometry and the library. */
const props = defineProps<{
  claims: Claims;
  whole: WholeHead;
  stage: Stage;
  side: Side;
}>();
const tolerances = useListOf('tolerance');
const builds = useListOf('build');
const judging = useJudging();
const sourceReads = useSourceReads(
  props.claims,
  () => props.whole.head.id,
  () => props.side,
);
const held = useContext(props.claims, () => props.whole);
const context = computed(() => held.value && { ...held.value, sourceReads });
const named = (id: string | null) => props.claims.sources.value.find((s) => s.id === id)?.name ?? 'source not said';
const flows = computed(() => (context.value ? judgedClaims(props.whole, props.side, context.value) : []));
const sizes = computed(() => judgedSizes(props.whole, tolerances.data.value ?? [], props.claims.facts.value));
const reports = computed(() =>
  judgedReports(props.whole, builds.data.value ?? [], props.claims.own.value, props.claims.facts.value.say, {
    ...judging.value,
    sources: props.claims.sources.value,
  }),
);
const published = computed(() =>
  publications(props.whole, props.stage.id, props.side, props.claims.own.value, props.claims.sources.value),
);
/** Our own table beside one other is what the claim itself shows. */
const others = computed(() => published.value.tables.filter((t) => t.sheet.sourceId !== props.claims.own.value).length);
const adding = ref<'chart' | 'power'>();
/** The sheet whose picture is opened again. */
const charted = ref<string>();
const stageName = (id: string) => props.whole.stages.find((s) => s.id === id)?.name ?? '';
</script>

<template>
  <div>
    <p class="add no-print">
      Note a claim:
      <RouterLink
        :to="{ name: 'head', params: { id: whole.head.id }, query: { stage: stage.id, sheet: 'new', kind: 'claim' } }"
      >
        type or paste a table
      </RouterLink>
      <el-button link @click="adding = 'chart'">Read it off a chart</el-button>
      <RouterLink :to="{ name: 'head', params: { id: whole.head.id }, query: { stage: stage.id } }">a size</RouterLink>
      <el-button link @click="adding = 'power'">A power</el-button>
      <span class="note">or drop a CSV of many claims anywhere.</span>
    </p>
    <ReportForm
      v-if="adding === 'power'"
      :whole="whole"
      :stage="stage"
      :sources="claims.sources.value"
      @done="adding = undefined"
    />
    <ReadChart
      v-if="adding === 'chart' || charted"
      :whole="whole"
      :stage="stage"
      :sources="claims.sources.value"
      :sheet="whole.sheets.find((s) => s.id === charted)"
      :side="side"
      @close="((adding = undefined), (charted = undefined))"
    />
    <p v-if="claims.library.value.done < claims.library.value.of" class="note" role="status">
      The library is being read: {{ claims.library.value.done }} of {{ claims.library.value.of }} heads. What is held
      against it may still change.
    </p>
    <WaitingNote v-if="!context" :loading="true" error="" />
    <p v-else-if="flows.length === 0" class="reading">
      Nobody claims a flow of this head on the {{ side }} side. What nobody states of a test stays unknown; say who
      claims it, and it is held against your own bench, geometry and your library.
    </p>
    <ClaimArticle
      v-for="c in flows"
      :key="c.sheet.id"
      :claim="c"
      :source="named(c.sheet.sourceId)"
      :stage="whole.stages.length > 1 ? stageName(c.sheet.stageId) : ''"
      :head-id="whole.head.id"
      @chart="charted = c.sheet.id"
    />
    <PublishedTable v-if="others > 1" :published="published" />
    <SizeClaims v-if="sizes.length" :sizes="sizes" :named="named" />
    <ReportList v-if="reports.length" :reports="reports" :named="named" />
  </div>
</template>

<style scoped>
.add {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: baseline;
  margin: 0 0 10px;
  color: var(--slate);
}
</style>
