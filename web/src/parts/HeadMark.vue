<script setup lang="ts">
import { computed } from 'vue';
import { markOf, markPath } from '../charts/marks.js';

const props = defineProps<{ index: number; colour?: string }>();
const mark = computed(() => markOf(props.index));
</script>

<template>
  <svg width="30" height="12" viewBox="-15 -6 30 12" aria-hidden="true">
    <line x1="-14" x2="14" :stroke="colour ?? 'var(--ink)'" :stroke-dasharray="mark.dash" :stroke-width="mark.width" />
    <path :d="markPath(mark, 36)" fill="var(--paper)" :stroke="colour ?? 'var(--ink)'" stroke-width="1.4" />
  </svg>
</template>
