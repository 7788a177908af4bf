<script setup lang="ts">
import { arrivalObjections, capital } from '@alluvium/core';
import { computed } from 'vue';
import type { CompareHead } from '../data/comparison.js';

/** What arrival holds against a head, beside every verdict on it. Nothing when nothing stands against it. */
const props = defineProps<{ head: CompareHead; named?: boolean }>();
const sentences = computed(() => [
  ...arrivalObjections(props.head.arrival),
  ...props.head.leftOut.map((l) => `${capital(l.port)} is left out: ${l.reason}.`),
]);
</script>

<template>
  <p v-if="sentences.length" class="arrival-note" :class="{ loss: head.arrival.condition === 'rejected' }">
    <b v-if="named">{{ head.letter }}</b>
    {{ sentences.join(' ') }}
    <RouterLink :to="{ name: 'arrival', params: { id: head.whole.head.id }, query: { stage: head.stage.id } }">
      arrival
    </RouterLink>
  </p>
</template>

<style scoped>
.arrival-note {
  margin: 2px 0 6px;
  color: var(--caution);
}
.arrival-note.loss {
  color: var(--loss);
}
</style>
