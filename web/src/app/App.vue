<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { computed, defineAsyncComponent, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import WorkingPanel from '../parts/WorkingPanel.vue';
import { useSettings } from '../state/settings.js';
import { useWorking } from '../state/working.js';
import { useReach } from '../data/reach.js';
import { useUndo } from '../data/undo.js';
import { useExchange } from '../exchange/exchange.js';
import AwayNote from './AwayNote.vue';
import CourseLine from './CourseLine.vue';
import DemoNote from './DemoNote.vue';
import LineupBar from './LineupBar.vue';
import SaidLine from './SaidLine.vue';
import TargetStrip from './TargetStrip.vue';
import PaperHead from './PaperHead.vue';
import { isTyping } from './keys.js';
import { rememberScroll } from './scrollMemory.js';
import { STEPS, guideAt, stepOf } from './router.js';
import type * as Glossary from './glossary.js';
import type { Tour } from '../help/tours.js';
import { useUnreached } from './unreached.js';

const KeyMap = defineAsyncComponent(() => import('./KeyMap.vue'));
const FindPanel = defineAsyncComponent(() => import('./FindPanel.vue'));
const GlossaryPanel = defineAsyncComponent(() => import('./GlossaryPanel.vue'));
const RescuePage = defineAsyncComponent(() => import('../care/RescuePage.vue'));
const PageTour = defineAsyncComponent(() => import('../help/PageTour.vue'));
const PageExport = defineAsyncComponent(() => import('../exchange/PageExport.vue'));
const ImportDialog = defineAsyncComponent(() => import('../exchange/ImportDialog.vue'));

const router = useRouter();
const route = useRoute();
const undo = useUndo();
const settings = useSettings();
const exchange = useExchange();
const unreached = useUnreached(router);
const page = useTemplateRef<HTMLElement>('page');
rememberScroll(router, () => page.value);
const working = useWorking();
router.afterEach((to, from) => {
  if (to.fullPath !== from.fullPath) working.leave();
});
const { damaged } = useReach();
const keysOpen = ref(false);
const findOpen = ref(false);
const exportOpen = ref(false);
/** The ways round the pages: read after the first screen stands; without them a page offers none. */
const tours = shallowRef<readonly Tour[]>([]);
void import('../help/tours.js').then((m) => (tours.value = m.TOURS)).catch(() => undefined);
/** The way round this page, where there is one; and the one being gone. */
const tour = computed(() => tours.value.find((t) => t.page === String(route.name)));
const touring = shallowRef<Tour>();
/** The word the glossary opens at; undefined while it is shut. */
const glossaryAt = ref<string>();

useEventListener('keydown', (event) => {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
    event.preventDefault();
    findOpen.value = !findOpen.value;
    return;
  }
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 's') return saveForm(event);
  if (isTyping(event)) {
    // Esc leaves a field, so that the page's keys answer again.
    const field = event.target as HTMLElement;
    if (event.key === 'Escape' && !field.closest('.el-overlay')) field.blur();
    return;
  }
  const command = event.ctrlKey || event.metaKey;
  if (command && event.key.toLowerCase() === 'z') {
    event.preventDefault();
    void (event.shiftKey ? undo.redo() : undo.undo());
  } else if (command || event.altKey) return;
  else if (event.key === '?') keysOpen.value = !keysOpen.value;
  else if (event.key === 'g') glossaryAt.value = glossaryAt.value === undefined ? (over ?? '') : undefined;
  else if (event.key === 'h') void router.push(guideAt(route));
  else if (event.key === 'u') settings.system = settings.system === 'inch' ? 'metric' : 'inch';
  else if (event.key === '[' || event.key === ']') {
    const at = STEPS.findIndex((s) => s.name === stepOf(route));
    const next = STEPS[at + (event.key === ']' ? 1 : -1)];
    if (next) void router.push({ name: next.name });
  }
});

