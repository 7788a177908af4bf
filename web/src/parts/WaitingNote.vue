<script setup lang="ts">
import { useTimeoutFn } from '@vueuse/core';
import { ref } from 'vue';
import { useReach } from '../data/reach.js';

/**
 * In place of what is not here: still loading, the server away, refused, and only when none of these the slot, which
 * says that there is none. What waits fills by itself.
 */
defineProps<{ loading: boolean; error: string }>();
const { away } = useReach();
/** A page that is there at once does not flash. */
const slow = ref(false);
useTimeoutFn(() => (slow.value = true), 200);
</script>

<template>
  <p v-if="error" class="reading" role="alert">
    {{ error }}
    <slot name="way" />
  </p>
  <div v-else-if="loading" class="waiting" role="status">
    <p v-if="away" class="reading">The server does not answer. This page fills by itself as soon as it does.</p>
    <template v-else-if="slow">
      <p class="note">Loading …</p>
      <el-skeleton :rows="5" animated />
    </template>
  </div>
  <slot v-else />
</template>

<style scoped>
.waiting {
  min-height: 120px;
}
</style>
