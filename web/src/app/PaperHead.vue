<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import { useActiveBuild } from '../data/build.js';
import { today } from '../data/today.js';
import { useListOf, useWholeHead } from '../data/queries.js';
import { HEAD_PAGES } from './router.js';

/** What stands over every printed page: the shop, the page, the engine, the head, the day. */
const route = useRoute();
const { active } = useActiveBuild();
const letterheads = useListOf('letterhead');
const shop = computed(() => letterheads.data.value?.[0]?.name ?? '');
const head = useWholeHead(() => (HEAD_PAGES.has(String(route.name)) ? String(route.params.id ?? '') : ''));
const day = ref(today());
useEventListener('beforeprint', () => (day.value = today()));
const facts = computed(() =>
  [String(route.meta.title), active.value?.build.name, head.data.value?.head.name, day.value].filter(Boolean),
);
</script>

<template>
  <!-- As generated text: on the screen it is not there at all. -->
  <p v-if="!route.meta.ownPaper" class="paper-head" :data-shop="shop || 'Alluvium'" :data-facts="facts.join('   ')" />
</template>

<style scoped>
.paper-head {
  display: none;
}
@media print {
  .paper-head {
    display: block;
    white-space: pre-wrap;
    margin: 0 0 10px;
    padding-bottom: 4px;
    border-bottom: 1px solid #000;
  }
  .paper-head::before {
    content: attr(data-shop) '   ';
    font-weight: 600;
  }
  .paper-head::after {
    content: attr(data-facts);
  }
}
</style>
