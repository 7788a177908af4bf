<script setup lang="ts">
import { noted, stopWords, sumOfTimes, work } from '@alluvium/core';
import {
  followsPattern,
  replacement,
  stopped,
  taskState,
  workTotal,
  type Task,
  type WholeHead,
} from '@alluvium/records';
import { computed, ref } from 'vue';
import { today } from '../data/today.js';
import { useChange } from '../data/useChange.js';
import { portLabel } from '../parts/portChoices.js';
import WorkedNumber from '../parts/WorkedNumber.vue';
import TaskForm from './TaskForm.vue';

/** The work list of a head: what, where, to which size, where to stop. Ticked off; printed for the bench. */
const props = defineProps<{ whole: WholeHead }>();
const change = useChange();
const open = ref('');
const total = computed(() => workTotal(props.whole.tasks));
const stops = computed(() => stopped(props.whole.tasks));
const port = (t: Task) => {
  const found = props.whole.ports.find((p) => p.id === t.portId);
  return [t.side, found ? portLabel(found) : ''].filter(Boolean).join(' ');
};
const state = (t: Task) => stopWords(taskState(t), t.found?.typed ?? '', t.limit?.typed ?? '');
const tone = (t: Task) => {
  const s = taskState(t);
  return s === 'passed' || s === 'stop' ? 'loss' : s === 'there' ? 'gain' : 'note';
};
const aside = (t: Task) => {
  const near = followsPattern(props.whole.tasks, t);
  return [
    t.pattern ? 'the pattern' : '',
    near === undefined ? '' : near ? 'follows the pattern' : 'off the pattern',
    t.tool,
    t.time?.typed ?? '',
    t.note,
  ]
    .filter(Boolean)
    .join(' · ');
};
const tick = (t: Task) =>
  change.make(
    [replacement('task', { ...t, done: t.done ? null : today() })],
    t.done ? `${t.place}: open again.` : `${t.place}: done.`,
  );
const print = () => window.print();
</script>

<template>
  <div>
    <p v-if="whole.tasks.length === 0" class="reading">
      Nothing is on the work list. Add what is to be cut, and the places not to touch.
    </p>
    <p v-else class="reading">
      {{ total.done }} of {{ total.lines }} done;
      <template v-if="total.left > 0">
        <WorkedNumber :working="work(sumOfTimes, { values: noted(total.times, 'of the lines not done') })" />
        of work left.
      </template>
      <template v-else>no hours left to work.</template>
    </p>
    <p v-for="t in stops" :key="t.id" class="loss stop" role="alert">{{ t.place }}, {{ port(t) }}: {{ state(t) }}.</p>
    <ol v-if="whole.tasks.length" class="list">
      <li v-for="t in whole.tasks" :key="t.id" :class="{ out: t.kind === 'keep out' }">
        <el-checkbox
          v-if="t.kind !== 'keep out'"
          :model-value="t.done !== null"
          :aria-label="`${t.place} done`"
          @change="tick(t)"
        />
        <span v-else class="sign" aria-hidden="true">✕</span>
        <div>
          <b>{{ t.kind === 'keep out' ? 'Do not touch' : (t.operation ?? t.kind) }}</b>
          {{ t.place }}
          <span class="note">{{ port(t) }}</span>
          <p v-if="t.kind !== 'keep out'" class="sizes">
            <span v-if="t.wanted">to {{ t.wanted.typed }}</span>
            <span v-if="t.limit">stop at {{ t.limit.typed }}</span>
            <span :class="tone(t)">{{ state(t) }}</span>
            <span v-if="t.done" class="note">done {{ t.done }}</span>
          </p>
          <p v-if="aside(t)" class="note">{{ aside(t) }}</p>
        </div>
        <el-button link class="no-print" :aria-label="`Edit ${t.place}`" @click="open = open === t.id ? '' : t.id">
          Edit
        </el-button>
        <TaskForm v-if="open === t.id" class="form" :whole="whole" :task="t" @done="open = ''" />
      </li>
    </ol>
    <p class="no-print">
      <el-button size="small" type="primary" @click="open = open === 'new' ? '' : 'new'">Add a line</el-button>
      <el-button size="small" @click="print">Print</el-button>
    </p>
    <TaskForm v-if="open === 'new'" :whole="whole" @done="open = ''" />
    <p class="note">
      Limits are the shop’s own. A wall is measured, not guessed: cut a little, sonic-test, cut again. Wear eye, ear and
      lung protection; iron and aluminium dust are no good to breathe.
    </p>
  </div>
</template>

<style scoped>
.list {
  list-style: none;
  margin: 6px 0;
  padding: 0;
}
.list li {
  display: grid;
  grid-template-columns: 28px minmax(0, 1fr) auto;
  gap: 4px 10px;
  padding: 6px 0;
  border-bottom: 1px solid var(--rule);
  break-inside: avoid;
}
.list p {
  margin: 0;
}
.sizes {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
}
.form {
  grid-column: 1 / -1;
}
.sign {
  color: var(--loss);
  text-align: center;
}
.stop {
  margin: 2px 0;
  font-weight: 600;
}
</style>
