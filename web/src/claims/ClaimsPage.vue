<script setup lang="ts">
import { SIDES, type Side } from '@alluvium/core';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import DynoNote from '../dyno/DynoNote.vue';
import HeadInHand from '../parts/HeadInHand.vue';
import NoHead from '../parts/NoHead.vue';
import ChoiceRow from '../parts/ChoiceRow.vue';
import TabRow from '../parts/TabRow.vue';
import { useHeadInHand } from '../data/inHand.js';
import WaitingNote from '../parts/WaitingNote.vue';
import AuditPane from './AuditPane.vue';
import HeadClaims from './HeadClaims.vue';
import QuestionsPane from './QuestionsPane.vue';
import SamePane from './SamePane.vue';
import SourcesPane from './SourcesPane.vue';
import { useClaims } from './useClaims.js';

/** Who said what, under which conditions, and whether a port can do that. */
const props = defineProps<{ id?: string }>();
const route = useRoute();
const router = useRouter();
const { whole, stage, error, loading, toStage } = useHeadInHand('claims', () => props.id ?? '');
const claims = useClaims();

const PANES = [
  ['head', 'this head'],
  ['same', 'same or different'],
  ['questions', 'questions'],
  ['sources', 'sources'],
  ['library', 'all claims'],
] as const;
const pane = computed(() => PANES.find(([p]) => p === route.query.pane)?.[0] ?? 'head');
const side = computed<Side>(() => (route.query.side === 'exhaust' ? 'exhaust' : 'intake'));
const sided = computed(() => pane.value === 'head' || pane.value === 'sources');
const put = (change: Record<string, string | undefined>) =>
  void router.replace({ query: { ...route.query, ...change } });
</script>

<template>
  <section v-if="whole && stage">
    <header :class="{ 'no-print': pane === 'library' }">
      <h1 class="unseen">Claims about {{ whole.head.name }}</h1>
      <HeadInHand step="claims" :whole="whole" :stage="stage" @stage="toStage" />
      <ChoiceRow
        v-if="sided"
        label="Side"
        :model-value="side"
        :options="SIDES.map((s) => [s, s] as const)"
        @update:model-value="put({ side: $event === 'exhaust' ? $event : undefined })"
      />
      <TabRow
        class="panes no-print"
        label="What is shown"
        :model-value="pane"
        :options="PANES"
        @update:model-value="put({ pane: $event === 'head' ? undefined : $event })"
      />
    </header>
    <DynoNote :whole="whole" />
    <template v-if="claims.ready.value">
      <HeadClaims v-if="pane === 'head'" :claims="claims" :whole="whole" :stage="stage" :side="side" />
      <SamePane v-else-if="pane === 'same'" :claims="claims" :whole="whole" :stage="stage" />
      <QuestionsPane v-else-if="pane === 'questions'" :claims="claims" :whole="whole" />
      <SourcesPane v-else-if="pane === 'sources'" :claims="claims" :side="side" />
      <AuditPane v-else />
    </template>
    <WaitingNote v-else :loading="!claims.error.value" :error="claims.error.value" />
  </section>
  <NoHead v-else :loading="loading" :error="error" />
</template>

<style scoped>
header {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 22px;
  align-items: baseline;
  margin-bottom: 12px;
}
.panes {
  margin-left: auto;
}
</style>
