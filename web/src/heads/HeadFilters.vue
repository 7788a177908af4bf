<script setup lang="ts">
import { HEAD_KINDS, MATERIALS } from '@alluvium/records';
import { computed } from 'vue';
import { useTags } from '../data/queries.js';
import ChoiceField from '../parts/ChoiceField.vue';
import type { HeadSearch } from './useHeadSearch.js';

/** What the heads of the library are found by. */
const props = defineProps<{ by: HeadSearch }>();
const { search, kind, material, sort, tag, archived } = props.by;
const used = useTags();
const tags = computed(() => [
  ['', 'any'] as const,
  ...(used.data.value ?? []).map((t) => [t.tag, `${t.tag} (${t.heads})`] as const),
]);
const any = <T extends string>(list: readonly T[]) => [['', 'any'] as const, ...list.map((v) => [v, v] as const)];
</script>

<template>
  <div class="filters">
    <div class="search">
      <label for="search">Search</label>
      <el-input id="search" v-model="search" placeholder="name, maker, number" clearable />
    </div>
    <ChoiceField v-model="kind" label="Kind" :options="any(HEAD_KINDS)" />
    <ChoiceField v-model="material" label="Material" :options="any(MATERIALS)" />
    <ChoiceField
      v-model="sort"
      label="Sort by"
      :options="[
        ['name', 'name'],
        ['maker', 'maker'],
        ['price', 'price'],
      ]"
    />
    <ChoiceField v-if="tags.length > 1" v-model="tag" label="Tag" :options="tags" />
    <ChoiceField
      v-model="archived"
      label="Shelf"
      :options="[
        ['no', 'in the library'],
        ['only', 'archive'],
      ]"
    />
  </div>
</template>

<style scoped>
.filters {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  margin: 10px 0 16px;
  max-width: 940px;
}
.filters > * {
  flex: 1 1 120px;
}
.filters > .search {
  flex: 2 1 240px;
}
.search label {
  color: var(--slate);
  font-size: 14px;
}
</style>
