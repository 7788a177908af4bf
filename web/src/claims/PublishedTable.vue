<script setup lang="ts">
import { flowGain, formatNumber, work } from '@alluvium/core';
import type { Publications } from '@alluvium/records';
import { computed } from 'vue';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import WideFrame from '../parts/WideFrame.vue';
import HoverNote from '../parts/HoverNote.vue';

// laid[]!: a row has one cell for each sheet.

/** What several sources say of one head at one stage, lift by lift, and how far they lie apart. */
const props = defineProps<{ published: Publications }>();
const settings = useSettings();
/** Against the first of them, in per cent. */
const share = (other: number | undefined, base: number | undefined) =>
  other !== undefined && base !== undefined && base > 0 ? work(flowGain, { other, base }) : null;
const laid = computed(() => props.published.tables.filter((t) => t.apart === ''));
const apart = computed(() => props.published.tables.filter((t) => t.apart !== ''));
</script>

<template>
  <section class="published">
    <h2>Side by side, {{ published.side }}</h2>
    <WideFrame v-if="published.rows.length">
      <table class="ruled">
        <thead>
          <tr>
            <th>lift</th>
            <th v-for="t in laid" :key="t.sheet.id" class="num">
              <HoverNote :says="t.sheet.title">
                <span>{{ t.source }}</span>
              </HoverNote>
            </th>
            <th class="num">apart, %</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in published.rows" :key="r.lift">
            <td>{{ formatNumber(r.lift, 'lift', settings.figures) }}</td>
            <td v-for="(q, i) in r.flows" :key="laid[i]!.sheet.id" class="num">
              {{ q === undefined ? '–' : formatNumber(q, 'flow', settings.figures) }}
              <span v-if="i > 0" class="share">
                <WorkedNumber :working="share(q, r.flows[0])" signed :digits="1" />
              </span>
            </td>
            <td class="num"><WorkedNumber :working="r.spread ?? null" :digits="1" /></td>
          </tr>
        </tbody>
      </table>
    </WideFrame>
    <p v-for="t in apart" :key="t.sheet.id" class="note">
      {{ t.source }}, “{{ t.sheet.title }}”, is left out. {{ t.apart }}
    </p>
  </section>
</template>

<style scoped>
.published {
  max-width: 900px;
  margin-bottom: 26px;
}
.share {
  margin-left: 6px;
  color: var(--slate);
}
.note {
  margin: 6px 0 0;
}
</style>
