<script setup lang="ts">
import { isWorthIt, listed, oddsWords, settlingsOf, type ToSettle } from '@alluvium/core';
import { useStorage } from '@vueuse/core';
import { ElButton, ElCheckbox } from 'element-plus';
import { computed } from 'vue';
import type { CompareHead } from '../data/comparison.js';

// a.decides!: it decides, where nothing moves.

/** What would settle the verdicts: a list for the bench, ticked off in this browser and printed. */
const props = defineProps<{ heads: readonly CompareHead[] }>();
const done = useStorage<Record<string, boolean>>('alluvium.settled', {});
const acts = computed(() =>
  props.heads.flatMap((h) => settlingsOf(h.verdict).map((a) => ({ ...a, head: h, key: `${h.stage.id} ${a.act}` }))),
);
const MOST = 5;
const worth = computed(() =>
  props.heads.flatMap((h) => acts.value.filter((a) => a.head === h && isWorthIt(a)).slice(0, MOST)),
);
/** What could be measured and would hardly change anything. */
const idle = computed(() =>
  props.heads.flatMap((h) => {
    const list = acts.value.filter((a) => a.head === h && !isWorthIt(a)).map((a) => a.act);
    return list.length ? [`${h.letter}: ${listed(list)}`] : [];
  }),
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
      <li v-for="a in worth" :key="a.key">
        <ElCheckbox v-model="done[a.key]">
          <b>{{ a.head.letter }}</b>
          {{ a.act }}
        </ElCheckbox>
        <span class="note">about {{ a.minutes }} minutes · {{ then(a) }}</span>
      </li>
    </ul>
    <p v-if="idle.length" class="note">
      Not worth measuring, since it would hardly change the verdict: {{ idle.join('; ') }}.
    </p>
    <p class="note">A head whose verdict is sure needs nothing more measured.</p>
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
