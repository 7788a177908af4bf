<script setup lang="ts">
import { changeOf, uncertaintyOf, worthOf, type LeafBook, type Working } from '@alluvium/core';
import { computed } from 'vue';
import { useSettings } from '../state/settings.js';

/** How sure a number is, what makes it unsure (largest first), and what a little more of each input is worth. */
const props = defineProps<{ working: Working; book?: LeafBook | undefined }>();
const settings = useSettings();
const sure = computed(() => uncertaintyOf(props.working, props.book, settings.say));
const worth = computed(() => worthOf(props.working, settings.say));
const SHOWN = 8;
</script>

<template>
  <section class="budget">
    <template v-if="sure">
      <h3>
        Uncertainty
        <span class="result">{{ sure.text }}</span>
      </h3>
      <table>
        <tbody>
          <tr v-for="s in sure.budget.shares.slice(0, SHOWN)" :key="s.leaf.id">
            <td>
              {{ s.leaf.label }}
              <span class="note">· {{ s.leaf.source }}</span>
              <span class="bar" :style="{ width: `${100 * s.share}%` }" />
            </td>
            <td class="num">
              {{
                changeOf({ ...s.leaf, kind: working.method.result.kind }, Math.abs(s.change), settings.say).replace(
                  '+',
                  '±',
                )
              }}
            </td>
            <td class="num share">{{ Math.round(100 * s.share) }} %</td>
          </tr>
        </tbody>
      </table>
      <p class="note">One standard deviation. Each bar is that line’s share of the variance.</p>
    </template>
    <p v-else-if="book" class="note">What it rests on is taken as given.</p>
    <p v-else class="note">How sure this is, is not worked out here.</p>
    <p v-if="worth.length" class="note">{{ worth.join('; ') }}.</p>
  </section>
</template>

<style scoped>
.budget {
  margin-bottom: 16px;
  padding-bottom: 10px;
  border-bottom: 1px solid var(--rule);
}
h3 {
  display: flex;
  justify-content: space-between;
  margin: 0 0 6px;
}
table {
  width: 100%;
  border-collapse: collapse;
}
td {
  padding: 3px 0;
  vertical-align: top;
}
td.num {
  padding-left: 10px;
  text-align: right;
  white-space: nowrap;
}
.share {
  width: 48px;
  color: var(--slate);
}
.bar {
  display: block;
  height: 4px;
  margin-top: 2px;
  background: var(--water);
}
p {
  margin: 6px 0 0;
}
</style>
