<script setup lang="ts">
import type { Quantity } from '@alluvium/core';
import { addition, removal, type WatchSet } from '@alluvium/records';
import { computed, ref } from 'vue';
import { newId } from '../data/ids.js';
import { useListOf } from '../data/queries.js';
import { useChange } from '../data/useChange.js';
import ChoiceField from './ChoiceField.vue';
import TextField from './TextField.vue';

// props.lifts[]!: equally long, as was seen in front of it.

/** Watch lifts the shop keeps by name: taken up with one choice, kept with one press. */
const props = defineProps<{ lifts: readonly Quantity[] }>();
const emit = defineEmits<{ take: [Quantity[]] }>();
const change = useChange('here');
const sets = useListOf('watchset');
const all = computed(() => [...(sets.data.value ?? [])].sort((a, b) => a.name.localeCompare(b.name)));
const same = (set: WatchSet) =>
  set.lifts.length === props.lifts.length && set.lifts.every((l, i) => Math.abs(l.si - props.lifts[i]!.si) < 1e-6);
const chosen = computed(() => all.value.find(same));
const options = computed(() => [
  ['', all.value.length ? 'none of the shop’s' : 'none kept yet'] as const,
  ...all.value.map((s) => [s.id, s.name] as const),
]);
const name = ref('');
function take(id: string): void {
  const set = all.value.find((s) => s.id === id);
  if (set) emit('take', set.lifts);
}
async function keep(): Promise<void> {
  const text = name.value.trim();
  if (!text || props.lifts.length === 0) return;
  const made = await change.make(
    [addition('watchset', { id: newId(), name: text, lifts: [...props.lifts] })],
    `Watch lifts “${text}” kept for the shop.`,
  );
  if (made) name.value = '';
}
const remove = (set: WatchSet) => change.make([removal('watchset', set.id)], `Watch lifts “${set.name}” removed.`);
</script>

<template>
  <div class="sets">
    <ChoiceField
      :model-value="chosen?.id ?? ''"
      label="The shop’s watch lifts"
      :options="options"
      @update:model-value="take"
    />
    <el-button v-if="chosen" link @click="remove(chosen)">Remove “{{ chosen.name }}”</el-button>
    <div v-else class="keep" @keydown.enter.prevent="keep">
      <TextField v-model="name" label="Save these as" placeholder="street" />
      <el-button link :disabled="!name.trim() || lifts.length === 0" @click="keep">Save lifts</el-button>
    </div>
    <p v-if="change.refusal.value" class="loss" role="alert">{{ change.refusal.value }}</p>
  </div>
</template>

<style scoped>
.sets {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 20px;
  align-items: end;
}
.keep {
  display: flex;
  gap: 10px;
  align-items: end;
}
.keep > :first-child {
  flex: 1;
}
.sets > p {
  grid-column: 1 / -1;
  margin: 0;
}
</style>
