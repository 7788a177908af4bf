<script setup lang="ts">
import { oddsWords, settlingsOf, type ToSettle } from '@alluvium/core';
import { useStorage } from '@vueuse/core';
import { ElButton, ElCheckbox } from 'element-plus';
import { computed } from 'vue';
import type { CompareHead } from '../data/comparison.js';

/** What would settle the verdicts: a list for the bench, ticked off in this browser and printed. */
const props = defineProps<{ heads: readonly CompareHead[] }>();
const done = useStorage<Record<string, boolean>>('alluvium.settled', {});
const acts = computed(() =>
  props.heads.flatMap((h) => settlingsOf(h.verdict).map((a) => ({ ...a, head: h, key: `${h.stage.id} ${a.act}` }))),
);
const then = (a: ToSettle) =>
  a.odds === undefined
    ? 'lifts what holds the verdict back'
    : `odds then ${oddsWords(a.odds)} if nothing moves · settles it: ${oddsWords(a.decides!)}`;
const print = () => window.print();
</script>

<template>
  <section v-if="acts.length" class="settle" aria-label="What would settle it">
    <h2>
      What would settle it
      <ElButton class="no-print" size="small" @click="print">Print</ElButton>
    </h2>
    <ul>
      <li v-for="a in acts" :key="a.key">
        <ElCheckbox v-model="done[a.key]">
          <b>{{ a.head.letter }}</b>
          {{ a.act }}
        </ElCheckbox>
        <span class="note">about {{ a.minutes }} minutes · {{ then(a) }}</span>
      </li>
    </ul>
    <p class="note">Heads whose verdict is sure need nothing more measured: no reading named here could change it.</p>
  </section>
</template>

<style scoped>
.settle {
  margin-top: 14px;
}
h2 {
  display: flex;
  gap: 14px;
  align-items: center;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  align-items: center;
  padding: 1px 0;
}
</style>
