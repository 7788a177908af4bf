<script setup lang="ts">
/** No head is in hand, or the one asked for is not there. */
defineProps<{ error: string }>();
</script>

<template>
  <p v-if="error" class="reading">
    {{ error }}
    <RouterLink to="/heads">All heads</RouterLink>
  </p>
  <p v-else class="reading">
    No head is in hand. Open one under
    <RouterLink to="/heads">Heads</RouterLink>
    , or put some in the lineup.
  </p>
</template>
