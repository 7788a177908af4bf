<script setup lang="ts">
import { targetBook, targetWords } from '@alluvium/core';
import { computed } from 'vue';
import type { ActiveBuild } from '../data/build.js';
import { useJudging } from '../data/judging.js';
import WorkedNumber from '../parts/WorkedNumber.vue';
import { useSettings } from '../state/settings.js';
import CamDrawing from './CamDrawing.vue';
import DemandDrawing from './DemandDrawing.vue';

// live.build.cam!: shown where there is one.

/** What the head must do, worked out from the engine and what is wanted of it as it is typed. */
const props = defineProps<{ live: ActiveBuild | undefined }>();
const settings = useSettings();
const judging = useJudging();
const words = computed(() => (props.live?.target ? targetWords(props.live.target, settings.say) : ''));
const book = computed(
  () => props.live?.target && targetBook(props.live.core, props.live.target, judging.value.assumptions),
);
</script>

<template>
  <template v-if="live?.target">
    <p class="reading">{{ words }}</p>
    <p v-if="!live.build.bore || !live.build.stroke" class="note">
      Bore and stroke are not both known. Flow, port velocity and Mach index need only the displacement; piston speed,
      shrouding, chamber overhang and whether a test’s fixture fits can’t be told.
    </p>
    <table class="ruled">
      <tbody>
        <tr>
          <td>displacement</td>
          <td class="num"><WorkedNumber :working="live.target.displacement" :book="book" /></td>
        </tr>
        <tr>
          <td>torque at peak power</td>
          <td class="num"><WorkedNumber :working="live.target.torque" :book="book" /></td>
        </tr>
        <tr>
          <td>mean effective pressure</td>
          <td class="num"><WorkedNumber :working="live.target.bmep" :book="book" /></td>
        </tr>
        <tr>
          <td>air taken at that speed, every cylinder filled</td>
          <td class="num"><WorkedNumber :working="live.target.airflow" :book="book" /></td>
        </tr>
        <tr v-if="live.target.demand">
          <td>flow each port must carry, 28 in</td>
          <td class="num"><WorkedNumber :working="live.target.demand" :book="book" /></td>
        </tr>
        <tr v-else>
          <td colspan="2" class="note">
            Power per flow is a rule of petrol engines. State this engine’s own factor to ask a flow of its ports.
          </td>
        </tr>
        <tr>
          <td>least port area</td>
          <td class="num"><WorkedNumber :working="live.target.areaNeeded" :book="book" /></td>
        </tr>
      </tbody>
    </table>
    <DemandDrawing v-if="live.target.demand" :demand="live.target.demand.value" />
    <CamDrawing
      v-if="live.target.intakeCam"
      :intake="live.target.intakeCam"
      :exhaust="live.target.exhaustCam"
      :cam="live.build.cam!"
    />
    <p class="note">
      Ceilings for the breathing, not forecasts. Road use of modified emission parts is regulated: local law decides.
    </p>
  </template>
  <p v-else-if="live?.problem" class="loss" role="alert">{{ live.problem }}</p>
  <p v-else class="note">
    Type bore, stroke, cylinders, power and speed: what the head must do is worked out here as you type.
  </p>
</template>

<style scoped>
.reading {
  margin: 6px 0 10px;
}
</style>
