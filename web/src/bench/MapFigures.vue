<script setup lang="ts">
import { largestVelocity, smallestVelocity, work, type readMap, type Working } from '@alluvium/core';
import WorkedNumber from '../parts/WorkedNumber.vue';

/** What a velocity map comes to. */
defineProps<{
  read: NonNullable<ReturnType<typeof readMap>>;
  mean: Working | undefined;
  uniform: Working | undefined;
  flow: Working | undefined;
  closes: Working | undefined;
}>();
</script>

<template>
  <dl>
    <dt>mean</dt>
    <dd><WorkedNumber :working="mean" /></dd>
    <dt>fastest, slowest</dt>
    <dd>
      <WorkedNumber :working="work(largestVelocity, { values: read.velocities })" />
      ,
      <WorkedNumber :working="work(smallestVelocity, { values: read.velocities })" />
    </dd>
    <dt>uniformity</dt>
    <dd><WorkedNumber :working="uniform" :digits="3" /></dd>
    <template v-if="flow">
      <dt>adds up to</dt>
      <dd><WorkedNumber :working="flow" /></dd>
    </template>
    <template v-if="closes">
      <dt>against the bench</dt>
      <dd><WorkedNumber :working="closes" :digits="1" signed /></dd>
    </template>
  </dl>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 3px 18px;
  margin: 8px 0;
}
dt {
  color: var(--slate);
}
dd {
  margin: 0;
}
</style>
