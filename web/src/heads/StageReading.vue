<script setup lang="ts">
import { stageGain, type Stage, type WholeHead } from '@alluvium/records';
import { computed } from 'vue';
import BeforeAfter from '../change/BeforeAfter.vue';
import { useChangeContext } from '../change/useChangeData.js';
import WorkedNumber from '../parts/WorkedNumber.vue';

/** What this stage flows against the one before it, on the head's own page. */
const props = defineProps<{ whole: WholeHead; stage: Stage }>();
const context = useChangeContext();
const gains = computed(() =>
  (['intake', 'exhaust'] as const).flatMap((side) => stageGain(props.whole, props.stage, side, context.value) ?? []),
);
</script>

<template>
  <section v-if="gains.length" aria-label="Against the stage before">
    <h2>Against the stage before</h2>
    <div v-for="g in gains" :key="g.side">
      <p class="reading">
        <template v-if="g.gain">
          {{ g.side }}, over “{{ g.before.stage.name }}”:
          <WorkedNumber :working="g.gain" :book="g.book" signed :digits="1" />
          in the mean over the cam.
        </template>
        <template v-else>{{ g.side }}: the test changed too, so nothing is credited to the work.</template>
      </p>
      <details>
        <summary>lift by lift</summary>
        <BeforeAfter :gain="g" />
      </details>
    </div>
    <RouterLink :to="{ name: 'change', params: { id: whole.head.id }, query: { stage: stage.id } }">
      What was done, and what it cost
    </RouterLink>
  </section>
</template>

<style scoped>
.reading {
  margin: 4px 0;
}
summary {
  cursor: pointer;
  color: var(--slate);
}
</style>
