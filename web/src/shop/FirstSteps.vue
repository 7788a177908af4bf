<script setup lang="ts">
import { inDemo, lookAround, useWay } from '../data/around.js';
import FilePick from '../parts/FilePick.vue';
import { useExchange } from '../exchange/exchange.js';

/** An empty shop: three ways to begin, none of which has to come first. */
const exchange = useExchange();
const EXAMPLES = [
  ['flow-sheet.csv', 'a flow sheet, CSV'],
  ['flow-sheet.xlsx', 'the same as XLSX'],
  ['shop.json', 'a whole shop: engines, heads, sheets'],
] as const;
const { going, problem, go } = useWay(lookAround);
</script>

<template>
  <section class="first">
    <p class="reading">Nothing is here yet. Begin with what you have.</p>
    <ol>
      <li>
        <RouterLink :to="{ name: 'target', query: { new: '1' } }">An engine</RouterLink>
        <span class="note">bore, stroke, the power you want: every head is then read against it</span>
      </li>
      <li>
        <RouterLink :to="{ name: 'heads', query: { new: '1' } }">A head</RouterLink>
        <span class="note">look it over, measure it, flow it, compare it: no engine is needed for that</span>
      </li>
      <li>
        <FilePick accept=".json,.csv,.tsv,.txt,.xlsx" @files="$event[0] && exchange.take($event[0])">A file</FilePick>
        <span class="note">a flow sheet, or a whole shop; or drop it anywhere on this page</span>
      </li>
      <li v-if="!inDemo()">
        <el-button link :loading="going" @click="go">Look around</el-button>
        <span class="note">
          an invented shop with engines, heads and tests, kept apart from yours; leave it when you like
        </span>
        <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
      </li>
    </ol>
    <p class="note">
      Files to try it with:
      <template v-for="([file, words], i) in EXAMPLES" :key="file">
        <a :href="`/examples/${file}`" download>{{ words }}</a>
        {{ i < EXAMPLES.length - 1 ? '·' : '' }}
      </template>
    </p>
  </section>
</template>

<style scoped>
.first {
  max-width: 720px;
  padding-left: 74px;
}
ol {
  list-style: none;
  margin: 18px 0;
  padding: 0;
}
li {
  padding: 9px 0;
  border-bottom: 1px solid var(--rule);
}
li a,
li .el-button,
li :deep(label) {
  display: inline-block;
  min-width: 90px;
  font-weight: 600;
  color: inherit;
}
.note {
  margin-left: 10px;
}
</style>
