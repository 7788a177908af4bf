<script setup lang="ts">
import type { Kind, Quantity } from '@alluvium/core';
import { CAM_KINDS, type Cam } from '@alluvium/records';
import { computed } from 'vue';
import { fieldProblem } from '../data/fieldProblem.js';
import ChoiceField from '../parts/ChoiceField.vue';
import QuantityField from '../parts/QuantityField.vue';
import { blankCam } from './blank.js';

// modelValue!: shown where there is a cam.

/** The cam card; nothing of it is needed but the lift, and without a cam the whole sheet counts. */
const props = defineProps<{ modelValue: Cam | null; problems: Record<string, string> }>();
const emit = defineEmits<{ 'update:modelValue': [Cam | null]; typing: [string, string] }>();

const FIELDS: readonly (readonly [name: keyof Cam, label: string, kind: Kind, hint?: string])[] = [
  ['intakeLift', 'Intake lift at the valve', 'lift'],
  ['exhaustLift', 'Exhaust lift', 'lift', 'as intake'],
  ['intakeDuration', 'Intake duration', 'angle', 'at .050 in'],
  ['exhaustDuration', 'Exhaust duration', 'angle', 'as intake'],
  ['lobeSeparation', 'Lobe separation', 'angle'],
  ['intakeCentreline', 'Intake centreline', 'angle'],
  ['rockerRatio', 'Rocker ratio', 'ratio'],
  ['height', 'Checked at tappet lift', 'lift', '.050'],
];
const cam = computed(() => props.modelValue as Record<string, Quantity | null> | null);
const second = computed(
  () =>
    (props.modelValue?.second ?? { height: null, duration: null }) as {
      height: Quantity | null;
      duration: Quantity | null;
    },
);

function set(name: string, value: unknown): void {
  emit('update:modelValue', { ...((props.modelValue ?? blankCam()) as object), [name]: value } as Cam);
}
function setSecond(name: 'height' | 'duration', value: Quantity | null): void {
  const next = { ...second.value, [name]: value };
  set('second', next.height || next.duration ? next : null);
}
</script>

<template>
  <div class="cam">
    <template v-if="cam">
      <ChoiceField
        data-field="cam.kind"
        :model-value="modelValue!.kind"
        label="Kind of cam"
        :options="CAM_KINDS.map((k) => [k, k] as const)"
        @update:model-value="set('kind', $event)"
      />
      <QuantityField
        v-for="[name, label, kind, hint] in FIELDS"
        :key="name"
        :model-value="cam[name] ?? null"
        :data-field="`cam.${name}`"
        :kind="kind"
        :label="label"
        :placeholder="hint"
        :problem="problems[`cam.${name}`] ?? fieldProblem('build', `cam.${name}`, cam[name])"
        @update:model-value="set(name, $event)"
        @update:problem="emit('typing', `cam.${name}`, $event)"
      />
      <QuantityField
        :model-value="second.height"
        kind="lift"
        label="Second checking height"
        placeholder=".200"
        :problem="problems['cam.second.height']"
        @update:model-value="setSecond('height', $event)"
        @update:problem="emit('typing', 'cam.second.height', $event)"
      />
      <QuantityField
        :model-value="second.duration"
        kind="angle"
        label="Duration there"
        :problem="problems['cam.second.duration']"
        @update:model-value="setSecond('duration', $event)"
        @update:problem="emit('typing', 'cam.second.duration', $event)"
      />
      <p class="note wide">
        The lift curve drawn from these figures is smooth and meets them exactly.
        <el-button link @click="emit('update:modelValue', null)">No cam yet</el-button>
      </p>
    </template>
    <p v-else class="note wide">
      No cam yet: the whole of each sheet counts.
      <el-button link @click="set('kind', 'unknown')">Add the cam</el-button>
    </p>
  </div>
</template>

<style scoped>
.cam {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 20px;
}
.wide {
  grid-column: 1 / -1;
  margin: 4px 0 0;
}
</style>
