<script setup lang="ts">
import EmptyNote from './EmptyNote.vue';
import WaitingNote from './WaitingNote.vue';

/** No build is there to work for, or nobody knows yet. */
defineProps<{ loading: boolean; error: string }>();
</script>

<template>
  <WaitingNote :loading="loading" :error="error">
    <EmptyNote>
      Say first which engine it is for:
      <RouterLink :to="{ name: 'target', query: { new: '1' } }">a new build</RouterLink>
      .
    </EmptyNote>
  </WaitingNote>
</template>
