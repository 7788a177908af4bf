<script setup lang="ts">
import HoverNote from '../HoverNote.vue';
import type { GridColumn } from './grid.js';

/** The headings of a grid, with their units. */
defineProps<{ columns: readonly GridColumn<string>[] }>();
</script>

<template>
  <thead>
    <tr>
      <th v-for="c in columns" :key="c.key" scope="col" :class="c.key">
        <HoverNote :says="c.hint">
          <span>
            {{ c.title }}
            <small v-if="c.unit">{{ c.unit }}</small>
          </span>
        </HoverNote>
      </th>
    </tr>
  </thead>
</template>

<style scoped>
th {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--paper);
  color: var(--slate);
  font-weight: 400;
  text-align: right;
  border-bottom: 1px solid var(--rule-strong);
  padding: 2px 4px;
}
th small {
  margin-left: 4px;
}
</style>
