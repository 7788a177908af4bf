<script setup lang="ts">
import type { Quantity } from '@alluvium/core';
import { addition } from '@alluvium/records';
import { ref } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';
import { useChange } from '../data/useChange.js';
import { today } from '../data/today.js';

/** One more pour of the port: its volume, whether the valve was in, and the plug with its reach. Earlier pours stay. */
const props = defineProps<{ stageId: string; side: 'intake' | 'exhaust' }>();
const change = useChange('here');
const volume = ref<Quantity | null>(null);
const valve = ref<'valve in' | 'valve out'>('valve in');
const plug = ref('');
const unreadable = ref('');
const problem = ref('');
async function save(): Promise<void> {
  if (unreadable.value || !volume.value) return void (problem.value = unreadable.value || 'Type the volume poured.');
  const pour = {
    stageId: props.stageId,
    side: props.side,
    item: 'port volume',
    value: volume.value,
    date: today(),
    instrument: 'burette',
    note: [valve.value, plug.value.trim() ? `plug ${plug.value.trim()}` : 'plug not noted'].join('; '),
  };
  const made = await change.make([addition('measure', pour)], `Pour of ${volume.value.typed} noted.`);
  problem.value = change.refusal.value;
  if (made) volume.value = null;
}
</script>

<template>
  <details>
    <summary>Add another pour</summary>
    <form data-own-keys @submit.prevent="save">
      <QuantityField
        v-model="volume"
        kind="volume"
        label="Volume poured"
        :problem="problem"
        @update:problem="unreadable = $event"
      />
      <ChoiceField
        v-model="valve"
        label="Valve"
        :options="[
          ['valve in', 'in'],
          ['valve out', 'out'],
        ]"
      />
      <TextField v-model="plug" label="Plug and its reach" placeholder="in, 19 mm" />
      <el-button native-type="submit" size="small">Add it</el-button>
    </form>
  </details>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 14px;
  align-items: end;
}
summary {
  cursor: pointer;
  color: var(--slate);
  font-size: 14px;
}
</style>
