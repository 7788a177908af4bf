<script setup lang="ts">
import { NOUN_WORDS, type Noun } from '@alluvium/records';
import { ref } from 'vue';
import { dropDraft, keptDrafts } from '../data/drafts.js';

/** What was typed in this browser and never saved; a kind of record there is no more is left alone. */
const isKnown = (noun: string): noun is Noun => noun in NOUN_WORDS;
const known = () => keptDrafts().flatMap((d) => (isKnown(d.noun) ? [{ ...d, called: NOUN_WORDS[d.noun].one }] : []));
const drafts = ref(known());
function drop(key: string): void {
  dropDraft(key);
  drafts.value = known();
}
</script>

<template>
  <section v-if="drafts.length" aria-labelledby="drafts">
    <h2 id="drafts">Not saved</h2>
    <ul>
      <li v-for="d in drafts" :key="d.key">
        <RouterLink v-if="d.place" :to="d.place">{{ d.name || `a ${d.called}` }}</RouterLink>
        <template v-else>{{ d.name || `a ${d.called}` }}</template>
        <span class="note">{{ d.called }}</span>
        <el-popconfirm
          :title="`Throw away what was typed${d.name ? ` of “${d.name}”` : ''}?`"
          confirm-button-text="Throw it away"
          cancel-button-text="Keep it"
          width="240"
          @confirm="drop(d.key)"
        >
          <template #reference>
            <el-button link :aria-label="`Discard ${d.name || d.called}`">Discard</el-button>
          </template>
        </el-popconfirm>
      </li>
    </ul>
  </section>
</template>
