<script setup lang="ts">
import { readTyped, rpm, type Quantity } from '@alluvium/core';
import type { Sheet } from '@alluvium/records';
import { computed, ref, watch } from 'vue';
import CellGrid from '../parts/grid/CellGrid.vue';
import { useSettings } from '../state/settings.js';

/**
 * Speed of the swirl meter over lift as it was read from a pad, signed: minus where it turns the other way. Several pulls of a
 * lift: 1200 / 1250.
 */
const props = defineProps<{
  modelValue: Sheet['swirl'];
  /** Lifts of the sheet, offered where no swirl is typed yet. */
  lifts: readonly Quantity[];
}>();
const emit = defineEmits<{ 'update:modelValue': [Sheet['swirl']]; typing: [path: string, problem: string] }>();
const settings = useSettings();
type Key = 'lift' | 'speed';
type Row = Record<Key, string>;
const blank = (): Row => ({ lift: '', speed: '' });
const COLUMNS = [
  { key: 'lift', title: 'lift', name: 'swirl lift' },
  { key: 'speed', title: 'rpm', name: 'swirl speed' },
] as const;

const toRows = (swirl: Sheet['swirl']): Row[] =>
  swirl.length > 0
    ? [...swirl.map((s) => ({ lift: s.lift.typed, speed: s.speed.map((q) => q.typed).join(' / ') })), blank()]
    : [...props.lifts.map((l) => ({ lift: l.typed, speed: '' })), blank()];
/** A swirl meter turns within 30,000 rpm either way. */
const MOST = rpm(30_000);

function readRow({ lift, speed }: Row): Sheet['swirl'][number] | string | undefined {
  if (speed.trim() === '') return undefined;
  const at = readTyped(lift, 'lift', settings.system);
  if (!at.ok) return lift.trim() === '' ? 'Say at which lift this was read.' : at.problem;
  const pulls: Quantity[] = [];
  for (const part of speed.split('/')) {
    const read = readTyped(part, 'rotation', settings.system);
    if (!read.ok) return read.problem;
    if (Math.abs(read.quantity.si) > MOST) return 'A swirl meter turns within 30,000 rpm either way.';
    pulls.push(read.quantity);
  }
  return { lift: at.quantity, speed: pulls };
}

const rows = ref<Row[]>(toRows(props.modelValue));
const read = computed(() => rows.value.map(readRow));
let sent = JSON.stringify(props.modelValue);
watch(
  () => JSON.stringify(props.modelValue),
  (now) => {
    if (now !== sent) rows.value = toRows(props.modelValue);
    sent = now;
  },
);
function typed(next: Row[]): void {
  rows.value = next;
  const wrong = read.value.find((r) => typeof r === 'string');
  emit('typing', 'swirl', wrong ?? '');
  if (wrong) return;
  const swirl = read.value
    .filter((r): r is Sheet['swirl'][number] => typeof r === 'object')
    .sort((a, b) => a.lift.si - b.lift.si);
  sent = JSON.stringify(swirl);
  emit('update:modelValue', swirl);
}
const problemOf = (row: number): string => {
  const found = read.value[row];
  return typeof found === 'string' ? found : '';
};
</script>

<template>
  <details :open="modelValue.length > 0">
    <summary>Swirl</summary>
    <p class="note">Signed: minus where it turns the other way. Several pulls: 1200 / 1250.</p>
    <CellGrid
      :model-value="rows"
      class="swirl"
      label="Swirl over lift"
      :columns="COLUMNS"
      :blank="blank"
      :wrong="(row) => problemOf(row) !== ''"
      :says="(row) => (problemOf(row) ? [problemOf(row)] : [])"
      @update:model-value="typed"
    />
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
  color: var(--slate);
}
.note {
  margin: 0;
}
.swirl {
  --grid-height: 320px;
  max-width: 280px;
}
</style>
