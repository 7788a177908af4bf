<script setup lang="ts">
import type { WholeHead } from '@alluvium/records';
import { computed, ref } from 'vue';
import { useListOf, useRecords } from '../data/queries.js';
import WaitingNote from '../parts/WaitingNote.vue';
import ChoiceRow from '../parts/ChoiceRow.vue';
import QuestionForm from './QuestionForm.vue';
import { useEvidence } from './evidence.js';
import type { Claims } from './useClaims.js';

/** Claims and rumours in one line, put to the test, and what settled them. */
const props = defineProps<{ claims: Claims; whole: WholeHead }>();
const query = useListOf('question');
const all = computed(() => query.data.value ?? []);
const which = ref<'here' | 'all'>('all');
const open = ref<string>();
const shown = computed(() =>
  all.value
    .filter((q) => which.value === 'all' || q.headId === props.whole.head.id)
    .sort(
      (a, b) =>
        Number(b.state === 'open') - Number(a.state === 'open') || (b.opened ?? '').localeCompare(a.opened ?? ''),
    ),
);
const source = (id: string | null) => props.claims.sources.value.find((s) => s.id === id)?.name;
const about = useRecords(() =>
  [...new Set(all.value.flatMap((q) => q.headId ?? []))].map((id) => ({ noun: 'head' as const, id })),
);
const head = (id: string | null) => about.value.find((q) => q.data?.id === id)?.data?.name;
const evidence = useEvidence(() => all.value.flatMap((q) => q.evidence));
const STATE_WORDS = { open: 'open', true: 'true', false: 'false', unproven: 'unproven' } as const;
</script>

<template>
  <div class="questions">
    <p class="acts no-print">
      <ChoiceRow
        v-model="which"
        label="Whose questions"
        :options="[
          ['all', 'every head'],
          ['here', `${whole.head.name} only`],
        ]"
      />
      <el-button v-if="open !== 'new'" link @click="open = 'new'">Ask a question</el-button>
    </p>
    <QuestionForm v-if="open === 'new'" :claims="claims" :whole="whole" @done="open = undefined" />
    <WaitingNote v-if="!query.data.value" :loading="query.isPending.value" :error="query.error.value?.message ?? ''" />
    <p v-else-if="shown.length === 0 && open !== 'new'" class="reading">
      No question yet. Write a claim or a rumour in one line, and close it as true, false or unproven when there is
      evidence: “the late casting bolts on in place of the early one”.
    </p>
    <article v-for="q in shown" :key="q.id">
      <QuestionForm v-if="open === q.id" :claims="claims" :whole="whole" :question="q" @done="open = undefined" />
      <template v-else>
        <h2>
          <span class="state" :class="q.state">{{ STATE_WORDS[q.state] }}</span>
          {{ q.text }}
          <el-button
            link
            class="no-print"
            :aria-label="`${q.state === 'open' ? 'Settle it' : 'Edit'}: “${q.text}”`"
            @click="open = q.id"
          >
            {{ q.state === 'open' ? 'Settle it' : 'Edit' }}
          </el-button>
        </h2>
        <p class="note">
          {{
            [
              head(q.headId),
              source(q.sourceId) && `said by ${source(q.sourceId)}`,
              q.opened && `put ${q.opened}`,
              q.closed && `closed ${q.closed}`,
            ]
              .filter(Boolean)
              .join(' · ')
          }}
        </p>
        <p v-if="q.reasons" class="reading">{{ q.reasons }}</p>
        <ul v-if="q.evidence.length">
          <li v-for="(e, i) in q.evidence.map(evidence)" :key="i">
            <RouterLink v-if="e.to" :to="e.to">{{ e.text }}</RouterLink>
            <span v-else class="quiet">{{ e.text }}</span>
          </li>
        </ul>
      </template>
    </article>
  </div>
</template>

<style scoped>
.questions {
  max-width: 900px;
}
.acts {
  display: flex;
  gap: 30px;
  margin: 0 0 12px;
}
article {
  border-top: 1px solid var(--rule);
  padding: 10px 0;
}
h2 {
  display: flex;
  gap: 12px;
  align-items: baseline;
}
h2 button {
  margin-left: auto;
  font-size: 14px;
  font-weight: 400;
}
p {
  margin: 3px 0;
}
ul {
  margin: 4px 0 0;
  padding-left: 18px;
}
.state {
  flex: none;
  min-width: 70px;
  font: italic 16px var(--serif);
  color: var(--caution);
}
.state.true {
  color: var(--gain);
}
.state.false {
  color: var(--loss);
}
.state.unproven {
  color: var(--slate);
}
</style>
