<script setup lang="ts">
import { NOUN_WORDS, type Noun } from '@alluvium/records';
import { computed, ref } from 'vue';
import { importBundle } from '../data/client.js';
import { useChange } from '../data/useChange.js';
import type { Pending } from './exchange.js';

/** What a bundle would bring, before anything is written; then all of it or nothing. */
const props = defineProps<{ pending: Extract<Pending, { kind: 'bundle' }> }>();
const emit = defineEmits<{ done: [] }>();
const change = useChange('here');
const replace = ref(false);
const progress = ref<{ done: number; of: number }>();
const problem = ref('');
let cancel = new AbortController();

const counts = computed(() => props.pending.preview.counts.filter((c) => c.fresh + c.same + c.changed > 0));
const total = (key: 'fresh' | 'changed' | 'same') => counts.value.reduce((n, c) => n + c[key], 0);
const nothing = computed(() => total('fresh') === 0 && (total('changed') === 0 || !replace.value));

async function accept(): Promise<void> {
  progress.value = { done: 0, of: 1 };
  cancel = new AbortController();
  const { signal } = cancel;
  const done = await change.run(
    () => importBundle(props.pending.text, replace.value ? 'replace' : 'keep', (p) => (progress.value = p), signal),
    ({ fresh, changed }) => `${fresh} records imported${changed ? `, ${changed} replaced` : ''}.`,
  );
  problem.value = change.refusal.value;
  progress.value = undefined;
  if (done) emit('done');
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
      {{ pending.preview.problems.length }} problem{{ pending.preview.problems.length > 1 ? 's' : '' }}; nothing is
      imported until the file is corrected.
    </p>
    <ul class="problems">
      <li v-for="(p, i) in pending.preview.problems" :key="i">
        <b>{{ p.place }}</b>
        {{ p.message }}
      </li>
    </ul>
  </template>
  <p v-else-if="total('changed')">
    <el-checkbox v-model="replace">Replace what differs here with what the file says</el-checkbox>
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
      Import
    </el-button>
    <el-button v-if="progress" @click="cancel.abort()">Cancel</el-button>
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
