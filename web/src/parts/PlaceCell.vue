<script setup lang="ts">
import type { Quantity } from '@alluvium/core';
import { MEASURE_ITEMS, addition, removal, replacement, type Measure, type MeasureItem } from '@alluvium/records';
import { ref, watch } from 'vue';
import QuantityField from './QuantityField.vue';
import { useChange } from '../data/useChange.js';
import { today } from '../data/today.js';

/** One size at one place: typed, it is kept when the field is left; emptied, it is removed; retyped, corrected. */
const props = defineProps<{
  stageId: string;
  item: MeasureItem;
  side: 'intake' | 'exhaust' | null;
  portId: string | null;
  valve: number | null;
  label: string;
  /** At which lift, of what changes with it. */
  lift?: Quantity;
  /** What was found here at this stage; the newest when measured more than once. */
  measure?: Measure | undefined;
}>();
/** What stands in the field now, while it is still typed; undefined when it cannot be read. */
const emit = defineEmits<{ typed: [number | undefined] }>();
const change = useChange('here');
const value = ref<Quantity | null>(props.measure?.value ?? null);
const unreadable = ref('');
const refused = change.refusal;
watch(
  () => props.measure?.value.typed,
  () => (value.value = props.measure?.value ?? null),
);

watch(value, (now) => emit('typed', now?.si));

async function keep(): Promise<void> {
  const now = value.value;
  const { measure } = props;
  if (unreadable.value || now?.typed === measure?.value.typed) return;
  const step = now
    ? measure
      ? replacement('measure', { ...measure, value: now })
      : addition('measure', {
          stageId: props.stageId,
          item: props.item,
          side: props.side,
          portId: props.portId,
          valve: props.valve,
          lift: props.lift ?? null,
          value: now,
          date: today(),
        })
    : measure && removal('measure', measure.id);
  if (step) await change.make([step], now ? `${props.label}: ${now.typed}.` : `${props.label} removed.`);
}
</script>

<template>
  <QuantityField
    v-model="value"
    :kind="MEASURE_ITEMS[item].kind"
    :label="label"
    hide-label
    :problem="refused"
    @update:problem="unreadable = $event"
    @focusout="keep"
  />
</template>
