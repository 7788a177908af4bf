<script setup lang="ts">
import type { Block } from '@alluvium/records';
import WideFrame from '../parts/WideFrame.vue';

/** One block of a report on the page. */
defineProps<{ block: Block }>();
</script>

<template>
  <p v-if="block.kind === 'text'" class="words" :class="block.tone">{{ block.text }}</p>
  <ul v-else-if="block.kind === 'list'">
    <li v-for="item in block.items" :key="item">{{ item }}</li>
  </ul>
  <figure v-else-if="block.kind === 'picture'" class="picture">
    <figcaption class="note">{{ block.title }}</figcaption>
    <!-- eslint-disable-next-line vue/no-v-html -- drawn by the report itself, which escapes every name -->
    <WideFrame :label="block.title"><div v-html="block.svg" /></WideFrame>
  </figure>
  <WideFrame v-else>
    <table class="ruled">
      <thead>
        <tr>
          <th v-for="(h, i) in block.head" :key="i" :class="{ num: block.numeric.includes(i) }">{{ h }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, r) in block.rows" :key="r">
          <td v-for="(_, i) in block.head" :key="i" :class="{ num: block.numeric.includes(i) }">{{ row[i] }}</td>
        </tr>
      </tbody>
    </table>
  </WideFrame>
</template>

<style scoped>
.words {
  margin: 2px 0;
}
.lead {
  font-weight: 600;
}
.note {
  color: var(--slate);
}
.picture {
  margin: 4px 0;
  max-width: 640px;
}
.picture :deep(svg) {
  min-width: 460px;
  width: 100%;
  height: auto;
}
ul {
  margin: 2px 0;
  padding-left: 18px;
}
</style>
