<script setup lang="ts">
import { refDebounced } from '@vueuse/core';
import { computed } from 'vue';
import { useHealth } from '../data/care.js';
import { useReach } from '../data/reach.js';
import { clockIsBehind } from '../data/today.js';
import { clockWords } from '../parts/moment.js';

/** Said on every page: the server is away or in trouble, or this machine's clock cannot be right. */
const { away, since, damaged } = useReach();
const health = useHealth();
const trouble = computed(() => {
  const now = health.data.value;
  return now && now.status !== 'ok' ? now : undefined;
});
/** A start that takes a moment is not told as an outage. */
const gone = refDebounced(away, 800);
const at = computed(() => since.value && clockWords(since.value));
</script>

<template>
  <p v-if="away && gone && !damaged" class="away no-print" role="status">
    <b>The server does not answer</b>
    {{ at ? `since ${at}` : '' }}. What is on screen is as it was then; what you type is kept in this browser.
    Everything goes on by itself when it is back.
  </p>
  <p v-else-if="trouble && !damaged" class="away no-print" role="alert">
    <template v-if="trouble.status === 'damaged'">
      <b>A part of the library is damaged.</b>
      {{ trouble.detail }}
      <RouterLink :to="{ name: 'backups' }">See the backups</RouterLink>
    </template>
    <template v-else>{{ trouble.detail }}</template>
  </p>
  <p v-else-if="clockIsBehind()" class="away no-print" role="status">
    This machine’s clock stands before the day of the last saved work. New work is dated that day; set the clock right.
  </p>
</template>

<style scoped>
.away {
  margin: 0;
  padding: 5px 20px;
  background: var(--paper-deep);
  border-bottom: 2px solid var(--caution-line);
  color: var(--ink);
  overflow-wrap: anywhere;
}
</style>
