<script setup lang="ts">
import type { Source } from '@alluvium/records';
import { computed, ref, useId } from 'vue';
import FieldRow from './FieldRow.vue';
import TextField from './TextField.vue';
import { NEW, isNew } from './newNamed.js';

/**
 * Who says so: one of the sources, nobody, or a new one named on the spot and made with what names it. A name typed that no
 * source has is offered to be made one.
 */
const props = defineProps<{
  label: string;
  sources: readonly Pick<Source, 'id' | 'name'>[];
  /** What no source means here: unknown, found by us. */
  none: string;
  problem?: string;
}>();
const id = defineModel<string | null>({ required: true });
const field = useId();
const typed = ref('');
const A_NEW_ONE = 'a new source …';
const holds = (name: string) => name.toLowerCase().includes(typed.value.trim().toLowerCase());
const options = computed(() => {
  const text = typed.value.trim();
  const found = props.sources.filter((s) => holds(s.name));
  const named = props.sources.some((s) => s.name.toLowerCase() === text.toLowerCase());
  const isAsked = holds(A_NEW_ONE);
  return [
    ...(holds(props.none) ? [['', props.none] as const] : []),
    ...found.map((s) => [s.id, s.name] as const),
    ...(isAsked ? [[NEW, A_NEW_ONE] as const] : []),
    ...(isAsked || named ? [] : [[`${NEW}${text}`, `make “${text}” a new source`] as const]),
  ];
});
/** A source that is made with the form stands under one name while its own is still typed. */
const choice = computed(() => (isNew(id.value) ? NEW : (id.value ?? '')));
const shown = computed(() =>
  choice.value === NEW && !options.value.some(([value]) => value === NEW)
    ? [...options.value, [NEW, A_NEW_ONE] as const]
    : options.value,
);
function choose(picked: string): void {
  typed.value = '';
  id.value = picked || null;
}
const name = computed({
  get: () => (isNew(id.value) ? id.value.slice(NEW.length) : ''),
  set: (text) => (id.value = `${NEW}${text}`),
});
</script>

<template>
  <div>
    <FieldRow :id="field" :label="label" :problem="problem">
      <el-select
        :id="field"
        :model-value="choice"
        filterable
        :filter-method="(text: string) => (typed = text)"
        no-match-text="No source of that name"
        no-data-text="No source of that name"
        @update:model-value="choose"
      >
        <el-option v-for="[value, text] in shown" :key="value" :value="value" :label="text" />
      </el-select>
    </FieldRow>
    <TextField v-if="choice === NEW" v-model="name" label="Name of the new source" />
  </div>
</template>
