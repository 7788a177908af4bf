<script setup lang="ts">
import { compareSetups, type Side } from '@alluvium/core';
import type { Source } from '@alluvium/records';
import { computed } from 'vue';
import type { Flowed } from './CompareCharts.vue';
import { setupFacts } from './facts.js';

// props.flowed[]!: one value for each head.

/** What of the set-ups is alike, what is not, and what nobody knows. */
const props = defineProps<{ flowed: readonly Flowed[]; side: Side; sources: readonly Source[] }>();
const alike = computed(() => compareSetups(setupFacts(props.flowed, props.side, props.sources)));
const apart = computed(() =>
  alike.value.unequal.map((u) => {
    const groups = new Map<string, string[]>();
    u.values.forEach((v, i) =>
      groups.set(v ?? 'unknown', [...(groups.get(v ?? 'unknown') ?? []), props.flowed[i]!.letter]),
    );
    const mind = u.what === 'depression' ? ', brought to 28 in' : u.what === 'exhaust' ? ', not compared' : '';
    return `${u.what}: ${[...groups].map(([v, l]) => `${l.join(' ')} ${v}`).join(', ')}${mind}`;
  }),
);
</script>

<template>
  <div>
    <p class="equal">
      <b>Equal</b>
      {{ alike.equal.join(' · ') || 'nothing that is known' }}
    </p>
    <p v-for="a in apart" :key="a" class="equal caution">
      <b>Not equal</b>
      {{ a }}
    </p>
    <p v-if="alike.unknown.length" class="equal caution">
      <b>Unknown for some</b>
      {{ alike.unknown.join(', ') }}
    </p>
  </div>
</template>

<style scoped>
.equal {
  margin: 0 0 4px;
  font-size: 14px;
}
.equal b {
  font-weight: 600;
}
</style>
