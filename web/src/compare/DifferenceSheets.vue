<script setup lang="ts">
import type { Side } from '@alluvium/core';
import { differencePoints, sheetName, type Sheet } from '@alluvium/records';
import { computed } from 'vue';
import DifferenceChart from '../charts/DifferenceChart.vue';
import type { CompareHead } from '../data/comparison.js';
import { useListOf } from '../data/queries.js';
import { onceAStage } from './view.js';

/** Sheets that hold differences only: each drawn about its own baseline, never beside flows. */
const props = defineProps<{ heads: readonly CompareHead[]; side: Side }>();
const sources = useListOf('source');
const found = computed(() =>
  onceAStage(props.heads).flatMap((head) =>
    head.whole.sheets
      .filter((s) => s.stageId === head.stage.id && s.setup.reads === 'difference' && s.setAside === '')
      .flatMap((sheet) => {
        const points = differencePoints(sheet, props.side);
        const base = head.whole.sheets.find((s) => s.id === sheet.baselineId);
        return points.length
          ? [{ head, sheet, sides: [{ side: props.side, points }], baseline: base?.title ?? 'its own baseline' }]
          : [];
      }),
  ),
);
const name = (head: CompareHead, sheet: Sheet) => sheetName(sheet, head.whole.ports, sources.data.value ?? []);
</script>

<template>
  <section v-if="found.length" class="differences" aria-label="Differences only">
    <h2>
      Differences only
      <span class="note">each against its own baseline; they are no flows, and stand beside none</span>
    </h2>
    <article v-for="f in found" :key="f.sheet.id">
      <h3>{{ f.head.letter }} {{ f.head.name }}: {{ name(f.head, f.sheet) }}</h3>
      <DifferenceChart :sides="f.sides" :baseline="f.baseline" />
    </article>
  </section>
</template>

<style scoped>
.differences {
  margin-top: 22px;
}
h3 {
  margin: 6px 0 2px;
}
</style>
