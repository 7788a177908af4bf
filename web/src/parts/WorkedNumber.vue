<script setup lang="ts">
import { formatNumber, format, type FormatOptions, type Working } from '@alluvium/core';
import { computed } from 'vue';
import { useSettings } from '../state/settings.js';
import { useWorking } from '../state/working.js';

/** A computed number that opens its working when pressed. `bare` leaves the unit out, for columns that name it. */
const props = defineProps<{
  working?: Working | null;
  bare?: boolean;
  digits?: number;
  signed?: boolean;
  label?: string;
}>();
const settings = useSettings();
const panel = useWorking();
const text = computed(() => {
  if (!props.working) return '–';
  const options: FormatOptions = {
    ...(props.digits === undefined ? {} : { digits: props.digits }),
    signed: props.signed ?? false,
  };
  return (props.bare ? formatNumber : format)(
    props.working.value,
    props.working.method.result.kind,
    settings.system,
    options,
  );
});
</script>

<template>
  <button
    v-if="working"
    class="plain worked"
    type="button"
    :aria-label="`${label ?? working.method.result.label}: ${text}. Show the working.`"
    @click.stop="panel.show(working)"
  >
    {{ text }}
  </button>
  <span v-else class="quiet">–</span>
</template>

<style scoped>
.worked {
  border-bottom: 1px dotted transparent;
}
.worked:hover {
  border-bottom-color: var(--slate);
}
</style>
