<script setup lang="ts">
import { NOUN_WORDS, type ImportProgress, type Noun } from '@alluvium/records';
import { computed, ref } from 'vue';
import { ApiProblem, lines } from '../api/client.js';
import { useRefresh } from '../api/queries.js';
import { useUndo } from '../state/undo.js';
import type { Pending } from './exchange.js';

/** What a bundle would bring, before anything is written; then all of it or nothing. */
const props = defineProps<{ pending: Extract<Pending, { kind: 'bundle' }> }>();
const emit = defineEmits<{ done: [] }>();
const undo = useUndo();
const refresh = useRefresh();
const replace = ref(false);
const progress = ref<{ done: number; of: number }>();
const problem = ref('');

const counts = computed(() => props.pending.preview.counts.filter((c) => c.fresh + c.same + c.changed > 0));
const total = (key: 'fresh' | 'changed' | 'same') => counts.value.reduce((n, c) => n + c[key], 0);
const nothing = computed(() => total('fresh') === 0 && (total('changed') === 0 || !replace.value));

async function accept(): Promise<void> {
  progress.value = { done: 0, of: 1 };
  problem.value = '';
  try {
    for await (const line of lines<ImportProgress>(
      'POST',
      `/api/bundle?changed=${replace.value ? 'replace' : 'keep'}`,
      props.pending.text,
    )) {
      if ('finished' in line) {
        undo.did(`${line.fresh} records brought in${line.changed ? `, ${line.changed} replaced` : ''}.`, line.batch);
        await refresh();
        emit('done');
      } else if ('problem' in line) problem.value = line.problem.detail;
      else progress.value = line;
    }
  } catch (error) {
    problem.value = error instanceof ApiProblem ? error.message : String(error);
  }
  progress.value = undefined;
}
</script>

<template>
  <table v-if="counts.length" class="ruled">
    <thead>
      <tr>
        <th></th>
        <th class="num">new</th>
        <th class="num">here already</th>
        <th class="num">differs from here</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="c in counts" :key="c.noun">
        <td>{{ NOUN_WORDS[c.noun as Noun].many }}</td>
        <td class="num">{{ c.fresh || '' }}</td>
        <td class="num">{{ c.same || '' }}</td>
        <td class="num">{{ c.changed || '' }}</td>
      </tr>
    </tbody>
  </table>
  <template v-if="pending.preview.problems.length">
    <p class="loss" role="alert">
      {{ pending.preview.problems.length }} problem{{ pending.preview.problems.length > 1 ? 's' : '' }}; nothing can be
      brought in until the file is mended.
    </p>
    <ul class="problems">
      <li v-for="(p, i) in pending.preview.problems" :key="i">
        <b>{{ p.place }}</b>
        {{ p.message }}
      </li>
    </ul>
  </template>
  <p v-else-if="total('changed')">
    <label>
      <input v-model="replace" type="checkbox" />
      replace what differs here with what the file says
    </label>
  </p>
  <p v-for="q in pending.questions" :key="q" class="caution">{{ q }}</p>
  <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
  <el-progress v-if="progress" :percentage="Math.round((100 * progress.done) / Math.max(1, progress.of))" />
  <div class="foot">
    <el-button
      type="primary"
      :disabled="pending.preview.problems.length > 0 || nothing || progress !== undefined"
      @click="accept"
    >
      Bring it in
    </el-button>
    <span v-if="nothing && pending.preview.problems.length === 0" class="note">
      {{ total('changed') ? 'Nothing new: what differs stays as it is here.' : 'All of it is here already.' }}
    </span>
  </div>
</template>

<style scoped>
.problems {
  max-height: 260px;
  overflow: auto;
  padding-left: 18px;
}
.foot {
  margin-top: 16px;
  display: flex;
  gap: 16px;
  align-items: center;
}
</style>
