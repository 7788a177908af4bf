<script setup lang="ts">
import type { Side } from '@alluvium/core';
import { computed } from 'vue';
import type { CompareHead } from '../data/comparison.js';
import HeadMark from '../parts/HeadMark.vue';
import { useSettings } from '../state/settings.js';
import SheetChoice from './SheetChoice.vue';

/** The heads that are shown, each with the sheet that speaks for it; and those that have nothing to draw. */
const props = defineProps<{ shown: readonly CompareHead[]; all: readonly CompareHead[]; side: Side }>();
const settings = useSettings();
const silent = computed(() => props.shown.filter((h) => !h.result?.[props.side].curve));
/** Heads without a curve: nothing known, or one row, which is a point and no curve. */
const silentWords = computed(() =>
  silent.value
    .map((h) => {
      const [only] = h.result?.[props.side].points ?? [];
      return `${h.letter} ${h.name}: ${only ? `one row, ${settings.say.of(only.flow.value, 'flow')} at ${settings.say.of(only.lift, 'lift')}; no curve is drawn through one point` : `no ${props.side} flow at this stage`}.`;
    })
    .join(' '),
);
</script>

<template>
  <div>
    <table class="ruled key">
      <tbody>
        <tr v-for="h in shown" :key="h.id">
          <td><HeadMark :index="h.index" /></td>
          <td>{{ h.letter }} {{ h.name }}</td>
          <td><SheetChoice :head="h" :all="all" /></td>
        </tr>
      </tbody>
    </table>
    <p v-if="silent.length" class="note">
      {{ silentWords }}
    </p>
  </div>
</template>

<style scoped>
.key {
  font-size: 14px;
}
.key td {
  max-width: 190px;
}
</style>
