<script setup lang="ts">
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import EyePane from '../bench/EyePane.vue';
import TabRow from '../parts/TabRow.vue';
import CallAnywhere from './CallAnywhere.vue';
import RoundsPane from './RoundsPane.vue';

/** The trained eye: rounds of practice on the shop's own heads, and calls before a test with how they came out. */
const route = useRoute();
const router = useRouter();
const pane = computed(() => (route.query.pane === 'calls' ? 'calls' : 'rounds'));
</script>

<template>
  <section>
    <header>
      <h1>The trained eye</h1>
      <span class="note">what a look at a port is worth, and how it gets better</span>
      <TabRow
        class="tabs"
        label="What is shown"
        :model-value="pane"
        :options="[
          ['rounds', 'practice'],
          ['calls', 'calls'],
        ]"
        @update:model-value="router.replace({ query: { ...route.query, pane: $event } })"
      />
    </header>
    <RoundsPane v-if="pane === 'rounds'" />
    <template v-else>
      <CallAnywhere />
      <h2>How calls came out</h2>
      <EyePane />
    </template>
  </section>
</template>

<style scoped>
header {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 20px;
  align-items: baseline;
}
.tabs {
  margin-left: auto;
}
</style>
