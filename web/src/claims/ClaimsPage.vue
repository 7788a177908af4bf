<script setup lang="ts">
import { SIDES, formatNumber, unitFor } from '@alluvium/core';
import { bandOf, claimRows, judgedClaims, statedAgainstFound, writeAudit, type NetHead } from '@alluvium/records';
import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { get } from '../api/client.js';
import { useSources, useTolerances } from '../api/queries.js';
import { download } from '../charts/save.js';
import HeadInHand from '../parts/HeadInHand.vue';
import NoHead from '../parts/NoHead.vue';
import TabRow from '../parts/TabRow.vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useHeadInHand } from '../state/inHand.js';
import { useSettings } from '../state/settings.js';
import CoefficientChart from './CoefficientChart.vue';
import PairChart from './PairChart.vue';
import SourcesPane from './SourcesPane.vue';

/** Who said what of this head, under which conditions, and whether a port can do that. */
const props = defineProps<{ id?: string }>();
const route = useRoute();
const router = useRouter();
const settings = useSettings();
const sources = useSources();
const tolerances = useTolerances();
const { whole, stage, error, toStage } = useHeadInHand('claims', () => props.id ?? '');
const query = useQuery({ queryKey: ['net'], queryFn: () => get<NetHead[]>('/api/claims/net') });

const PANES = [
  ['head', 'this head'],
  ['sources', 'sources'],
  ['library', 'all claims'],
] as const;
const pane = computed(() => PANES.find(([p]) => p === route.query.pane)?.[0] ?? 'head');
const side = computed<'intake' | 'exhaust'>(() => (route.query.side === 'exhaust' ? 'exhaust' : 'intake'));
const put = (change: Record<string, string | undefined>) =>
  void router.replace({ query: { ...route.query, ...change } });

const heads = computed(() => query.data.value ?? []);
const own = computed(() => sources.data.value?.find((s) => s.kind === 'own bench')?.id);
const band = computed(() => bandOf(heads.value));
const claims = computed(() =>
  whole.value ? judgedClaims(whole.value, side.value, band.value[side.value], own.value, settings.say) : [],
);
const drawn = computed(() =>
  claims.value.map((c) => ({
    ...c,
    source: sources.data.value?.find((s) => s.id === c.sheet.sourceId)?.name ?? 'source not said',
  })),
);
/** Sized claims of this stage against what was found. */
const sizes = computed(() =>
  whole.value && stage.value
    ? statedAgainstFound(whole.value, stage.value.id, tolerances.data.value ?? []).filter((s) => s.difference)
    : [],
);
const all = computed(() => claimRows(heads.value, band.value, own.value, sources.data.value ?? [], settings.say));
const unit = computed(() => unitFor('flow', settings.system).symbol);
const saveAudit = () => download('claims.csv', writeAudit(all.value, settings.system), 'text/csv');
const print = () => window.print();
</script>

