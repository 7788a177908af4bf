<script setup lang="ts">
import WaitingNote from './WaitingNote.vue';

/** No head is in hand, or the one asked for is not there, or nobody knows yet. */
defineProps<{ loading: boolean; error: string }>();
</script>

<template>
  <WaitingNote :loading="loading" :error="error">
    <template #way><RouterLink to="/heads">All heads</RouterLink></template>
    <p class="reading">
      No head is in hand. Open one under
      <RouterLink to="/heads">Heads</RouterLink>
      , or put some in the lineup.
    </p>
  </WaitingNote>
</template>
