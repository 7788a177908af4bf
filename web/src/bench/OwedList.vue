<script setup lang="ts">
import { isComplete, owedOf, replacement, type Session, type WholeSession } from '@alluvium/records';
import { computed, ref } from 'vue';
import TextField from '../parts/TextField.vue';
import { useChange } from '../data/useChange.js';

/** What a session still owes. It is complete when nothing is, or each is excused with a reason. */
const props = defineProps<{ whole: WholeSession }>();
const change = useChange('here');
const owed = computed(() => owedOf(props.whole));
const left = computed(() => owed.value.filter((o) => !o.excuse));
const complete = computed(() => isComplete(owed.value));
const excusing = ref('');
const reason = ref('');
const stopped = ref(props.whole.session.stopped);
const problem = ref('');

async function put(to: Partial<Session>, what: string): Promise<void> {
  const made = await change.make([replacement('session', { ...props.whole.session, ...to })], what);
  problem.value = change.refusal.value;
  if (!made) return;
  excusing.value = '';
  reason.value = '';
}
const excuse = (key: string) =>
  put({ excused: { ...props.whole.session.excused, [key]: reason.value.trim() } }, 'Excused, with its reason.');
function takeIn(key: string): Promise<void> {
  const { [key]: _gone, ...others } = props.whole.session.excused;
  return put({ excused: others }, 'Owed again.');
}
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
  <section class="owed">
    <h2>{{ complete ? 'Nothing is owed' : `Owed: ${left.length}` }}</h2>
    <ul>
      <li v-for="o in owed" :key="o.key" :class="{ excused: o.excuse }">
        {{ o.text }}
        <span v-if="o.excuse" class="note">
          Excused: {{ o.excuse }}.
          <button class="worded" type="button" @click="takeIn(o.key)">owe it again</button>
        </span>
        <button
          v-else-if="excusing !== o.key"
          class="worded"
          type="button"
          @click="((excusing = o.key), (reason = ''))"
        >
          excuse
        </button>
        <form v-else class="why" @submit.prevent="reason.trim() && excuse(o.key)">
          <TextField v-model="reason" label="Why it will not be done" />
          <button class="worded" type="submit" :disabled="!reason.trim()">excuse it</button>
        </form>
      </li>
    </ul>
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
      <button class="worded" type="button" @click="put({ finished: false }, 'The session goes on.')">
        go on with it
      </button>
    </p>
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
ul {
  padding-left: 18px;
  margin: 6px 0;
}
li.excused {
  color: var(--slate);
}
li button {
  margin-left: 8px;
}
.why,
.end {
  display: flex;
  gap: 14px;
  align-items: end;
  flex-wrap: wrap;
}
</style>
