<script setup lang="ts">
import {
  excusedFor,
  isComplete,
  owedAgain,
  owedOf,
  replacement,
  type Session,
  type WholeSession,
} from '@alluvium/records';
import { computed, ref } from 'vue';
import OwedLines from '../parts/OwedLines.vue';
import TextField from '../parts/TextField.vue';
import { useChange } from '../data/useChange.js';

/** What a session still owes. It is complete when nothing is, or each is excused with a reason. */
const props = defineProps<{ whole: WholeSession }>();
const change = useChange('here');
const owed = computed(() => owedOf(props.whole));
const complete = computed(() => isComplete(owed.value));
const stopped = ref(props.whole.session.stopped);
const problem = ref('');

async function put(to: Partial<Session>, what: string): Promise<void> {
  await change.make([replacement('session', { ...props.whole.session, ...to })], what);
  problem.value = change.refusal.value;
}
const excuse = (key: string, reason: string) =>
  put({ excused: excusedFor(props.whole.session.excused, key, reason) }, 'Excused, with its reason.');
const oweAgain = (key: string) => put({ excused: owedAgain(props.whole.session.excused, key) }, 'Owed again.');
const pointsOpen = computed(() => owed.value.some((o) => o.key.startsWith('points')));
function finish(): void {
  if (pointsOpen.value && !stopped.value.trim()) {
    problem.value = 'Points are not recorded: say why the run stopped.';
    return;
  }
  void put({ finished: true, stopped: stopped.value.trim() }, 'The session is finished.');
}
</script>

<template>
  <section>
    <OwedLines :owed="owed" @excuse="excuse" @again="oweAgain" />
    <div v-if="!whole.session.finished" class="end">
      <TextField v-if="pointsOpen" v-model="stopped" label="Why the run stopped" placeholder="guide hits the seal" />
      <el-button @click="finish">Finish the session</el-button>
      <span v-if="!complete" class="note">
        It can be finished now; it stays incomplete until the list is empty or excused.
      </span>
    </div>
    <p v-else class="reading">
      Finished{{ complete ? ' and complete' : ', not complete'
      }}{{ whole.session.stopped ? `: ${whole.session.stopped}` : '' }}.
      <el-button link @click="put({ finished: false }, 'The session goes on.')">Continue it</el-button>
    </p>
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
.end {
  display: flex;
  gap: 14px;
  align-items: end;
  flex-wrap: wrap;
}
</style>
