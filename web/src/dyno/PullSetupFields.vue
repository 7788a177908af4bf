<script setup lang="ts">
import type { Build, Pull } from '@alluvium/records';
import { computed } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import TextField from '../parts/TextField.vue';

/** What was on the engine for a pull besides the head. */
const props = defineProps<{ build: Build; problems: Readonly<Record<string, string>> }>();
const emit = defineEmits<{ typing: [path: string, problem: string] }>();
const setup = defineModel<Pull['setup']>({ required: true });
/** One field of what was on the engine. */
const setupTo = (fields: Partial<Pull['setup']>) => (setup.value = { ...setup.value, ...fields });
const QUANTITIES = [
  ['compression', 'compression', 'Compression as built'],
  ['lobeSeparation', 'angle', 'Lobe separation as installed'],
  ['intakeCentreline', 'angle', 'Intake centreline as installed'],
  ['duration', 'angle', 'Duration, intake'],
  ['ignition', 'angle', 'Ignition before top dead centre'],
] as const;
const TEXTS = [
  ['manifold', 'Manifold'],
  ['exhaust', 'Exhaust'],
  ['fuel', 'Fuel'],
  ['tune', 'Tune'],
] as const;
const boosted = computed(() => props.build.induction.kind === 'boosted');
</script>

<template>
  <details>
    <summary>What was on the engine besides the head</summary>
    <div class="setup">
      <QuantityField
        v-for="[key, kind, label] in QUANTITIES"
        :key="key"
        :model-value="setup[key]"
        :kind="kind"
        :label="label"
        :problem="problems[`setup.${key}`] ?? ''"
        @update:model-value="setupTo({ [key]: $event })"
        @update:problem="emit('typing', `setup.${key}`, $event)"
      />
      <TextField
        v-for="[key, label] in TEXTS"
        :key="key"
        :model-value="setup[key]"
        :label="label"
        :problem="problems[`setup.${key}`] ?? ''"
        @update:model-value="setupTo({ [key]: $event })"
      />
      <template v-if="build.fuel === 'diesel'">
        <ChoiceField
          v-if="boosted"
          :model-value="setup.charging"
          label="How it gets its air"
          :options="[
            [null, 'nobody says'],
            ['mechanical', 'mechanically charged'],
            ['turbo', 'turbocharged'],
          ]"
          @update:model-value="setupTo({ charging: $event })"
        />
        <TextField
          :model-value="setup.fuelPerCycle"
          type="number"
          label="Fuel of a cycle, mg for each litre"
          :problem="problems['setup.fuelPerCycle'] ?? ''"
          @update:model-value="setupTo({ fuelPerCycle: $event === '' ? null : Number($event) })"
        />
      </template>
    </div>
  </details>
</template>

<style scoped>
.setup {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: 6px 16px;
  margin-top: 6px;
}
summary {
  cursor: pointer;
  color: var(--slate);
}
</style>
