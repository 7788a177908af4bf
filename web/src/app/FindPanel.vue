<script setup lang="ts">
import { refDebounced } from '@vueuse/core';
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { useActiveBuild } from '../data/build.js';
import { useLooked } from '../data/looked.js';
import { useLibrary, useListOf } from '../data/queries.js';
import { useSettings } from '../state/settings.js';
import { answering, type Found } from './finding.js';
import { GLOSSARY } from './glossary.js';
import { STEPS } from './router.js';

/** One field that finds heads, engines, sources, pages, words and acts; arrows choose, Enter goes. */
const emit = defineEmits<{ close: []; glossary: [word: string]; keys: [] }>();
const router = useRouter();
const settings = useSettings();
const looked = useLooked();
const { active, builds } = useActiveBuild();
const search = ref('');
const settled = refDebounced(search, 120);
const library = useLibrary(() => ({ search: settled.value, size: 8 }));
const sources = useListOf('source');

const goTo = (to: Parameters<typeof router.push>[0]) => () => void router.push(to);
const PAGES: readonly (readonly [string, string, Parameters<typeof router.push>[0]])[] = [
  ['The shop', 'every engine, what waits', { name: 'shop' }],
  ['The trained eye', 'practice', { name: 'practice' }],
  ['Report', 'print, PDF', { name: 'report' }],
  ['Backups', 'safe, put back', { name: 'backups' }],
  ['Guide', 'help, manual', { name: 'guide' }],
  ['Settings', 'units, theme, text, about', { name: 'settings' }],
];
const all = computed((): Found[] => {
  const build = active.value ? { build: active.value.build.id } : {};
  return [
    ...looked.pinned.map(({ id, name }) => ({
      key: `pinned ${id}`,
      kind: 'head' as const,
      text: name,
      note: 'pinned',
      go: goTo({ name: 'head', params: { id } }),
    })),
    ...STEPS.map((s) => ({
      key: `page ${s.name}`,
      kind: 'page' as const,
      text: s.title,
      go: goTo({ name: s.name, query: s.needsBuild ? build : {} }),
    })),
    ...PAGES.map(([text, note, to]) => ({ key: `page ${text}`, kind: 'page' as const, text, note, go: goTo(to) })),
    ...(library.data.value?.items ?? []).map(({ head }) => ({
      key: `head ${head.id}`,
      kind: 'head' as const,
      text: head.name,
      note: [head.maker, head.catalogueNumber, ...head.tags].filter(Boolean).join(', '),
      go: goTo({ name: 'head', params: { id: head.id } }),
    })),
    ...builds.value.map((b) => ({
      key: `engine ${b.id}`,
      kind: 'engine' as const,
      text: b.name,
      go: () => {
        settings.buildId = b.id;
        void router.push({ name: 'target', query: { build: b.id } });
      },
    })),
    ...(sources.data.value ?? []).map((s) => ({
      key: `source ${s.id}`,
      kind: 'source' as const,
      text: s.name,
      note: s.kind,
      go: goTo({ name: 'claims', query: { pane: 'sources' } }),
    })),
    { key: 'act head', kind: 'act', text: 'New head', go: goTo({ name: 'heads', query: { new: '1' } }) },
    { key: 'act build', kind: 'act', text: 'New build', go: goTo({ name: 'target', query: { new: '1' } }) },
    {
      key: 'act units',
      kind: 'act',
      text: settings.system === 'inch' ? 'Metric units' : 'Inch units',
      go: () => (settings.system = settings.system === 'inch' ? 'metric' : 'inch'),
    },
    {
      key: 'act theme',
      kind: 'act',
      text: settings.theme === 'night' ? 'Light theme' : 'Night theme',
      go: () => (settings.theme = settings.theme === 'night' ? 'light' : 'night'),
    },
    { key: 'act keys', kind: 'act', text: 'Keys', go: () => emit('keys') },
    ...GLOSSARY.map(([word]) => ({
      key: `word ${word}`,
      kind: 'word' as const,
      text: word,
      note: 'glossary',
      go: () => emit('glossary', word),
    })),
  ];
});
const KINDS = {
  page: 'page',
  head: 'head',
  engine: 'engine',
  source: 'source',
  word: 'word',
  act: 'do',
} as const satisfies Record<Found['kind'], string>;

const shown = computed(() => answering(all.value, search.value));
const at = ref(0);
watch(search, () => (at.value = 0));
const field = useTemplateRef<{ focus: () => void }>('field');
const list = useTemplateRef<HTMLElement>('list');
function move(by: number): void {
  const n = shown.value.length;
  if (n === 0) return;
  at.value = (at.value + by + n) % n;
  void nextTick(() => list.value?.querySelector('[aria-selected=true]')?.scrollIntoView?.({ block: 'nearest' }));
}
function take(found: Found | undefined): void {
  if (!found) return;
  emit('close');
  found.go();
}
</script>

<template>
  <el-dialog
    :model-value="true"
    title="Find"
    width="min(560px, 94vw)"
    top="9vh"
    @opened="field?.focus()"
    @close="$emit('close')"
  >
    <el-input
      ref="field"
      v-model="search"
      placeholder="a head, an engine, a page, a word"
      role="combobox"
      aria-label="Find anything"
      aria-expanded="true"
      aria-controls="found"
      :aria-activedescendant="shown[at] ? `found-${at}` : undefined"
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
      @keydown.enter.prevent="take(shown[at])"
    />
    <ul v-if="shown.length" id="found" ref="list" role="listbox" aria-label="What was found">
      <li
        v-for="(f, i) in shown"
        :id="`found-${i}`"
        :key="f.key"
        role="option"
        :aria-selected="i === at"
        @mousemove="at = i"
        @click="take(f)"
      >
        <span>{{ f.text }}</span>
        <span class="note">{{ KINDS[f.kind] }}{{ f.note ? `, ${f.note}` : '' }}</span>
      </li>
    </ul>
    <p v-else class="note" role="status">
      {{ library.isFetching.value ? 'Looking …' : 'No matches' }}
    </p>
  </el-dialog>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 10px 0 0;
  padding: 0;
  max-height: 56vh;
  overflow: auto;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  padding: 5px 8px;
  border-bottom: 1px solid var(--rule);
  cursor: pointer;
}
li[aria-selected='true'] {
  background: var(--paper-deep);
  box-shadow: inset 3px 0 0 var(--intake);
}
</style>
