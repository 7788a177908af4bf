<script setup lang="ts">
import type { Source } from '@alluvium/records';
import { computed } from 'vue';
import ChoiceField from './ChoiceField.vue';
import TextField from './TextField.vue';
import { NEW, isNew } from './newNamed.js';

/** Who says so: one of the sources, nobody, or a new one named on the spot and made with what names it. */
const props = defineProps<{
  label: string;
  sources: readonly Pick<Source, 'id' | 'name'>[];
  /** What no source means here: unknown, found by us. */
  none: string;
  problem?: string;
}>();
const id = defineModel<string | null>({ required: true });
const options = computed(() => [
  ['', props.none] as const,
  ...props.sources.map((s) => [s.id, s.name] as const),
  [NEW, 'a new source …'] as const,
]);
const choice = computed({
  get: () => (isNew(id.value) ? NEW : (id.value ?? '')),
  set: (picked) => (id.value = picked || null),
});
const name = computed({
  get: () => (isNew(id.value) ? id.value.slice(NEW.length) : ''),
  set: (typed) => (id.value = `${NEW}${typed}`),
});
</script>

<template>
  <div>
    <ChoiceField v-model="choice" :label="label" :options="options" :problem="problem" />
    <TextField v-if="choice === NEW" v-model="name" label="Name of the new source" />
  </div>
</template>
