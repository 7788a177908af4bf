<script setup lang="ts">
import type { Kind, Quantity } from '@alluvium/core';
import { ENTRIES, FLOW_VALVES, PIPES, type Setup } from '@alluvium/records';
import { fieldProblem } from '../data/fieldProblem.js';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import RangesTable from './RangesTable.vue';

/** How the test was done. What nobody knows stays unknown and is shown as unknown. */
const props = defineProps<{ modelValue: Setup; problems: Record<string, string> }>();
const emit = defineEmits<{ 'update:modelValue': [Setup]; typing: [string, string] }>();

const READS = [
  ['flow', 'flow'],
  ['percent', 'percent of a range'],
  ['differential', 'percent of a differential'],
  ['difference', 'differences only'],
] as const;
const ENTRY_WORDS: Record<(typeof ENTRIES)[number], string> = {
  radius: 'radius plate',
  clay: 'clay',
  manifold: 'manifold on',
  bare: 'bare',
  unknown: 'unknown',
};
const VALVE_WORDS: Record<(typeof FLOW_VALVES)[number], string> = {
  own: 'the head’s own',
  other: 'another',
  unknown: 'unknown',
};
const set = <K extends keyof Setup>(name: K, value: Setup[K]) =>
  emit('update:modelValue', { ...props.modelValue, [name]: value });
const quantity = (name: keyof Setup) => props.modelValue[name] as Quantity | null;
/** What was refused, else what is out of any bench's range while it is typed. */
const problemOf = (name: keyof Setup) =>
  props.problems[`setup.${name}`] ?? fieldProblem('sheet', `setup.${name}`, quantity(name));
const MAIN: readonly (readonly [keyof Setup, string, Kind])[] = [
  ['depression', 'Depression', 'depression'],
  ['bore', 'Bore fixture', 'length'],
];
const MORE: readonly (readonly [keyof Setup, string, Kind])[] = [
  ['pipeDiameter', 'Pipe diameter', 'length'],
  ['pipeLength', 'Pipe length', 'length'],
  ['intakeLeak', 'Intake leak, valve shut', 'flow'],
  ['exhaustLeak', 'Exhaust leak, valve shut', 'flow'],
  ['factor', 'Bench factor', 'ratio'],
  ['meterTemperature', 'Temperature at the meter', 'temperature'],
  ['portTemperature', 'Temperature at the port', 'temperature'],
];
</script>

<template>
  <div class="setup">
    <QuantityField
      v-for="[name, label, kind] in MAIN"
      :key="name"
      :model-value="quantity(name)"
      :kind="kind"
      :label="label"
      placeholder="unknown"
      :problem="problemOf(name)"
      @update:model-value="set(name, $event as never)"
      @update:problem="emit('typing', `setup.${name}`, $event)"
    />
    <ChoiceField
      :model-value="modelValue.reads"
      label="The bench reads"
      :options="READS"
      @update:model-value="set('reads', $event)"
    />
    <ChoiceField
      :model-value="modelValue.entry"
      label="Intake entry"
      :options="ENTRIES.map((e) => [e, ENTRY_WORDS[e]] as const)"
      @update:model-value="set('entry', $event)"
    />
    <ChoiceField
      :model-value="modelValue.exhaustPipe"
      label="Exhaust"
      :options="PIPES.map((p) => [p, p] as const)"
      @update:model-value="set('exhaustPipe', $event)"
    />
    <ChoiceField
      :model-value="modelValue.valve"
      label="Valve used"
      :options="FLOW_VALVES.map((v) => [v, VALVE_WORDS[v]] as const)"
      @update:model-value="set('valve', $event)"
    />
    <ChoiceField
      :model-value="modelValue.holesClosed"
      label="Plug hole closed"
      :options="[
        ['yes', 'yes'],
        ['no', 'no'],
        ['unknown', 'unknown'],
      ]"
      @update:model-value="set('holesClosed', $event)"
    />
    <RangesTable
      v-if="modelValue.reads === 'percent' || modelValue.reads === 'differential'"
      class="wide"
      :model-value="modelValue.ranges"
      @update:model-value="set('ranges', $event)"
      @typing="(path, p) => emit('typing', path, p)"
    />
    <details class="wide">
      <summary>leak, temperatures, factor, pipe</summary>
      <div class="setup">
        <QuantityField
          v-for="[name, label, kind] in MORE"
          :key="name"
          :model-value="quantity(name)"
          :kind="kind"
          :label="label"
          placeholder="not known"
          :problem="problemOf(name)"
          @update:model-value="set(name, $event as never)"
          @update:problem="emit('typing', `setup.${name}`, $event)"
        />
      </div>
    </details>
  </div>
</template>

<style scoped>
.setup {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 18px;
}
.wide {
  grid-column: 1 / -1;
}
summary {
  cursor: pointer;
  color: var(--slate);
  margin: 4px 0;
}
</style>
