<script setup lang="ts">
import { computed } from 'vue';
import { useWriteLineup } from '../api/queries.js';
import { useActiveBuild } from '../state/build.js';
import { useUndo } from '../state/undo.js';
import type { CompareHead } from '../state/comparison.js';

/** Which stage and sheet of a head is read. */
const props = defineProps<{ head: CompareHead; all: readonly CompareHead[] }>();
const { active } = useActiveBuild();
const write = useWriteLineup();
const undo = useUndo();

const groups = computed(() =>
  props.head.whole.stages.map((stage) => ({
    stage,
    sheets: props.head.whole.sheets.filter((s) => s.stageId === stage.id && s.setup.reads !== 'difference'),
  })),
);
const value = computed(() => props.head.sheet?.id ?? `stage:${props.head.stage.id}`);
async function pick(event: Event): Promise<void> {
  const chosen = (event.target as HTMLSelectElement).value;
  const sheet = props.head.whole.sheets.find((s) => s.id === chosen);
  const stageId = sheet?.stageId ?? chosen.replace('stage:', '');
  const entries = props.all.map((h) =>
    h.id === props.head.id
      ? { id: h.id, stageId, sheetId: sheet?.id ?? null }
      : { id: h.id, stageId: h.stage.id, sheetId: h.chosenSheetId },
  );
  undo.did(
    `${props.head.letter} is read from ${sheet?.title ?? 'another stage'} now.`,
    await write(active.value!.build.id, { entries }),
  );
}
</script>

<template>
  <select :value="value" :aria-label="`Sheet read for ${head.letter} ${head.name}`" @change="pick">
    <optgroup v-for="g in groups" :key="g.stage.id" :label="g.stage.name">
      <option v-for="s in g.sheets" :key="s.id" :value="s.id">
        {{ g.stage.name }} · {{ s.title }}{{ s.kind === 'claim' ? ' (claim)' : '' }}
      </option>
      <option v-if="g.sheets.length === 0" :value="`stage:${g.stage.id}`">{{ g.stage.name }} · nothing flowed</option>
    </optgroup>
  </select>
</template>

<style scoped>
select {
  width: 100%;
  border: 0;
  background: transparent;
  color: inherit;
  font: inherit;
  text-overflow: ellipsis;
}
option,
optgroup {
  background: var(--paper-raised);
  color: var(--ink);
}
</style>
