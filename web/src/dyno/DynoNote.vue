<script setup lang="ts">
import { CAUSE_WORDS } from '@alluvium/core';
import type { WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import { usePulls } from '../data/queries.js';

/** What a dyno found of this head before: where the next look at it starts. */
const props = defineProps<{ whole: Pick<WholeHead, 'stages'> }>();
const pulls = usePulls();
const found = computed(() =>
  (pulls.data.value ?? []).filter((p) => p.cause !== null && props.whole.stages.some((s) => s.id === p.stageId)),
);
</script>

<template>
  <p v-for="p in found" :key="p.id" class="caution">
    On the dyno{{ p.date ? ` on ${p.date}` : '' }} it fell short: {{ CAUSE_WORDS[p.cause!]
    }}{{ p.causeNote ? ` (${p.causeNote})` : '' }}.
    <RouterLink :to="{ name: 'dyno', query: { build: p.buildId, pull: p.id } }">{{ p.title }}</RouterLink>
  </p>
</template>
