<script setup lang="ts">
import type { Quantity } from '@alluvium/core';
import type { Setup } from '@alluvium/records';
import { computed } from 'vue';
import QuantityField from '../parts/QuantityField.vue';

/** Full scales of the bench: one per range and per direction. */
type Ranges = Setup['ranges'];
const props = defineProps<{ modelValue: Ranges }>();
const emit = defineEmits<{ 'update:modelValue': [Ranges]; typing: [string, string] }>();
const rows = computed(() => [...props.modelValue, { name: '', intake: null, exhaust: null }]);

const nameOf = (name: string, index: number) => (name ? `Range ${name}` : `Range in row ${index + 1}`);
function set(index: number, field: 'name' | 'intake' | 'exhaust', value: string | Quantity | null): void {
  const next = rows.value.map((r, i) => (i === index ? { ...r, [field]: value } : r));
  emit(
    'update:modelValue',
    next.filter((r) => r.name.trim() !== '' || r.intake || r.exhaust),
  );
}
</script>

<template>
  <table class="ruled" aria-label="Full scales of the bench">
    <thead>
      <tr>
        <th>range</th>
        <th>intake full scale</th>
        <th>exhaust full scale</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(r, i) in rows" :key="i">
        <td class="name">
          <el-input
            :model-value="r.name"
            size="small"
            :aria-label="`Range ${i + 1}, name`"
            @update:model-value="set(i, 'name', $event)"
          />
        </td>
        <td>
          <QuantityField
            :model-value="r.intake"
            kind="flow"
            :label="`${nameOf(r.name, i)}, intake full scale`"
            hide-label
            @update:model-value="set(i, 'intake', $event)"
            @update:problem="emit('typing', `ranges.${i}.intake`, $event)"
          />
        </td>
        <td>
          <QuantityField
            :model-value="r.exhaust"
            kind="flow"
            :label="`${nameOf(r.name, i)}, exhaust full scale`"
            hide-label
            @update:model-value="set(i, 'exhaust', $event)"
            @update:problem="emit('typing', `ranges.${i}.exhaust`, $event)"
          />
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.name {
  width: 62px;
}
</style>
