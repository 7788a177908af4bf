<script setup lang="ts">
import { dwell, type CamProfile } from '@alluvium/core';
import { computed } from 'vue';

/** Grains laid where the valve spends its time: the denser the bed, the longer the dwell. */
const props = defineProps<{ cam: CamProfile; x: (lift: number) => number; y: number }>();
const BINS = 48;
const GRAINS = 760;
const HEIGHT = 15;

/** A small repeatable scatter, so that the bed looks the same at every drawing. */
const scatter = (seed: number): number => {
  const s = Math.sin(seed * 12.9898) * 43758.5453;
  return s - Math.floor(s);
};
const bed = computed(() => {
  let seed = 1;
  let path = '';
  dwell(props.cam, BINS).forEach((share, bin) => {
    const from = props.x((props.cam.maxLift * bin) / BINS);
    const to = props.x((props.cam.maxLift * (bin + 1)) / BINS);
    for (let i = 0; i < Math.round(share * GRAINS); i++) {
      const gx = from + (to - from) * scatter(seed++);
      const gy = props.y + HEIGHT * scatter(seed++);
      path += `M${gx.toFixed(1)} ${gy.toFixed(1)}h1.4`;
    }
  });
  return path;
});
</script>

<template>
  <g aria-hidden="true">
    <path :d="bed" stroke="var(--slate)" stroke-width="1.4" fill="none" />
    <text :x="x(cam.maxLift) + 8" :y="y + 12" class="aside">where the valve dwells</text>
  </g>
</template>

<style scoped>
.aside {
  font: italic 14px var(--serif);
  fill: var(--slate);
}
</style>
