<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { curveNatural, line } from 'd3-shape';
import { computed, defineAsyncComponent, ref, useTemplateRef } from 'vue';
import ChoiceRow from '../parts/ChoiceRow.vue';
import WaitingNote from '../parts/WaitingNote.vue';
import { standingOf, useShop } from '../data/queries.js';
import BuildLine from './BuildLine.vue';
import ShopNotes from './ShopNotes.vue';

// SWAY[]!: the remainder is a place of the list.
// curve()()!: drawn without a canvas, a line is text.

/** Seen once in a shop's life. */
const FirstSteps = defineAsyncComponent(() => import('./FirstSteps.vue'));

/** The shop at a glance: every engine on one river, and beside it what waits. */
const query = useShop();
const { loading, error } = standingOf(query);
const shop = computed(() => query.data.value);
const shelf = ref<'now' | 'archive'>('now');
const builds = computed(() =>
  (shop.value?.builds ?? []).filter((b) => b.build.archived === (shelf.value === 'archive')),
);
const archived = computed(() => (shop.value?.builds ?? []).filter((b) => b.build.archived).length);
const names = computed(() => (shop.value?.builds ?? []).map((b) => b.build.name));
const isEmpty = computed(() => shop.value !== undefined && shop.value.builds.length === 0 && shop.value.heads === 0);

const list = useTemplateRef<HTMLElement>('list');
const { height } = useElementSize(list);
const SWAY = [26, 40, 22, 36];
/** The river runs by the engines as they lie; each stop says how many heads are compared. */
const stops = computed(() => {
  // Asked again whenever the list grows or shrinks.
  void height.value;
  const lines = [...(list.value?.children ?? [])] as HTMLElement[];
  return lines.map((el, i) => ({
    x: SWAY[i % SWAY.length]!,
    y: el.offsetTop + 12,
    heads: builds.value[i]?.heads ?? 0,
  }));
});
const river = computed(() =>
  line<{ x: number; y: number }>()
    .x((s) => s.x)
    .y((s) => s.y)
    .curve(curveNatural)([{ x: 30, y: 0 }, ...stops.value, { x: 30, y: height.value + 40 }])!,
);
const radius = (heads: number) => 8 + 0.6 * Math.min(heads, 8);
</script>

<template>
  <WaitingNote :loading="loading" :error="error">
    <FirstSteps v-if="isEmpty" />
    <section v-else-if="shop" class="shop">
      <div>
        <header class="head">
          <h1>The shop</h1>
          <span class="note">{{ builds.length === 1 ? 'one engine' : `${builds.length} engines` }}</span>
          <ChoiceRow
            v-if="archived > 0"
            v-model="shelf"
            label="Which engines"
            :options="[
              ['now', 'in hand'],
              ['archive', `archive (${archived})`],
            ]"
          />
          <span class="actions">
            <RouterLink :to="{ name: 'target', query: { new: '1' } }">New build</RouterLink>
            <RouterLink :to="{ name: 'heads', query: { new: '1' } }">New head</RouterLink>
          </span>
        </header>
        <p v-if="builds.length === 0" class="reading">
          {{
            shelf === 'archive'
              ? 'Nothing is archived.'
              : 'No engine in hand: heads can be looked at, measured and flowed without one.'
          }}
        </p>
        <div class="river">
          <svg :height="height" width="64" aria-hidden="true">
            <path :d="river" fill="none" stroke="var(--water)" stroke-width="13" stroke-linecap="round" />
            <path :d="river" fill="none" stroke="var(--slate)" stroke-width="1" />
            <circle
              v-for="(s, i) in stops"
              :key="i"
              :cx="s.x"
              :cy="s.y"
              :r="radius(s.heads)"
              fill="var(--paper)"
              stroke="var(--ink)"
              stroke-width="1.6"
            />
            <text v-for="(s, i) in stops" :key="`n${i}`" :x="s.x" :y="s.y + 4" text-anchor="middle">
              {{ s.heads || '' }}
            </text>
          </svg>
          <ul ref="list">
            <BuildLine v-for="b in builds" :key="b.build.id" :build="b.build" :decided="b.decided" :names="names" />
          </ul>
        </div>
      </div>
      <ShopNotes :shop="shop" />
    </section>
  </WaitingNote>
</template>

<style scoped>
.shop {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: 34px;
}
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 18px;
  padding-bottom: 14px;
}
.actions {
  display: flex;
  gap: 16px;
  margin-left: auto;
}
.river {
  position: relative;
}
svg {
  position: absolute;
  left: 0;
  top: 0;
}
svg text {
  font: 600 12px var(--sans);
  fill: var(--ink);
}
ul {
  position: relative;
  list-style: none;
  margin: 0;
  padding: 0 0 0 74px;
}
@media (width < 900px) {
  .shop {
    grid-template-columns: minmax(0, 1fr);
  }
  ul {
    padding-left: 58px;
  }
}
@media print {
  svg {
    display: none;
  }
  ul {
    padding-left: 0;
  }
}
</style>
