<script setup lang="ts">
import { NOUN_WORDS, type Rescue } from '@alluvium/records';
import { computed, ref } from 'vue';
import { isServed, readableOfDamaged, rescueWith, useRescue } from '../data/care.js';
import { sentenceOf } from '../data/library.js';
import { useChange } from '../data/useChange.js';
import { download } from '../charts/save.js';
import { momentWords } from '../parts/moment.js';
import { useSettings } from '../state/settings.js';

const settings = useSettings();

/** In place of every page while the library is damaged: what is wrong, and what can be done. */
const rescue = useRescue();
const found = computed(() => rescue.data.value);
const change = useChange('here');
const problem = computed(() => change.refusal.value || sentenceOf(rescue.error.value) || '');
const share = ref<number>();

const LOOK_MS = 500;
async function use(name: string | null): Promise<void> {
  share.value = 0;
  const done = await change.run(() => rescueWith(name, (s) => (share.value = s)), 'The library is in place.');
  if (done) {
    while (!(await isServed())) await new Promise((go) => setTimeout(go, LOOK_MS));
    location.reload();
  }
  share.value = undefined;
}
async function saveReadable(): Promise<void> {
  const saved = await change.run(readableOfDamaged, 'What can be read is saved.');
  if (saved) download('alluvium-readable.json', saved.file);
}
const count = (r: Rescue['readable'][number]) => `${r.records} ${NOUN_WORDS[r.noun][r.records === 1 ? 'one' : 'many']}`;
</script>

<template>
  <section class="rescue">
    <h1>The library is damaged</h1>
    <p class="reading">
      Nothing of it is shown as if it were whole. What is there stays as it is: when a backup is put in its place, the
      damaged data is set aside beside it, under a name that says so.
    </p>
    <p v-if="problem" class="loss" role="alert">{{ problem }}</p>
    <p v-if="!found && !problem" role="status">Looking at what can be read, and at the backups …</p>
    <template v-if="found">
      <ul class="loss">
        <li v-for="d in found.damage" :key="d">{{ d }}</li>
      </ul>
      <h2>Backups</h2>
      <p v-if="found.backups.length === 0">There is no backup in the folder of this library.</p>
      <table v-else class="ruled">
        <thead>
          <tr>
            <th scope="col">made</th>
            <th scope="col" class="num">heads</th>
            <th scope="col">read just now</th>
            <th scope="col"><span class="unseen">what can be done with it</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="b in found.backups" :key="b.name">
            <th scope="row">{{ momentWords(b.made, settings.say) }}</th>
            <td class="num">{{ b.heads }}</td>
            <td :class="{ loss: !b.sound || b.newer }">
              {{ b.newer ? 'of a newer program: update this one first' : b.sound ? 'sound' : 'damaged' }}
            </td>
            <td>
              <el-button
                link
                type="primary"
                :disabled="!b.sound || b.newer || share !== undefined"
                @click="use(b.name)"
              >
                Restore it
              </el-button>
            </td>
          </tr>
        </tbody>
      </table>
      <el-progress v-if="share !== undefined" :percentage="Math.round(100 * share)" aria-label="How far it is" />
      <h2>What can still be read</h2>
      <p v-if="found.readable.length === 0">Nothing.</p>
      <template v-else>
        <p>{{ found.readable.map(count).join(', ') }}.</p>
        <p>
          <el-button :disabled="share !== undefined" @click="saveReadable">Save what can be read as a file</el-button>
        </p>
        <p class="note">It can be imported after a backup was put in place: what is there already makes no doubles.</p>
      </template>
      <h2>Neither</h2>
      <el-popconfirm
        width="300"
        title="Start an empty library? The damaged data is set aside, not deleted."
        confirm-button-text="Begin empty"
        cancel-button-text="Leave it"
        @confirm="use(null)"
      >
        <template #reference>
          <el-button :disabled="share !== undefined">Start an empty library</el-button>
        </template>
      </el-popconfirm>
    </template>
  </section>
</template>

<style scoped>
.rescue {
  max-width: 780px;
}
h2 {
  margin: 22px 0 6px;
}
tbody th {
  font-weight: 400;
  text-align: left;
  color: var(--ink);
  border-bottom: 1px solid var(--rule);
}
</style>
