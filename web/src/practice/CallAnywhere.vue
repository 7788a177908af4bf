<script setup lang="ts">
import type { Quantity, Side } from '@alluvium/core';
import { addition } from '@alluvium/records';
import { computed, reactive, ref } from 'vue';
import { newId } from '../data/ids.js';
import { useWholeHead } from '../data/queries.js';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import HeadPicker from '../parts/HeadPicker.vue';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';

// said.flow!, said.lift!: both were looked for above.

/** A call on anything that is not measured yet: one side of a stage at a lift. It is refused once it was flowed. */
const props = defineProps<{
  /** The head and stage it is about, where the page has one in hand. */ head?: string;
  stage?: string;
}>();
const change = useChange('here');
const headId = ref(props.head ?? '');
const picked = useWholeHead(headId);
const said = reactive<{
  stageId: string | null;
  side: Side;
  lift: Quantity | null;
  flow: Quantity | null;
  on: string;
  who: string;
}>({ stageId: props.stage ?? null, side: 'intake', lift: null, flow: null, on: 'the head on the table', who: '' });
const stages = computed(() => [
  [null, 'choose a stage'] as const,
  ...(picked.data.value?.stages ?? []).map((s) => [s.id, s.name] as const),
]);
const ON = ['the head on the table', 'a claim', 'a change', 'a picture'] as const;
const problem = ref('');
async function lock(): Promise<void> {
  problem.value = !said.stageId
    ? 'Say which head, and at which stage.'
    : !said.lift
      ? 'Say at which lift.'
      : !said.flow
        ? 'Say what it will flow.'
        : '';
  if (problem.value) return;
  const made = await change.make(
    [addition('call', { id: newId(), sessionId: null, ...said, date: today() })],
    `Called: ${said.flow!.typed} at ${said.lift!.typed}.`,
  );
  problem.value = change.refusal.value;
  if (made) Object.assign(said, { flow: null });
}
</script>

<template>
  <form class="call" @submit.prevent="lock">
    <HeadPicker v-if="!head" v-model="headId" label="Head" />
    <ChoiceField v-model="said.stageId" label="At the stage" :options="stages" />
    <ChoiceField
      v-model="said.side"
      label="Side"
      :options="[
        ['intake', 'intake'],
        ['exhaust', 'exhaust'],
      ]"
    />
    <QuantityField v-model="said.lift" kind="lift" label="At the lift" />
    <QuantityField v-model="said.flow" kind="flow" label="It will flow" />
    <ChoiceField v-model="said.on" label="Called on" :options="ON.map((o) => [o, o] as const)" />
    <TextField v-model="said.who" label="Predicted by" />
    <el-button type="primary" native-type="submit">Save prediction</el-button>
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
    <p class="note">A call is locked with its day and scored once that side of that stage is flowed.</p>
  </form>
</template>

<style scoped>
.call {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(160px, 1fr));
  gap: 8px 18px;
  align-items: end;
  max-width: 900px;
}
.call p {
  grid-column: 1 / -1;
  margin: 0;
}
</style>
