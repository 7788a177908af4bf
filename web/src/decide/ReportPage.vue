<script setup lang="ts">
import { reportOf, waysWords, type ReportOptions } from '@alluvium/records';
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { download } from '../charts/save.js';
import { useActiveBuild } from '../data/build.js';
import { reportPdf } from '../data/client.js';
import { useListOf } from '../data/queries.js';
import { today } from '../data/today.js';
import NoBuild from '../parts/NoBuild.vue';
import ChoiceRow from '../parts/ChoiceRow.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import { useSettings } from '../state/settings.js';
import LetterheadForm from './LetterheadForm.vue';
import ReportBlock from './ReportBlock.vue';
import { useWaysRead } from './useWaysRead.js';

// active.value!, report.value!: the report is asked for once it is on the page.

/** The report as it will be printed: for the customer, or with the workshop's pages; saved as PDF by the server. */
const route = useRoute();
const router = useRouter();
const settings = useSettings();
const { active, loading: noBuild, error: buildError } = useActiveBuild();
const { ways, ranked, here, loading, error } = useWaysRead();
const decisions = useListOf('decision');
const letterheads = useListOf('letterhead');
const letterhead = computed(() => [...(letterheads.data.value ?? [])].sort((a, b) => a.id.localeCompare(b.id))[0]);
const decision = computed(
  () =>
    (decisions.data.value ?? [])
      .filter((d) => d.buildId === active.value?.build.id)
      .sort((a, b) => b.made.localeCompare(a.made) || b.id.localeCompare(a.id))[0],
);
/** What is asked of it stands in the address, so that it can be sent to somebody. */
const options = computed<ReportOptions>(() => ({
  pages: route.query.pages === 'workshop' ? 'workshop' : 'customer',
  workings: route.query.workings === 'yes',
  hidden: route.query.hidden === 'yes',
}));
const ask = (query: Record<string, string | undefined>) => void router.replace({ query: { ...route.query, ...query } });
const report = computed(() => {
  if (!active.value) return undefined;
  const { build } = active.value;
  const words = waysWords(ways.value, build, ranked.value, settings.say);
  const facts = {
    build,
    ways: ways.value,
    ranked: ranked.value,
    decision: decision.value,
    words,
    say: settings.say,
    date: today(),
  };
  return reportOf(facts, options.value);
});
const making = ref(false);
const problem = ref('');
async function savePdf(): Promise<void> {
  making.value = true;
  problem.value = '';
  try {
    const torque = Object.fromEntries(
      ways.value.flatMap((w) =>
        w.torque
          ? [[w.way.id, { value: w.torque.value, u: Math.hypot(...w.torque.parts.map((p) => p.change)) }] as const]
          : [],
      ),
    );
    const pdf = await reportPdf(active.value!.build.id, {
      ...options.value,
      system: settings.system,
      figures: settings.figures,
      date: today(),
      torque,
    });
    download(`${report.value!.title}.pdf`, pdf);
  } catch (failed) {
    problem.value = `The report was not made: ${(failed as Error).message}`;
  } finally {
    making.value = false;
  }
}
const print = () => window.print();
</script>

<template>
  <section v-if="active && report && here && !error">
    <header class="no-print">
      <h1>Report</h1>
      <ChoiceRow
        label="For whom"
        :model-value="options.pages"
        :options="[
          ['customer', 'customer’s page'],
          ['workshop', 'with the workshop’s pages'],
        ]"
        @update:model-value="ask({ pages: $event })"
      />
      <el-checkbox
        :model-value="options.workings"
        label="workings"
        @change="ask({ workings: $event ? 'yes' : undefined })"
      />
      <el-checkbox
        :model-value="options.hidden"
        label="hide the figures of flow"
        @change="ask({ hidden: $event ? 'yes' : undefined })"
      />
      <span class="acts">
        <el-button type="primary" size="small" :loading="making" @click="savePdf">Export PDF</el-button>
        <el-button size="small" @click="print">Print</el-button>
        <el-button size="small" @click="router.push({ name: 'decide' })">Back to Decide</el-button>
      </span>
    </header>
    <p v-if="problem" class="loss no-print" role="alert">{{ problem }}</p>
    <p v-if="ways.length === 0" class="reading">
      There is nothing to report yet: write down the ways to go on Decide first.
    </p>
    <article v-else class="paper">
      <div v-if="letterhead" class="letterhead">
        <img v-if="letterhead.logo" :src="letterhead.logo" alt="" />
        <div>
          <b>{{ letterhead.name }}</b>
          <span class="note">{{ letterhead.lines.split('\n').filter(Boolean).join(' · ') }}</span>
        </div>
      </div>
      <h2 class="title">{{ report.title }}</h2>
      <p class="note">{{ report.under }} · {{ report.day }}</p>
      <section v-for="s in report.sections" :key="s.title" :class="{ page: s.page }">
        <h3>{{ s.title }}</h3>
        <ReportBlock v-for="(b, i) in s.blocks" :key="i" :block="b" />
      </section>
      <p v-if="letterhead?.foot" class="note">{{ letterhead.foot }}</p>
    </article>
    <LetterheadForm :key="letterhead?.id ?? 'new'" class="no-print" :letterhead="letterhead" />
  </section>
  <NoBuild v-else-if="!active" :loading="noBuild" :error="buildError" />
  <WaitingNote v-else :loading="loading" :error="error" />
</template>

<style scoped>
header {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 20px;
  align-items: center;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-left: auto;
}
.acts :deep(.el-button) {
  margin: 0;
}
.paper {
  max-width: 780px;
  margin: 12px 0 24px;
  padding: 22px 34px 28px;
  border: 1px solid var(--rule);
}
.letterhead {
  display: flex;
  gap: 16px;
  align-items: center;
}
.letterhead img {
  max-width: 130px;
  max-height: 60px;
}
.letterhead b,
.letterhead span {
  display: block;
}
.title {
  margin: 10px 0 0;
  padding-bottom: 4px;
  border-bottom: 1px solid var(--slate);
}
h3 {
  margin: 14px 0 2px;
}
@media print {
  .paper {
    max-width: none;
    padding: 0;
    border: 0;
  }
  .page {
    break-before: page;
  }
}
@media (width < 600px) {
  .paper {
    padding: 10px 12px;
  }
}
</style>
