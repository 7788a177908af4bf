<script setup lang="ts">
import { arrivalMark, degreeWords } from '@alluvium/core';
import { useEventListener } from '@vueuse/core';
import type Sortable from 'sortablejs';
import { nextTick, onBeforeUnmount, onMounted, useTemplateRef } from 'vue';
import PressArea from '../parts/PressArea.vue';
import { useComparison, useHidden, useWriteLineup, type CompareHead } from '../data/comparison.js';
import { useChange } from '../data/useChange.js';
import { isTyping } from './keys.js';
import HoverNote from '../parts/HoverNote.vue';

// tokens.value!: dragging begins on the list itself.

/** The heads under comparison as lettered tokens; the first is the baseline. */
const { active, heads, view } = useComparison();
const hidden = useHidden();
const change = useChange();
const write = useWriteLineup();

async function put(order: readonly CompareHead[], what: string): Promise<void> {
  if (!active.value) return;
  const away = new Set(heads.value.filter((h) => hidden.letters.has(h.letter)).map((h) => h.id));
  const build = active.value.build.id;
  const entries = order.map((h) => ({ id: h.id, stageId: h.stage.id, sheetId: h.chosenSheetId }));
  const written = await change.run(() => write(build, { entries }), what);
  if (written) hidden.set(heads.value.filter((h) => away.has(h.id)).map((h) => h.letter));
}
const tokens = useTemplateRef<HTMLElement>('tokens');
let sortable: Sortable | undefined;
onMounted(async () => {
  // Fetched once the frame stands: nothing is dragged before.
  const { default: Drag } = await import('sortablejs');
  if (!tokens.value) return;
  sortable = Drag.create(tokens.value, {
    animation: 120,
    ghostClass: 'ghost',
    draggable: '.token',
    onEnd: ({ item, oldIndex = 0, newIndex = 0 }) => {
      if (oldIndex === newIndex) return;
      // The page is drawn from the data: put the token back and let the new order move it.
      tokens.value!.insertBefore(item, tokens.value!.children[oldIndex + (oldIndex < newIndex ? 0 : 1)] ?? null);
      void move(oldIndex, newIndex);
    },
  });
});
onBeforeUnmount(() => sortable?.destroy());

async function move(index: number, to: number): Promise<void> {
  const order = [...heads.value];
  const [head] = order.splice(index, 1);
  if (!head || to < 0 || to > order.length) return;
  order.splice(to, 0, head);
  await put(order, to === 0 ? `${head.name} is the baseline now.` : 'Lineup reordered.');
  await nextTick();
  document.querySelector<HTMLElement>(`[data-token="${head.id}"] button`)?.focus();
}

function onTokenKey(event: KeyboardEvent, head: CompareHead): void {
  if (event.key.toLowerCase() === 'b') void move(head.index, 0);
  else if (event.altKey && event.key === 'ArrowLeft') void move(head.index, head.index - 1);
  else if (event.altKey && event.key === 'ArrowRight') void move(head.index, head.index + 1);
  else if (event.key === 'Delete')
    void put(
      heads.value.filter((h) => h.id !== head.id),
      `${head.name} removed from the lineup.`,
    );
  else return;
  event.preventDefault();
}

useEventListener('keydown', (event) => {
  if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey || !/^[1-9]$/.test(event.key)) return;
  const head = heads.value[Number(event.key) - 1];
  if (head) hidden.toggle(head.letter);
});
</script>

<template>
  <footer>
    <span class="note label">in the lineup</span>
    <div ref="tokens" class="tokens">
      <div
        v-for="h in heads"
        :key="h.id"
        class="token"
        :class="{ off: hidden.letters.has(h.letter) }"
        :data-token="h.id"
        @keydown="onTokenKey($event, h)"
      >
        <PressArea
          class="letter"
          :class="{ base: h.index === 0 }"
          :aria-pressed="!hidden.letters.has(h.letter)"
          :aria-label="`${h.letter} ${h.name}, ${h.stage.name}${h.index === 0 ? ', baseline' : ''}${arrivalMark(h.arrival) ? `, ${arrivalMark(h.arrival)}` : ''}: shown`"
          @click="hidden.toggle(h.letter)"
        >
          {{ h.letter }}
        </PressArea>
        <HoverNote :says="degreeWords(h.verdict)">
          <RouterLink :to="{ name: 'head', params: { id: h.whole.head.id }, query: { stage: h.stage.id } }">
            {{ h.name }}
            <small>
              {{ h.stage.name }}
              <span v-if="arrivalMark(h.arrival)" class="mark" :class="{ loss: h.arrival.condition === 'rejected' }">
                · {{ arrivalMark(h.arrival) }}
              </span>
            </small>
          </RouterLink>
        </HoverNote>
      </div>
    </div>
    <span v-if="view && heads.length === 0" class="note">Empty: open a head and add it to the lineup.</span>
    <span v-else-if="heads.length && heads.length < 4" class="note hint">
      drag to reorder · digit hides · B sets the baseline
    </span>
  </footer>
</template>

<style scoped>
footer {
  grid-area: lineup;
  display: flex;
  align-items: center;
  background: var(--paper-deep);
  border-top: 1px solid var(--rule-strong);
  padding: 0 18px 0 20px;
  gap: 14px;
  overflow: hidden;
}
.label {
  width: 116px;
  flex: none;
}
.tokens {
  display: flex;
  gap: 12px;
  min-width: 0;
}
.token {
  display: flex;
  align-items: center;
  gap: 9px;
  padding: 4px 10px 4px 8px;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 2px;
  cursor: grab;
  min-width: 0;
}
.token.off {
  background: transparent;
  border-style: dashed;
}
.token.off .letter,
.token.off a {
  color: var(--faint);
}
.letter {
  width: 26px;
  height: 26px;
  border-radius: 50%;
  border: 1.6px solid var(--ink);
  text-align: center;
  line-height: 25px;
  font-weight: 600;
  flex: none;
}
.letter.base {
  background: var(--ink);
  color: var(--paper);
}
.token.off .letter.base {
  background: none;
}
.token a {
  color: inherit;
  text-decoration: none;
  line-height: 1.2;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
small {
  display: block;
  font-size: 13px;
  color: var(--slate);
}
.mark {
  color: var(--caution);
}
.mark.loss {
  color: var(--loss);
}
.ghost {
  opacity: 0.4;
}
.hint {
  margin-left: auto;
  white-space: nowrap;
}
@media (max-width: 1240px) {
  .hint {
    display: none;
  }
}
/* A phone has room for the letters alone; their names are read aloud. */
@media (width < 700px) {
  .label {
    display: none;
  }
  footer {
    overflow-x: auto;
    padding: 0 14px;
  }
  .token {
    flex: none;
    max-width: 150px;
  }
}
</style>
