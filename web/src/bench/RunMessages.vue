<script setup lang="ts">
import { computed } from 'vue';
import type { SessionPage } from '../data/session.js';
import RecorderNote from './RecorderNote.vue';
import { useBenchLive } from './live.js';
import type { Run } from './useRun.js';

/** What the run says: what just happened, what to do, what is wrong, who looks on. */
const props = defineProps<{ run: Run; page: SessionPage; ears: string }>();
const { run } = props;
const live = useBenchLive();
const benchTrouble = computed(() => {
  const bench = live.ofKind('flow bench');
  if (!live.connected) return 'The server is away. What is recorded is safe; the line comes back by itself.';
  if (!bench) return '';
  const doubt = live.doubts[bench.id];
  if (doubt) return `${bench.name} ${doubt}.`;
  if (bench.nonsense > 0 && run.state.value.silent)
    return `${bench.name} sends nonsense: ${bench.problem.toLowerCase()}`;
  return bench.problem && bench.nonsense === 0 ? `${bench.name}: ${bench.problem}` : '';
});
</script>

<template>
  <div class="told" aria-live="assertive">
    <p v-if="run.message.value" :class="run.message.value.tone">{{ run.message.value.text }}</p>
    <p v-else-if="run.adviceWords.value" class="ask">{{ run.adviceWords.value }}</p>
    <p v-else-if="ears" class="ask">{{ ears }}</p>
    <p v-if="benchTrouble" class="stop">{{ benchTrouble }}</p>
    <p v-if="page.trouble.value" class="stop">{{ page.trouble.value }}</p>
    <RecorderNote class="stop" />
    <p v-if="live.recorder?.mine && !live.recorder.asked && live.recorder.onlookers > 0" class="fact">
      {{ live.recorder.onlookers === 1 ? 'One other browser looks on.' : `${live.recorder.onlookers} others look on.` }}
    </p>
  </div>
</template>

<style scoped>
p {
  margin: 0;
}
.told {
  max-width: 46%;
  font-size: 19px;
  text-align: right;
}
.fact {
  color: var(--ink);
}
.ask {
  color: var(--caution);
}
.stop {
  color: var(--loss);
}
</style>
