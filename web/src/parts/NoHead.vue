<script setup lang="ts">
import EmptyNote from './EmptyNote.vue';
import WaitingNote from './WaitingNote.vue';

/** No head is in hand, or the one asked for is not there, or nobody knows yet. */
defineProps<{ loading: boolean; error: string }>();
</script>

<template>
  <WaitingNote :loading="loading" :error="error">
    <template #way><RouterLink to="/heads">All heads</RouterLink></template>
    <EmptyNote>
      No head is in hand. Open one under
      <RouterLink to="/heads">Heads</RouterLink>
      , or put some in the lineup.
    </EmptyNote>
  </WaitingNote>
</template>
