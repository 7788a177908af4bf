<script setup lang="ts">
import type { Quantity } from '@alluvium/core';
import { MAP_PLACES, type Plan } from '@alluvium/records';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';

/** The velocity maps a plan asks for; a new one begins at `lift`. */
const props = defineProps<{ lift: Quantity | null; problems: Readonly<Record<string, string>> }>();
const emit = defineEmits<{ typing: [path: string, problem: string] }>();
const maps = defineModel<Plan['maps']>({ required: true });
const add = () =>
  (maps.value = [
    ...maps.value,
    { place: 'pinch', lift: props.lift ?? { si: 0.01016, typed: '.400 in' }, rows: 5, columns: 5 },
  ]);
const set = (at: number, fields: Partial<Plan['maps'][number]>) =>
  (maps.value = maps.value.map((m, k) => (k === at ? { ...m, ...fields } : m)));
</script>

<template>
  <div>
    <p class="field-label">
      Velocity maps
      <el-button link @click="add">add one</el-button>
    </p>
    <div v-for="(m, i) in maps" :key="i" class="field-grid">
      <ChoiceField
        :model-value="m.place"
        label="Place"
        :options="MAP_PLACES.map((p) => [p, p] as const)"
        @update:model-value="set(i, { place: $event })"
      />
      <QuantityField
        :model-value="m.lift"
        kind="lift"
        label="at lift"
        required
        :problem="problems[`plan.maps.${i}.lift`]"
        @update:model-value="$event && set(i, { lift: $event })"
        @update:problem="emit('typing', `plan.maps.${i}.lift`, $event)"
      />
      <TextField
        v-for="f in ['rows', 'columns'] as const"
        :key="f"
        :model-value="m[f]"
        :label="f"
        :problem="problems[`plan.maps.${i}.${f}`]"
        @update:model-value="set(i, { [f]: Number($event) })"
      />
      <el-button link @click="maps = maps.filter((_, k) => k !== i)">Remove</el-button>
    </div>
  </div>
</template>

<style scoped>
.field-grid {
  align-items: end;
}
</style>
