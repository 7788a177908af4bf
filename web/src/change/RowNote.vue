<script setup lang="ts">
import { replacement, type Sheet } from '@alluvium/records';
import { nextTick, ref, useTemplateRef } from 'vue';
import { useChange } from '../data/useChange.js';

/** What is noted of one row of a sheet: why the curve bends there. Pressed, it is typed; Enter keeps it, Esc leaves it. */
const props = defineProps<{ sheet: Sheet; lift: number; at: string }>();
const change = useChange('here');
const typing = ref(false);
const text = ref('');
const field = useTemplateRef<{ focus: () => void }>('field');
const SAME = 1e-6;
const row = () => props.sheet.rows.find((r) => Math.abs(r.lift.si - props.lift) < SAME);
async function begin(): Promise<void> {
  text.value = row()?.note ?? '';
  typing.value = true;
  await nextTick();
  field.value?.focus();
}
async function keep(): Promise<void> {
  const note = text.value.trim().slice(0, 200);
  if (note === (row()?.note ?? '')) return void (typing.value = false);
  const rows = props.sheet.rows.map((r) => (Math.abs(r.lift.si - props.lift) < SAME ? { ...r, note } : r));
  const kept = await change.make(
    [replacement('sheet', { ...props.sheet, rows })],
    note ? `Noted at ${props.at}.` : `The note at ${props.at} is removed.`,
  );
  if (kept) typing.value = false;
}
</script>

<template>
  <template v-if="row()">
    <form v-if="typing" data-own-keys @submit.prevent="keep" @keydown.esc.stop="typing = false">
      <el-input ref="field" v-model="text" size="small" maxlength="200" :aria-label="`Note at ${at}`" />
      <p v-if="change.refusal.value" class="loss" role="alert">{{ change.refusal.value }}</p>
    </form>
    <el-button v-else link class="said" :aria-label="`${row()?.note || '+ note'}, note at ${at}`" @click="begin">
      {{ row()?.note || '+ note' }}
    </el-button>
  </template>
</template>

<style scoped>
.said {
  height: auto;
  white-space: normal;
  text-align: left;
  font: italic 14px var(--serif);
  color: var(--slate);
}
form p {
  margin: 0;
}
</style>
