<script setup lang="ts">
import type { ShopView } from '@alluvium/records';
import { computed, defineAsyncComponent } from 'vue';
import { useCare } from '../data/care.js';
import { keptDrafts } from '../data/drafts.js';
import { useLooked } from '../data/looked.js';
import { useSettings } from '../state/settings.js';

/** What waits somewhere in the shop; each line leads to its place. */
const props = defineProps<{ shop: ShopView }>();
const settings = useSettings();
const looked = useLooked();
const care = useCare();
// Rare, and what each is called comes with the schemas of all records.
const DraftLines = defineAsyncComponent(() => import('./DraftLines.vue'));
const drafts = keptDrafts();
const FEW = 6;
/** Kinds of records named of a head that changed. */
const NAMED = 3;
const day = (at: string) => settings.say.day(at.slice(0, 10));
const changed = computed(() =>
  props.shop.changed.map((c) => ({
    ...c,
    what: [...c.what.slice(0, NAMED), ...(c.what.length > NAMED ? [`${c.what.length - NAMED} kinds more`] : [])].join(
      ', ',
    ),
    isNew: (looked.at[c.headId] ?? '') < new Date(c.at).toISOString(),
  })),
);
const waits = (w: ShopView['waiting'][number]) =>
  [w.mend ? `${w.mend} to mend` : '', w.open ? `${w.open} to look at` : ''].filter(Boolean).join(', ');
const backup = computed(() => care.data.value?.backups[0]);
</script>

<template>
  <div class="notes">
    <DraftLines v-if="drafts.length" />
    <section v-if="shop.sessions.length" aria-labelledby="sessions">
      <h2 id="sessions">On the bench</h2>
      <ul>
        <li v-for="s in shop.sessions.slice(0, FEW)" :key="s.id">
          <RouterLink :to="{ name: 'session', params: { id: s.id } }">{{ s.title }}</RouterLink>
          <span class="note">
            {{ s.head }}, {{ s.readings }} readings{{ s.date ? `, ${settings.say.day(s.date)}` : '' }}
          </span>
        </li>
      </ul>
    </section>
    <section v-if="shop.waiting.length" aria-labelledby="waiting">
      <h2 id="waiting">Heads that wait</h2>
      <ul>
        <li v-for="w in shop.waiting.slice(0, FEW)" :key="w.headId">
          <RouterLink :to="{ name: 'arrival', params: { id: w.headId } }">{{ w.head }}</RouterLink>
          <span class="note">{{ waits(w) }}</span>
        </li>
      </ul>
      <p v-if="shop.waiting.length > FEW" class="note">and {{ shop.waiting.length - FEW }} more</p>
    </section>
    <section v-if="shop.questions.length" aria-labelledby="questions">
      <h2 id="questions">Open questions</h2>
      <ul>
        <li v-for="q in shop.questions.slice(0, FEW)" :key="q.id">
          <RouterLink :to="{ name: 'claims', params: { id: q.headId ?? '' }, query: { pane: 'questions' } }">
            {{ q.text }}
          </RouterLink>
        </li>
      </ul>
    </section>
    <section v-if="looked.pinned.length + looked.recent.length" aria-labelledby="recent">
      <h2 id="recent">{{ looked.pinned.length ? 'Pinned and recent heads' : 'Recent heads' }}</h2>
      <ul>
        <li v-for="head in [...looked.pinned, ...looked.recent]" :key="head.id">
          <RouterLink :to="{ name: 'head', params: { id: head.id } }">{{ head.name }}</RouterLink>
          <span v-if="looked.isPinned(head.id)" class="note">pinned</span>
        </li>
      </ul>
    </section>
    <section v-if="changed.length" aria-labelledby="changed">
      <h2 id="changed">Changed last</h2>
      <ul>
        <li v-for="c in changed" :key="c.headId">
          <RouterLink :to="{ name: 'head', params: { id: c.headId } }">{{ c.head }}</RouterLink>
          <span class="note">
            {{ day(c.at) }}, {{ c.what }}
            <b v-if="c.isNew">since you looked</b>
          </span>
        </li>
      </ul>
    </section>
    <section aria-labelledby="backup">
      <h2 id="backup">Last backup</h2>
      <p v-if="care.isPending.value" class="note">Asking …</p>
      <p v-else>
        <RouterLink :to="{ name: 'backups' }">{{ backup ? day(backup.made) : 'none yet' }}</RouterLink>
      </p>
    </section>
  </div>
</template>

<style scoped>
.notes :deep(h2) {
  margin: 0 0 2px;
  font-size: 15px;
  border-bottom: 1px solid var(--rule-strong);
}
section {
  margin-bottom: 16px;
}
.notes :deep(ul) {
  list-style: none;
  margin: 0;
  padding: 0;
}
.notes :deep(li) {
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}
.notes :deep(li a) {
  color: inherit;
}
.notes :deep(.note) {
  margin: 0 8px;
}
p {
  margin: 3px 0;
}
</style>
