<script setup lang="ts">
import type { Plan } from '@alluvium/records';
import TextField from '../parts/TextField.vue';

// []!: every limit of a group is a number.

/** When a reading counts as steady, and a depression as held: the plan's own limits, in the units they are spoken in. */
const props = defineProps<{ plan: Plan; problems: Readonly<Record<string, string>> }>();
const emit = defineEmits<{ put: [fields: Partial<Plan>]; typing: [path: string, problem: string] }>();
const number = (text: string, digits = 4): number => Number(Number(text.replace(',', '.')).toFixed(digits));
const LIMITS = [
  ['steady', 'window', 'Steady over, s', 1],
  ['steady', 'slope', 'drifting under, % a second', 100],
  ['steady', 'spread', 'scattering under, %', 100],
  ['depression', 'held', 'Depression held within, %', 100],
  ['depression', 'refuse', 'refused beyond, %', 100],
] as const;
const limit = (group: 'steady' | 'depression', name: string, times: number) =>
  String(Number(((props.plan[group] as Record<string, number>)[name]! * times).toFixed(3)));
function setLimit(group: 'steady' | 'depression', name: string, times: number, text: string): void {
  const n = number(text, 6) / times;
  emit('typing', `plan.${group}.${name}`, Number.isFinite(n) ? '' : `“${text}” is no number.`);
  if (Number.isFinite(n)) emit('put', { [group]: { ...props.plan[group], [name]: n } });
}
</script>

<template>
  <details>
    <summary>When a reading counts as steady, and a depression as held</summary>
    <div class="field-grid">
      <TextField
        v-for="[group, name, label, times] in LIMITS"
        :key="group + name"
        :model-value="limit(group, name, times)"
        :label="label"
        :problem="problems[`plan.${group}.${name}`]"
        @update:model-value="setLimit(group, name, times, $event)"
      />
    </div>
  </details>
</template>

<style scoped>
.field-grid {
  --field-share: 17%;
}
details {
  margin: 6px 0;
}
summary {
  cursor: pointer;
  color: var(--slate);
}
</style>
