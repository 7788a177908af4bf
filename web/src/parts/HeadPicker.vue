<script setup lang="ts">
import { refDebounced } from '@vueuse/core';
import { computed, ref, useId } from 'vue';
import { addition } from '@alluvium/records';
import { useHeadOf, useLibrary } from '../data/queries.js';
import { useChange } from '../data/useChange.js';
import { NEW, idsToMake, isNew, newName } from './newNamed.js';

/**
 * Any head of the library, found by typing; the list says how many more there are. A name no head has is offered to be made
 * one.
 */
const props = withDefaults(
  defineProps<{
    label: string;
    /** Offered before the heads: a new one, none at all. */
    others?: readonly (readonly [string, string])[];
    hideLabel?: boolean;
    /** Whether a new one can be made here. */
    makes?: boolean;
  }>(),
  { others: () => [], makes: true },
);
const id = defineModel<string>({ required: true });
const field = useId();
const search = ref('');
const settled = refDebounced(search, 150);
const SIZE = 50;
const library = useLibrary(() => ({ search: settled.value, size: SIZE }));
const named = (h: { name: string; maker: string }) => `${h.name}${h.maker ? `, ${h.maker}` : ''}`;
/** The head chosen may be on another page of the library. */
const chosen = useHeadOf(() => (props.others.some(([other]) => other === id.value) ? '' : id.value));
const change = useChange();
const offered = computed(() => {
  const name = settled.value.trim();
  const known = (library.data.value?.items ?? []).some(({ head }) => head.name.toLowerCase() === name.toLowerCase());
  return props.makes && name !== '' && !known && !library.isPending.value
    ? [[`${NEW}${name}`, `make “${name}” a new head`] as const]
    : [];
});
/** The ids of what is being made: sent twice it is one. */
const idToMake = idsToMake();
async function choose(picked: string): Promise<void> {
  if (!isNew(picked)) return void (id.value = picked);
  const name = newName(picked);
  const made = idToMake(name);
  const done = await change.make(
    [
      addition('head', { id: made, name }),
      addition('stage', { id: idToMake(`stage of ${name}`), headId: made, name: 'as received' }),
    ],
    `${name} added to the library.`,
  );
  if (done) id.value = made;
}
const options = computed(() => {
  const found = (library.data.value?.items ?? []).map(({ head }) => [head.id, named(head)] as const);
  const here = chosen.data.value;
  const all = [...(search.value ? [] : props.others), ...found, ...offered.value];
  return here && !all.some(([other]) => other === here.id) ? [...all, [here.id, named(here)] as const] : all;
});
const more = computed(() => Math.max(0, (library.data.value?.total ?? 0) - SIZE));
</script>

<template>
  <div class="field">
    <label :for="field" :class="{ unseen: hideLabel }">{{ label }}</label>
    <el-select
      :id="field"
      :model-value="id"
      filterable
      remote
      :remote-method="(text: string) => (search = text)"
      :loading="library.isPending.value"
      placeholder="–"
      loading-text="Loading …"
      no-match-text="No head of that name"
      no-data-text="No head of that name"
      :aria-label="label"
      @update:model-value="choose"
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
