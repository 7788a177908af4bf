<script setup lang="ts">
import { inspectionMark, type Finding, type Inspection } from '@alluvium/records';
import { computed, nextTick, useTemplateRef } from 'vue';
import { MARKS } from './marks.js';

/**
 * The checklist as one list driven by keys: arrows move, F fine, U unsure, S skip, X something found, O open again,
 * Enter goes to the line's fields.
 */
const props = defineProps<{
  inspections: readonly Inspection[];
  standing: readonly Finding[];
  chosen: string | undefined;
}>();
const emit = defineEmits<{
  choose: [string];
  tick: [Inspection, 'fine' | 'unsure' | 'open'];
  skip: [Inspection];
  found: [Inspection];
  enter: [Inspection];
}>();
const list = useTemplateRef<HTMLElement>('list');

const groups = computed(() => {
  const result: { name: string; open: number; lines: { i: Inspection; mark: keyof typeof MARKS }[] }[] = [];
  for (const i of props.inspections) {
    let group = result.find((g) => g.name === i.group);
    if (!group) result.push((group = { name: i.group, open: 0, lines: [] }));
    const mark = inspectionMark(i, props.standing);
    group.lines.push({ i, mark });
    if (mark === 'open') group.open++;
  }
  return result;
});
const flat = computed(() => groups.value.flatMap((g) => g.lines.map((l) => l.i)));
const at = computed(() => flat.value.findIndex((i) => i.id === props.chosen));

function go(index: number): void {
  const next = flat.value[Math.max(0, Math.min(flat.value.length - 1, index))];
  if (!next) return;
  emit('choose', next.id);
  void nextTick(() => document.getElementById(`line-${next.id}`)?.scrollIntoView({ block: 'nearest' }));
}
/** On to the next line that is still open, else simply the next. */
function onward(): void {
  const after = flat.value.findIndex((i, k) => k > at.value && i.state === 'open');
  go(after >= 0 ? after : at.value + 1);
}
function onKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const line = flat.value[at.value];
  const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
  if (key === 'ArrowDown') go(at.value + 1);
  else if (key === 'ArrowUp') go(at.value - 1);
  else if (key === 'Home') go(0);
  else if (key === 'End') go(flat.value.length - 1);
  else if (!line) return;
  else if (key === 'f' || key === ' ') {
    emit('tick', line, 'fine');
    onward();
  } else if (key === 'u') emit('tick', line, 'unsure');
  else if (key === 'o') emit('tick', line, 'open');
  else if (key === 's') emit('skip', line);
  else if (key === 'x') emit('found', line);
  else if (key === 'Enter') emit('enter', line);
  else return;
  event.preventDefault();
  event.stopPropagation();
}
defineExpose({ focus: () => list.value?.focus() });
</script>

<template>
  <div
    ref="list"
    class="list"
    role="listbox"
    tabindex="0"
    data-own-keys
    aria-label="Checklist"
    :aria-activedescendant="chosen ? `line-${chosen}` : undefined"
    @keydown="onKey"
  >
    <div v-for="g in groups" :key="g.name" role="group" :aria-label="g.name">
      <p class="group">
        {{ g.name }}
        <span v-if="g.open" class="left">{{ g.open }} open</span>
      </p>
      <div
        v-for="{ i, mark } in g.lines"
        :id="`line-${i.id}`"
        :key="i.id"
        role="option"
        class="line"
        :class="[mark, { here: i.id === chosen }]"
        :aria-selected="i.id === chosen"
        :aria-label="`${i.title}, ${MARKS[mark].word}`"
        @click="$emit('choose', i.id)"
      >
        <span class="sign" aria-hidden="true">{{ MARKS[mark].sign }}</span>
        {{ i.title }}
      </div>
    </div>
  </div>
</template>

<style scoped>
.list {
  overflow-y: auto;
  padding-right: 8px;
  outline-offset: 3px;
  content-visibility: auto;
}
.group {
  margin: 9px 0 2px;
  color: var(--slate);
  font-size: 14px;
  border-bottom: 1px solid var(--rule);
  display: flex;
  justify-content: space-between;
}
.left {
  font: italic 14px/1.3 var(--serif);
}
.line {
  position: relative;
  padding: 1.5px 4px 1.5px 24px;
  cursor: pointer;
}
.sign {
  position: absolute;
  left: 4px;
  width: 14px;
  text-align: center;
}
.line.here {
  background: var(--paper-deep);
  box-shadow: inset 3px 0 0 var(--intake);
}
.line.open {
  color: var(--ink);
}
.line.fine,
.line.skipped {
  color: var(--slate);
}
.line.fine .sign {
  color: var(--gain);
}
.line.unsure .sign {
  color: var(--caution);
  font-weight: 600;
}
.line.found .sign {
  color: var(--loss);
}
</style>
