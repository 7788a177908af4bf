<script setup lang="ts">
import { degrees, exhaustCentreline, type CamProfile } from '@alluvium/core';
import type { Cam } from '@alluvium/records';
import { line } from 'd3-shape';
import { computed } from 'vue';
import { useSettings } from '../state/settings.js';
import { vLegible } from '../charts/legible.js';

// y()()!: drawn without a canvas, a line is text.

/** Both lift curves over the crank, about the gas exchange top dead centre. */
const props = defineProps<{ intake: CamProfile; exhaust?: CamProfile; cam: Cam }>();
const settings = useSettings();
const WIDTH = 350;
const HEIGHT = 118;
const BASE = 96;

const centres = computed(() => {
  const intake = props.cam.intakeCentreline?.si ?? props.cam.lobeSeparation?.si ?? degrees(108);
  return { intake, exhaust: exhaustCentreline(props.cam.lobeSeparation?.si ?? intake, intake) };
});
const x = (angle: number) => WIDTH / 2 + (angle / degrees(300)) * (WIDTH / 2);
const top = computed(() => Math.max(props.intake.maxLift, props.exhaust?.maxLift ?? 0));
const path = (cam: CamProfile, centre: number) => {
  const points = Array.from({ length: 81 }, (_, i) => -cam.halfDuration + (2 * cam.halfDuration * i) / 80);
  return line<number>()
    .x((a) => x(centre + a))
    .y((a) => BASE - (cam.liftAt(a) / top.value) * 80)(points)!;
};
</script>

<template>
  <svg
    v-legible
    :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
    :width="WIDTH"
    :height="HEIGHT"
    role="img"
    aria-label="Lift curves of both valves over the crank"
  >
    <line :x1="0" :x2="WIDTH" :y1="BASE" :y2="BASE" stroke="var(--slate)" />
    <line :x1="WIDTH / 2" :x2="WIDTH / 2" y1="6" :y2="BASE + 4" stroke="var(--slate)" stroke-dasharray="2 3" />
    <text :x="WIDTH / 2" :y="HEIGHT - 6" text-anchor="middle" class="small">top dead centre</text>
    <path
      v-if="exhaust"
      :d="path(exhaust, -centres.exhaust)"
      fill="none"
      stroke="var(--exhaust)"
      stroke-width="1.8"
      stroke-dasharray="6 3"
    />
    <path :d="path(intake, centres.intake)" fill="none" stroke="var(--intake)" stroke-width="1.8" />
    <text v-if="exhaust" :x="x(-centres.exhaust)" y="12" text-anchor="middle" class="small" fill="var(--exhaust)">
      exhaust {{ settings.say.of(exhaust.maxLift, 'lift') }}
    </text>
    <text :x="x(centres.intake)" y="12" text-anchor="middle" class="small" fill="var(--intake)">
      intake {{ settings.say.of(intake.maxLift, 'lift') }}
    </text>
  </svg>
</template>

<style scoped>
svg {
  margin-top: 10px;
  max-width: 100%;
}
.small {
  font-size: max(13px, calc(12px * var(--per-px, 0)));
  fill: var(--slate);
}
</style>
