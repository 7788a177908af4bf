<script setup lang="ts">
import { inches, written } from '@alluvium/core';
import { evaluateSheetOf, pickSheet, type Stage, type WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import type { MapBegins } from '../bench/mapBegins.js';
import VelocityMaps from '../bench/VelocityMaps.vue';
import { useActiveBuild } from '../data/build.js';

/** Velocity maps of a stage, typed from a pad where there was no session. */
const props = defineProps<{ whole: WholeHead; stage: Stage }>();
const { active } = useActiveBuild();
const maps = computed(() => props.whole.velocityMaps.filter((m) => m.stageId === props.stage.id));
const sheet = computed(() => pickSheet(props.whole, props.stage.id, active.value?.build));
/** Usual where nothing was flowed yet. */
const HALF_INCH = inches(0.5);
const begins = computed<MapBegins>(() => {
  const at = sheet.value && evaluateSheetOf(props.whole, sheet.value).intake.peak?.lift;
  return {
    stageId: props.stage.id,
    sessionId: null,
    portId: sheet.value?.intakePortId ?? null,
    side: 'intake',
    lift: written(at ?? HALF_INCH, 'lift', 'in', 3),
    depression: sheet.value?.setup.depression ?? '28 inH2O',
  };
});
</script>

<template>
  <VelocityMaps :key="stage.id" :head="whole" :maps="maps" :begins="begins" :sheet="sheet" />
</template>
