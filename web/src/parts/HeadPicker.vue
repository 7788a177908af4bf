<script setup lang="ts">
import { refDebounced } from '@vueuse/core';
import { computed, ref, useId } from 'vue';
import { useHeadOf, useLibrary } from '../data/queries.js';

/** Any head of the library, found by typing; the list says how many more there are. */
const props = defineProps<{
  label: string;
  /** Offered before the heads: a new one, none at all. */
  others?: readonly (readonly [string, string])[];
  hideLabel?: boolean;
}>();
const id = defineModel<string>({ required: true });
const field = useId();
const search = ref('');
const settled = refDebounced(search, 150);
const SIZE = 50;
const library = useLibrary(() => ({ search: settled.value, size: SIZE }));
const named = (h: { name: string; maker: string }) => `${h.name}${h.maker ? `, ${h.maker}` : ''}`;
/** The head chosen may be on another page of the library. */
const chosen = useHeadOf(() => (props.others?.some(([other]) => other === id.value) ? '' : id.value));
const options = computed(() => {
  const found = (library.data.value?.items ?? []).map(({ head }) => [head.id, named(head)] as const);
  const here = chosen.data.value;
  const all = [...(search.value ? [] : (props.others ?? [])), ...found];
  return here && !all.some(([other]) => other === here.id) ? [...all, [here.id, named(here)] as const] : all;
});
const more = computed(() => Math.max(0, (library.data.value?.total ?? 0) - SIZE));
</script>

<template>
  <div class="field">
    <label :for="field" :class="{ unseen: hideLabel }">{{ label }}</label>
    <el-select
      :id="field"
      v-model="id"
      filterable
      remote
      :remote-method="(text: string) => (search = text)"
      :loading="library.isPending.value"
      placeholder="–"
      loading-text="Loading …"
      no-match-text="No head of that name"
      no-data-text="No head of that name"
      :aria-label="label"
    >
      <el-option v-for="[value, name] in options" :key="value" :value="value" :label="name" />
      <template v-if="more > 0" #footer>
        <span class="note">{{ more }} more: type part of the name</span>
      </template>
    </el-select>
  </div>
</template>

<style scoped>
label:not(.unseen) {
  display: block;
  color: var(--slate);
  font-size: 14px;
}
</style>
