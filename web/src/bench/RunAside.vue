<script setup lang="ts">
import { pointsLeft, timeLeft, type WholeSession } from '@alluvium/records';
import { computed } from 'vue';
import { useSettings } from '../state/settings.js';
import type { Run } from './useRun.js';
import { RUN_KEYS } from './useRunKeys.js';

/** The keys of the run, what comes next, and how much is left. */
const props = defineProps<{ run: Run; whole: WholeSession }>();
const emit = defineEmits<{ leave: [] }>();
const { run } = props;
const settings = useSettings();
const left = computed(() => pointsLeft(props.whole.session.plan, props.whole.readings).length);
const minutes = computed(() => timeLeft(props.whole.session, props.whole.readings));
</script>

<template>
  <aside>
    <ul class="keys">
      <li
        v-for="[key, does] in RUN_KEYS"
        :key="key"
        :class="{ first: key === 'space', on: key === 'A' && run.auto.value }"
      >
        <b>{{ key }}</b>
        {{ does }}
      </li>
    </ul>
    <p v-if="run.next.value" class="then">then {{ run.lift(run.next.value.lift) }}</p>
    <p class="sub">
      {{ run.points.value.length - left }} of {{ run.points.value.length }} · about
      {{ Math.max(1, Math.round(minutes.value / 60)) }} min left
    </p>
    <p class="foot">
      <el-button link @click="settings.sound = !settings.sound">sound {{ settings.sound ? 'on' : 'off' }}</el-button>
      <el-button link @click="emit('leave')">Leave (Esc)</el-button>
    </p>
  </aside>
</template>

<style scoped>
p {
  margin: 0;
}
.sub {
  color: var(--slate);
  font-size: 17px;
}
aside {
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
}
.keys {
  list-style: none;
  margin: 0;
  padding: 0;
  font-size: 20px;
  color: var(--slate);
}
.keys b {
  color: inherit;
}
.keys .first,
.keys .first b,
.keys .on {
  color: var(--ink);
}
.keys .on b {
  color: var(--gain);
}
.then {
  font-size: 25px;
  color: #e9d8a6;
  margin-top: 10px;
}
.foot {
  display: flex;
  gap: 16px;
  margin-top: 6px;
  color: var(--slate);
}
</style>
