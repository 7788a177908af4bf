<script setup lang="ts">
import { onBench, type BenchSetup, type Source } from '@alluvium/records';
import BenchScales from '../heads/BenchScales.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';

/** How the bench reads, its full scales and its temperatures. */
defineProps<{
  draft: BenchSetup;
  source: Source | undefined;
  day: string;
  problems: Readonly<Record<string, string>>;
}>();
const emit = defineEmits<{ put: [fields: Partial<BenchSetup>]; typing: [path: string, problem: string] }>();
</script>

<template>
  <div>
    <h2>The bench</h2>
    <div class="field-grid">
      <ChoiceField
        :model-value="draft.reads"
        label="It reads"
        :options="[
          ['flow', 'flow'],
          ['percent', 'percent of a range'],
          ['differential', 'percent of a differential'],
        ]"
        @update:model-value="
          emit('put', onBench({ ...draft, reads: $event }, $event === 'flow' ? undefined : source, day))
        "
      />
      <QuantityField
        :model-value="draft.meterTemperature"
        kind="temperature"
        label="Temperature at the meter"
        placeholder="not taken"
        :problem="problems.meterTemperature"
        @update:model-value="emit('put', { meterTemperature: $event })"
        @update:problem="emit('typing', 'meterTemperature', $event)"
      />
      <QuantityField
        :model-value="draft.portTemperature"
        kind="temperature"
        label="and at the port"
        placeholder="not taken"
        :problem="problems.portTemperature"
        @update:model-value="emit('put', { portTemperature: $event })"
        @update:problem="emit('typing', 'portTemperature', $event)"
      />
    </div>
    <BenchScales
      v-if="draft.reads !== 'flow'"
      :ranges="draft.ranges"
      :since="draft.scales"
      :bench="source"
      :day="day"
      @change="emit('put', $event)"
      @typing="(path, problem) => emit('typing', path, problem)"
    />
  </div>
</template>

<style scoped>
h2 {
  margin-top: 16px;
}
</style>
