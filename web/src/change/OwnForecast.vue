<script setup lang="ts">
import { OPERATION_KINDS, type OperationKind, type Quantity, type Side } from '@alluvium/core';
import { PROGRAM, addition, type Stage, type WholeHead } from '@alluvium/records';
import { computed, reactive, ref } from 'vue';
import { newId } from '../data/ids.js';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';

// said.operation!, said.gain!, said.off!: all three were looked for above.

/** A forecast in a person's own word: what the cut will buy over the cam, give or take. */
const props = defineProps<{ whole: WholeHead; stage: Stage; window: string }>();
const change = useChange('here');
const said = reactive<{
  operation: OperationKind | null;
  side: Side;
  by: string;
  gain: Quantity | null;
  off: Quantity | null;
}>({ operation: null, side: 'intake', by: '', gain: null, off: null });
const problem = ref('');
const missing = computed(() =>
  said.operation === null
    ? 'Say what will be cut.'
    : !said.gain
      ? 'Say what it will buy.'
      : !said.off || said.off.si <= 0
        ? 'Say how far it may be off: more than nothing.'
        : '',
);
async function keep(): Promise<void> {
  problem.value = missing.value;
  if (problem.value) return;
  const made = await change.make(
    [
      addition('forecast', {
        id: newId(),
        headId: props.whole.head.id,
        stageId: props.stage.id,
        operation: said.operation!,
        side: said.side,
        made: today(),
        by: said.by,
        content: {
          program: PROGRAM,
          method: 'own word',
          gain: said.gain!.si,
          u: said.off!.si / 2,
          window: props.window,
          inputs: [],
          records: [],
        },
      }),
    ],
    `Forecast kept: ${said.operation}, ${said.gain!.typed}.`,
  );
  problem.value = change.refusal.value;
  if (made) Object.assign(said, { operation: null, gain: null, off: null });
}
</script>

<template>
  <form class="own no-print" @submit.prevent="keep">
    <ChoiceField
      v-model="said.operation"
      label="Your own forecast of"
      :options="OPERATION_KINDS.map((k) => [k, k] as const)"
    />
    <ChoiceField
      v-model="said.side"
      label="Side"
      :options="[
        ['intake', 'intake'],
        ['exhaust', 'exhaust'],
      ]"
    />
    <QuantityField v-model="said.gain" kind="flow" label="Gain over the cam" />
    <QuantityField v-model="said.off" kind="flow" label="Uncertainty (±)" />
    <TextField v-model="said.by" label="Whose word" />
    <el-button native-type="submit" size="small">Save it</el-button>
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
  </form>
</template>

<style scoped>
.own {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(140px, 1fr));
  gap: 6px 16px;
  align-items: end;
  margin-top: 10px;
}
.own p {
  grid-column: 1 / -1;
  margin: 0;
}
</style>
