<script setup lang="ts">
import { pullSheetOf } from '@alluvium/records';
import { computed } from 'vue';
import { useSettings } from '../state/settings.js';
import type { PullRead } from './useDyno.js';

/** The pull on paper: what was on the engine, the air, and its rows. On the screen its form says the same. */
const props = defineProps<{
  read: PullRead;
  /** `facts` stand above the chart, `rows` below it. */
  part: 'facts' | 'rows';
}>();
const settings = useSettings();
const sheet = computed(() => {
  const { pull, whole } = props.read;
  const stage = whole?.stages.find((s) => s.id === pull.stageId);
  return pullSheetOf(pull, whole ? `${whole.head.name}${stage ? `, ${stage.name}` : ''}` : '', settings.say);
});
/** Two columns of rows, so that they fit under the chart. */
const halves = computed(() => {
  const half = Math.ceil(sheet.value.rows.length / 2);
  return [sheet.value.rows.slice(0, half), sheet.value.rows.slice(half)].filter((h) => h.length > 0);
});
</script>

<template>
  <div v-if="part === 'facts'" class="print-only">
    <h2>{{ read.pull.title }}</h2>
    <dl>
      <div v-for="[what, said] in sheet.facts" :key="what">
        <dt>{{ what }}</dt>
        <dd>{{ said }}</dd>
      </div>
    </dl>
  </div>
  <div v-else class="print-only">
    <h2>
      As read
      <span v-if="sheet.every > 1" class="note">one row in {{ sheet.every }}</span>
    </h2>
    <div class="halves">
      <table v-for="(half, i) in halves" :key="i" class="ruled">
        <thead>
          <tr>
            <th v-for="h in sheet.head" :key="h" class="num">{{ h }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, r) in half" :key="r">
            <td v-for="(cell, c) in row" :key="c" class="num">{{ cell }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 1px 24px;
  margin: 4px 0;
  font-size: 13px;
}
dl div {
  display: flex;
  gap: 10px;
}
dt {
  color: var(--slate);
  min-width: 110px;
}
dd {
  margin: 0;
}
.halves {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 24px;
  align-items: start;
  font-size: 12px;
}
.halves td,
.halves th {
  padding: 1px 4px;
}
</style>