// A heading or label that holds a word of the glossary opens it there; what can be pressed itself is left alone.
const NAMES = 'th, dt, h2, h3, label';
const OWN = 'a, button, input, select, textarea, [role="combobox"], [role="tab"], .el-checkbox, .el-radio';
/** The words come once a pointer moves: the first screen does without them. Away, they are asked for again by the next move. */
let words: Promise<typeof Glossary | undefined> | undefined;
const glossary = () => (words ??= import('./glossary.js').catch(() => (words = undefined)));
/** The heading or label under the pointer, and the word it is about. */
let name: Element | null = null;
let over: string | undefined;
async function lookUp(): Promise<void> {
  const at = name;
  const found = await glossary();
  if (at !== name) return;
  over = at?.closest('main') ? found?.termIn(at.textContent) : undefined;
  if (at && at.hasAttribute('data-term') !== (over !== undefined)) at.toggleAttribute('data-term', over !== undefined);
}
useEventListener('pointerover', (event) => {
  name = (event.target as Element).closest?.(NAMES) ?? null;
  if (!name) over = undefined;
  void lookUp();
});
useEventListener('click', async (event) => {
  const target = event.target as Element;
  const heading = target.closest?.('th, dt');
  if (!heading?.closest('main') || target.closest(OWN) || heading.querySelector(OWN)) return;
  glossaryAt.value = (await glossary())?.termIn(heading.textContent) ?? glossaryAt.value;
});
// Saved as everywhere else: the form the cursor is in.
function saveForm(event: KeyboardEvent): void {
  event.preventDefault();
  (event.target as Element | null)?.closest('form')?.requestSubmit();
}

/** A page that was just opened has drawn itself by then, ms. */
const SETTLED = 600;
// A link from the guide begins a tour: `?tour=1`.
watch(
  () => route.query.tour,
  (asked) => {
    if (!asked) return;
    void router.replace({ query: { ...route.query, tour: undefined } });
    setTimeout(() => (touring.value = tour.value), SETTLED);
  },
);

// A file dropped anywhere is read as what it is; nothing is written before it is accepted.
useEventListener('dragover', (event) => {
  if (event.dataTransfer?.types.includes('Files')) event.preventDefault();
});
useEventListener('drop', (event) => {
  const file = event.dataTransfer?.files[0];
  if (!file) return;
  event.preventDefault();
  void exchange.take(file);
});
</script>

<template>
  <a class="skip" href="#page">To the page</a>
  <div class="frame">
    <TargetStrip
      class="frame-strip"
      :tour="tour?.title"
      @keys="keysOpen = true"
      @glossary="glossaryAt = ''"
      @find="findOpen = true"
      @take="exportOpen = true"
      @tour="touring = tour"
    />
    <CourseLine class="frame-course" />
    <main id="page" ref="page" tabindex="-1">
      <PaperHead />
      <DemoNote />
      <AwayNote />
      <RescuePage v-if="damaged" />
      <p v-else-if="unreached" class="reading" role="alert">
        “{{ unreached.meta.title }}” cannot be opened while the server does not answer. It opens by itself as soon as it
        does.
      </p>
      <RouterView v-else />
    </main>
    <LineupBar class="frame-lineup" />
  </div>
  <WorkingPanel />
  <SaidLine />
  <KeyMap v-if="keysOpen" @close="keysOpen = false" />
  <GlossaryPanel v-if="glossaryAt !== undefined" :word="glossaryAt" @close="glossaryAt = undefined" />
  <FindPanel v-if="findOpen" @close="findOpen = false" @keys="keysOpen = true" @glossary="glossaryAt = $event" />
  <PageTour v-if="touring" :tour="touring" @close="touring = undefined" />
  <PageExport v-if="exportOpen" @close="exportOpen = false" />
  <ImportDialog v-if="exchange.pending" />
</template>

<style scoped>
.frame {
  display: grid;
  height: 100%;
  grid: 'strip strip' 50px 'course page' 1fr 'lineup lineup' 62px / 133px 1fr;
}
main {
  grid-area: page;
  /* What is hidden from view but read aloud is placed within the page, not below the frame. */
  position: relative;
  overflow: auto;
  padding: 12px 22px 24px 20px;
  outline: none;
}
@media (width < 700px) {
  .frame {
    grid: 'strip' 50px 'course' 44px 'page' minmax(0, 1fr) 'lineup' 62px / minmax(0, 1fr);
  }
  main {
    padding: 10px 14px 20px;
  }
}
.skip {
  position: absolute;
  left: -999px;
}
.skip:focus {
  left: 8px;
  top: 8px;
  z-index: 10;
  background: var(--paper);
}
@media print {
  .frame {
    display: block;
  }
}
</style>