<template>
  <section v-if="whole && stage">
    <header>
      <h1 class="unseen">Claims about {{ whole.head.name }}</h1>
      <HeadInHand step="claims" :whole="whole" :stage="stage" @stage="toStage" />
      <TabRow
        kind="radio"
        label="Side"
        :model-value="side"
        :options="SIDES.map((s) => [s, s] as const)"
        @update:model-value="put({ side: $event === 'exhaust' ? $event : undefined })"
      />
      <TabRow
        class="panes"
        label="What is shown"
        :model-value="pane"
        :options="PANES"
        @update:model-value="put({ pane: $event === 'head' ? undefined : $event })"
      />
    </header>

    <template v-if="pane === 'head'">
      <p v-if="drawn.length === 0" class="reading">
        Nobody claims a flow of this head on the {{ side }} side. Note one as a sheet of kind “claim” under
        <RouterLink :to="{ name: 'head', params: { id: whole.head.id } }">its sheets</RouterLink>
        , with its source and what is known of how it was tested.
      </p>
      <article v-for="c in drawn" :key="c.sheet.id">
        <h2>
          {{ c.source }}
          <span class="note">{{ c.sheet.title }}</span>
        </h2>
        <p class="reading" :class="{ loss: c.verdict === 'impossible' || c.verdict === 'beyond anything measured' }">
          {{ c.words }}
        </p>
        <p class="note">
          {{
            c.against
              ? `Held against “${c.against.title}”. ${c.comparison?.sentence}`
              : 'No sheet of ours at this stage.'
          }}
          {{ c.next }}
        </p>
        <details v-if="c.comparison">
          <summary>What agrees and what does not</summary>
          <ul>
            <li v-for="a in c.comparison.aspects" :key="a.what" :class="{ caution: a.state === 'differs' }">
              {{ a.sentence }}
            </li>
          </ul>
        </details>
        <div class="two">
          <PairChart
            :points="c.points"
            :measured="c.measured.map((p) => ({ lift: p.lift, flow: p.flow.value }))"
            :side="side"
          />
          <CoefficientChart :claimed="c.claimed" :measured="c.measured" :library="band[side]" :side="side" />
        </div>
        <table class="ruled">
          <thead>
            <tr>
              <th>lift</th>
              <th class="num">claimed, {{ unit }} at 28</th>
              <th class="num">measured</th>
              <th class="num">off by</th>
              <th class="num">give or take</th>
              <th class="num">on minimum area</th>
              <th class="num">of heads seen, below</th>
              <th class="num">speed at the pinch</th>
              <th>verdict</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(p, i) in c.points" :key="p.lift">
              <td>{{ formatNumber(p.lift, 'lift', settings.system) }}</td>
              <td class="num"><WorkedNumber :working="p.flow" bare /></td>
              <td class="num">
                {{ p.measured === undefined ? '–' : formatNumber(p.measured, 'flow', settings.system) }}
              </td>
              <td class="num"><WorkedNumber :working="p.error ?? null" :digits="1" signed /></td>
              <td class="num"><WorkedNumber :working="p.uncertainty" :digits="1" /></td>
              <td class="num"><WorkedNumber :working="c.claimed[i]?.coefficients.minimum ?? null" :digits="3" /></td>
              <td class="num">
                {{
                  p.band?.percentile === undefined ? '–' : `${Math.round(p.band.percentile * 100)} % of ${p.band.heads}`
                }}
              </td>
              <td class="num"><WorkedNumber :working="p.speed ?? null" /></td>
              <td :class="{ loss: p.verdict === 'impossible' || p.verdict === 'beyond anything measured' }">
                {{ p.verdict }}
              </td>
            </tr>
          </tbody>
        </table>
      </article>
      <template v-if="sizes.length">
        <h2>Sizes stated and found</h2>
        <table class="ruled sizes">
          <tbody>
            <tr v-for="s in sizes" :key="`${s.item}${s.side}`">
              <td>{{ s.item }}{{ s.side ? `, ${s.side}` : '' }}</td>
              <td class="num">stated {{ s.stated.map((m) => m.value.typed).join(', ') }}</td>
              <td class="num">found {{ s.found.map((m) => m.value.typed).join(', ') }}</td>
              <td class="num"><WorkedNumber :working="s.difference ?? null" signed /></td>
              <td :class="{ loss: s.matters }">{{ s.matters ? 'matters' : 'holds' }}</td>
            </tr>
          </tbody>
        </table>
      </template>
    </template>

    <SourcesPane v-else-if="pane === 'sources' && own" :heads="heads" :own="own" :side="side" />
    <p v-else-if="pane === 'sources'" class="reading">Name your own bench as a source first: it is the zero.</p>

    <template v-else>
      <p class="no-print">
        <button class="worded" type="button" @click="saveAudit">Save the audit as CSV</button>
        <button class="worded print" type="button" @click="print">Print it</button>
      </p>
      <table class="ruled">
        <thead>
          <tr>
            <th>source</th>
            <th>head</th>
            <th>side</th>
            <th>verdict</th>
            <th>in words</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in all" :key="r.key">
            <td>{{ r.source }}</td>
            <td>
              <RouterLink
                :to="{ name: 'claims', params: { id: r.headId }, query: r.side === 'exhaust' ? { side: r.side } : {} }"
              >
                {{ r.head }}
              </RouterLink>
            </td>
            <td>{{ r.side }}</td>
            <td :class="{ loss: r.verdict === 'impossible' || r.verdict === 'beyond anything measured' }">
              {{ r.verdict }}
            </td>
            <td class="note">{{ r.words }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </section>
  <NoHead v-else :error="error" />
</template>

<style scoped>
header {
  display: flex;
  gap: 22px;
  align-items: baseline;
  margin-bottom: 12px;
}
.panes {
  margin-left: auto;
}
article {
  margin-bottom: 26px;
}
h2 .note {
  font-weight: 400;
  margin-left: 8px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
}
.two :deep(svg) {
  max-width: 100%;
  height: auto;
}
.sizes {
  max-width: 900px;
}
.print {
  margin-left: 20px;
}
details {
  margin-bottom: 8px;
}
summary {
  cursor: pointer;
  color: var(--slate);
}
</style>
