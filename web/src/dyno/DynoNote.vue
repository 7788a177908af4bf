<script setup lang="ts">
import { CAUSE_WORDS } from '@alluvium/core';
import { outcomesFor, type Outcome, type WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import { useListOf, useOutcomes } from '../data/queries.js';
import { useSettings } from '../state/settings.js';

// o.pull.cause!: odd pulls that were explained.

/** What a dyno found of this head, its article and its sources before: where the next look at a claim starts. */
const props = defineProps<{ whole: Pick<WholeHead, 'head' | 'sheets' | 'reports'> }>();
const settings = useSettings();
const outcomes = useOutcomes();
const sources = useListOf('source');
const named = (id: string) => sources.data.value?.find((s) => s.id === id)?.name ?? 'A source of this head’s claims';
const notes = computed(() => {
  const { own, article, source } = outcomesFor(props.whole, outcomes.data.value ?? []);
  const on = ({ pull }: Outcome) => (pull.date ? ` on ${settings.say.day(pull.date)}` : '');
  return [
    ...own.map((o) => [o, `On the dyno${on(o)} it fell short`] as const),
    ...article.map((o) => [o, `${o.head.name}, the same article, fell short on the dyno${on(o)}`] as const),
    ...source.map(
      (o) => [o, `${named(o.sourceId)} spoke of ${o.head.name} too, which fell short on the dyno${on(o)}`] as const,
    ),
  ];
});
</script>

<template>
  <p v-for="[o, words] in notes" :key="o.pull.id" class="caution">
    {{ words }}: {{ CAUSE_WORDS[o.pull.cause!] }}{{ o.pull.causeNote ? ` (${o.pull.causeNote})` : '' }}.
    <RouterLink :to="{ name: 'dyno', query: { build: o.pull.buildId, pull: o.pull.id } }">
      {{ o.pull.title }}
    </RouterLink>
  </p>
</template>
