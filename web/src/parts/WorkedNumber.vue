<script setup lang="ts">
import { format, formatNumber, uncertaintyOf, type FormatOptions, type LeafBook, type Working } from '@alluvium/core';
import { computed } from 'vue';
import PressArea from './PressArea.vue';
import { useSettings } from '../state/settings.js';
import { useWorking } from '../state/working.js';

/**
 * A computed number that opens its working when pressed. `bare` leaves the unit out, for columns that name it. With the
 * `book` of leaves it rests on it says how sure it is, and is written with no more figures than that leaves it.
 */
const props = defineProps<{
  /** Leaves ± to the working and its label, where a column has no room for it. */
  terse?: boolean;
  working?: Working | null;
  bare?: boolean;
  digits?: number;
  signed?: boolean;
  label?: string;
  book?: LeafBook | undefined;
}>();
const settings = useSettings();
const panel = useWorking();
const sure = computed(() => props.working && uncertaintyOf(props.working, props.book, settings.say));
const text = computed(() => {
  if (!props.working) return '–';
  const options: FormatOptions = {
    ...(props.digits !== undefined
      ? { digits: props.digits }
      : sure.value && !props.terse
        ? { digits: sure.value.digits }
        : {}),
    signed: props.signed ?? false,
  };
  return (props.bare ? formatNumber : format)(
    props.working.value,
    props.working.method.result.kind,
    settings.figures,
    options,
  );
});
</script>

<template>
  <PressArea
    v-if="working"
    class="worked"
    :title="terse ? sure?.text : undefined"
    :aria-label="`${label ?? working.method.result.label}: ${text}${sure ? ` ${sure.text}` : ''}. Show the working.`"
    @click.stop="panel.show(working, book)"
  >
    <span>{{ text }}</span>
    <small v-if="sure && !terse" class="sure">{{ sure.text }}</small>
  </PressArea>
  <span v-else class="quiet">–</span>
</template>

<style scoped>
@media (width < 700px) {
  .worked {
    display: inline-block;
    min-width: 24px;
    min-height: 24px;
  }
}
.sure {
  margin-left: 3px;
  color: var(--slate);
  font-size: 12px;
  white-space: nowrap;
}
.worked {
  border-bottom: 1px dotted transparent;
}
.worked:hover {
  border-bottom-color: var(--slate);
}
</style>
