<script setup lang="ts">
import type { Quantity } from '@alluvium/core';
import { MEASURE_ITEMS, type Measure, type MeasureItem } from '@alluvium/records';
import { ref, watch } from 'vue';
import { ApiProblem, add, drop, save } from '../api/client.js';
import { useRefresh } from '../api/queries.js';
import QuantityField from './QuantityField.vue';
import { useUndo } from '../state/undo.js';
import { today } from './today.js';

/** One size at one place: typed, it is kept when the field is left; emptied, it is taken out; retyped, corrected. */
const props = defineProps<{
  stageId: string;
  item: MeasureItem;
  side: 'intake' | 'exhaust' | null;
  portId: string | null;
  valve: number | null;
  label: string;
  /** What was found here at this stage; the newest when measured more than once. */
  measure?: Measure | undefined;
}>();
/** What stands in the field now, while it is still typed; undefined when it cannot be read. */
const emit = defineEmits<{ typed: [number | undefined] }>();
const undo = useUndo();
const refresh = useRefresh();
const value = ref<Quantity | null>(props.measure?.value ?? null);
const unreadable = ref('');
const refused = ref('');
watch(
  () => props.measure?.value.typed,
  () => (value.value = props.measure?.value ?? null),
);

watch(value, (now) => emit('typed', now?.si));

async function keep(): Promise<void> {
  const now = value.value;
  const { measure } = props;
  if (unreadable.value || now?.typed === measure?.value.typed) return;
  refused.value = '';
  try {
    const answer = !now
      ? measure && (await drop('measure', measure.id))
      : measure
        ? await save('measure', { ...measure, value: now })
        : await add('measure', {
            stageId: props.stageId,
            item: props.item,
            side: props.side,
            portId: props.portId,
            valve: props.valve,
            value: now,
            date: today(),
          });
    if (answer) undo.did(now ? `${props.label}: ${now.typed}.` : `${props.label} taken out.`, answer.batch);
    await refresh();
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    refused.value = error.message;
  }
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
