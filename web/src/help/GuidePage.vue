<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useSettings } from '../state/settings.js';
import { TOURS } from './tours.js';
import { CHAPTERS, htmlOf } from './guide.js';

/** The user guide, searched as one types; it opens at the chapter of the page one came from. */
const route = useRoute();
const router = useRouter();
const settings = useSettings();
const search = ref('');
const found = computed(() => {
  const words = search.value.toLowerCase().split(/\s+/).filter(Boolean);
  return CHAPTERS.filter((c) => words.every((w) => `${c.title} ${c.text}`.toLowerCase().includes(w)));
});
const chapter = computed(() => found.value.find((c) => c.id === route.query.chapter) ?? found.value[0]);
const html = computed(() => (chapter.value ? htmlOf(chapter.value) : ''));
/** Lines of a chapter that have the first word searched for. */
const lines = computed(() => {
  const [word] = search.value.toLowerCase().split(/\s+/).filter(Boolean);
  if (!word || !chapter.value) return 0;
  return chapter.value.text.split('\n').filter((l) => l.toLowerCase().includes(word)).length;
});
/** Ways round a page, begun on the page itself. */
const tours = computed(() =>
  TOURS.filter((t) => t.page !== 'head' || settings.headId).map((t) => ({
    ...t,
    to: { name: t.page, params: t.page === 'head' ? { id: settings.headId } : {}, query: { tour: '1' } },
  })),
);
const text = useTemplateRef<HTMLElement>('text');
watch(chapter, () => nextTick(() => text.value?.closest('main')?.scrollTo?.({ top: 0 })));
/** A link within the guide opens its chapter. */
function follow(event: MouseEvent): void {
  const href = (event.target as HTMLElement).closest('a')?.getAttribute('href');
  if (!href?.startsWith('#')) return;
  event.preventDefault();
  void router.replace({ query: { chapter: href.slice(1) } });
}
</script>

<template>
  <section class="guide">
    <nav aria-label="Chapters of the guide" class="no-print">
      <h1>Guide</h1>
      <el-input v-model="search" placeholder="find in the guide" aria-label="Find in the guide" clearable />
      <ul>
        <li v-for="c in found" :key="c.id">
          <RouterLink
            :to="{ query: { chapter: c.id } }"
            replace
            :aria-current="c.id === chapter?.id ? 'true' : undefined"
          >
            {{ c.title }}
          </RouterLink>
        </li>
      </ul>
      <h2>Tours</h2>
      <ul>
        <li v-for="t in tours" :key="t.page">
          <RouterLink :to="t.to">{{ t.title }}</RouterLink>
        </li>
      </ul>
      <p v-if="found.length === 0" class="note" role="status">No matches</p>
    </nav>
    <article v-if="chapter" ref="text" @click="follow">
      <h2>{{ chapter.title }}</h2>
      <p v-if="lines" class="note no-print">{{ lines === 1 ? 'one line has it' : `${lines} lines have it` }}</p>
      <!-- The project's own text, built in. -->
      <!-- eslint-disable-next-line vue/no-v-html -->
      <div class="text" v-html="html" />
    </article>
  </section>
</template>

<style scoped>
nav h2 {
  margin: 14px 0 0;
  font-size: 15px;
}
.guide {
  display: grid;
  grid-template-columns: 190px minmax(0, 68ch);
  gap: 40px;
}
nav {
  position: sticky;
  top: 0;
  align-self: start;
}
ul {
  list-style: none;
  margin: 10px 0;
  padding: 0;
}
li a {
  display: block;
  padding: 3px 0 3px 8px;
  color: var(--slate);
  text-decoration: none;
}
li a[aria-current] {
  color: var(--ink);
  font-weight: 600;
  box-shadow: inset 3px 0 0 var(--intake);
}
.text {
  font: 17px/1.45 var(--sans);
}
.text :deep(h3) {
  font: 600 17px var(--sans);
  margin: 18px 0 4px;
}
.text :deep(table) {
  border-collapse: collapse;
}
.text :deep(td),
.text :deep(th) {
  border-bottom: 1px solid var(--rule);
  padding: 3px 12px 3px 0;
  text-align: left;
  font: 15px var(--sans);
}
.text :deep(code) {
  font-size: 14px;
}
@media (width < 700px) {
  .guide {
    grid-template-columns: minmax(0, 1fr);
    gap: 12px;
  }
  nav {
    position: static;
  }
  ul {
    display: flex;
    flex-wrap: wrap;
    gap: 0 10px;
  }
}
</style>
