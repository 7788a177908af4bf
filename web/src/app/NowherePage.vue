<script setup lang="ts">
import EmptyNote from '../parts/EmptyNote.vue';
</script>

<template>
  <section>
    <h1>There is nothing at this address</h1>
    <EmptyNote>
      The river does not run here.
      <RouterLink to="/heads">Back to the heads.</RouterLink>
    </EmptyNote>
  </section>
</template>
